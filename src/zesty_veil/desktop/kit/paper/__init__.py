"""Pages to take to the bench, as PDF."""
