"""The label of a coat in the gutter: its number, its name as whole as the room lets it be."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from zesty_veil.desktop.kit.marks import draw_tally, tally_width
from zesty_veil.desktop.kit.names import fitted
from zesty_veil.desktop.kit.theme import BODY, CAPTION, Surround
from zesty_veil.desktop.kit.writing import RIGHT, write
from zesty_veil.plan.model import Coat, coat_name, thinning_words
from zesty_veil.tr import tr

# Labels closer than this would run into each other.
LABEL_LINE = 13.0
_TWO_LINES = 27.0
_NUMBER = 22.0
_TALLY_SIZE = 10
# Room for passes as a number, and at most as a tally.
_COUNT, _MOST_TALLY = 22.0, 40.0


def draw_label(
    painter: QPainter, coat: Coat, mark: str, end: str, box: QRectF, surround: Surround,
    chosen: bool,
) -> None:  # fmt: skip
    """Write a coat's number, name and passes; below, in what room is left, how it is thinned.

    Parameters
    ----------
    coat, mark
        The coat, and its number in the order of laying; a letter in the ground.
    end
        What stands at the end of the second line.
    box
        Where all of it stands.
    """
    pixels = BODY if box.height() >= 15 else CAPTION
    two = box.height() >= _TWO_LINES
    first = QRectF(box.x(), box.y(), box.width(), box.height() / (2 if two else 1))
    write(painter, first, mark, surround.text, bold=chosen, pixels=pixels)
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


def _passes_width(passes: int) -> float:
    width = tally_width(passes)
    return max(width, _COUNT + 1) if width <= _MOST_TALLY else _COUNT
