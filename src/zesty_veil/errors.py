"""What can go wrong, as one shallow tree.

    VeilError               a sentence for the user: what, where, what to do
    |-- InputError          an argument or number outside its range
    |-- PaintError          a paint that is not in the rack or the plan
    |-- FileError           a file cannot be read or written
    |   |-- PlanFileError   a file that is not a readable plan
    |   `-- WrittenElsewhereError    somebody else has written the file meanwhile
    |-- LogError            the log cannot be read or written
    |-- SculptError         a file that is not a readable sculpt
    `-- DroppedError        whoever asked does not want the answer any more

Every message is one clear sentence; callers print it and nothing else.
"""

from __future__ import annotations

import re
from typing import Any

_MOST_WORD, _MOST = 160, 900
_UNSEEN = re.compile(r"[\x00-\x1f\x7f-\x9f\u200b-\u200f\u2028-\u202e\u2066-\u2069\ud800-\udfff]+")


def fit_to_read(words: str) -> str:
    """Return a sentence that can be shown anywhere: one line, no name longer than can be read.

    Names come from files, and files hold anything: letters that move the writing, or a hundred
    thousand of them. The end of a sentence, which says what to do, is kept.
    """
    words = _cut(words, 20 * _MOST)  # before anything is looked for in it
    words = _UNSEEN.sub("\N{REPLACEMENT CHARACTER}", words.replace("\n", " "))
    words = re.sub(rf"\S{{{_MOST_WORD},}}", lambda found: _cut(found[0], _MOST_WORD), words)
    return _cut(words, _MOST)


def _cut(words: str, most: int) -> str:
    if len(words) <= most:
        return words
    return f"{words[: most * 2 // 3]}…{words[-(most // 3) :]}"


class VeilError(Exception):
    """Base of every error that is meant to be read by a painter."""

    def __init__(self, words: str = "") -> None:
        super().__init__(fit_to_read(words))

    def __reduce__(self) -> tuple[Any, ...]:
        # Some kinds are made with other words than they carry, or with none.
        return _again, (type(self), self.args, self.__dict__)


class InputError(VeilError):
    """An argument or number is outside its range."""


class PaintError(VeilError):
    """A paint was asked for that is not at hand."""


class FileError(VeilError):
    """A file cannot be read or written."""


class PlanFileError(FileError):
    """A file cannot be read as a plan."""


class WrittenElsewhereError(FileError):
    """A file was written by somebody else since it was read; writing it would lose that."""


class LogError(VeilError):
    """The log cannot be opened, read or written."""


class SculptError(VeilError):
    """A file cannot be read as a sculpt, or its shape cannot be drawn."""


class DroppedError(VeilError):
    """Whoever asked does not want the answer any more."""

    def __init__(self) -> None:
        super().__init__("Stopped.")


def _again(kind: type[VeilError], args: tuple[Any, ...], more: dict[str, Any]) -> VeilError:
    """Return an error that was sent from another process."""
    error = kind.__new__(kind, *args)
    error.args = args
    error.__dict__.update(more)
    return error
