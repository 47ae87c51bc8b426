"""Texts for people, in their language where somebody has translated them.

Each text stands in the code in English, and `tr` looks it up; what nobody translated stays English.
A translation is a JSON object from each English text to its own, as `tools/texts.py` writes it to
fill in. Values are put into a text by its own numbered places, so their order may differ.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

_texts: dict[str, str] = {}


def tr(text: str) -> str:
    """Return a text in the language in use."""
    return _texts.get(text, text)


def speak(texts: Mapping[str, str]) -> None:
    """Use a translation from now on; an empty one is English."""
    _texts.clear()
    _texts.update(texts)


def counted(count: int, one: str, more: str) -> str:
    """Return how many there are: two texts, one for a single thing, both with {0} for the number.

    >>> counted(1, "{0} pass", "{0} passes"), counted(3, "{0} pass", "{0} passes")
    ('1 pass', '3 passes')
    """
    return tr(one if count == 1 else more).format(count)


def listed(words: Sequence[str]) -> str:
    """Return things one after the other, as they are said.

    >>> listed(["red"]), listed(["red", "blue"]), listed(["red", "blue", "white"])
    ('red', 'red and blue', 'red, blue and white')
    """
    *first, last = words
    return tr("{0} and {1}").format(", ".join(first), last) if first else last
