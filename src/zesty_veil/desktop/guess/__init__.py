"""Guess first: pick what will come before it is shown."""
