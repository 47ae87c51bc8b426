"""A list to choose from whose chosen words are shortened with dots where they do not fit."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QPaintEvent
from PySide6.QtWidgets import QComboBox, QStyle, QStyleOptionComboBox, QStylePainter

from zesty_veil.desktop.kit.plain import name_control


class Choice(QComboBox):
    """A combo box as wide as it is given room, whatever stands in it."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        name_control(self, name)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QStylePainter(self)
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        part = QStyle.SubControl.SC_ComboBoxEditField
        field = self.style().subControlRect(QStyle.ComplexControl.CC_ComboBox, option, part, self)
        option.currentText = self.fontMetrics().elidedText(
            self.currentText(), Qt.TextElideMode.ElideRight, field.width() - 4
        )
        painter.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        painter.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)
        painter.end()
