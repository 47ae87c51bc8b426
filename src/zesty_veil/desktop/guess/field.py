"""The question as it is drawn: the ground with its coats, and five colours to pick from."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.desktop.kit.ribbons import reading_ink, screen_colour
from zesty_veil.desktop.kit.spoken import SpokenItem, SpokenItems
from zesty_veil.desktop.kit.theme import CARD, SURROUNDS, font, grey
from zesty_veil.light.srgb import srgb
from zesty_veil.log.guess import CHOICES, Question
from zesty_veil.plan.model import ground_words
from zesty_veil.tr import tr

_GAP = 16


class GuessField(QWidget):
    """Shows a question; keys 1 to 5 or a click pick, and then the right one is shown."""

    picked = Signal(int)
    next_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._question: Question | None = None
        self.choice: int | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("five colours, of which one comes"))
        self.setAccessibleDescription(tr("Keys 1 to 5 pick; Space asks the next question."))
        self._spoken = SpokenItems(self, self.items)

    def sizeHint(self) -> QSize:
        return QSize(900, 480)

    def show_question(self, question: Question | None) -> None:
        """Ask another question."""
        self._question, self.choice = question, None
        self.update()

    def pick(self, choice: int) -> None:
        """Pick a colour, once."""
        if self._question is not None and self.choice is None and 0 <= choice < CHOICES:
            self.choice = choice
            self.update()
            self.picked.emit(choice)

    def items(self) -> list[SpokenItem]:
        """Return the five colours for assistive technology."""
        if self._question is None:
            return []
        out = []
        for i in range(CHOICES):
            value = tr("picked") if i == self.choice else ""
            name = tr("colour {0}").format(i + 1)
            out.append(
                SpokenItem(name, value, self.box(i), i == self.choice, partial(self.pick, i))
            )
        return out

    def box(self, choice: int) -> QRectF:
        """Return where a colour to pick is drawn."""
        step = (self.width() - 2 * _GAP) / CHOICES
        top = self.height() * 0.5
        return QRectF(_GAP + choice * step + _GAP / 2, top, step - _GAP, self.height() - top - 56)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        surround = SURROUNDS["middle"]
        painter.fillRect(self.rect(), surround.colour)
        if self._question is not None:
            self._draw_stack(painter, self._question)
            for choice in range(CHOICES):
                self._draw_choice(painter, self._question, choice)
        painter.end()
        self._spoken.tell_soon()

    def _draw_stack(self, painter: QPainter, question: Question) -> None:
        """Draw the ground as it is seen, with the coats above it in words, as they are laid."""
        rows = len(question.words) + 1
        height = min((self.height() * 0.5 - 56) / rows, 46.0)
        bottom = self.height() * 0.5 - 24
        box = QRectF(2 * _GAP, bottom - height, self.width() - 4 * _GAP, height)
        rgb = srgb(question.below)[0]
        painter.fillRect(box, screen_colour(rgb))
        painter.setFont(font(CARD))
        painter.setPen(reading_ink(rgb))
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.drawText(box.adjusted(14, 0, -8, 0), left, ground_words(question.ground))
        for k, words in enumerate(question.words, 1):
            row = box.translated(0, -k * height)
            painter.setPen(QPen(grey(0x00), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(row.adjusted(0, 2, 0, -2))
            painter.setPen(grey(0x00))
            painter.drawText(row.adjusted(14, 0, -8, 0), left, words)

    def _draw_choice(self, painter: QPainter, question: Question, choice: int) -> None:
        box, rgb = self.box(choice), srgb(question.choices[choice])[0]
        painter.fillRect(box, screen_colour(rgb))
        painter.setFont(font(CARD, bold=True))
        painter.setPen(reading_ink(rgb))
        painter.drawText(box.topLeft() + QPointF(12, 26), str(choice + 1))
        if self.choice is None:
            return
        right, mine = choice == question.right, choice == self.choice
        if right or mine:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            line = Qt.PenStyle.SolidLine if right else Qt.PenStyle.DashLine
            painter.setPen(QPen(grey(0x00), 3.0 if right else 1.5, line))
            painter.drawRect(box.adjusted(-5, -5, 5, 5))
            words = (
                tr("picked, and right")
                if right and mine
                else tr("this comes")
                if right
                else tr("picked")
            )
            painter.setPen(grey(0x00))
            painter.setFont(font(CARD, bold=right))
            below = QRectF(box.x() - 8, box.bottom() + 10, box.width() + 16, 26)
            painter.drawText(below, Qt.AlignmentFlag.AlignCenter, words)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for choice in range(CHOICES):
            if self.box(choice).contains(event.position()):
                self.pick(choice)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """1 to 5 pick; Space or Enter goes on."""
        key = Qt.Key(event.key())
        if Qt.Key.Key_1 <= key <= Qt.Key.Key_5:
            self.pick(int(key) - int(Qt.Key.Key_1))
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.next_wanted.emit()
        else:
            event.ignore()
            return
        event.accept()
