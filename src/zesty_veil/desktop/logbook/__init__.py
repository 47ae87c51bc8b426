"""The Log: what was painted, predicted beside painted, and writing it down."""
