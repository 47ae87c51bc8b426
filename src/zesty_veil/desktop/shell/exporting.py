"""Exports from the window: the plan in an open format, written away from the interface thread."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QBuffer, QIODevice, QObject, QPoint, Signal
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgGenerator
from PySide6.QtWidgets import QFileDialog, QWidget

from zesty_veil.desktop.kit.paper.sheet import write_sheet
from zesty_veil.desktop.session.filequeues import FileQueues
from zesty_veil.desktop.shell.filework import FileWork, with_suffix
from zesty_veil.exchange.png import write_png
from zesty_veil.files import write_atomically
from zesty_veil.plan.model import Plan
from zesty_veil.services.export import FORMATS, write_export
from zesty_veil.tr import tr

_SHEET, _SECTION, _FORM = ".pdf", ".svg", ".form.png"


def export_filter() -> str:
    """Return the formats to choose from, as the file dialog wants them."""
    kinds = (
        (".md", tr(FORMATS[".md"][0])),
        (_SHEET, tr("a sheet to print, A4")),
        (_SECTION, tr("the section as it is drawn")),
        (_FORM, tr("the form as it is drawn")),
        *((ending, tr(words)) for ending, (words, _) in FORMATS.items() if ending != ".md"),
    )
    return ";;".join(f"{words[:1].upper()}{words[1:]} (*{ending})" for ending, words in kinds)


def written_export(plan: Plan, path: Path) -> str:
    """Write a plan in the format of its file's name, and return what was done.

    Raises
    ------
    InputError, FileError
        With one sentence.
    """
    if path.name.casefold().endswith(_SHEET):
        write_sheet(plan, path)
    else:
        write_export(plan, path)
    return tr("Wrote {0}.").format(path.name)


def _drawn(section: QWidget) -> bytes:
    """Return a widget as a drawing in SVG."""
    raw = QBuffer()
    raw.open(QIODevice.OpenModeFlag.WriteOnly)
    generator = QSvgGenerator()
    generator.setOutputDevice(raw)
    generator.setSize(section.size())
    generator.setViewBox(section.rect())
    generator.setTitle(tr("Zesty Veil, section"))
    painter = QPainter(generator)
    section.render(painter, QPoint())
    painter.end()
    return bytes(raw.data().data())


def _pixels(form: QWidget) -> npt.NDArray[np.uint8]:
    """Return a widget as it is drawn, (h, w, 3) in sRGB."""
    image = form.grab().toImage().convertToFormat(QImage.Format.Format_RGB888)
    width, height, line = image.width(), image.height(), image.bytesPerLine()
    rows = np.frombuffer(image.constBits(), np.uint8).reshape(height, line)[:, : 3 * width]
    return rows.reshape(height, width, 3).copy()


def _written(path: Path, raw: bytes) -> str:
    """Write a drawing, whole or not at all, and return what was done; raises FileError."""
    write_atomically(path, raw)
    return tr("Wrote {0}.").format(path.name)


class Exporter(QObject):
    """Asks for a file and writes the plan to it; says what came of it."""

    said = Signal(str)

    def __init__(
        self, parent: QWidget, files: FileWork, writes: FileQueues, section: QWidget, form: QWidget
    ) -> None:
        super().__init__(parent)
        self._window, self._files, self._section, self._form = parent, files, section, form
        self._writes = writes

    def choose(self, plan: Plan, start: Path) -> None:
        """Ask for a file, and write the plan to it."""
        name, chosen = QFileDialog.getSaveFileName(
            self._window, tr("Export"), str(start), export_filter()
        )
        if not name:
            return
        named = Path(name)
        path = with_suffix(named, chosen.rpartition("(*")[2].rstrip(")") or ".md")
        self._files.when_named(
            named, path, lambda: self.export(plan, path), lambda: self.choose(plan, start)
        )

    def export(self, plan: Plan, path: Path) -> None:
        """Write a plan to a file; section and form as they are drawn now."""
        if path.name.casefold().endswith(_SECTION):
            drawn = _drawn(self._section)
            self._write(path, lambda: _written(path, drawn))
            return
        if path.name.casefold().endswith(_FORM):
            pixels = _pixels(self._form)
            self._write(path, lambda: _written(path, write_png(pixels)))
            return
        self._write(path, lambda: written_export(plan, path))

    def _write(self, path: Path, act: Callable[[], str]) -> None:
        self.said.emit(tr("Writing {0} …").format(path.name))
        self._writes.do(
            act, self.said.emit, lambda error: self.said.emit(str(error)), path,
            tr("Writing {0}").format(path.name),
        )  # fmt: skip
