"""Zesty Veil predicts the colour of stacked transparent paint films."""

__version__ = "0.1.0"
