"""The label of a coat in the gutter: its number, its name as whole as the room lets it be."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QFontMetricsF, QPainter

from zesty_veil.desktop.kit.marks import draw_tally, tally_width
from zesty_veil.desktop.kit.theme import BODY, CAPTION, Surround, font
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.plan.model import Coat, coat_name, thinning_words
from zesty_veil.tr import tr

# Labels closer than this would run into each other.
LABEL_LINE = 13.0
_TWO_LINES = 27.0
_NUMBER = 22.0
_TALLY_SIZE = 10
_SHORT = 4
# Room for passes as a number, and at most as a tally.
_COUNT, _MOST_TALLY = 22.0, 40.0


def draw_label(
    painter: QPainter, coat: Coat, number: int, end: str, box: QRectF, surround: Surround,
    chosen: bool,
) -> None:  # fmt: skip
    """Write a coat's number, name and passes; below, in what room is left, how it is thinned.

    Parameters
    ----------
    coat, number
        The coat and its place in the order of laying.
    end
        What stands at the end of the second line.
    box
        Where all of it stands.
    """
    pixels = BODY if box.height() >= 15 else CAPTION
    two = box.height() >= _TWO_LINES
    first = QRectF(box.x(), box.y(), box.width(), box.height() / (2 if two else 1))
    write(painter, first, str(number), surround.text, bold=chosen, pixels=pixels)
    passes = _passes_width(coat.passes) if two else _COUNT
    name = first.adjusted(_NUMBER, 0, -passes - 6, 0)
    second = name.translated(0, first.height())
    second.setRight(box.right())
    words = coat_name(coat).rpartition(",")[0]
    lines, size = fitted(words, name.width(), second.width(), pixels, chosen, two)
    write(painter, name, lines[0], surround.text, bold=chosen, pixels=size)
    marks = QRectF(box.right() - passes, first.y(), passes, first.height())
    if passes > _COUNT:
        draw_tally(painter, marks.x(), marks.center().y(), _TALLY_SIZE, coat.passes, surround.text)
    else:
        write(painter, marks, f"×{coat.passes}", surround.text, RIGHT, pixels=CAPTION)
    if len(lines) > 1:
        write(painter, second, lines[1], surround.text, bold=chosen, pixels=size)
    elif two:
        sites = "" if len(coat.sites) == 3 else tr("  {0} only").format(" + ".join(coat.sites))
        write(painter, second, thinning_words(coat.mixture) + sites, surround.text, pixels=CAPTION)
        write(painter, second, end, surround.text, RIGHT, pixels=CAPTION)


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


def _passes_width(passes: int) -> float:
    width = tally_width(passes)
    return max(width, _COUNT + 1) if width <= _MOST_TALLY else _COUNT
