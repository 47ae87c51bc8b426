"""Names of mixtures as whole as the room lets them be, and cut by rule where it does not."""

from __future__ import annotations

from PySide6.QtGui import QFontMetricsF

from zesty_veil.desktop.kit.theme import CAPTION, font

_SHORT = 4


def fitted(
    words: str, first: float, second: float, pixels: int, bold: bool, two: bool
) -> tuple[tuple[str, ...], int]:
    """Return a name in the lines and the size in which it stands whole, if it can.

    It is tried as it is, then over two lines, then smaller, then with its words cut to a few
    letters by rule, so that the same paint is always cut alike.

    >>> short_name("Midwater Ultramarine 1 + Clinker Red Ink 2")
    'Midw. Ultr. 1 + Clin. Red Ink 2'
    """
    for text in (words, short_name(words), shortest_name(words)):
        for size in dict.fromkeys((pixels, CAPTION)):
            metrics = QFontMetricsF(font(size, bold=bold))
            if metrics.horizontalAdvance(text) <= first:
                return (text,), size
            if two:
                lines = _broken(text, first, second, metrics)
                if lines is not None:
                    return lines, size
    return (shortest_name(words),), CAPTION


def short_name(words: str) -> str:
    """Return a name with every word of more than five letters cut to four and a point."""
    return " ".join(
        word if len(word) <= _SHORT + 1 else f"{word[:_SHORT]}." for word in words.split(" ")
    )


def shortest_name(words: str) -> str:
    """Return a name of which every paint but its last word is initials.

    >>> shortest_name("Midwater Ultramarine 1 + Clinker Red Ink 2")
    'M.Ultr.1+C.R.Ink2'
    """
    out = []
    for paint in words.split(" + "):
        parts = paint.split(" ")
        count = parts.pop() if parts[-1].replace(".", "").isdigit() else ""
        initials = "".join(f"{word[:1]}." for word in parts[:-1])
        out.append(f"{initials}{short_name(parts[-1])}{count}")
    return "+".join(out)


def _broken(
    text: str, first: float, second: float, metrics: QFontMetricsF
) -> tuple[str, str] | None:
    """Return a text in two lines, broken where words end; none if it does not fit so."""
    parts = text.split(" ")
    for at in range(len(parts) - 1, 0, -1):
        one, other = " ".join(parts[:at]), " ".join(parts[at:])
        if metrics.horizontalAdvance(one) <= first:
            return (one, other) if metrics.horizontalAdvance(other) <= second else None
    return None
