"""How dark the dark is: values along the surface in view, the gap, and the side turned away."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from PySide6.QtCore import QLineF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from zesty_veil.advise.glow.wanted import Lit
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.desktop.kit.theme import CAPTION, EDGE, QUIET, TEXT, grey
from zesty_veil.desktop.kit.writing import LEFT, RIGHT, write
from zesty_veil.light.cielab import lab
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import srgb
from zesty_veil.light.value import luminance
from zesty_veil.thresholds import AWAY_VALUE, GAP_VALUES
from zesty_veil.tr import tr

_LABEL, _TOP, _WORDS = 64.0, 4.0, 34.0


class Depth(QWidget):
    """Draws values as steps from the light outward, with the border that a glow needs."""

    def __init__(self) -> None:
        super().__init__()
        self._lit: Lit | None = None
        self.words = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("how dark the dark is"))

    def sizeHint(self) -> QSize:
        return QSize(320, 100)

    def show_lit(self, lit: Lit) -> None:
        """Show the surface in view."""
        self._lit = lit
        best, away = lit.values[0], lit.values[-1]
        if lit.gap is None:
            least = tr("{0:g} or darker lets a glow read (common practice).").format(AWAY_VALUE)
            self.words = tr("Away it is {0:.1f} values darker than at the light. {1}").format(
                best - away, least
            )
        else:
            least = tr("{0:g} or more keeps two lights apart (common practice).").format(GAP_VALUES)
            self.words = tr("The gap is {0:.1f} values darker than what is beside it. {1}").format(
                lit.gap, least
            )
        self.setAccessibleDescription(self.words)
        self.setToolTip(tip(self.words))
        self.update()

    def steps(self) -> list[tuple[QRectF, float]]:
        """Return a bar for each target and its value, from the light outward."""
        if self._lit is None:
            return []
        box = self._box()
        places = [0.0, *_between([target.place for target in self._lit.targets]), 1.0]
        out = []
        for k, value in enumerate(self._lit.values):
            left, right = (box.x() + box.width() * p for p in places[k : k + 2])
            height = box.height() * value / self._top()
            out.append((QRectF(left, box.bottom() - height, right - left, height), value))
        return out

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._lit is None:
            return
        painter, box = QPainter(self), self._box()
        ink = grey(TEXT)
        for rect, value in self.steps():
            Y = float(luminance(np.array(value)))
            level = round(255 * float(srgb(lab(Y * white(), white()))[0][0]))
            painter.fillRect(rect, grey(level))
            painter.setPen(QPen(grey(EDGE), 1))
            painter.drawRect(rect)
        painter.setPen(QPen(ink, 1, Qt.PenStyle.DashLine))
        y = box.bottom() - box.height() * AWAY_VALUE / self._top()
        painter.drawLine(QLineF(box.left(), y, box.right(), y))
        write(painter, QRectF(0, y - 10, _LABEL - 6, 20), f"{AWAY_VALUE:g}", ink, RIGHT)
        write(
            painter, QRectF(0, box.bottom() - 16, _LABEL - 6, 20), tr("value"), grey(QUIET), RIGHT
        )
        first, _, second = self.words.partition(". ")
        for k, words in enumerate((f"{first}.", second)):
            line = QRectF(_LABEL, box.bottom() + 3 + 15 * k, self.width() - _LABEL - 4, 15)
            write(painter, line, words, ink, LEFT, pixels=CAPTION)
        painter.end()

    def _top(self) -> float:
        """Return the value at which the box ends."""
        return max(AWAY_VALUE + 1.0, *(self._lit.values if self._lit is not None else ()))

    def _box(self) -> QRectF:
        return QRectF(_LABEL, _TOP, self.width() - _LABEL - 12, self.height() - _TOP - _WORDS)


def _between(places: list[float]) -> list[float]:
    """Return the middles between places."""
    return [(a + b) / 2 for a, b in pairwise(places)]
