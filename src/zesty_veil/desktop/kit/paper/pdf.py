"""A PDF made in memory and then written whole, as everything that is saved is."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, QMarginsF
from PySide6.QtGui import QPageLayout, QPageSize, QPdfWriter

from zesty_veil.errors import InputError
from zesty_veil.files import write_atomically
from zesty_veil.tr import tr

PAPERS = {"A4": QPageSize.PageSizeId.A4, "Letter": QPageSize.PageSizeId.Letter}
DPI = 300


def write_pdf(
    path: Path, paper: str, title: str, margin_mm: float, draw: Callable[[QPdfWriter], None]
) -> None:
    """Write what `draw` draws, whole or not at all.

    Raises
    ------
    InputError, FileError
        If there is no such paper, or the file cannot be written.
    """
    if paper not in PAPERS:
        raise InputError(
            tr("There is no paper '{0}'; use one of {1}.").format(paper, ", ".join(PAPERS))
        )
    raw = QBuffer()
    raw.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(raw)
    margins = QMarginsF(margin_mm, margin_mm, margin_mm, margin_mm)
    writer.setPageLayout(
        QPageLayout(
            QPageSize(PAPERS[paper]), QPageLayout.Orientation.Portrait, margins,
            QPageLayout.Unit.Millimeter,
        )
    )  # fmt: skip
    writer.setResolution(DPI)
    writer.setTitle(title)
    writer.setCreator("Zesty Veil")
    draw(writer)
    del writer  # the bytes are whole only now
    write_atomically(path, bytes(raw.data().data()))
