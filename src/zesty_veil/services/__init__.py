"""What window and command line ask for: one frozen request in, answers out; without Qt."""
