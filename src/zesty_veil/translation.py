"""Reading a translation: a JSON object from each English text to its own."""

from __future__ import annotations

from pathlib import Path
from string import Formatter

import msgspec

from zesty_veil.errors import InputError, VeilError
from zesty_veil.files import is_there, read_limited
from zesty_veil.paths import texts_path
from zesty_veil.tr import speak, tr

_MOST_BYTES = 4_000_000


def speak_own() -> str:
    """Use the translation that the painter put beside the log; return what is wrong with it."""
    if not is_there(texts_path()):
        return ""
    try:
        speak(read_texts(texts_path()))
    except VeilError as error:
        return str(error)
    return ""


def read_texts(path: Path) -> dict[str, str]:
    """Return the translation in a file.

    Raises
    ------
    FileError, InputError
        If it cannot be read, is none, or puts values elsewhere than the English text does.
    """
    raw = read_limited(path, _MOST_BYTES, "translation")
    try:
        texts = msgspec.json.decode(raw, type=dict[str, str])
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        raise InputError(
            tr(
                "{0} is no translation; it must be a JSON object from English texts to others."
            ).format(path)
        ) from None
    for text, other in texts.items():
        if other and _places(text) != _places(other):
            raise InputError(
                tr(
                    "{0}: “{1}” puts in other values than “{2}”; use the same numbers in braces."
                ).format(path, other[:60], text[:60])
            )
    return {text: other for text, other in texts.items() if other}


def _places(text: str) -> set[tuple[str, str]]:
    """Return which values a text puts in, and how."""
    try:
        return {(name, spec or "") for _, name, spec, _ in Formatter().parse(text) if name}
    except ValueError:
        return {("", "")}
