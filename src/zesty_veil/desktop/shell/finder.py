"""Find: one line that leads to commands, paints, passages, plans and help."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from zesty_veil.desktop.kit.popover import Popover
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.kit.spoken import announce
from zesty_veil.services.lookup import Entry, ranked
from zesty_veil.tr import tr

_WIDE, _HIGH = 560, 420
_ENTRY = Qt.ItemDataRole.UserRole
_STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -8, Qt.Key.Key_PageDown: 8}


class Finder(Popover):
    """Lists what answers to the words that are typed; Enter runs the one in hand.

    Parameters
    ----------
    run
        Told the entry that is chosen.
    """

    def __init__(self, parent: QWidget, run: Callable[[Entry], object]) -> None:
        super().__init__(parent, tr("Find"))
        self._run = run
        self._entries: Sequence[Entry] = ()
        self.setFixedSize(_WIDE, _HIGH)
        self.search = search_line(
            tr("find"), tr("Find a command, a paint, a passage, a plan or help")
        )
        self.search.textChanged.connect(lambda _: self._fill())
        self.search.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("what was found"))
        self.list.setObjectName("rows")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.itemClicked.connect(self._chosen)
        self.list.currentTextChanged.connect(lambda words: announce(self.search, words))
        self.body.addWidget(self.search)
        self.body.addWidget(self.list, 1)

    def open_among(self, entries: Sequence[Entry], over: QWidget) -> None:
        """Open over the upper middle of a widget, with these things to be found."""
        self._entries = entries
        self.search.clear()
        self._fill()
        self.open_at(
            over.mapToGlobal(QPoint((over.width() - _WIDE) // 2, over.height() // 8)), over
        )
        self.search.setFocus()

    @property
    def in_hand(self) -> Entry | None:
        """What Enter would run."""
        item = self.list.currentItem()
        return None if item is None else item.data(_ENTRY)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows go through the list, Enter runs what is in hand."""
        pressed = event.type() == QEvent.Type.KeyPress
        if watched is self.search and pressed and isinstance(event, QKeyEvent):
            key = Qt.Key(event.key())
            if key in _STEPS:
                row = self.list.currentRow() + _STEPS[key]
                self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))
                return True
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._chosen(self.list.currentItem())
                return True
        return super().eventFilter(watched, event)

    def _fill(self) -> None:
        self.list.clear()
        for entry in ranked(self._entries, self.search.text()):
            beside = f"  ·  {entry.beside}" if entry.beside else ""
            item = QListWidgetItem(f"{entry.title}\n{entry.kind}{beside}")
            item.setData(_ENTRY, entry)
            self.list.addItem(item)
        if self.list.count():
            self.list.setCurrentRow(0)
        else:
            nothing = QListWidgetItem(tr("Nothing is called so."))
            nothing.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(nothing)

    def _chosen(self, item: QListWidgetItem | None) -> None:
        entry = None if item is None else item.data(_ENTRY)
        if isinstance(entry, tuple):
            self.close()
            self._run(Entry(*entry))
