"""The test card: where everything on it lies, in mm, for the page and for whoever reads it.

A painter lays 1, 2 and 4 passes of one paint over its white and its black half. Beside them are a
grey scale, a ruler, and marks in the corners, of which the first one tells which way is up.
"""

from __future__ import annotations

from dataclasses import dataclass

CARD_PASSES = (1, 2, 4)
WIDTH_MM, HEIGHT_MM = 180.0, 130.0
GREYS = 9
RULER_MM = 140
_MARK, _HOLE = 9.0, 4.0
_PATCH_W, _PATCH_H = 36.0, 26.0
_FIRST_X, _WHITE_Y, _BLACK_Y = 18.0, 44.0, 74.0
_STEP_X = 37.0


@dataclass(frozen=True)
class Area:
    """A rectangle on the card in mm from its upper left corner; its grey is encoded, 0-255."""

    name: str
    x: float
    y: float
    width: float
    height: float
    grey: int | None = None


def card_marks() -> tuple[Area, ...]:
    """Return the marks of the corners, from the upper left clockwise; the first is solid."""
    right, bottom = WIDTH_MM - _MARK, HEIGHT_MM - _MARK
    out = []
    for k, (x, y) in enumerate(((0.0, 0.0), (right, 0.0), (right, bottom), (0.0, bottom))):
        out.append(Area(f"mark {k + 1}", x, y, _MARK, _MARK, 0))
        if k:
            inset = (_MARK - _HOLE) / 2
            out.append(Area(f"hole {k + 1}", x + inset, y + inset, _HOLE, _HOLE, 255))
    return tuple(out)


def greys() -> tuple[Area, ...]:
    """Return the grey scale from white to black, in even steps of the encoded grey."""
    width = (WIDTH_MM - 2 * _FIRST_X) / GREYS
    return tuple(
        Area(f"grey {k + 1}", _FIRST_X + k * width, 16.0, width, 14.0,
             round(255 * (1 - k / (GREYS - 1))))
        for k in range(GREYS)
    )  # fmt: skip


def patches() -> tuple[Area, ...]:
    """Return the places for paint, and one bare of each half, by ground and passes."""
    out = []
    for ground, y, grey in (("white", _WHITE_Y, 255), ("black", _BLACK_Y, 0)):
        for k, passes in enumerate((0, *CARD_PASSES)):
            out.append(
                Area(f"{ground} {passes}", _FIRST_X + k * _STEP_X, y, _PATCH_W, _PATCH_H, grey)
            )
    return tuple(out)
