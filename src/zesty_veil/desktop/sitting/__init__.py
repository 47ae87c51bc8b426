"""The Sitting station: what to lay now, what dries, and how far each figure is."""
