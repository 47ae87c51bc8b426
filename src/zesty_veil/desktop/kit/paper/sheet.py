"""The plan sheet as PDF: the pots on a strip, then each passage with its form, section and steps.

Everything is told by words, numbers, outlines and letters, so that it can be read when printed in
black and white.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QPainter, QPdfWriter

from zesty_veil.bench.air import Air
from zesty_veil.desktop.kit.paper.flow import FAINT, PageBlock, Paper, draw_pages
from zesty_veil.desktop.kit.paper.passagehead import head_block
from zesty_veil.desktop.kit.paper.pdf import DPI, write_pdf
from zesty_veil.desktop.kit.paper.potstrip import pot_blocks
from zesty_veil.desktop.kit.paper.steprow import step_block
from zesty_veil.plan.model import Plan
from zesty_veil.services.sheet import Sheet, sheet_of
from zesty_veil.tr import tr

_MARGIN_MM = 14.0
_TITLE, _HEADING, _BODY = 18.0, 13.0, 10.0  # points


def write_sheet(plan: Plan, path: Path, paper: str = "A4", air: Air | None = None) -> int:
    """Write a plan's sheet as PDF, whole or not at all; return its number of pages.

    Raises
    ------
    PaintError, InputError, FileError
        If the plan cannot be predicted, there is no such paper, or the file cannot be written.
    """
    sheet = sheet_of(plan, Air() if air is None else air)
    pages = 0

    def draw(writer: QPdfWriter) -> None:
        nonlocal pages
        painter = QPainter(writer)
        size = writer.width() * 25.4 / DPI, writer.height() * 25.4 / DPI
        pages = draw_sheet(Paper(painter, DPI), size, sheet, writer.newPage)
        painter.end()

    write_pdf(path, paper, plan.title, _MARGIN_MM, draw)
    return pages


def draw_sheet(
    paper: Paper, size: tuple[float, float], sheet: Sheet, turn: Callable[[], object]
) -> int:
    """Draw a sheet on pages of a size in mm, where `turn` takes the next; return how many."""
    width = size[0]
    blocks = [_words(paper, width, sheet.title, _TITLE, bold=True)]
    blocks.append(_words(paper, width, sheet.words, _BODY, after=3.0))
    if sheet.pots:
        blocks.append(_words(paper, width, tr("Pots"), _HEADING, bold=True, together=True))
        said = tr("Drip each out once. Numbers tell the passages and their steps that take of it.")
        blocks.append(_words(paper, width, said, 8.5, after=1.0, faint=True, together=True))
        blocks += pot_blocks(paper, width, sheet.pots)
    for passage in sheet.passages:
        blocks.append(head_block(paper, width, passage))
        blocks += [step_block(paper, width, step) for step in passage.steps]
    if sheet.amounts:
        head = tr("For the whole batch")
        blocks.append(_words(paper, width, head, _HEADING, bold=True, before=4.0, together=True))
        blocks.append(_words(paper, width, f"{sheet.amounts}.", _BODY))
    head = tr("Cautions")
    blocks.append(_words(paper, width, head, _HEADING, bold=True, before=4.0, together=True))
    blocks.append(_words(paper, width, "\n".join(sheet.cautions), _BODY))
    return draw_pages(paper, size, sheet.title, blocks, turn)


def _words(
    paper: Paper, width: float, words: str, points: float, bold: bool = False,
    before: float = 0.0, after: float = 0.0, faint: bool = False, together: bool = False,
) -> PageBlock:  # fmt: skip
    """Return words over the whole width, with room before and after them in mm."""
    high = paper.high(words, width, points, bold)
    tone = {"tone": FAINT} if faint else {}

    def draw(y: float) -> None:
        paper.write(0, y + before, width, words, points, bold, **tone)  # type: ignore[arg-type]

    return PageBlock(before + high + after, draw, together)
