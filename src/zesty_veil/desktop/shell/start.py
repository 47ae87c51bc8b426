"""Starting the window, on a display or into a picture."""

from __future__ import annotations

import argparse
import os
import re
import signal
import sys
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QBuffer, QIODevice, QSize, QTimer
from PySide6.QtWidgets import QApplication

from zesty_veil.aside import aside
from zesty_veil.desktop.kit.numberbox import read_number
from zesty_veil.desktop.kit.paper.sheet import write_sheet
from zesty_veil.desktop.kit.paper.testcard import write_card
from zesty_veil.desktop.kit.theme import dress
from zesty_veil.desktop.session.apart.link import helpers
from zesty_veil.desktop.session.preferences import Preferences, kept_preferences, zoom_fits
from zesty_veil.desktop.session.recent import remember
from zesty_veil.desktop.shell.readcard import read_card
from zesty_veil.desktop.shell.stations import read_ahead
from zesty_veil.desktop.shell.theming import wear_choice
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.faultlog import write_down
from zesty_veil.files import write_atomically
from zesty_veil.memory import let_the_window_breathe
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.plan.samples import sample
from zesty_veil.tr import counted, tr

_MOST_OFFERED = 4
_TITLE_BAR = QSize(0, 40)
_USUAL_ZOOM = 100
_AHEAD_MS = 400  # after the first picture is there
_TOO_LARGE = (
    "At {0} % the window is larger than this screen; choose a smaller size of type in the "
    "preferences (Ctrl+,)."
)


def start(chosen: argparse.Namespace) -> int:
    """Open the window as the command line says; return the exit code.

    Raises
    ------
    InputError, FileError
        If the plan or the picture cannot be had, or there is no display.
    """
    if chosen.job in {"sheet", "card"}:
        return _page(chosen)
    if chosen.job == "read-card":
        print(read_card(chosen), end="")
        return 0
    if chosen.size is not None:
        _size(chosen.size)
    if chosen.shot is not None:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    elif not any(os.environ.get(n) for n in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise InputError(
            tr("There is no display here; add --shot FILE.png to draw the window into a picture.")
        )
    path = None
    notes: list[str] = []
    if chosen.job == "demo":
        plan = sample(chosen.name)
    elif chosen.plan is not None:
        path = chosen.plan
        plan = load(path)
        remember(path)
    else:
        plan = Plan(tr("New plan"), (Passage(tr("new passage")),))
    let_the_window_breathe()
    helpers.begin()
    try:
        return _run(chosen, plan, path, notes)
    finally:
        helpers.end()


def _run(chosen: argparse.Namespace, plan: Plan, path: Path | None, notes: list[str]) -> int:
    preferences = kept_preferences() if chosen.shot is None else Preferences()
    scale = asked_scale()
    if preferences.zoom != _USUAL_ZOOM:
        # Qt reads this once, when the application is made.
        os.environ["QT_SCALE_FACTOR"] = f"{scale * preferences.zoom / _USUAL_ZOOM:g}"
    app = QApplication(sys.argv[:1])
    app.setApplicationName("zesty-veil")
    app.setApplicationDisplayName("Zesty Veil")
    dress(app)
    wear_choice(preferences.theme if chosen.shot is None else "day")
    window = MainWindow(plan, path, preferences if chosen.shot is None else None)
    if chosen.size is not None:
        window.resize(*_size(chosen.size))
    hints = app.styleHints()
    hints.colorSchemeChanged.connect(lambda _: wear_choice(window.preferences.theme))
    if chosen.shot is None:
        # The lowest line is where questions are asked: it must not lie below the screen.
        window.resize(window.size().boundedTo(app.primaryScreen().availableSize() - _TITLE_BAR))
    if preferences.maximised:
        window.showMaximized()
    else:
        window.show()
    if path is not None and chosen.shot is None:
        window.go_on_at(preferences.station)
        window.files.tell_look(path)
    if chosen.job == "open" and chosen.plan is None:
        window.router.go("start")  # nothing to look at yet: what will it be?
    size = app.primaryScreen().availableSize()
    fits = zoom_fits(preferences.zoom, preferences.zoom, (size.width(), size.height()))
    # A picture is of any size, whatever the screen is.
    if chosen.shot is None and not fits:
        notes = [*notes, tr(_TOO_LARGE).format(preferences.zoom)]
    for words in notes:
        window.say(words)
    if chosen.shot is not None:
        return _shoot(window, str(chosen.shot))
    sys.excepthook = _tells(window)
    QTimer.singleShot(_AHEAD_MS, lambda: window.user_store.writes.do(read_ahead))
    window.files.offer_left_behind(_MOST_OFFERED)
    # Whoever sends one of these does not answer questions: work is kept aside, and that is all.
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, lambda *_: window.leaving.end_at_once())
    # Python sees them only when it runs; a slow timer lets it.
    timer = QTimer()
    timer.timeout.connect(lambda: None)
    timer.start(300)
    try:
        return app.exec()
    finally:
        helpers.end()  # while the window still stands to hear of it


def _page(chosen: argparse.Namespace) -> int:
    """Write a plan's sheet, or the test card; that needs fonts, but no display."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    if chosen.job == "card":
        dress(QApplication(sys.argv[:1]))
        write_card(chosen.out, chosen.paper)
        print(tr("Wrote {0}").format(chosen.out))
        return 0
    plan = load(chosen.plan, aside)
    dress(QApplication(sys.argv[:1]))
    pages = write_sheet(plan, chosen.out, chosen.paper)
    print(tr("Wrote {0}, {1}").format(chosen.out, counted(pages, "{0} page", "{0} pages")))
    return 0


def _tells(window: MainWindow) -> Callable[..., None]:
    """Return what happens to an error of the program itself: it is told, and work goes on."""

    def tell(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        sys.__excepthook__(kind, error, trace)
        window.say(write_down(error.with_traceback(trace), "in the window"))

    return tell


def _shoot(window: MainWindow, path: str) -> int:
    window.wait_until_idle()
    QApplication.processEvents()  # what the last answer changed is laid out before it is drawn
    raw = QBuffer()
    raw.open(QIODevice.OpenModeFlag.WriteOnly)
    window.grab().save(raw, "PNG")
    window.document.forget()
    window.close()
    write_atomically(Path(path), bytes(raw.data().data()))
    print(tr("Drew {0}").format(path))
    return 0


def asked_scale() -> float:
    """Return how large everything is to be; Qt itself reads only points, and so would 1,5 be 1."""
    words = os.environ.get("QT_SCALE_FACTOR", "")
    scale = read_number(words) or 1.0
    if words:
        os.environ["QT_SCALE_FACTOR"] = f"{scale:g}"
    return scale


def _size(words: str) -> tuple[int, int]:
    found = re.fullmatch(r"(\d{3,4})x(\d{3,4})", words)
    if not found:
        raise InputError(tr("'{0}' is not a size; write it as 1280x800.").format(words))
    return int(found[1]), int(found[2])
