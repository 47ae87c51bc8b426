"""Pages of help to read, to search and to leaf through."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QRectF, QSize, Qt, QUrl
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QPainter,
    QResizeEvent,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from zesty_veil import data
from zesty_veil.desktop.help.keys import HELP
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.searchline import search_line
from zesty_veil.desktop.kit.theme import CARD, NUMBER, TEXT, font, level_of
from zesty_veil.services.helptext import PAGES, help_text, search, title_of
from zesty_veil.tr import tr

_CONTENTS = 240
_MARGIN = 24
_INK = b"#000000"
# Pixels above a heading and below each block, percent of a line's height, and a line's length.
_ABOVE_HEADING, _BELOW, _LINE, _MOST_WIDE = 14, 6, 125, 760


class HelpText(QTextBrowser):
    """A page of Markdown whose pictures are drawings of ours, in the ink of the theme."""

    def loadResource(self, kind: int, name: QUrl | str) -> object:
        path = QUrl(name).path() if isinstance(name, QUrl) else str(name)
        if kind == QTextDocument.ResourceType.ImageResource.value and path.endswith(".svg"):
            return self._drawn(path.rpartition("/")[2])
        return None

    def show_markdown(self, text: str) -> None:
        """Show a page, its lines and paragraphs as far apart as they read well."""
        self.setMarkdown(text)
        cursor = QTextCursor(self.document())
        block = self.document().begin()
        while block.isValid():
            shape = QTextBlockFormat(block.blockFormat())
            heading = shape.headingLevel()
            shape.setTopMargin(_ABOVE_HEADING if heading and block.blockNumber() else 0)
            shape.setBottomMargin(_BELOW)
            proportional = QTextBlockFormat.LineHeightTypes.ProportionalHeight
            shape.setLineHeight(_LINE, proportional.value)
            cursor.setPosition(block.position())
            cursor.setBlockFormat(shape)
            if heading:
                cursor.movePosition(
                    QTextCursor.MoveOperation.EndOfBlock, QTextCursor.MoveMode.KeepAnchor
                )
                letters = QTextCharFormat()
                letters.setFont(font(NUMBER if heading == 1 else CARD, bold=True))
                cursor.mergeCharFormat(letters)
            block = block.next()
        cursor.setPosition(0)
        self.setTextCursor(cursor)

    def resizeEvent(self, event: QResizeEvent) -> None:
        # Lines longer than this are hard to find the next one of.
        self.setViewportMargins(0, 0, max(self.width() - _MOST_WIDE, 0), 0)
        super().resizeEvent(event)

    def _drawn(self, name: str) -> QImage:
        level = level_of(TEXT)
        ink = f"#{level:02x}{level:02x}{level:02x}".encode()
        renderer = QSvgRenderer(QByteArray(data.read(f"help/{name}").replace(_INK, ink)))
        ratio = self.devicePixelRatioF()
        image = QImage(renderer.defaultSize() * ratio, QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(Qt.GlobalColor.transparent)
        painter = QPainter(image)
        renderer.render(painter, QRectF(image.rect()))
        painter.end()
        image.setDevicePixelRatio(ratio)
        return image


class HelpPage(Page):
    """Contents and search on the left, the page on the right."""

    keys = HELP
    whole = True

    def __init__(self) -> None:
        super().__init__()
        self._read: list[str] = []  # pages in the order in which they were read
        self._at = -1
        self.search = search_line(tr("find in the help"), tr("Find a word"))
        self.search.textChanged.connect(lambda _: self._list())
        self.list = QListWidget()
        self.list.setAccessibleName(tr("pages of the help"))
        self.list.setObjectName("rows")
        self.list.setWordWrap(True)
        self.list.currentItemChanged.connect(self._chosen)
        self.text = HelpText()
        self.text.setAccessibleName(tr("page of the help"))
        self.text.setOpenExternalLinks(False)
        self.text.document().setDocumentMargin(_MARGIN)
        self.before, self.after = QPushButton(tr("Before")), QPushButton(tr("After"))
        self.before.setToolTip(HELP.tooltip("help back"))
        self.after.setToolTip(HELP.tooltip("help forward"))
        self.leave = QPushButton(tr("Back"))
        self.leave.setToolTip(HELP.tooltip("leave help"))
        self.before.clicked.connect(lambda _=False: self.leaf(-1))
        self.after.clicked.connect(lambda _=False: self.leaf(1))
        self.leave.clicked.connect(lambda _=False: self.give_up())
        self._bar = QWidget()
        bar = QHBoxLayout(self._bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for button in (self.before, self.after, self.leave):
            bar.addWidget(button)
        contents = QWidget()
        contents.setFixedWidth(_CONTENTS)
        left = QVBoxLayout(contents)
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(8)
        left.addWidget(self.search)
        left.addWidget(self.list, 1)
        page = QHBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 8)
        page.setSpacing(16)
        page.addWidget(contents)
        page.addWidget(self.text, 1)
        self._list()

    def tools(self) -> QWidget | None:
        """Return what leafs through the pages."""
        return self._bar

    def state_words(self) -> str:
        """Return which page is read."""
        return tr("Help  ·  {0}").format(title_of(self._read[self._at])) if self._read else ""

    @property
    def shown(self) -> str:
        """The name of the page that is read."""
        return self._read[self._at] if self._read else ""

    def take_focus(self) -> None:
        """Begin with the text, which the arrows scroll."""
        self.text.setFocus()

    def show_page(self, name: str) -> None:
        """Read a page; those that were read after the one before are forgotten."""
        if name != self.shown:
            self._read = [*self._read[: self._at + 1], name]
            self._at = len(self._read) - 1
        self._show()

    def leaf(self, way: int) -> None:
        """Go to the page that was read before (-1) or after."""
        if 0 <= self._at + way < len(self._read):
            self._at += way
            self._show()

    def sizeHint(self) -> QSize:
        return QSize(900, 600)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leaf, or leave."""
        acts = {
            "help back": lambda: self.leaf(-1),
            "help forward": lambda: self.leaf(1),
            "leave help": self.give_up,
        }
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()

    def _show(self) -> None:
        self.text.show_markdown(help_text(self.shown))
        self.before.setEnabled(self._at > 0)
        self.after.setEnabled(self._at + 1 < len(self._read))
        self._mark()
        self.state_changed.emit()

    def _list(self) -> None:
        """List all pages, or those that have what is searched for."""
        words = self.search.text()
        self.list.blockSignals(True)
        self.list.clear()
        if words.strip():
            for hit in search(words):
                self._add(hit.page, f"{hit.title}\n… {hit.words} …")
            if not self.list.count():
                self.list.addItem(tr("Nothing has these words."))
        else:
            for name in PAGES:
                self._add(name, title_of(name))
        self._mark()
        self.list.blockSignals(False)

    def _add(self, page: str, words: str) -> None:
        item = QListWidgetItem(words)
        item.setData(Qt.ItemDataRole.UserRole, page)
        self.list.addItem(item)

    def _mark(self) -> None:
        self.list.blockSignals(True)
        rows = [self.list.item(i) for i in range(self.list.count())]
        for item in rows:
            if item.data(Qt.ItemDataRole.UserRole) == self.shown and self.shown:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)

    def _chosen(self, item: QListWidgetItem | None) -> None:
        page = None if item is None else item.data(Qt.ItemDataRole.UserRole)
        if page:
            self.show_page(page)
