"""Ways of looking in the real window: by turns, under two lights, squinting, inside a surround."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import coats, flat_ribbon, opened, picture, scene
from workshop import hand_laid
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Passage, Target
from zesty_veil.predict.appearance import gain_words
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.squint import DISTANCES_MM
from zesty_veil.predict.targets import missed

SHIFT = Qt.KeyboardModifier.ShiftModifier


def press(window: MainWindow, key: Qt.Key, held: Qt.KeyboardModifier | None = None) -> None:
    QTest.keyClick(window.section.view, key, held or Qt.KeyboardModifier.NoModifier)
    assert window.wait_until_idle()


def ribbon_part(window: MainWindow, place: float, part: float) -> QColor:
    """Return the drawn colour of the flat ribbon at a place, at a share of its height."""
    box = scene(window).frame.ribbons[1]
    return picture(window).pixelColor(
        round(box.x + place * box.width), round(box.y + part * box.height)
    )


def test_half_is_seen_under_another_light(small: MainWindow) -> None:
    before = flat_ribbon(small, 0.5)
    press(small, Qt.Key.Key_A)
    press(small, Qt.Key.Key_A)
    assert small.section.looks.split == "A"
    assert "Left half and upper ribbons: daylight" in small.line.words.text()
    assert ribbon_part(small, 0.5, 0.25) == before
    other = ribbon_part(small, 0.5, 0.75)
    assert other != before
    # The form's right half is what the whole form is under that light.
    split = small.section.forecast.form  # type: ignore[union-attr]
    for _ in range(3):
        press(small, Qt.Key.Key_A)
    assert small.section.looks.split is None
    whole = small.section.forecast.form  # type: ignore[union-attr]
    small.document.edit(edits.set_light(small.document.plan, "A"), "light")
    assert small.wait_until_idle()
    lamp = small.section.forecast.form  # type: ignore[union-attr]
    assert split is not None
    assert whole is not None
    assert lamp is not None
    half = split.shape[1] // 2
    assert (split[:, :half] == whole[:, :half]).all()
    assert (split[:, half:] == lamp[:, half:]).all()
    assert (split != whole).any()


def test_two_plans_are_seen_by_turns(small: MainWindow) -> None:
    press(small, Qt.Key.Key_Y)
    assert "No plan is kept yet" in small.line.words.text()
    kept = flat_ribbon(small, 0.5)
    press(small, Qt.Key.Key_Y, SHIFT)
    small.section.remove_coat()
    assert small.wait_until_idle()
    now = flat_ribbon(small, 0.5)
    assert now != kept
    press(small, Qt.Key.Key_Y)
    assert flat_ribbon(small, 0.5) == kept
    assert len(coats(small)) == 1  # looking changes nothing of the plan
    press(small, Qt.Key.Key_Y)
    assert flat_ribbon(small, 0.5) == now
    press(small, Qt.Key.Key_Y)
    small.section.more_passes(1)  # an edit shows what is edited
    assert small.wait_until_idle()
    assert flat_ribbon(small, 0.5) != kept
    assert not small.section.looks.turned


def test_a_plan_from_a_file_is_seen_by_turns(small: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "other.veil"
    other = edits.prime(small_plan(), 0, "white")
    other = edits.set_passage(other, 0, edits.with_coats(other.passages[0], ()))
    other = replace(other, passages=(Passage("another"), *other.passages))
    save(other, path)
    before = flat_ribbon(small, 0.5)
    small.keep_to_turn(path)
    assert small.user_store.writes.wait_until_idle()
    press(small, Qt.Key.Key_Y)
    white = flat_ribbon(small, 0.5)
    assert min(white.red(), white.green(), white.blue()) > 200
    press(small, Qt.Key.Key_Y)
    assert flat_ribbon(small, 0.5) == before
    path.write_text("no plan")
    small.keep_to_turn(path)
    assert small.user_store.writes.wait_until_idle()
    assert "is not a Zesty Veil plan" in small.line.words.text()


def test_squinting_from_farther_away_blurs_more(small: MainWindow) -> None:
    def sharpest() -> float:
        now = scene(small).forecast
        assert now.field is not None
        shown = now.field.rgb if now.shown is None else now.shown
        return float(np.abs(np.diff(shown[:, 1], axis=0)).max())

    small.document.edit(
        edits.set_coat(small.document.plan, 0, 1, edits.with_span(coats(small)[1], 0.5, 1.0)),
        "edge",
    )
    sharp = [sharpest()]
    press(small, Qt.Key.Key_Q)
    said = []
    for _ in DISTANCES_MM:
        press(small, Qt.Key.Key_Q, SHIFT)
        sharp.append(sharpest())
        said.append(small.line.words.text())
    assert "Squinting from 120 cm: what is within 1.4 mm runs together." in said[0]
    hand, arm, table, room = sharp[3], sharp[4], sharp[1], sharp[2]
    assert sharp[0] > hand > arm > table > room
    press(small, Qt.Key.Key_Q)
    assert sharpest() == sharp[0]


@pytest.fixture
def surrounded(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with a flame before a black passage."""
    plan = edits.add_passage(small_plan(), Passage("night"))
    yield from opened(qtbot, edits.surround(plan, 0, "night"))


def test_ribbons_are_shown_inside_their_surround(surrounded: MainWindow) -> None:
    box = scene(surrounded).frame.ribbons[0]
    beside = (round(box.x + 40), round(box.y - 5))
    field = picture(surrounded).pixelColor(*beside)
    press(surrounded, Qt.Key.Key_I)
    inside = picture(surrounded).pixelColor(*beside)
    assert field.red() == 0x80
    assert inside.red() < 0x60  # the black primer of the night
    press(surrounded, Qt.Key.Key_I)
    assert picture(surrounded).pixelColor(*beside) == field


def test_a_surround_is_said_to_make_lighter(surrounded: MainWindow) -> None:
    words = scene(surrounded).surround_words()
    assert "lighter here (+" in words
    white = edits.prime(surrounded.document.plan, 1, "white")
    surrounded.document.edit(white, "white")
    assert "darker here (-" in scene(surrounded).surround_words()
    assert gain_words(5.0, 5.05) == "as light here as it is"
    assert gain_words(5.0, 5.3) == "a little lighter here (+0.3)"
    assert gain_words(5.0, 3.5) == "much darker here (-1.5)"


def test_a_line_tells_how_far_from_what_is_wanted() -> None:
    plan = small_plan()
    u = axis(101)
    field = predict(plan.passages[0], plan.rack(), u, SITE_RELIEF)
    for place, more in ((0.2, 0.0), (0.6, 12.0)):
        L, a, b = (float(v) for v in field.lab[round(place * 100), 1])
        plan = edits.set_target(plan, 0, Target(place, (L + more, a, b)))
        one = missed(plan.passages[0], field)
    assert one is not None
    assert one.line is not None
    # On this even coat it rises from nothing at the first target to the miss at the second.
    assert one.line[20] == pytest.approx(0, abs=1e-6)
    assert one.line[60] == pytest.approx(one.by[1])
    assert (np.diff(one.line[20:61]) > 0).all()
    assert np.isnan(one.line[:20]).all()
    assert np.isnan(one.line[61:]).all()
    assert one.worst_place(plan.passages[0], u) == (pytest.approx(0.6), pytest.approx(one.by[1]))
    alone = edits.drop_target(plan, 0, 0.2).passages[0]
    single = missed(alone, field)
    assert single is not None
    assert single.line is None
    # Between two targets that are met, the paint may still be far from the way between them.
    gather = hand_laid()
    gfield = predict(gather.passages[0], gather.rack(), u, SITE_RELIEF)
    for place in (0.05, 0.95):
        lab = tuple(float(v) for v in gfield.lab[round(place * 100), 1])
        gather = edits.set_target(gather, 0, Target(place, lab))
    between = missed(gather.passages[0], gfield)
    assert between is not None
    place, most = between.worst_place(gather.passages[0], u)
    assert 0.1 < place < 0.9
    assert most > 20 > max(between.by)


def test_the_line_is_drawn_under_the_targets(small: MainWindow) -> None:
    assert scene(small).frame.off.height == 0
    for place in (0.1, 0.9):
        small.section.view.read_at(place)
        press(small, Qt.Key.Key_K)
    assert scene(small).frame.off.height > 0
    # Met everywhere, the line lies on its foot; another coat lifts it.
    small.section.remove_coat()
    assert small.wait_until_idle()
    line = scene(small).forecast.missed
    assert line is not None
    assert line.line is not None
    assert np.nanmin(line.line) > 5


def test_steps_are_listed_and_gone_back_to(small: MainWindow) -> None:
    before = small.document.plan
    small.menus.steps.aboutToShow.emit()
    assert [a.text() for a in small.menus.steps.actions()] == ["Nothing was done yet"]
    small.section.more_passes(1)
    small.section.thin(1.0)
    small.section.remove_coat()
    small.menus.steps.aboutToShow.emit()
    words = [action.text() for action in small.menus.steps.actions()]
    assert [w.split(" of ")[0] for w in words[1:]] == ["before thinning", "before passes"]
    assert words[0].startswith("before taking away")
    small.menus.steps.actions()[-1].trigger()
    assert small.document.plan == before
    for _ in range(3):
        small.document.redo()
    assert len(coats(small)) == 1
    small.wait_until_idle()
