"""Reading a whole file, and a document out of JSON, with a sentence for what is wrong."""

from __future__ import annotations

from pathlib import Path
from typing import TypeVar

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.files import read_limited
from zesty_veil.limits import decoder_words
from zesty_veil.tr import tr

_Document = TypeVar("_Document")


def read_whole(path: Path, most_mb: int, what: str) -> bytes:
    """Return the bytes of a file.

    Raises
    ------
    FileError
        If it cannot be read, is no regular file, or is larger than anything of its kind (`what`:
        "card", "rack").
    """
    return read_limited(path, most_mb * 1_000_000, what)


def decoded(raw: bytes, kind: type[_Document], where: str, below: str) -> _Document:
    """Return a document out of JSON.

    Parameters
    ----------
    raw, kind
        The bytes, and what they should hold.
    where
        Begins every sentence.
    below
        The field under which the painter's own part stands, left out of places in sentences.

    Raises
    ------
    InputError
        If it is no JSON, or holds something else.
    """
    try:
        return msgspec.json.decode(raw, type=kind)
    except msgspec.ValidationError as error:
        raise InputError(f"{where}: {decoder_words(raw, kind, str(error), below)}") from None
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError):
        raise InputError(
            tr("{0} is no JSON, or is cut short; write or read it again.").format(where)
        ) from None
