"""A step on paper: boxes to tick, what to lay from which pot, how, and how long it dries."""

from __future__ import annotations

from PySide6.QtCore import Qt

from zesty_veil.desktop.kit.paper.flow import FAINT, PageBlock, Paper
from zesty_veil.desktop.kit.paper.potstrip import draw_letter
from zesty_veil.services.sheet import SheetStep

_NAME, _BODY, _SMALL = 11.0, 10.0, 8.5  # points
_BOX, _STEP, _ACROSS = 4.2, 5.4, 5  # mm; boxes beside each other
_NUMBER, _POT, _TIME = 8.5, 8.0, 30.0  # mm


def step_block(paper: Paper, width: float, step: SheetStep) -> PageBlock:
    """Return a step; a box is ticked for each of its passes."""
    left = _ACROSS * _STEP + _NUMBER + _POT
    room = width - left - _TIME
    said = " ".join(step.words)
    high = paper.high(step.name, room, _NAME, bold=True) + paper.high(said, room, _BODY)
    if step.caution:
        high += paper.high(step.caution, room, _SMALL) + 0.5
    rows = -(-step.passes // _ACROSS)
    high = max(high, rows * _STEP, paper.high(step.waits, _TIME - 3, _SMALL)) + 3

    def draw(y: float) -> None:
        paper.pen(0.3)
        for k in range(step.passes):
            row, column = divmod(k, _ACROSS)
            corner = column * _STEP, y + 0.4 + row * _STEP
            paper.painter.drawRect(paper.box(*corner, _BOX, _BOX))
        paper.write(_ACROSS * _STEP + 1, y, _NUMBER - 1, str(step.number), _NAME, bold=True)
        draw_letter(paper, _ACROSS * _STEP + _NUMBER, y - 0.4, step.pot)
        below = paper.write(left, y, room, step.name, _NAME, bold=True)
        below = paper.write(left, below, room, said, _BODY)
        if step.caution:
            paper.write(left, below + 0.5, room, step.caution, _SMALL)
        right = Qt.AlignmentFlag.AlignRight
        paper.write(width - _TIME + 3, y + 0.4, _TIME - 3, step.waits, _SMALL, align=right,
                    tone=FAINT)  # fmt: skip

    return PageBlock(high, draw)
