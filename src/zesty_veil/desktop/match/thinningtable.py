"""The coat in hand at other thinnings: passes, minutes, and how far an ordinary hand strays."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.marks import draw_tally
from zesty_veil.desktop.kit.theme import EDGE, QUIET, TEXT, WELL, grey
from zesty_veil.desktop.kit.writing import write
from zesty_veil.plan.model import Coat, mixture_words
from zesty_veil.predict.coatsto import LOOKED_AT
from zesty_veil.services.thinnings import Thinned
from zesty_veil.tr import counted, tr

_HEAD, _ROW = 46.0, 26.0
_COLUMNS = (0.0, 66.0, 178.0, 254.0)  # thinning, passes, minutes, strays
_MOST_TALLY = 12


class ThinningTable(QWidget):
    """A row for each thinning of the coat in hand; a press or Enter keeps a way laid like that."""

    picked = Signal(object)  # Coat

    def __init__(self) -> None:
        super().__init__()
        self.rows: tuple[Thinned, ...] = ()
        self._coat: Coat | None = None
        self._at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("the coat in hand at other thinnings"))

    def sizeHint(self) -> QSize:
        return QSize(320, round(_HEAD + 6 * _ROW + 4))

    def show_rows(self, coat: Coat | None, rows: tuple[Thinned, ...]) -> None:
        """Show a coat at other thinnings."""
        self._coat, self.rows = coat, rows
        self._at = min(self._at, max(len(rows) - 1, 0))
        words = "; ".join(_words(row) for row in rows)
        self.setAccessibleDescription(
            tr("{0}. Up and down choose, Enter keeps such a way.").format(words)
        )
        self.update()

    def row(self, index: int) -> QRectF:
        """Return where a thinning stands."""
        return QRectF(0, _HEAD + index * _ROW, self.width(), _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self._coat is None:
            painter.end()
            return
        title = mixture_words(self._coat.mixture)
        write(painter, QRectF(0, 2, self.width(), 20), title, grey(TEXT), bold=True)
        heads = tuple(map(tr, ("thinned", "passes", "minutes", "strays by")))
        for x, words in zip(_COLUMNS, heads, strict=True):
            write(painter, QRectF(x, 24, 90, 20), words, grey(QUIET))
        for index, row in enumerate(self.rows):
            self._draw(painter, self.row(index), row, index == self._at and self.hasFocus())
        painter.end()

    def _draw(self, painter: QPainter, box: QRectF, row: Thinned, held: bool) -> None:
        painter.setPen(QPen(grey(EDGE), 1))
        painter.drawLine(box.topLeft(), box.topRight())
        if held:
            painter.fillRect(box.adjusted(0, 1, 0, -1), grey(WELL))
        ink = grey(TEXT)
        this = self._coat is not None and row.thinning == self._coat.mixture.thinning
        words = f"{row.thinning:g}:1" if row.thinning else tr("neat")
        write(painter, box.adjusted(4, 0, 0, 0), words, ink, bold=this)
        if row.coat is None:
            write(painter, box.adjusted(_COLUMNS[1], 0, 0, 0), _left(row), ink)
            return
        passes = row.coat.passes
        x = box.x() + _COLUMNS[1]
        write(painter, QRectF(x, box.y(), 24, box.height()), str(passes), ink)
        draw_tally(painter, x + 28, box.center().y(), 11, min(passes, _MOST_TALLY), ink)
        minutes = QRectF(_COLUMNS[2], box.y(), 50, box.height())
        write(painter, minutes, f"{math.ceil(row.minutes)}", ink)
        write(
            painter, QRectF(_COLUMNS[3], box.y(), 30, box.height()), f"{row.sensitivity:.1f}", ink
        )
        end = QPointF(_COLUMNS[3] + 32 + 6 * min(row.sensitivity, 6), box.center().y())
        painter.setPen(QPen(ink, 4))
        painter.drawLine(QPointF(_COLUMNS[3] + 32, box.center().y()), end)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for index in range(len(self.rows)):
            if self.row(index).contains(event.position()):
                self._at = index
                self._pick()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose a thinning, Enter keeps such a way."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is not None and self.rows:
            self._at = min(max(self._at + step, 0), len(self.rows) - 1)
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.rows:
            self._pick()
        else:
            event.ignore()
            return
        event.accept()

    def _pick(self) -> None:
        coat = self.rows[self._at].coat
        if coat is not None:
            self.picked.emit(coat)
        self.update()


def _words(row: Thinned) -> str:
    thinned = f"{row.thinning:g}:1" if row.thinning else tr("neat")
    if row.coat is None:
        return f"{thinned} {_left(row)}"
    passes = counted(row.coat.passes, "{0} pass", "{0} passes")
    strays = tr("strays by {0:.1f}").format(row.sensitivity)
    return tr("{0:g}:1 {1}, {2} min, {3}").format(
        row.thinning, passes, math.ceil(row.minutes), strays
    )


def _left(row: Thinned) -> str:
    """Return how far off a thinning stays that does not come to the same."""
    return tr("after {0} passes still dE {1:.0f} off").format(LOOKED_AT[-1], row.left)
