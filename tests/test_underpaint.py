"""An underpaint of one's own: coats of the ground, drawn, dragged and counted where they lie.

Pink, then white from above, then yellow, with the pink left on undersides, is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QToolTip
from pytestqt.qtbot import QtBot

from driving import drag, opened, point
from zesty_veil.desktop.kit.geometry import grips
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import PaintError
from zesty_veil.light.cielab import lch
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.grounds import (
    GROUNDS,
    counted_as_ground,
    ground_in_hand,
    prepared_ground,
)
from zesty_veil.plan.model import MOST_GROUND_COATS, Coat, Ground, Passage, Plan
from zesty_veil.predict.field import SITE_RELIEF, axis, predict

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
RACK = {paint.name: paint for paint in demo_rack()}


def coat(words: str):  # type: ignore[no-untyped-def]
    return parse_coat(words, RACK)


def plan() -> Plan:
    passage = Passage("p", 20.0, ground=Ground("black"), coats=(coat("Furnace Red; water 3"),))
    return Plan("p", (passage,), demo_rack())


@pytest.mark.parametrize("kind", [k for k in GROUNDS if k != "bare"])
def test_in_hand_or_counted_as_ground_the_colours_stay(kind: str) -> None:
    prepared = prepared_ground(plan(), 0, kind, demo_rack())
    lifted = ground_in_hand(prepared, 0)
    assert lifted.passages[0].ground.coats == ()
    count = len(prepared.passages[0].ground.coats)
    assert len(lifted.passages[0].coats) == count + 1
    before, after = (
        predict(p.passages[0], p.rack(), axis(9), SITE_RELIEF).lab for p in (prepared, lifted)
    )
    np.testing.assert_allclose(after, before, atol=1e-9)
    assert counted_as_ground(lifted, 0, count - 1) == prepared


@pytest.mark.common_practice
def test_pink_stays_on_undersides_below_a_light_from_above() -> None:
    warm = prepared_ground(plan(), 0, "warmed", demo_rack()).passages[0]
    bare = Passage("p", 20.0, ground=warm.ground, tilt=(0.0, 120.0))
    seen = lch(predict(bare, RACK, np.array([0.05, 0.98]), np.zeros(1)).lab[:, 0])
    assert 75 < seen[0, 2] < 112  # yellow where it faces up
    assert (seen[1, 2] < 62) or (seen[1, 2] > 330)  # and warm pink to orange below
    assert seen[0, 0] > seen[1, 0] + 10


def test_what_cannot_be_lifted_or_lowered_is_said() -> None:
    with pytest.raises(PaintError, match="its primer alone"):
        ground_in_hand(plan(), 0)
    many = Passage("p", coats=(coat("Furnace Red"),) * (MOST_GROUND_COATS + 1))
    with pytest.raises(PaintError, match="at most"):
        counted_as_ground(Plan("p", (many,), demo_rack()), 0, MOST_GROUND_COATS)


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, prepared_ground(plan(), 0, "underpaint", demo_rack()))


def ground_of(window: MainWindow) -> tuple[Coat, ...]:
    return window.document.plan.passages[0].ground.coats


def chosen(window: MainWindow, words: str) -> None:
    """Choose an entry of the ground's menu."""
    actions = window.section.head.ground.menu().actions()
    (action,) = (a for a in actions if words in a.text())
    action.trigger()
    assert window.wait_until_idle()


def press_strip(window: MainWindow) -> None:
    """Press the strip of the ground below the films."""
    view = window.section.view
    box = view.scene.frame.ground
    QTest.mouseClick(view, LEFT, NONE, QPoint(round(box.x + 40), round(box.y + box.height / 2)))
    assert window.wait_until_idle()


def told_on_strip(window: MainWindow) -> str:
    """Return what is told where the pointer rests on the strip of the ground."""
    view = window.section.view
    box = view.scene.frame.ground
    at = QPoint(round(box.x + 40), round(box.y + box.height / 2))
    QApplication.sendEvent(view, QHelpEvent(QEvent.Type.ToolTip, at, view.mapToGlobal(at)))
    return QToolTip.text()


def test_a_ground_is_drawn_and_dragged_where_it_lies(window: MainWindow) -> None:
    section, before = window.section, window.document.plan
    ribbon = section.forecast.field.rgb.copy()
    assert [section.view.scene.mark(i) for i in range(1)] == ["1"]
    assert "to drag them" in told_on_strip(window)
    strip = section.view.scene.frame.ground
    assert section.view.words_at(QPoint(30, round(strip.y + 5))) == "ground"
    assert section.view.words_at(QPoint(30, round(strip.y - 20))) == ""
    press_strip(window)
    assert "Fold" in told_on_strip(window)
    names = [item.name.partition(":")[0] for item in section.view.items()]
    assert names == ["ground", "ground coat a", "ground coat b", "ground coat c", "coat 1"]
    pile = section.view.scene.ground_pile
    assert section.view.words_at(QPoint(30, round(pile.y + 5))) == "ground"
    assert section.view.words_at(QPoint(30, round(pile.bottom + 8))) == "primer"
    scene = section.view.scene
    assert len(scene.strata.strata) == 4
    assert [scene.mark(i) for i in range(4)] == ["a", "b", "c", "1"]
    assert section.coat is None  # what is in hand is the ground's highest
    assert section.view.scene.selected == 2
    # It is the same plan, and the same colours.
    assert window.document.plan is before
    np.testing.assert_allclose(section.forecast.field.rgb, ribbon, atol=1e-9)
    # Blue between pink and violet: its end towards the light is dragged further.
    at = point(grips(scene.strata, 1, ground_of(window)[1])["start"])
    start = ground_of(window)[1].span[0]
    drag(section.view, at, QPoint(round(scene.strata.x(start - 0.12)), at.y()))
    assert window.wait_until_idle()
    assert ground_of(window)[1].span[0] == pytest.approx(start - 0.12, abs=0.01)
    assert len(window.document.plan.passages[0].coats) == 1
    # Its feather, its passes and its thinning are its own.
    section.nudge("feather end", 1.0)
    section.more_passes(1)
    section.thin(0.5)
    coat = ground_of(window)[1]
    assert coat.passes == before.passages[0].ground.coats[1].passes + 1
    assert coat.mixture.thinning == 1.0
    for _ in range(4):
        window.document.undo()
    assert window.document.plan == before
    # The name beside the pile folds it in again.
    assert window.wait_until_idle()
    pile = section.view.scene.ground_pile
    QTest.mouseClick(section.view, LEFT, NONE, QPoint(30, round(pile.y + pile.height / 2)))
    assert window.wait_until_idle()
    assert len(section.view.scene.strata.strata) == 1
    assert section.forecast.ground.std(axis=0).max() > 0.05  # the strip shows it mixed


def test_films_of_an_open_ground_are_drawn_above_the_primer(window: MainWindow) -> None:
    press_strip(window)
    window.resize(1280, 800)
    assert window.wait_until_idle()
    view = window.section.view
    image = view.grab().toImage()
    scale = image.devicePixelRatio()
    layout = view.scene.strata
    seen = []
    for index, place in ((0, 0.08), (1, 0.5), (2, 0.92)):
        x, y = layout.x(place), layout.middle(index, place)
        colour = image.pixelColor(round((x + 6) * scale), round(y * scale))
        seen.append(colour.hue())
    pink, blue, violet = seen
    assert pink > 300 or pink < 15
    assert 180 < blue < 230
    assert 235 < violet < 290


def test_coats_go_into_a_ground_and_come_out_of_it(window: MainWindow) -> None:
    section = window.section
    chosen(window, "Show its coats")
    section.choose_coat(1)
    section.add_coat(RACK["Kelp Green"])
    assert window.wait_until_idle()
    names = [coat.mixture.parts[0].paint for coat in ground_of(window)]
    assert names[2] == "Kelp Green"
    assert section.view.scene.selected == 2
    section.move_coat(-1)
    assert ground_of(window)[1].mixture.parts[0].paint == "Kelp Green"
    section.remove_coat()
    assert len(ground_of(window)) == 3
    # The border of the ground is a step in the order of laying, either way.
    (red,) = window.document.plan.passages[0].coats
    section.choose_coat(3)
    section.move_coat(-1)
    assert ground_of(window)[3] == red
    assert window.document.plan.passages[0].coats == ()
    section.move_coat(-1)
    assert ground_of(window)[2] == red
    section.move_coat(1)
    section.move_coat(1)
    assert window.document.plan.passages[0].coats == (red,)
    assert len(ground_of(window)) == 3
    # Those above the coat in hand count as ground no more.
    section.choose_coat(0)
    chosen(window, "and all below it")
    assert len(ground_of(window)) == 1
    assert len(window.document.plan.passages[0].coats) == 3
    chosen(window, "ground no more")
    assert ground_of(window) == ()
    assert not section.editor.ground_open
    section.choose_coat(2)
    chosen(window, "and all below it")
    assert len(ground_of(window)) == 3
    assert section.view.scene.mark(section.view.scene.selected) == "c"
    # Another station counts coats alone.
    section.choose_coat(3)
    window.router.go("match")
    assert section.coat == 0
    window.router.go("section")
    assert window.wait_until_idle()
    assert len(section.view.scene.strata.strata) == 1
    # Counted while the ground is folded in, it comes upon what is ground already.
    section.choose_coat(0)
    chosen(window, "and all below it")
    assert len(ground_of(window)) == 4
    assert window.document.plan.passages[0].coats == ()
    assert section.view.scene.mark(section.view.scene.selected) == "d"


def test_remarks_are_of_the_coats_and_not_of_an_open_ground(window: MainWindow) -> None:
    told = [r.words for r in window.section.forecast.remarks]
    press_strip(window)
    assert [r.words for r in window.section.forecast.remarks] == told


def test_a_bare_ground_says_what_to_do(window: MainWindow, qtbot: QtBot) -> None:
    window.section.ground.prepare("bare")
    assert window.wait_until_idle()
    with qtbot.waitSignal(window.section.complained) as said:
        window.section.ground.toggle()
    assert "has no coats yet" in said.args[0]
    # Borders of an underpaint are a matter of taste: it is shown at once, to be dragged.
    window.section.ground.prepare("underpaint")
    assert window.wait_until_idle()
    assert len(window.section.view.scene.strata.strata) == 4


def test_another_passage_does_not_open_with_it(window: MainWindow) -> None:
    section = window.section
    section.moves.copy_passage()
    assert window.wait_until_idle()
    section.choose_passage(1)
    press_strip(window)
    assert section.editor.ground_open
    section.choose_passage(0)
    assert not section.editor.ground_open
    section.choose_passage(1)
    press_strip(window)
    window.document.undo()  # there is one passage again
    assert window.wait_until_idle()
    assert not section.editor.ground_open
    assert len(section.view.scene.strata.strata) == 1
