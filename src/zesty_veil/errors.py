"""What can go wrong, as one shallow tree.

    VeilError               a sentence for the user: what, where, what to do
    |-- InputError          an argument or number outside its range
    |-- PaintError          a paint that is not in the rack or the plan
    |-- PlanFileError       a file that is not a readable plan
    |-- LogError            the log cannot be read or written
    `-- SculptError         a file that is not a readable sculpt

Every message is one clear sentence; callers print it and nothing else.
"""

from __future__ import annotations


class VeilError(Exception):
    """Base of every error that is meant to be read by a painter."""


class InputError(VeilError):
    """An argument or number is outside its range."""


class PaintError(VeilError):
    """A paint was asked for that is not at hand."""


class PlanFileError(VeilError):
    """A file cannot be read as a plan, or cannot be written."""


class LogError(VeilError):
    """The log cannot be opened, read or written."""


class SculptError(VeilError):
    """A file cannot be read as a sculpt, or its shape cannot be drawn."""
