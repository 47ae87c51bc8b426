"""The form and the painter's own sculpt in the real window: turned, taken, dragged on, undone."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import coats, drag, opened, wheel
from meshes import ball, box, stl, written
from zesty_veil.desktop.shell.stationrouter import StationRouter
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.grounds import prepared_ground
from zesty_veil.predict.forms.facing import tilt
from zesty_veil.predict.forms.shapes import form as form_of

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def figure(tmp_path: Path) -> Path:
    """A ball of 10 mm on a post, as a file."""
    made = ball(3, 5.0)
    post = box() * [0.5, 0.5, 4.0] - [0, 0, 8.0]
    return written(tmp_path / "lamp post.stl", stl(np.concatenate([made.triangles, post])))


def choose(window: MainWindow, path: Path, monkeypatch: pytest.MonkeyPatch) -> StationRouter:
    """Choose a sculpt by the last entry of the forms, and wait until it is drawn."""
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    box_ = window.section.passages.form
    row = box_.count() - 1
    box_.setCurrentIndex(row)
    box_.activated.emit(row)
    router = window.router
    assert router.sculpt.wait_until_idle()
    return router


def colour_at(router: StationRouter, place: tuple[float, float]) -> tuple[int, int, int]:
    point = router.form.point(place).toPoint()
    colour = router.form.grab().toImage().pixelColor(point)
    return colour.red(), colour.green(), colour.blue()


def test_a_sculpt_is_turned_taken_and_its_axis_dragged(
    small: MainWindow, figure: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    router = choose(small, figure, monkeypatch)
    assert router.turning
    assert "lamp post.stl, 1,292 triangles" in router.sculpt.words.text()
    canvas = router.sculpt.canvas
    middle = canvas.rect().center()
    grey = canvas.grab().toImage().pixelColor(middle)
    assert grey.red() == grey.green() == grey.blue()

    drag(canvas, middle, middle + QPoint(60, 0))
    assert router.sculpt.pose.across > 5
    wheel(canvas, middle, 2)
    assert router.sculpt.pose.near == pytest.approx(1.21)
    passes = coats(small)[1].passes
    QTest.keyClick(canvas, Qt.Key.Key_Minus)
    assert router.sculpt.pose.near == pytest.approx(1.1)
    assert coats(small)[1].passes == passes  # keys turn the sculpt and leave coats alone
    QTest.keyClick(canvas, Qt.Key.Key_Left)
    QTest.keyClick(canvas, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(canvas, Qt.Key.Key_Comma)
    QTest.mouseClick(router.sculpt.sides["Front"], LEFT)
    assert router.sculpt.wait_until_idle()

    QTest.keyClick(canvas, Qt.Key.Key_Return)
    assert router.sculpt.wait_until_idle()
    assert small.wait_until_idle()
    assert router.form_is_big
    passage = small.document.plan.passages[0]
    assert passage.form == "lamp post"
    assert small.document.plan.sculpts[0].name == "lamp post"
    assert passage.length_mm == pytest.approx(17, abs=0.3)  # from the top to the foot

    before = colour_at(router, (-0.2, 0.25))
    start, end = router.form.point((-0.3, 0.25)), router.form.point((0.3, 0.25))
    drag(router.form, start.toPoint(), end.toPoint())
    assert small.wait_until_idle()
    passage = small.document.plan.passages[0]
    assert passage.axis.start == pytest.approx((-0.3, 0.25), abs=0.01)
    assert passage.axis.end == pytest.approx((0.3, 0.25), abs=0.01)
    assert 5 < passage.length_mm < 9
    assert colour_at(router, (-0.2, 0.15)) != before

    # One end is taken hold of alone, and arrows move the other.
    drag(router.form, end.toPoint(), router.form.point((0.3, -0.1)).toPoint())
    assert small.document.plan.passages[0].axis.start == passage.axis.start
    assert small.document.plan.passages[0].axis.end == pytest.approx((0.3, -0.1), abs=0.01)
    QTest.keyClick(router.form, Qt.Key.Key_Left)
    assert small.document.plan.passages[0].axis.start[0] < passage.axis.start[0]
    QTest.keyClick(router.form, Qt.Key.Key_R)
    assert small.document.plan.passages[0].axis.rings
    for _ in range(5):
        small.document.undo()
    assert small.document.plan.passages[0].form == "orb"
    small.wait_until_idle()


def test_a_damaged_sculpt_says_why_and_gives_way(
    small: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = written(tmp_path / "cut.stl", stl(box())[:200])
    before = small.document.plan
    router = choose(small, path, monkeypatch)
    assert not router.turning
    assert "cut.stl says that it has 12 triangles but ends after 2" in small.line.words.text()
    assert small.document.plan is before
    assert small.section.passages.form.currentData() == "orb"


def test_reading_is_left_with_escape(
    small: MainWindow, figure: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    router = small.router
    router.forms.open_sculpt(figure)
    assert router.turning
    assert not router.sculpt.take.isEnabled()
    assert not small.menus.actions["pass more"].isEnabled()
    QTest.keyClick(router.sculpt.leave, Qt.Key.Key_Escape)
    assert not router.turning
    assert small.menus.actions["pass more"].isEnabled()
    assert router.sculpt.wait_until_idle()
    assert not router.turning
    # Another plan leaves a sculpt that is being turned behind.
    router.forms.open_sculpt(figure)
    small.new_plan()
    assert not router.turning
    router.sculpt.wait_until_idle()
    small.wait_until_idle()


def test_two_passages_can_share_a_sculpt_or_have_views_of_their_own(
    window: MainWindow, figure: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    router = choose(window, figure, monkeypatch)
    QTest.mouseClick(router.sculpt.take, LEFT)
    assert router.sculpt.wait_until_idle()
    window.section.choose_passage(1)
    window.wait_until_idle()
    box_ = window.section.passages.form
    assert box_.findData("lamp post") >= 0
    box_.activated.emit(box_.findData("lamp post"))
    assert window.document.plan.passages[1].form == "lamp post"
    assert window.document.plan.passages[1].axis.start[1] > 0.5  # from its top
    router = choose(window, figure, monkeypatch)
    QTest.mouseClick(router.sculpt.take, LEFT)
    assert router.sculpt.wait_until_idle()
    assert [p.form for p in window.document.plan.passages[:2]] == ["lamp post", "lamp post 2"]
    window.wait_until_idle()


@pytest.fixture
def sprayed(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with a zenithal ground on the small plan's orb, and no coats."""
    plan = prepared_ground(small_plan(), 0, "zenithal", demo_rack())
    for window in opened(qtbot, plan):
        while coats(window):
            window.section.remove_coat()
        QTest.keyClick(window.section.view, Qt.Key.Key_O)
        assert window.wait_until_idle()
        yield window


def test_the_nozzle_is_dragged_on_the_form(sprayed: MainWindow) -> None:
    form = sprayed.router.form
    passage = sprayed.document.plan.passages[0]
    assert passage.ground.coats[0].nozzle == 0
    router = sprayed.router

    def light(place: tuple[float, float]) -> int:
        return sum(colour_at(router, place))

    foot, left, right = (0.0, -0.7), (-0.6, 0.0), (0.5, 0.0)
    assert light(left) > 300 > light(foot)
    at = form.handles.nozzle_place
    assert at is not None
    drag(form, form.point(at).toPoint(), form.point((0.9, 0.02)).toPoint())
    assert sprayed.wait_until_idle()
    passage = sprayed.document.plan.passages[0]
    assert passage.ground.coats[0].nozzle == 90
    assert light(right) > 300 > light(left)
    # The section follows: the orb's light end, at its upper left, is now in the spray's shadow.
    assert passage.tilt == tilt(form_of("orb", 128), 90.0)
    field = sprayed.section.forecast.field  # type: ignore[union-attr]
    assert field is not None
    assert field.value[0, 1] < field.value[-1, 1]
    sprayed.document.undo()
    assert sprayed.document.plan.passages[0].ground.coats[0].nozzle == 0
    QTest.keyClick(form, Qt.Key.Key_BracketRight)
    assert sprayed.document.plan.passages[0].ground.coats[0].nozzle == 5
    # In the mirror, left is right.
    QTest.keyClick(form, Qt.Key.Key_M)
    assert sprayed.wait_until_idle()
    at = form.handles.nozzle_place
    assert at is not None
    drag(form, form.point(at).toPoint(), form.rect().center() + QPoint(-200, 0))
    assert sprayed.document.plan.passages[0].ground.coats[0].nozzle == 90
    sprayed.wait_until_idle()


def test_a_drag_that_is_broken_off_leaves_nothing(sprayed: MainWindow) -> None:
    form = sprayed.router.form
    at = form.handles.nozzle_place
    assert at is not None
    before = sprayed.document.plan
    drag(form, form.point(at).toPoint(), form.rect().center() + QPoint(150, 0), release=False)
    assert sprayed.document.plan != before
    QTest.keyClick(form, Qt.Key.Key_Escape)
    assert sprayed.document.plan == before
    QTest.mouseRelease(form, LEFT)
    assert sprayed.document.plan == before
    sprayed.wait_until_idle()
