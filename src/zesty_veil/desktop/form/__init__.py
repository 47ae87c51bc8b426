"""The form: a passage seen on a shape, what is set by hand on it, and the painter's own sculpt."""
