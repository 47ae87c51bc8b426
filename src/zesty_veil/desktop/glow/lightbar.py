"""What Light can do, in the header: find coats, stop, write them into the plan, go back."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from zesty_veil.desktop.glow.keys import LIGHT
from zesty_veil.tr import tr


class LightBar(QWidget):
    """Holds the buttons; who shows them listens to them."""

    def __init__(self) -> None:
        super().__init__()
        self.progress = QProgressBar()
        self.progress.setRange(0, 100)
        self.progress.setTextVisible(False)
        self.progress.setFixedSize(120, 6)
        self.progress.setAccessibleName(tr("how much of the search is done"))
        self.stop = QPushButton(tr("Stop"))
        self.stop.setToolTip(tr("Stop searching"))
        self.find_coats = QPushButton(tr("Find coats"))
        self.find_coats.setToolTip(
            LIGHT.tooltip("find light", tr("Find the coats for every surface"))
        )
        self.write = QPushButton(tr("Write into plan"))
        self.write.setObjectName("main")
        self.write.setToolTip(
            LIGHT.tooltip(
                "write light", tr("Write the coats into the plan; names, sizes and grounds stay")
            )
        )
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(LIGHT.tooltip("leave light", tr("Go back to the section")))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        for widget in (self.progress, self.stop, self.find_coats, self.write, self.leave):
            row.addWidget(widget)
