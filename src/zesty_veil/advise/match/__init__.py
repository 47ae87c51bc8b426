"""From the colour wanted to the coats that give it."""
