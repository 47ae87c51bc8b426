"""What happens on the bench: the order of steps and drying."""
