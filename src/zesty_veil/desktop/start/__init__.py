"""What will you paint: plans to begin with and to go on with, and one glaze to try."""
