"""The tools of the section: adding a coat, the ground, and how the colours are looked at."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from zesty_veil.desktop.kit.commands import tooltip
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.section.seenpanel import SeenPanel
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import GROUNDS
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.look import FINISH_CHOICES, Angle, ViewingConditions
from zesty_veil.services.picking import Picking
from zesty_veil.tr import tr

_FINISH_SHORT = ("dry", "gloss varnish", "satin varnish", "matt varnish", "still wet")


class LookBar(QWidget):
    """Controls that act on the passage in view as a whole, and on how it is looked at."""

    coat_wanted = Signal(Paint)
    ground_shown = Signal(bool)
    as_coats_wanted = Signal()
    as_ground_wanted = Signal()
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
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        self.add = QToolButton()
        self.add.setText(tr("Add a coat"))
        self.add.setToolTip(tooltip("add coat"))
        self.paints = PaintMenu(rack, self.coat_wanted.emit, self, here, preview)
        self.add.clicked.connect(lambda: self.paints.open_below(self.add))
        self.ground = QToolButton()
        self.ground.setText(tr("Ground"))
        self.ground.setToolTip(tooltip("ground", tr("Prepare what lies below the first coat")))
        self.ground.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        for kind, words in GROUNDS.items():
            action = menu.addAction(tr(words))
            action.setData(kind)
            action.triggered.connect(lambda _=False, k=kind: self.ground_wanted.emit(k))
        menu.addSeparator()
        self._shown = menu.addAction(tr("Show its coats, to drag them"))
        self._shown.setCheckable(True)
        self._shown.triggered.connect(lambda on=False: self.ground_shown.emit(on))
        for wanted, words in (
            (self.as_ground_wanted, tr("Count the coat in hand, and all below it, as ground")),
            (self.as_coats_wanted, tr("Count its coats as ground no more")),
        ):
            action = menu.addAction(words)
            action.triggered.connect(lambda _=False, w=wanted: w.emit())
        self.ground.setMenu(menu)
        self.panel = SeenPanel(self)
        self.light, self.finish, self.glint = self.panel.light, self.panel.finish, self.panel.glint
        self.light.activated.connect(self._light_chosen)
        self.finish.activated.connect(lambda _: self._look_changed())
        self.glint.toggled.connect(lambda _: self._look_changed())
        self.seen = QToolButton()
        self.seen.setToolTip(tr("How the figure is seen: light, finish, surround, field, hand"))
        self.seen.clicked.connect(lambda: self.panel.open_below(self.seen))
        self.sure = QPushButton(tr("How sure"))
        self.sure.setCheckable(True)
        self.sure.setToolTip(tooltip("sure"))
        self.sure.toggled.connect(lambda _: self.changed.emit())
        for widget in (self.add, self.ground, self.seen, self.sure):
            row.addWidget(widget)
        self._tell()

    def look(self) -> ViewingConditions:
        """Return how the colours are looked at."""
        finish = FINISH_CHOICES[self.finish.currentIndex()]
        angle: Angle = "glint" if self.glint.isChecked() else "shade"
        return ViewingConditions(self._document.plan.light, self.observer, finish, angle)

    def show_plan(self, plan: Plan) -> None:
        """Show the plan's light and hand."""
        with quiet(self.light):
            self.light.setCurrentIndex(self.light.findData(plan.light))
        told = self.light.currentData(Qt.ItemDataRole.ToolTipRole)
        self.light.setToolTip(tr("Light the figure is seen under; {0}").format(told))
        self.panel.hand.show_choice(plan.hand)
        self._tell()

    def show_ground(self, passage: Passage | None, opened: bool) -> None:
        """Say whether the ground of the passage in view has coats, and whether they are drawn."""
        self._shown.setEnabled(passage is not None and bool(passage.ground.coats))
        self._shown.setChecked(opened)

    def show_coat_tools(self, shown: bool) -> None:
        """Show what lays coats, or only how they are looked at."""
        for button in (self.add, self.ground, self.sure):
            button.setVisible(shown)

    def show_surround(self, name: str) -> None:
        """Mark the surround in use."""
        self.panel.surround.show_choice(name)

    def set_observer(self, degrees: int) -> None:
        """See colours as a small (2) or a large (10 degrees) field."""
        self.observer = degrees
        self.panel.field.show_choice(degrees)
        self._look_changed()

    def show_metal(self, metal: bool) -> None:
        """Offer the glint where there is metal, or while it is on."""
        self.glint.setEnabled(metal or self.glint.isChecked())
        self.glint.setToolTip(
            tooltip("glint") if metal else tr("Nothing glints here; metal paint or leaf would")
        )

    def toggle_wet(self) -> None:
        """Show the paint still wet, or as it dries."""
        wet = FINISH_CHOICES.index("wet")
        self.finish.setCurrentIndex(0 if self.finish.currentIndex() == wet else wet)
        self._look_changed()

    def _look_changed(self) -> None:
        self._tell()
        self.changed.emit()

    def _tell(self) -> None:
        """Say on the button how the figure is seen."""
        words = tr("Seen in {0}, {1}").format(
            tr(LIGHTS[self._document.plan.light]), tr(_FINISH_SHORT[self.finish.currentIndex()])
        )
        if self.glint.isChecked():
            words = tr("{0}, glint").format(words)
        self.seen.setText(f"{words}  ▾")

    def _light_chosen(self, row: int) -> None:
        light = str(self.light.itemData(row))
        self._document.edit(
            edits.set_light(self._document.plan, light), tr("light {0}").format(light)
        )
