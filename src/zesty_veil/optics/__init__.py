"""Films of paint and what light does in them: arrays in, arrays out."""
