"""Rows of the brush card's groups: names at the left, controls beside them."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QWidget

from zesty_veil.desktop.kit.fold import Fold
from zesty_veil.desktop.kit.plain import Label


def card_grid(group: Fold) -> QGridLayout:
    """Return rows of a group: names on the left, controls beside them."""
    grid = QGridLayout()
    grid.setHorizontalSpacing(8)
    grid.setVerticalSpacing(6)
    grid.setColumnMinimumWidth(0, 76)
    grid.setColumnStretch(1, 1)
    group.body.addLayout(grid)
    return grid


def card_row(grid: QGridLayout, row: int, label: str | Label, field: QWidget | QHBoxLayout) -> None:
    """Put a control into a row, and its name beside it."""
    name = Label(label) if isinstance(label, str) else label
    grid.addWidget(name, row, 0)
    if isinstance(field, QWidget):
        name.setBuddy(field)
        grid.addWidget(field, row, 1)
    else:
        grid.addLayout(field, row, 1)
