"""Records every text that a window draws, and finds those that are cut off or lie over another."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QPoint, QPointF, QRect, QRectF
from PySide6.QtGui import QPaintDevice, QPaintEngine, QRegion, QTextItem
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QComboBox,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QWidget,
)

_SLACK = 1.5  # px by which a text may pass its room: bearings of letters, rounding
_OVER = 3.0  # px by which the boxes of two texts may meet: descents below, ascents above
_METRIC = QPaintDevice.PaintDeviceMetric


class DrawnText(NamedTuple):
    """A text as it was drawn: its words, its box, and the room it was drawn in."""

    words: str
    box: QRectF
    widget: QWidget

    @property
    def on_window(self) -> QRectF:
        """Return the box in the window's pixels."""
        offset = self.widget.mapTo(self.widget.window(), QPoint(0, 0))
        return self.box.translated(offset)


class _Engine(QPaintEngine):
    """Keeps the texts and lets all else go."""

    def __init__(self) -> None:
        super().__init__(QPaintEngine.PaintEngineFeature.AllFeatures)
        self.seen: list[tuple[str, QRectF]] = []

    def begin(self, _device: QPaintDevice) -> bool:
        self.setActive(True)
        return True

    def end(self) -> bool:
        self.setActive(False)
        return True

    def type(self) -> QPaintEngine.Type:
        return QPaintEngine.Type.User

    def drawTextItem(self, at: QPointF, item: QTextItem) -> None:  # type: ignore[override]
        high = item.ascent() + item.descent()
        box = QRectF(at.x(), at.y() - item.ascent(), item.width(), high)
        if item.text().strip():
            self.seen.append((item.text(), self.painter().deviceTransform().mapRect(box)))

    def _nothing(self, *_: object) -> None:
        pass

    updateState = drawPixmap = drawImage = drawPath = drawPolygon = _nothing  # noqa: N815
    drawRects = drawLines = drawEllipse = drawPoints = drawTiledPixmap = _nothing  # noqa: N815


class TextPaper(QPaintDevice):
    """A sheet of some pixels that takes nothing but texts."""

    def __init__(self, width: int, height: int, like: QPaintDevice) -> None:
        super().__init__()
        self._engine, self._like = _Engine(), like
        self._size = {_METRIC.PdmWidth: width, _METRIC.PdmHeight: height}

    @property
    def seen(self) -> list[tuple[str, QRectF]]:
        """The texts that were drawn, each with its box."""
        return self._engine.seen

    def paintEngine(self) -> _Engine:
        return self._engine

    def metric(self, what: QPaintDevice.PaintDeviceMetric) -> int:
        if what == _METRIC.PdmDevicePixelRatio:
            return 1
        return self._size.get(what) or self._like.metric(what)


def drawn_texts(window: QWidget) -> list[DrawnText]:
    """Return the texts of all widgets of a window that can be seen."""
    found = []
    for widget in [window, *window.findChildren(QWidget)]:
        if not widget.isVisible() or widget.window() is not window.window():
            continue
        if widget.visibleRegion().isEmpty():
            continue
        paper = TextPaper(widget.width(), widget.height(), widget)
        widget.render(paper, QPoint(), QRegion(), QWidget.RenderFlag.DrawWindowBackground)
        fine = widget.devicePixelRatio()
        found += [DrawnText(words, _coarser(box, fine), widget) for words, box in paper.seen]
    return found


def _coarser(box: QRectF, fine: float) -> QRectF:
    """Return a box in the widget's pixels, of which the device has finer ones."""
    return QRectF(box.x() / fine, box.y() / fine, box.width() / fine, box.height() / fine)


def cut_texts(texts: list[DrawnText]) -> Iterator[str]:
    """Yield what is wrong with the texts of a window that end before their words do."""
    for text in texts:
        if _scrolls_by_itself(text.widget):
            continue
        room, box = QRectF(text.widget.rect()), text.box
        scrolls = _scrolled(text.widget)
        if text.words.rstrip().endswith("…") and text.words not in _own_words(text.widget):
            yield f"elided: {text.words!r} in {named(text.widget)}"
        elif box.left() < room.left() - _SLACK or box.right() > room.right() + _SLACK:
            yield f"cut: {text.words!r} in {named(text.widget)} ({box.width():.0f} px)"
        elif not scrolls and (
            box.top() < room.top() - _OVER or box.bottom() > room.bottom() + _OVER
        ):
            yield f"cut in height: {text.words!r} in {named(text.widget)}"
        elif not scrolls and not _shown(text):
            yield f"hidden: {text.words!r} in {named(text.widget)}"


def overlapping_texts(texts: list[DrawnText]) -> Iterator[str]:
    """Yield the pairs of texts that lie over each other."""
    boxes = [(text, _visible(text)) for text in texts]
    boxes = [(text, box) for text, box in boxes if not box.isEmpty()]
    for k, (one, first) in enumerate(boxes):
        for other, second in boxes[k + 1 :]:
            shared = first.intersected(second)
            if shared.width() > _SLACK and shared.height() > _OVER:
                where = "" if one.widget is other.widget else f" and {named(other.widget)}"
                yield f"over: {one.words!r} and {other.words!r} in {named(one.widget)}{where}"


def named(widget: QWidget) -> str:
    """Return what a widget is, for who mends it."""
    parent = widget.parentWidget()
    return f"{type(widget).__name__} of {type(parent).__name__}"


def _own_words(widget: QWidget) -> set[str]:
    """Return the words of a control, which may end in … to say that more is asked."""
    if isinstance(widget, QComboBox):
        return {widget.currentText()}
    if isinstance(widget, QAbstractButton | QLabel):
        return {widget.text()}
    return set()


def _visible(text: DrawnText) -> QRectF:
    region = text.widget.visibleRegion().boundingRect()
    box = text.box.intersected(QRectF(region))
    return box.translated(text.widget.mapTo(text.widget.window(), QPoint(0, 0)))


def _shown(text: DrawnText) -> bool:
    """Return whether a text's middle line can be seen from end to end."""
    middle = text.box.toRect().adjusted(2, 0, -2, 0)
    middle = QRect(middle.x(), middle.center().y(), max(1, middle.width()), 1)
    return QRegion(middle).subtracted(text.widget.visibleRegion()).isEmpty()


def _scrolled(widget: QWidget) -> bool:
    """Return whether a widget may be scrolled, so that its lower end may be out of sight."""
    at: QWidget | None = widget
    while at is not None:
        if isinstance(at, QAbstractScrollArea):
            return True
        at = at.parentWidget()
    return False


def _scrolls_by_itself(widget: QWidget) -> bool:
    """Return whether somebody may have typed more than there is room for."""
    if isinstance(widget, QLineEdit):
        return widget.hasFocus() or widget.objectName() == "title"
    return isinstance(widget, QPlainTextEdit)
