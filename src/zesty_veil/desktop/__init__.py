"""The window. The only room in which Qt stands."""
