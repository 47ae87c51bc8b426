"""What all tests share: a home of their own, and windows that leave nothing behind."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from hypothesis import settings
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from driving import opened
from workshop import hand_laid
from zesty_veil.desktop.kit.theme import dress
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.memory import keep_freed_memory
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import ViewingConditions

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
keep_freed_memory()  # as the program does: arithmetic is twice as fast

# The same examples every time, so that a red run can be repeated; no time limit on slow machines.
settings.register_profile("still", deadline=None, derandomize=True)
settings.load_profile("still")


@pytest.fixture(autouse=True)
def own_home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Keep the tests out of the user's files."""
    monkeypatch.setenv("HOME", str(tmp_path))
    for name in ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"):
        monkeypatch.setenv(name, str(tmp_path / name.lower()))


@pytest.fixture(autouse=True)
def nobody_chooses_files(monkeypatch: pytest.MonkeyPatch) -> None:
    """Answer every question for a file with none, as nobody is there to answer it."""
    for ask in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, ask, lambda *_: ("", ""))


@pytest.fixture(autouse=True)
def no_threads_left() -> Iterator[None]:
    """Fail a test that leaves a worker running."""
    before = set(threading.enumerate())
    yield
    left = [
        t
        for t in threading.enumerate()
        if t not in before and t.name.startswith(("forecast", "writing"))
    ]
    assert not left, f"threads left behind: {left}"


@pytest.fixture(scope="session")
def rack() -> dict[str, Paint]:
    """The demo rack by name."""
    return {paint.name: paint for paint in demo_rack()}


@pytest.fixture(scope="session")
def paint_of() -> Callable[[str, str], Paint]:
    """Find a paint of the demo rack by its one pigment and its kind."""

    def found(pigment: str, kind: str) -> Paint:
        return next(p for p in demo_rack() if p.pigments == (pigment,) and p.kind == kind)

    return found


@pytest.fixture(scope="session")
def seen(rack: dict[str, Paint]) -> Callable[..., Field]:
    """Predict coats, in words, over a primer: the field at one place of the axis."""

    def predicted(ground: str, *coats: str, **look: str) -> Field:
        laid = tuple(parse_coat(words, rack) for words in coats)
        passage = Passage("test", ground=Ground(ground), coats=laid)  # type: ignore[arg-type]
        return predict(passage, rack, axis(1), look=ViewingConditions(**look))  # type: ignore[arg-type]

    return predicted


def small_plan() -> Plan:
    """Return a plan with one passage of two coats."""
    paints = demo_rack()
    rack = {paint.name: paint for paint in paints}
    coats = (
        parse_coat("Lime White; water 0.5; passes 2", rack),
        parse_coat("Ember Orange; water 3; passes 2; tool glaze", rack),
    )
    held = (find("Lime White", paints), find("Ember Orange", paints))
    return Plan("A small plan", (Passage("flame", 10.0, 60.0, coats=coats),), held)


@pytest.fixture(scope="session")
def dressed(qapp: QApplication) -> QApplication:
    """The application with the program's look."""
    dress(qapp)
    return qapp


@pytest.fixture
def window(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with the demo plan, shown and at rest."""
    yield from opened(qtbot, hand_laid())


@pytest.fixture
def small(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with a plan of one passage and two coats."""
    yield from opened(qtbot, small_plan())


@pytest.fixture
def name(paint_of: Callable[[str, str], Paint]) -> Callable[[str, str], str]:
    """Name the paint of one pigment and kind, so that no test leans on an invented name."""
    return lambda pigment, kind: paint_of(pigment, kind).name
