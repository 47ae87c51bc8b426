"""How the figure is seen, in one place: light, finish, glint, surround, field, hand."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.panel import heading
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.segments import Segments
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.predict.look import FINISH_CHOICES
from zesty_veil.tr import tr

_FINISH_WORDS = ("as painted", "gloss varnish", "satin varnish", "matt varnish", "still wet")


class SeenPanel(Popover):
    """Holds the controls; who opens it listens to them."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, tr("how the figure is seen"))
        self.light = Choice(tr("light the figure is seen under"))
        for light, words in LIGHTS.items():
            # The name alone, for it fits; which illuminant it stands for is told at rest.
            self.light.addItem(tr(words), light)
            illuminant = tr("{0}: illuminant {1}").format(tr(words), light)
            self.light.setItemData(self.light.count() - 1, illuminant, Qt.ItemDataRole.ToolTipRole)
        self.finish = Choice(tr("finish the figure is seen with"))
        self.finish.setToolTip(tr("Finish the figure is seen with"))
        for finish, words in zip(FINISH_CHOICES, _FINISH_WORDS, strict=True):
            self.finish.addItem(tr(words), finish)
        self.glint = QPushButton(tr("At the angle where metal flashes"))
        self.glint.setCheckable(True)
        self.glint.setToolTip(tooltip("glint"))
        self.surround = Segments(
            tr("surround"), {"light": tr("light"), "middle": tr("middle"), "dark": tr("dark")}
        )
        self.field = Segments(tr("field"), {2: tr("small, 2°"), 10: tr("large, 10°")})
        self.hand = Segments(
            tr("hand"),
            {"steady": tr("steady"), "ordinary": tr("ordinary"), "loose": tr("loose")},
        )
        self.field.show_choice(2)
        self.surround.show_choice("middle")
        self.body.addWidget(heading(tr("How it is seen")))
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(8)
        for row, (words, widget) in enumerate(
            (
                (tr("Light"), self.light), (tr("Finish"), self.finish), (tr("Glint"), self.glint),
                (tr("Surround"), self.surround), (tr("Field"), self.field),
                (tr("Hand"), self.hand),
            )
        ):  # fmt: skip
            label = Label(words)
            label.setBuddy(widget)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        grid.setColumnMinimumWidth(1, 280)
        self.body.addLayout(grid)
