"""The pots of a plan on one strip: a letter, its drops drawn as drops, and who takes of it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt

from zesty_veil.desktop.kit.marks import drop_path
from zesty_veil.desktop.kit.paper.flow import FAINT, PageBlock, Paper
from zesty_veil.desktop.kit.theme import grey
from zesty_veil.services.sheet import SheetPot

_ACROSS, _PAD, _GAP = 3, 2.0, 3.0  # cells of a row; mm
_ROUND, _LINE, _MOST = 6.0, 5.2, 6  # mm of the letter's circle and of a line; drops drawn at most
_DROP, _STEP = 3.4, 3.0
_PAINT = 0xB0  # grey of a paint's drop; the thinner's is clear


def pot_blocks(paper: Paper, width: float, pots: Sequence[SheetPot]) -> list[PageBlock]:
    """Return the strip in rows, each as high as its highest pot."""
    cell = (width - (_ACROSS - 1) * _GAP) / _ACROSS
    return [
        _row(paper, cell, pots[start : start + _ACROSS]) for start in range(0, len(pots), _ACROSS)
    ]


def _row(paper: Paper, cell: float, pots: Sequence[SheetPot]) -> PageBlock:
    high = max(_high(paper, cell, pot) for pot in pots)

    def draw(y: float) -> None:
        for k, pot in enumerate(pots):
            _draw(paper, k * (cell + _GAP), y, cell, high, pot)

    return PageBlock(high + 1.5, draw)


def _lines(pot: SheetPot) -> list[tuple[str, int, bool]]:
    lines = [(name, count, True) for name, count in pot.drops]
    return lines + ([(*pot.thinner, False)] if pot.thinner else [])


def _high(paper: Paper, cell: float, pot: SheetPot) -> float:
    said = sum(paper.high(words, cell - 2 * _PAD, 8) for words in (pot.off, pot.serves) if words)
    return 2 * _PAD + _LINE * len(_lines(pot)) + 1 + said


def _draw(paper: Paper, x: float, y: float, cell: float, high: float, pot: SheetPot) -> None:
    painter = paper.painter
    paper.pen(0.25)
    painter.drawRoundedRect(paper.box(x, y, cell, high), paper.mm(1.2), paper.mm(1.2))
    draw_letter(paper, x + _PAD, y + _PAD, pot.letter)
    left, at = x + _PAD + _ROUND + 2, y + _PAD
    for name, count, paint in _lines(pot):
        paper.pen(0.25)
        paper.fill(grey(_PAINT) if paint else grey(0xFF))
        for k in range(min(count, _MOST)):
            middle = left + 1.6 + k * _STEP
            painter.drawPath(drop_path(paper.mm(middle), paper.mm(at + 2.6), paper.mm(_DROP)))
        after = left + min(count, _MOST) * _STEP + 1.4
        words = f"{count} {name}"
        room = x + cell - after - 1
        points = next((p for p in (9.5, 8.5, 7.5) if paper.high(words, room, p, True) < 5), 7.0)
        paper.write(after, at + 0.3, room, words, points, bold=True)
        at += _LINE
    at = max(at, y + _PAD + _ROUND) + 0.6
    for words in (pot.off, pot.serves):
        if words:
            at = paper.write(x + _PAD, at, cell - 2 * _PAD, words, 8, tone=FAINT)


def draw_letter(paper: Paper, x: float, y: float, letter: str) -> None:
    """Draw the letter of a pot in a circle from a corner on."""
    paper.pen(0.4)
    paper.fill(grey(0xFF))
    paper.painter.drawEllipse(paper.box(x, y, _ROUND, _ROUND))
    points = 10.0 if len(letter) == 1 else 8.0
    low = (_ROUND - paper.high(letter, 20, points, True)) / 2
    paper.write(x, y + low, _ROUND, letter, points, True, Qt.AlignmentFlag.AlignHCenter)
