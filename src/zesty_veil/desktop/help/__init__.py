"""The help: a page for each station, a glossary, and a line to search in."""
