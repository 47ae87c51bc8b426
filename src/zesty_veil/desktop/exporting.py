"""Exports from the window: the plan in an open format, written away from the interface thread."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from zesty_veil.desktop.jobs import NewestWins
from zesty_veil.desktop.pages.sheet import write_sheet
from zesty_veil.exportjob import FORMATS, write_export
from zesty_veil.plan.model import Plan

_SHEET = ".pdf"
FILTER = ";;".join(
    f"{words[:1].upper()}{words[1:]} (*{ending})"
    for ending, words in (
        (".md", FORMATS[".md"][0]),
        (_SHEET, "a sheet to print, A4"),
        *((ending, words) for ending, (words, _) in FORMATS.items() if ending != ".md"),
    )
)


@dataclass(frozen=True)
class Export:
    """A plan that is to be written to a file."""

    plan: Plan
    path: Path


def exporting(asked: Export, still: Callable[[], bool]) -> Iterator[str]:
    """Write a plan in the format of its file's name, and yield what was done.

    Raises
    ------
    InputError, PlanFileError
        With one sentence.
    """
    if asked.path.name.casefold().endswith(_SHEET):
        write_sheet(asked.plan, asked.path)
    else:
        write_export(asked.plan, asked.path)
    yield f"Wrote {asked.path.name}."


class Exporter(QObject):
    """Asks for a file and writes the plan to it; says what came of it."""

    said = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._window = parent
        self.jobs: NewestWins[Export, str] = NewestWins(exporting, self)
        self.jobs.answered.connect(self.said.emit)
        self.jobs.failed.connect(lambda error: self.said.emit(str(error)))

    def choose(self, plan: Plan, start: Path) -> None:
        """Ask for a file, and write the plan to it."""
        name, chosen = QFileDialog.getSaveFileName(self._window, "Export", str(start), FILTER)
        if not name:
            return
        path = Path(name)
        if not path.suffix:
            ending = chosen.rpartition("(*")[2].rstrip(")") or ".md"
            path = path.with_name(path.name + ending)
        self.export(plan, path)

    def export(self, plan: Plan, path: Path) -> None:
        """Write a plan to a file."""
        self.said.emit(f"Writing {path.name} …")
        self.jobs.ask(Export(plan, path))
