"""The Match station: from the colours wanted on a passage to coats that give them."""
