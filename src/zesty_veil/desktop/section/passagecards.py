"""The passages of a plan as cards: the whole name, the predicted ribbon, length and coats."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from zesty_veil.desktop.kit.ribbons import draw_ribbon
from zesty_veil.desktop.kit.theme import (
    BODY,
    CAPTION,
    EDGE,
    PANEL,
    QUIET,
    RAISED,
    TEXT,
    WELL,
    font,
    grey,
)

RIBBON_ROLE = Qt.ItemDataRole.UserRole
BELOW_ROLE = Qt.ItemDataRole.UserRole + 1

_PAD = 9.0
_RIBBON_HIGH = 14.0
_BELOW_HIGH = 17.0
_USUAL_WIDTH = 190
_WRAPPED = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap


class PassageCards(QStyledItemDelegate):
    """Draws each passage of a list as a card, as high as its name needs."""

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        view = option.widget
        width = _USUAL_WIDTH if view is None else view.viewport().width() - 4  # type: ignore[attr-defined]
        high = _name_height(str(index.data()), width - 2 * _PAD)
        return QSize(120, round(2 * 7 + high + 4 + _RIBBON_HIGH + 2 + _BELOW_HIGH))

    def paint(
        self,
        painter: QPainter,
        option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        over = bool(option.state & QStyle.StateFlag.State_MouseOver)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        card = QRectF(option.rect).adjusted(1.5, 1.5, -1.5, -1.5)
        painter.setPen(QPen(grey(TEXT), 2.2) if chosen else QPen(grey(EDGE), 0.6))
        painter.setBrush(grey(WELL if over else RAISED if chosen else PANEL))
        painter.drawRoundedRect(card, 5, 5)
        inside = card.adjusted(_PAD - 1.5, 5.5, 1.5 - _PAD, -5.5)
        name = str(index.data())
        high = _name_height(name, inside.width())
        painter.setPen(grey(TEXT))
        painter.setFont(font(BODY, bold=chosen))
        painter.drawText(QRectF(inside.x(), inside.y(), inside.width(), high), int(_WRAPPED), name)
        ribbon = index.data(RIBBON_ROLE)
        top = inside.y() + high + 4
        if ribbon is not None:
            draw_ribbon(painter, QRectF(inside.x(), top, inside.width(), _RIBBON_HIGH), ribbon)
        painter.setFont(font(CAPTION))
        painter.setPen(grey(QUIET))
        below = QRectF(inside.x(), top + _RIBBON_HIGH + 2, inside.width(), _BELOW_HIGH)
        painter.drawText(below, Qt.AlignmentFlag.AlignVCenter, str(index.data(BELOW_ROLE) or ""))


def _name_height(name: str, width: float) -> float:
    """Return how high a name stands that is broken where it must be; as bold as if in hand."""
    metrics = QFontMetricsF(font(BODY, bold=True))
    return metrics.boundingRect(QRectF(0, 0, width, 1000), int(_WRAPPED), name).height()
