"""Drawing, controls and fields that all stations share; no station, and nothing of the shell."""
