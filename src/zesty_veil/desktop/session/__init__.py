"""The open plan, background work, what is kept for the user: of no one station."""
