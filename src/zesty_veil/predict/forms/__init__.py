"""Forms: shapes made by the program, to see a passage on."""
