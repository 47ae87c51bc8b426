"""Plans to begin with: each a function of a few answers, laid from the painter's own paints."""
