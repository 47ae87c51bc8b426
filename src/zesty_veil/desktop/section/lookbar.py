"""The row above the section: adding a coat, the ground, and how the colours are looked at."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from zesty_veil.desktop.kit.choice import Choice
from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import GROUNDS
from zesty_veil.plan.model import Plan
from zesty_veil.predict.look import FINISH_CHOICES, Angle, ViewingConditions
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr

_FINISH_WORDS = ("as painted", "gloss varnish", "satin varnish", "matt varnish", "still wet")


class LookBar(QWidget):
    """Controls that act on the passage in view as a whole, and on how it is looked at."""

    coat_wanted = Signal(Paint)
    ground_wanted = Signal(str)
    changed = Signal()

    def __init__(
        self,
        rack: RackView,
        document: Document,
        here: Callable[[], Picking | None] = lambda: None,
        preview: Callable[[Paint | None], None] = lambda _: None,
    ) -> None:
        super().__init__()
        self._document = document
        self.observer = 2
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(6)
        self.add = QToolButton()
        self.add.setText(tr("Add a coat"))
        self.add.setToolTip(tooltip("add coat"))
        self.add.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.paints = PaintMenu(rack, self.coat_wanted.emit, self, here, preview)
        self.add.setMenu(self.paints)
        self.ground = QToolButton()
        self.ground.setText(tr("Ground"))
        self.ground.setToolTip(tr("Prepare what lies below the first coat"))
        self.ground.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        for kind, words in GROUNDS.items():
            action = menu.addAction(words)
            action.setData(kind)
            action.triggered.connect(lambda _=False, k=kind: self.ground_wanted.emit(k))
        self.ground.setMenu(menu)
        self.light = self._combo(tr("light the figure is seen under"), 12)
        for light, words in LIGHTS.items():
            # The name alone, for it fits; which illuminant it stands for is told at rest.
            self.light.addItem(tr(words), light)
            illuminant = tr("{0}: illuminant {1}").format(tr(words), light)
            self.light.setItemData(self.light.count() - 1, illuminant, Qt.ItemDataRole.ToolTipRole)
        self.light.activated.connect(self._light_chosen)
        self.finish = self._combo(tr("finish the figure is seen with"), 9)
        for finish, words in zip(FINISH_CHOICES, _FINISH_WORDS, strict=True):
            self.finish.addItem(tr(words), finish)
        self.finish.activated.connect(lambda _: self.changed.emit())
        self.glint = self._toggle(tr("Glint"), tooltip("glint"))
        self.sure = self._toggle(tr("How sure"), tooltip("sure"))
        row.addWidget(self.add)
        row.addWidget(self.ground)
        row.addStretch(1)
        for widget in (self.light, self.finish, self.glint, self.sure):
            row.addWidget(widget)

    def look(self) -> ViewingConditions:
        """Return how the colours are looked at."""
        finish = FINISH_CHOICES[self.finish.currentIndex()]
        angle: Angle = "glint" if self.glint.isChecked() else "shade"
        return ViewingConditions(self._document.plan.light, self.observer, finish, angle)

    def show_plan(self, plan: Plan) -> None:
        """Show the plan's light."""
        with quiet(self.light):
            self.light.setCurrentIndex(self.light.findData(plan.light))
        told = self.light.currentData(Qt.ItemDataRole.ToolTipRole)
        self.light.setToolTip(tr("Light the figure is seen under; {0}").format(told))

    def show_metal(self, metal: bool) -> None:
        """Offer the glint where there is metal, or while it is on; else others need the room."""
        self.glint.setEnabled(metal or self.glint.isChecked())
        self.glint.setVisible(self.glint.isEnabled())

    def toggle_wet(self) -> None:
        """Show the paint still wet, or as it dries."""
        wet = FINISH_CHOICES.index("wet")
        self.finish.setCurrentIndex(0 if self.finish.currentIndex() == wet else wet)
        self.changed.emit()

    def _light_chosen(self, row: int) -> None:
        light = str(self.light.itemData(row))
        self._document.edit(
            edits.set_light(self._document.plan, light), tr("light {0}").format(light)
        )

    def _combo(self, name: str, letters: int) -> Choice:
        combo = Choice(name)
        combo.setToolTip(name[:1].upper() + name[1:])
        combo.setMinimumContentsLength(letters)
        return combo

    def _toggle(self, words: str, tip: str) -> QPushButton:
        button = QPushButton(words)
        button.setCheckable(True)
        button.setToolTip(tip)
        button.toggled.connect(lambda _: self.changed.emit())
        return button
