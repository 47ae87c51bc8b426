"""What is known of the paint in hand: its drawdown at large, words, neighbours, and who uses it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.kit.theme import CARD, QUIET, font, grey
from zesty_veil.desktop.rack.grid import draw_drawdown
from zesty_veil.light.grid import Array
from zesty_veil.log.drawn import Near, PaintDrawdown
from zesty_veil.log.racks import STATUSES, Kept
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.paint import Paint
from zesty_veil.tr import tr

_WIDTH = 300

_STATUS_WORDS = {"own": "At hand", "wanted": "Wanted", "empty": "Empty"}
_STATUS_TIPS = {
    "own": "The pot is there: plans and searches use it",
    "wanted": "To be bought; not used yet",
    "empty": "Used up; not used until there is more",
}


class LargeDrawdown(QWidget):
    """One drawdown with its bare grounds, and how many passes each field has."""

    def __init__(self) -> None:
        super().__init__()
        self._rgb: Array | None = None
        self.setFixedHeight(132)
        self.setAccessibleName(tr("drawdown over white and over black, bare to 4 passes"))

    def sizeHint(self) -> QSize:
        return QSize(_WIDTH - 24, 132)

    def show_rgb(self, rgb: Array | None) -> None:
        """Show a drawdown (2, 5, 3), or none."""
        self._rgb = rgb
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._rgb is not None:
            field = QRectF(0, 0, self.width(), self.height() - 20)
            draw_drawdown(painter, field, self._rgb, bare=True)
            painter.setFont(font())
            painter.setPen(grey(QUIET))
            step = field.width() / 5
            for k, words in enumerate(("bare", "1", "2", "3", "4")):
                box = QRectF(k * step, field.bottom() + 2, step, 18)
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
        painter.end()


class PaintCard(QWidget):
    """Shows a paint and says what is wanted of it."""

    status_wanted = Signal(str)
    notes_written = Signal(str)
    measure_wanted = Signal()
    undo_wanted = Signal()
    lay_wanted = Signal()
    drop_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedWidth(_WIDTH)
        self._kept: Kept | None = None
        self.name = Label()
        self.name.setFont(font(CARD, bold=True))
        self.name.setWordWrap(True)
        self.what, self.known, self.lies = _label(), _label(), _label()
        self.near, self.used = _label(), _label()
        self.large = LargeDrawdown()
        self.group = QButtonGroup(self)
        statuses = QHBoxLayout()
        statuses.setSpacing(4)
        self.statuses: dict[str, QPushButton] = {}
        for status in STATUSES:
            button = QPushButton(tr(_STATUS_WORDS[status]))
            button.setCheckable(True)
            button.setToolTip(tr(_STATUS_TIPS[status]))
            button.clicked.connect(lambda _=False, s=status: self.status_wanted.emit(s))
            self.group.addButton(button)
            self.statuses[status] = button
            statuses.addWidget(button)
        self.notes = QPlainTextEdit()
        self.notes.setPlaceholderText(tr("Notes on this pot"))
        self.notes.setAccessibleName(tr("notes on this paint"))
        self.notes.setFixedHeight(54)
        self.notes.setTabChangesFocus(True)
        self.measure = QPushButton(tr("Measure it …"))
        self.measure.setToolTip(
            tr("From a painted test card: by photograph, file, meter or numbers")
        )
        self.undo = QPushButton(tr("As it was"))
        self.undo.setToolTip(tr("Take the measurement back"))
        self.lay = QPushButton(tr("Lay a coat of it"))
        self.lay.setToolTip(tr("Over the coat in hand, where the section is read"))
        self.drop = QPushButton(tr("Take it out"))
        self.drop.setToolTip(tr("Take the paint out of this rack"))
        for button, signal in (
            (self.measure, self.measure_wanted), (self.undo, self.undo_wanted),
            (self.lay, self.lay_wanted), (self.drop, self.drop_wanted),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, s=signal: s.emit())
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 8)
        column.setSpacing(7)
        for widget in (self.name, self.what, self.large, self.lies):
            column.addWidget(widget)
        column.addLayout(statuses)
        column.addWidget(self.notes)
        column.addWidget(self.known)
        for pair in ((self.measure, self.undo), (self.lay, self.drop)):
            row = QHBoxLayout()
            row.setSpacing(4)
            for button in pair:
                row.addWidget(button)
            column.addLayout(row)
        column.addWidget(self.near)
        column.addWidget(self.used)
        column.addStretch(1)

    def show_paint(
        self,
        kept: Kept | None,
        base: Paint | None,
        drawn: PaintDrawdown | None,
        rgb: Array | None,
        near: Sequence[Near],
        used: Sequence[str],
    ) -> None:
        """Show a paint as it is known now; `base` is what cards and makers say."""
        if self._kept is not None and kept is not None:
            self.keep_notes()
        self._kept = kept
        self.setEnabled(kept is not None)
        self.large.show_rgb(rgb)
        if kept is None:
            self.name.setText(tr("No paint in hand"))
            for label in (self.what, self.known, self.lies, self.near, self.used):
                label.setText("")
            return
        paint = kept.paint
        self.name.setText(paint.name)
        finish = min(FINISHES, key=lambda name: abs(FINISHES[name] - paint.finish))
        codes = ", ".join(paint.pigments) or tr("pigments not known")
        self.what.setText("  ·  ".join(filter(None, (paint.maker, paint.kind, finish, codes))))
        self.statuses[kept.status].setChecked(True)
        if self.notes.toPlainText() != kept.notes and not self.notes.hasFocus():
            self.notes.setPlainText(kept.notes)
        self.known.setText(_known(kept, base))
        self.undo.setEnabled(kept.before is not None)
        self.lies.setText(_lies(drawn) if drawn is not None else "")
        self.near.setText(
            tr("Nearest at hand, as films: ")
            + ";  ".join(f"{n.paint.name} (dE {n.de:.0f}: {n.words})" for n in near)
            if near
            else ""
        )
        self.used.setText(
            tr("Used in: ") + ", ".join(used) if used else tr("Used in no plan that is known.")
        )

    def keep_notes(self) -> None:
        """Say what was written, if it is new."""
        if self._kept is not None and self.notes.toPlainText() != self._kept.notes:
            self.notes_written.emit(self.notes.toPlainText())


def _known(kept: Kept, base: Paint | None) -> str:
    if kept.cards:
        sources = sorted({card.source for card in kept.cards})
        words = tr("Measured from a card ({0})").format(", ".join(sources))
    elif kept.paint.spread:
        words = tr("Guessed from its kind and pigments")
    else:
        words = tr("As its maker's sheet says, not measured")
    if base is not None and base != kept.paint:
        words += tr("; refined by the log")
    return words + "."


def _lies(drawn: PaintDrawdown) -> str:
    hides = drawn.passes_to_hide()
    hiding = (
        tr("does not hide in 4 passes")
        if hides is None
        else tr("hides in {0} pass{1}").format(hides, "es" * (hides > 1))
    )
    solid = drawn.passes_to_solid()
    eye = (
        tr("still gains depth after four")
        if solid is None
        else tr("solid to the eye in {0}").format(solid or 1)
    )
    L, C, h = drawn.lch
    return tr(
        "Two passes over white: value {0:.1f}, LCh {1:.0f} {2:.0f} {3:.0f}; {4}; {5}; one pass "
        "moves white by dE {6:.0f}."
    ).format(drawn.value, L, C, h, eye, hiding, drawn.strength)


def _label() -> Label:
    label = Label()
    label.setWordWrap(True)
    return label
