"""One large card: what to lay now, to be read from a metre away with a wet brush in the hand."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.marks import drop_path
from zesty_veil.desktop.kit.ribbons import draw_ribbon, screen_colour
from zesty_veil.desktop.kit.theme import (
    BODY,
    CAPTION,
    CARD,
    EDGE,
    NUMBER,
    QUIET,
    RAISED,
    STRONG,
    TEXT,
    TITLE,
    font,
    grey,
)
from zesty_veil.services.sittingcard import Told, ground_of
from zesty_veil.tr import tr

_PAD = 18.0
_DROP = 26.0
_MOST_DROPS = 8
_FILMS, _LEAST_FILMS, _FILMS_SHARE = 64.0, 18.0, 0.4  # high, and of what the words leave
_RIBBON, _LEAST_RIBBON = 30.0, 14.0
_OLD = 0xA8
# The room of the countdown, at the top right.
_CLOCK = 300.0
_TALLY = (46.0, 12.0, 4.0)  # height, step, width of a stroke


class NowCard(QWidget):
    """Draws the pass in hand, or how long it must wait."""

    def __init__(self) -> None:
        super().__init__()
        self.told: Told | None = None
        self.head = self.where = self.waits = ""
        self.done = self.count = 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("now"))

    def sizeHint(self) -> QSize:
        return QSize(640, 420)

    def show_words(self, head: str, where: str = "", waits: str = "") -> None:
        """Show what is to be done in large, and how long it must wait, if it must."""
        if (head, where, waits) != (self.head, self.where, self.waits):
            self.head, self.where, self.waits = head, where, waits
            self.setAccessibleDescription(". ".join(w for w in (head, where, waits) if w))
            self.update()

    def show_told(self, told: Told | None, done: int, count: int) -> None:
        """Show how a pass is laid, with so many of its coat done before it."""
        self.told, self.done, self.count = told, done, count
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        waiting = bool(self.waits)
        paper, ink = (grey(STRONG), grey(RAISED)) if waiting else (grey(RAISED), grey(TEXT))
        painter.fillRect(self.rect(), paper)
        room = QRectF(self.rect()).adjusted(_PAD, _PAD - 6, -_PAD, -_PAD + 6)
        words = QRectF(room)
        if waiting:
            words.setWidth(room.width() - _CLOCK)
            clock = QRectF(words.right(), room.y(), _CLOCK, 50)
            painter.setPen(ink)
            painter.setFont(font(NUMBER, bold=True))
            painter.drawText(clock, _MIDDLE_RIGHT, self.waits)
        y = self._line(painter, words, room.y(), self.head, font(NUMBER, bold=True), ink)
        y = max(self._line(painter, words, y, self.where, font(TITLE), ink), room.y() + 54)
        if self.told is not None:
            self._told(painter, room, y, self.told, ink)
        painter.end()

    def _told(self, painter: QPainter, room: QRectF, y: float, told: Told, ink: QColor) -> None:
        left, right = QRectF(room), QRectF(room)
        left.setWidth(0.44 * room.width())
        right.setLeft(left.right() + _PAD)
        drops = self._drops(painter, left, y, told, ink)
        how = self._tally(painter, right, y, ink)
        for words in told.words:
            how = self._line(painter, right, how, words, font(TITLE), ink)
        y = max(drops, how) + 6
        quiet = grey(QUIET) if not self.waits else ink
        ground = tr("On {0}. {1}").format(ground_of(told.passage), told.caution)
        said = _height(room, ground, font(BODY))
        # The drawings take what the words leave: what must be read is never cut off.
        left_over = room.bottom() - y - said - 8
        films = min(max(_FILMS_SHARE * left_over, _LEAST_FILMS), _FILMS)
        ribbon = min(max((left_over - films) / 3, _LEAST_RIBBON), _RIBBON)
        label = font(CARD if ribbon > CARD + 4 else CAPTION)
        start = room.x() + 96
        for words, rgb in (
            (tr("now"), told.before),
            (tr("then, dry"), told.dry),
            (tr("while wet"), told.wet),
        ):
            rect = QRectF(start, y, room.right() - start, ribbon - 2)
            self._label(painter, QRectF(room.x(), y, 90, ribbon - 2), words, label, ink)
            draw_ribbon(painter, rect, rgb)
            y += ribbon
        self._label(painter, QRectF(room.x(), y, 90, films), tr("films"), label, ink)
        self._section(painter, QRectF(start, y + 4, room.right() - start, films - 4), told, ink)
        self._line(painter, room, y + films + 6, ground, font(BODY), quiet)

    def _drops(self, painter: QPainter, room: QRectF, y: float, told: Told, ink: QColor) -> float:
        """Draw what to drip on the palette, drop by drop."""
        drops, x = told.pot.drops, room.x()
        rows: list[tuple[str, int, QColor | None]] = []
        rows += [(name, n, screen_colour(told.film)) for name, n in drops.paints]
        if drops.thinner:
            rows.append((told.coat.mixture.thinner, drops.thinner, None))
        face = font(TITLE, bold=True)
        for name, n, fill in rows:
            painter.setPen(QPen(ink, 1.4))
            painter.setBrush(fill if fill is not None else Qt.BrushStyle.NoBrush)
            for k in range(min(n, _MOST_DROPS)):
                painter.drawPath(drop_path(x + 12 + k * 17, y + 17, _DROP))
            words = f"{n} {name}"
            painter.setPen(ink)
            painter.setFont(face)
            at = x + 20 + min(n, _MOST_DROPS) * 17
            painter.drawText(QRectF(at, y, room.right() - at, 34), _MIDDLE_LEFT, words)
            y += 36
        if drops.de00 > 1:
            words = tr("Whole drops shift it by dE {0:.1f}.").format(drops.de00)
            y = self._line(painter, room, y, words, font(BODY), ink)
        return y

    def _tally(self, painter: QPainter, room: QRectF, y: float, ink: QColor) -> float:
        """Draw the passes of the coat: those done in black, those to come in outline."""
        height, step, width = _TALLY
        x = room.x() + 6
        for k in range(self.count):
            if k and k % 5 == 0:
                x += step
            tone = ink if k < self.done else grey(EDGE)
            painter.setPen(QPen(tone, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(QPointF(x, y + 4), QPointF(x, y + height - 4))
            x += step
        painter.setPen(ink)
        painter.setFont(font(TITLE))
        words = tr("pass {0} of {1}").format(min(self.done + 1, self.count), self.count)
        painter.drawText(QRectF(x + 8, y, room.right() - x, height), _MIDDLE_LEFT, words)
        return y + height

    @staticmethod
    def _section(painter: QPainter, rect: QRectF, told: Told, ink: QColor) -> None:
        """Draw the films so far as strata, and this coat among them in its own colour."""
        strata = told.strata
        xs = np.linspace(rect.left(), rect.right(), strata.shape[1])
        scale = rect.height() / max(float(strata.sum(axis=0).max()), 1e-9)
        below = np.zeros(strata.shape[1])
        for k, films in enumerate(strata):
            above = below + films
            points = [(x, rect.bottom() - scale * y) for x, y in zip(xs, above, strict=True)]
            points += [(x, rect.bottom() - scale * y) for x, y in zip(xs, below, strict=True)][::-1]
            lit = k == strata.shape[0] - 1
            painter.setPen(QPen(ink if lit else grey(EDGE), 1.4 if lit else 0.6))
            painter.setBrush(screen_colour(told.film) if lit else grey(_OLD))
            painter.drawPolygon(QPolygonF([QPointF(float(x), float(y)) for x, y in points]))
            below = above

    @staticmethod
    def _label(painter: QPainter, rect: QRectF, words: str, face: QFont, ink: QColor) -> None:
        painter.setPen(ink)
        painter.setFont(face)
        painter.drawText(rect, _MIDDLE_RIGHT, words)

    @staticmethod
    def _line(
        painter: QPainter, room: QRectF, y: float, words: str, face: QFont, ink: QColor
    ) -> float:
        """Write words, broken where they must be; return where they end."""
        if not words:
            return y
        painter.setFont(face)
        painter.setPen(ink)
        high = _height(room, words, face)
        painter.drawText(QRectF(room.x(), y, room.width(), high), int(_WRAPPED), words)
        return y + high


def _height(room: QRectF, words: str, face: QFont) -> float:
    """Return how high words are, broken where a room ends."""
    box = QRectF(room.x(), 0, room.width(), 400)
    return QFontMetricsF(face).boundingRect(box, int(_WRAPPED), words).height() + 2


_WRAPPED = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft
_MIDDLE_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_MIDDLE_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
