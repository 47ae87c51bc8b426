"""Texts for people, in their language where somebody has translated them.

Each text stands in the code in English, and `tr` looks it up; what nobody translated stays English.
A translation is a JSON object from each English text to its own, as `tools/texts.py` writes it to
fill in. Values are put into a text by its own numbered places, so their order may differ.
"""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from string import Formatter

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.files import read_limited

_MOST_BYTES = 4_000_000
_texts: dict[str, str] = {}


def tr(text: str) -> str:
    """Return a text in the language in use."""
    return _texts.get(text, text)


def speak(texts: Mapping[str, str]) -> None:
    """Use a translation from now on; an empty one is English."""
    _texts.clear()
    _texts.update(texts)


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
            f"{path} is no translation; it must be a JSON object from English texts to others."
        ) from None
    for text, other in texts.items():
        if other and _places(text) != _places(other):
            raise InputError(
                f"{path}: “{other[:60]}” puts in other values than “{text[:60]}”; use the same "
                "numbers in braces."
            )
    return {text: other for text, other in texts.items() if other}


def _places(text: str) -> set[tuple[str, str]]:
    """Return which values a text puts in, and how."""
    try:
        return {(name, spec or "") for _, name, spec, _ in Formatter().parse(text) if name}
    except ValueError:
        return {("", "")}
