"""Speed of the window with a large rack and all stations open, beside what Qt does bare."""

from __future__ import annotations

import itertools
import tempfile
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

from msgspec.structs import replace
from PySide6.QtGui import QStandardItem, QStandardItemModel
from PySide6.QtWidgets import QApplication, QListView, QPushButton, QWidget

from zesty_veil.desktop.kit.theme import ThemeName, dress, stylesheet, wear
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.log.racks import Kept, Rack, Racks
from zesty_veil.log.store import opened
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.samples import sample

_PAINTS = 2000

Best = Callable[..., float]
Line = Callable[[str, float, str, float], None]


def windowed(best: Best, line: Line) -> None:
    """Time a letter in the picker and a change of theme."""
    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    dress(app)
    home = tempfile.mkdtemp()
    kinds = {f"XDG_{kind}_HOME": home for kind in ("DATA", "STATE", "CONFIG")}
    with patch.dict("os.environ", kinds):
        with opened(Path(home) / "zesty-veil" / "log.sqlite") as store:
            Racks(store).put(Rack("large", tuple(map(Kept, _many()))))
            Racks(store).choose("large")
        window = MainWindow(sample("glasswright"))
        window.show()
        window.user_store.look()
        window.user_store.wait_until_idle()
        for station in STATIONS:
            window.router.go(station.id)
        window.router.show_section()
        window.wait_until_idle()
        _letter(best, line, window)
        _theme(best, line, app)
        window.document.forget()
        window.close()


def _many() -> list[Paint]:
    first = demo_rack()
    return [replace(first[i % len(first)], name=f"Paint {i}") for i in range(_PAINTS)]


def _letter(best: Best, line: Line, window: MainWindow) -> None:
    picker = window.section.head.paints.picker
    window.section.head.paints.fill()
    letters = itertools.cycle("ae")

    def ours() -> None:
        picker.search.setText(next(letters))
        QApplication.processEvents()

    view, model = QListView(), QStandardItemModel()
    view.setModel(model)
    view.show()

    def theirs() -> None:
        model.clear()
        for i in range(_PAINTS):
            model.appendRow(QStandardItem(f"Paint {i}"))
        QApplication.processEvents()

    line(f"a letter among {_PAINTS} paints", best(ours), "Qt's own list filled", best(theirs))


def _theme(best: Best, line: Line, app: QApplication) -> None:
    themes: itertools.cycle[ThemeName] = itertools.cycle(("night", "day"))
    ours = best(lambda: wear(app, next(themes)), 6)
    field = QWidget()
    for _ in range(1000):
        QPushButton("x", field)
    field.show()
    theirs = best(lambda: field.setStyleSheet(stylesheet()), 3)
    field.close()
    line("another theme, all stations open", ours, "that sheet on 1000 bare buttons", theirs)
