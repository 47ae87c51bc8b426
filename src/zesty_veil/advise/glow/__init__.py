"""A painted light: its rings, the colours it wants on each surface, and coats for them."""
