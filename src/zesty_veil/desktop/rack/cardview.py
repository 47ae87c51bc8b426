"""A card's patches as they were read, each beside what the fit makes of it; one is in hand."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.bench.card import CARD_PASSES
from zesty_veil.desktop.kit.ribbons import reading_ink, screen_colour
from zesty_veil.desktop.kit.spoken import SpokenItem, SpokenItems
from zesty_veil.desktop.kit.theme import EDGE, QUIET, STRONG, TEXT, font, grey
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.log.card import Backing, Patch
from zesty_veil.tr import counted, tr

PatchPlace = tuple[Backing, int]
PATCH_PLACES: tuple[PatchPlace, ...] = tuple(
    (backing, passes) for backing in ("white", "black") for passes in (0, *CARD_PASSES)
)
_BARE: dict[Backing, int] = {"white": 0xEC, "black": 0x2A}
_HEAD, _LABEL = 20, 60
_SPLIT = 0.62


class CardView(QWidget):
    """Draws the card's eight patches; arrows or a click take one in hand."""

    chosen = Signal(object)  # Place
    cleared = Signal(object)  # Place

    def __init__(self) -> None:
        super().__init__()
        self._patches: dict[PatchPlace, Patch] = {}
        self._fitted: dict[PatchPlace, tuple[Array, float]] = {}
        self.in_hand: PatchPlace = ("white", 1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("patches of the card"))
        self.setAccessibleDescription(tr("Arrows choose a patch; Del forgets its colour."))
        self._spoken = SpokenItems(self, self.items)

    def sizeHint(self) -> QSize:
        return QSize(460, 190)

    def show_patches(
        self, patches: dict[PatchPlace, Patch], fitted: dict[PatchPlace, tuple[Array, float]]
    ) -> None:
        """Show patches as read, and as fitted: encoded sRGB (3,) and dE00."""
        self._patches, self._fitted = patches, fitted
        self.update()

    def choose(self, place: PatchPlace) -> None:
        """Take a patch in hand."""
        self.in_hand = place
        self.update()
        self.chosen.emit(place)

    def next(self) -> None:
        """Take the next patch in hand."""
        self.choose(PATCH_PLACES[(PATCH_PLACES.index(self.in_hand) + 1) % len(PATCH_PLACES)])

    def items(self) -> list[SpokenItem]:
        """Return the patches for assistive technology."""
        out = []
        for backing, passes in PATCH_PLACES:
            patch = self._patches.get((backing, passes))
            count = counted(passes, "{0} pass", "{0} passes") if passes else tr("bare")
            name = tr("over {0}, {1}").format(backing, count)
            colour = tr("no colour yet")
            if patch is not None:
                L, a, b = patch.colour
                colour = tr("L {0:.0f}, a {1:.0f}, b {2:.0f}").format(L, a, b)
            place = (backing, passes)
            chosen = place == self.in_hand
            out.append(
                SpokenItem(name, colour, self.box(place), chosen, partial(self.choose, place))
            )
        return out

    def box(self, place: PatchPlace) -> QRectF:
        """Return where a patch is drawn."""
        row, column = divmod(PATCH_PLACES.index(place), len(CARD_PASSES) + 1)
        width = (self.width() - _LABEL) / (len(CARD_PASSES) + 1)
        height = (self.height() - _HEAD) / 2
        return QRectF(_LABEL + column * width, _HEAD + row * height, width - 4, height - 4)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(font())
        painter.setPen(grey(QUIET))
        passes = (counted(n, "{0} pass", "{0} passes") for n in CARD_PASSES)
        for k, words in enumerate((tr("bare"), *passes)):
            top = self.box(PATCH_PLACES[k])
            head = QRectF(top.x(), 0, top.width(), _HEAD)
            painter.drawText(head, Qt.AlignmentFlag.AlignCenter, words)
        for backing in ("white", "black"):
            side = self.box((backing, 0))
            painter.setPen(grey(QUIET))
            painter.drawText(
                QRectF(0, side.y(), _LABEL - 6, side.height()),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, backing,
            )  # fmt: skip
        for place in PATCH_PLACES:
            self._draw(painter, place)
        painter.end()
        self._spoken.tell_soon()

    def _draw(self, painter: QPainter, place: PatchPlace) -> None:
        box, patch = self.box(place), self._patches.get(place)
        hand = place == self.in_hand
        if patch is None:
            painter.fillRect(box, grey(_BARE[place[0]]))
            painter.setPen(QPen(grey(EDGE), 1, Qt.PenStyle.DashLine))
            painter.drawRect(box)
        else:
            rgb = srgb(patch.colour)[0]
            painter.fillRect(box, screen_colour(rgb))
            ink = reading_ink(rgb)
            words = " ".join(str(round(float(v))) for v in patch.colour)
            fitted = self._fitted.get(place)
            if fitted is not None:
                right = QRectF(box.x() + box.width() * _SPLIT, box.y(),
                               box.width() * (1 - _SPLIT), box.height())  # fmt: skip
                painter.fillRect(right, screen_colour(fitted[0]))
                painter.setPen(reading_ink(fitted[0]))
                painter.drawText(right.adjusted(4, 0, -2, -5), Qt.AlignmentFlag.AlignBottom,
                                 f"{fitted[1]:.1f}")  # fmt: skip
            painter.setPen(ink)
            painter.drawText(box.adjusted(6, 5, 0, 0), Qt.AlignmentFlag.AlignTop, words)
            if patch.doubt:
                painter.setFont(font(bold=True))
                painter.drawText(QPointF(box.x() + 6, box.bottom() - 8), "?")
                painter.setFont(font())
        if hand:
            painter.setPen(QPen(grey(0xFF), 4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box.adjusted(1, 1, -1, -1))
            painter.setPen(QPen(grey(STRONG if self.hasFocus() else TEXT), 2))
            painter.drawRect(box.adjusted(1, 1, -1, -1))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for place in PATCH_PLACES:
            if self.box(place).contains(event.position()):
                self.choose(place)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows choose, Del forgets."""
        columns, at = len(CARD_PASSES) + 1, PATCH_PLACES.index(self.in_hand)
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1,
                 Qt.Key.Key_Up: -columns, Qt.Key.Key_Down: columns}  # fmt: skip
        key = Qt.Key(event.key())
        if key in steps:
            self.choose(PATCH_PLACES[int(np.clip(at + steps[key], 0, len(PATCH_PLACES) - 1))])
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.cleared.emit(self.in_hand)
        else:
            event.ignore()
            return
        event.accept()
