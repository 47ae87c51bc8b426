"""A lane for each passage of each figure: what is laid, what dries, and what is still to come."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.bench.sitting import Sitting, chains_of, current, seconds_left
from zesty_veil.desktop.kit.theme import BODY, CAPTION, EDGE, PRESSED, STRONG, TEXT, WELL, grey
from zesty_veil.desktop.kit.writing import LEFT, RIGHT, write
from zesty_veil.services.sittingcard import pass_of
from zesty_veil.tr import tr

_LABEL, _TIME = 220.0, 108.0
_ROW, _LOW_ROW = 20.0, 14.0  # pixels of a lane, and of one where there is little room


class Lanes(QWidget):
    """Draws how far every passage is, and how long it still dries."""

    def __init__(self) -> None:
        super().__init__()
        self._sitting: Sitting | None = None
        self._now = 0.0
        self._row = _ROW
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setAccessibleName(tr("figures and passages"))

    def sizeHint(self) -> QSize:
        rows = len(chains_of(self._sitting)) if self._sitting is not None else 4
        return QSize(640, round(rows * self._row + 8))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def set_low(self, low: bool) -> None:
        """Draw the lanes lower, where the card needs the room."""
        self._row = _LOW_ROW if low else _ROW
        self.updateGeometry()
        self.update()

    def show_sitting(self, sitting: Sitting, now: float) -> None:
        """Show a sitting at a time of the clock."""
        other = self._sitting is None or self._sitting.plan is not sitting.plan
        self._sitting, self._now = sitting, now
        if other:
            self.updateGeometry()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        sitting = self._sitting
        if sitting is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        done = {one.where for one in sitting.laid}
        where = current(sitting, self._now)
        many = sitting.plan.figures > 1
        said = []
        letters = BODY if self._row >= _ROW else CAPTION
        for c, chain in enumerate(chains_of(sitting)):
            y = 4 + c * self._row
            what = pass_of(sitting, (c, 0))
            name = sitting.plan.passages[what.passage].name
            words = f"{chain[0].figure + 1}  {name}" if many else name
            on = where is not None and where[0] == c
            name_box = QRectF(8, y, _LABEL - 16, self._row)
            write(painter, name_box, words, grey(TEXT), LEFT, bold=on, pixels=letters)
            width = (self.width() - _LABEL - _TIME) / max(len(chain), 1)
            for k in range(len(chain)):
                box = QRectF(_LABEL + k * width + 1, y + 3, max(width - 2, 1), self._row - 6)
                level = STRONG if (c, k) in done else WELL
                painter.fillRect(box, grey(level))
                if (c, k) == where:
                    painter.setPen(QPen(grey(TEXT), 2.4))
                    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
            left = seconds_left(sitting, c, self._now)
            finished = all((c, k) in done for k in range(len(chain)))
            if left > 0:
                last = max((k for k in range(len(chain)) if (c, k) in done), default=-1)
                edge = _LABEL + (last + 1) * width
                box = QRectF(edge - max(width, 6), y + 3, max(width, 6) - 1, self._row - 6)
                painter.fillRect(box, QBrush(grey(PRESSED), Qt.BrushStyle.Dense4Pattern))
            state = (
                tr("dries {0}").format(clock(left))
                if left > 0
                else tr("done")
                if finished
                else tr("dry")
            )
            if not any((c, k) in done for k in range(len(chain))):
                state = ""
            rect = QRectF(self.width() - _TIME, y, _TIME - 8, self._row)
            write(painter, rect, state, grey(TEXT), RIGHT, pixels=letters)
            laid = sum((c, k) in done for k in range(len(chain)))
            said.append(
                tr("{0}: {1} of {2} passes, {3}").format(
                    words, laid, len(chain), state or tr("not begun")
                )
            )
        painter.setPen(QPen(grey(EDGE), 1))
        painter.drawLine(QPointF(_LABEL - 4, 2), QPointF(_LABEL - 4, self.height() - 2))
        painter.end()
        self.setAccessibleDescription("; ".join(said))


def clock(seconds: float) -> str:
    """Return a time as painters read it from a clock: 2:05, or 1:02:05."""
    whole = int(-(-seconds // 1))
    hours, rest = divmod(whole, 3600)
    return f"{hours}:{rest // 60:02}:{rest % 60:02}" if hours else f"{rest // 60}:{rest % 60:02}"
