"""An underpaint of one's own: coats of the ground in hand, dragged, and counted as ground again.

Pink, then white from above, then yellow, with the pink left on undersides, is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PySide6.QtCore import QPoint
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
from zesty_veil.plan.model import MOST_GROUND_COATS, Ground, Passage, Plan
from zesty_veil.predict.field import SITE_RELIEF, axis, predict

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


def test_a_ground_is_dragged_like_coats(window: MainWindow) -> None:
    before = window.document.plan
    section = window.section
    actions = section.head.ground.menu().actions()
    lift, lower = (a for a in actions if a.data() is None and not a.isSeparator())
    lift.trigger()
    assert window.wait_until_idle()
    passage = window.document.plan.passages[0]
    assert len(passage.coats) == 4
    # Blue between pink and violet: its end towards the light is dragged further.
    section.choose_coat(1)
    assert window.wait_until_idle()
    strata = section.view.scene.strata
    start = passage.coats[1].span[0]
    at = point(grips(strata, 1, passage.coats[1])["start"])
    drag(section.view, at, QPoint(round(strata.x(start - 0.12)), at.y()))
    assert window.wait_until_idle()
    moved = window.document.plan.passages[0].coats[1].span[0]
    assert moved < start
    section.choose_coat(2)
    lower.trigger()
    assert window.wait_until_idle()
    after = window.document.plan.passages[0]
    assert len(after.ground.coats) == 3
    assert len(after.coats) == 1
    assert after.ground.coats[1].span[0] == moved
    for _ in range(3):
        window.document.undo()
    assert window.document.plan == before
