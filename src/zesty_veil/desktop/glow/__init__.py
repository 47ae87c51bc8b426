"""The Glow station: a light is dragged before the forms, and what it wants is painted."""
