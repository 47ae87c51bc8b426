"""Immutable documents, edits, history and the file format."""
