"""The rail: every station from every station, in the order of work."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt, Signal
from PySide6.QtGui import QIcon, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QTabBar, QToolButton, QWidget

from zesty_veil.desktop.help.station import HelpStation
from zesty_veil.desktop.kit.commands import COMMANDS
from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.kit.theme import CAPTION, ON_STRONG, RAISED, STRONG, TEXT, font, grey
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.tr import tr

WIDTH = 68
_ICON = 26
_BUTTON = QSize(WIDTH - 8, 56)
_STEP = _BUTTON.height() + 4
_MARGIN = 4
_KEYS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}


class Rail(QWidget):
    """Shows which station is open; `wanted` asks for another by its command's id."""

    wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setFixedWidth(WIDTH)
        self.tabs = _Stations(self)
        self.tabs.wanted.connect(lambda id_: self.wanted.emit(f"to {id_}"))
        command = COMMANDS["find"]
        self.search = QToolButton(self)
        self.search.setObjectName("station")
        self.search.setIcon(icon("find", _ICON))
        self.search.setIconSize(QSize(_ICON, _ICON))
        self.search.setText(tr("Find"))
        self.search.setFont(font(CAPTION))
        self.search.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        self.search.setToolTip(command.tooltip(tr(command.words)))
        self.search.setAccessibleName(tr("Find"))
        self.search.setFixedSize(_BUTTON)
        self.search.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.search.clicked.connect(lambda: self.wanted.emit(command.id))

    def show_station(self, id_: str) -> None:
        """Mark the station that is open."""
        self.tabs.show_station(id_)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.tabs.setGeometry(_MARGIN, _MARGIN, _BUTTON.width(), self.height() - 2 * _MARGIN)
        above = self.tabs.y() + self.tabs.place(HelpStation.id).y()
        self.search.move(_MARGIN, above - _STEP)


class _Stations(QTabBar):
    """The stations as tabs, one below the other; those that are no step of work at the foot.

    The first of those takes all the room above it, of which only the foot is drawn and pressed.
    """

    wanted = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        stations = sorted(STATIONS, key=lambda station: station.aside)
        self.ids = [station.id for station in stations]
        self._foot = [station.aside for station in stations].index(True)
        self.setShape(QTabBar.Shape.RoundedWest)
        self.setDrawBase(False)
        self.setExpanding(False)
        self.setUsesScrollButtons(False)
        self.setMouseTracking(True)
        # The keyboard stays where work is; F-keys go from station to station.
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(tr("stations"))
        for station in stations:
            at = self.addTab(tr(station.words))
            self.setTabToolTip(at, station.command().tooltip(tr(station.words)))
        for button in self.findChildren(QToolButton):
            button.setAccessibleName(tr("more stations"))  # Qt's own, which is never shown
        self.currentChanged.connect(self._chosen)

    def place(self, id_: str) -> QRect:
        """Return where the tab of a station is drawn."""
        return self._drawn(self.ids.index(id_))

    def _drawn(self, at: int) -> QRect:
        box = self.tabRect(at)
        return box.adjusted(0, box.height() - _STEP, 0, -4)

    @property
    def marked(self) -> str:
        """The id of the station that is shown as open."""
        return self.ids[self.currentIndex()]

    def show_station(self, id_: str) -> None:
        """Mark a station, without asking for it."""
        with quiet(self):
            self.setCurrentIndex(self.ids.index(id_))
        self.update()

    def tabSizeHint(self, index: int) -> QSize:
        rest = self.height() - _STEP * (len(self.ids) - 1) if index == self._foot else 0
        return QSize(_BUTTON.width(), max(rest, _STEP))

    def minimumTabSizeHint(self, index: int) -> QSize:
        return self.tabSizeHint(index)

    def _chosen(self, at: int) -> None:
        self.wanted.emit(self.ids[at])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = self.tabAt(event.position().toPoint())
        if at < 0 or not self._drawn(at).contains(event.position().toPoint()):
            return
        if at == self.currentIndex():
            self._chosen(at)  # it may show something else of its own
        super().mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down go to the station above and below."""
        step = _KEYS.get(Qt.Key(event.key()))
        if step is None:
            event.ignore()
            return
        self.setCurrentIndex(min(max(self.currentIndex() + step, 0), self.count() - 1))
        event.accept()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(CAPTION))
        pointer = self.mapFromGlobal(self.cursor().pos())
        for at in range(self.count()):
            box, on = self._drawn(at), at == self.currentIndex()
            if on or (self.underMouse() and box.contains(pointer)):
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(grey(STRONG if on else RAISED))
                painter.drawRoundedRect(box, 6, 6)
            if on and self.hasFocus():
                painter.setPen(QPen(grey(ON_STRONG), 1.5))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 4, 4)
            self._draw_tab(painter, at, box, on)
        painter.end()

    def _draw_tab(self, painter: QPainter, at: int, box: QRect, on: bool) -> None:
        place = QRect(box.center().x() - _ICON // 2 + 1, box.y() + 6, _ICON, _ICON)
        state = QIcon.State.On if on else QIcon.State.Off
        middle = Qt.AlignmentFlag.AlignCenter
        # Asked for anew each time, as the theme may be another.
        icon(self.ids[at], _ICON).paint(painter, place, middle, QIcon.Mode.Normal, state)
        painter.setPen(grey(ON_STRONG if on else TEXT))
        words = QRect(box.x(), box.bottom() - 21, box.width(), 17)
        painter.drawText(words, middle, self.tabText(at))
