"""The command line: arguments and text only."""
