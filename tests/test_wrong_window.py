"""It went wrong: from the bench to a way back and on, in few presses; common practice."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from driving import go
from zesty_veil.advise.match.limits import Limits
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.finding import finding, laid_way
from zesty_veil.services.mending import CameOut, as_it_is, as_planned, how_wrong, way_back

RACK = {paint.name: paint for paint in demo_rack()}
KEY = Qt.Key
LOOK = ViewingConditions()
pytestmark = pytest.mark.common_practice


def apron(*coats: str) -> Plan:
    laid = tuple(parse_coat(words, RACK) for words in coats)
    passage = Passage("apron", 20.0, ground=Ground("white"), coats=laid)
    return edits.used_only(Plan("Apron", (passage,), demo_rack()))


PLAN = apron("Netmaker Skin; water 0.5; passes 2", "Oxblood Wash; water 1; passes 1; tool wash")


def test_words_say_what_is_there_beside_what_was_planned() -> None:
    out = CameOut(PLAN, 0, 2, lightness="darker")
    before = as_planned(out, LOOK)
    now = as_it_is(out, before)
    assert np.all(now[:, 0] < before[:, 0] - 10)
    assert "from what was planned" in how_wrong(out, LOOK)
    assert "nobody will see it" in how_wrong(CameOut(PLAN, 0, 2), LOOK)
    # More of the coat laid last explains it, and that is what is started from.
    search = way_back(out, demo_rack(), Limits(), LOOK)
    (start,) = search.starts
    assert start.coats[0] == PLAN.passages[0].coats[0]
    assert start.coats[1].mixture.thinning < PLAN.passages[0].coats[1].mixture.thinning
    # What was foretold is wanted, though the plan has no target.
    assert search.targets
    assert not PLAN.passages[0].targets
    np.testing.assert_allclose(search.targets[0].lab, before[20], atol=0.01)
    # A colour that no paint of that coat makes is of unknown layers.
    blue = CameOut(PLAN, 0, 2, seen=(40.0, 0.0, -40.0))
    (start,) = way_back(blue, demo_rack(), Limits(), LOOK).starts
    assert start.ground.measured is not None
    assert start.coats == ()


def test_an_apron_that_came_out_too_dark_is_mended_in_a_few_presses(small: MainWindow) -> None:
    presses = 0

    def press(where: QWidget, key: KEY) -> None:
        nonlocal presses
        presses += 1
        QTest.keyClick(where, key)
        assert small.wait_until_idle()

    small.document.edit(PLAN, "an apron")
    small.wait_until_idle()
    go(small, "sitting")
    station = small.router.at(SittingStation)
    view = station.view
    assert view.wait_until_idle()
    for _ in range(3):  # two passes of skin and the wash
        view.now = lambda now=view.now: now() + 7200
        view.lay()
    assert view.sitting is not None
    assert len(view.sitting.laid) == 3
    press(view, KEY.Key_R)
    page = station.wrong
    assert small.router.page is page
    assert page.passage.currentText() == "apron"
    press(page.lightness, KEY.Key_Down)
    press(page.lightness, KEY.Key_Down)
    assert page.lightness.currentText() == "darker"
    page.lightness.activated.emit(2)
    assert page.wait_until_idle()
    assert page.both.now is not None
    assert page.both.before is not None
    assert page.both.now.mean() < page.both.before.mean() - 0.05
    press(page, KEY.Key_Return)
    assert page.wait_until_idle()
    match = small.router.at(MatchStation).view
    assert small.router.page is match
    assert match.wait_until_idle()
    covers = {way.answer.covers for way in match.list.ways}
    assert match.list.ways
    assert match.list.ways[0].mean < 4
    assert covers  # going on stands beside covering first, where both lead there
    press(match.list, KEY.Key_Return)
    # Back at the bench, with the new passes still to be laid.
    assert small.router.page is view
    assert view.wait_until_idle()
    mended = small.document.plan.passages[0]
    assert len(mended.coats) > 2
    now = predict(mended, small.document.plan.rack(), axis(41), np.zeros(1)).lab[20, 0]
    meant = as_planned(CameOut(PLAN, 0, 2), LOOK)[20]
    assert float(ciede2000(now, meant)) < 4
    press(view, KEY.Key_E)
    assert view.wait_until_idle()
    assert len(view.sitting.laid) == 3  # what is laid stays laid
    assert len(view.sitting.order) > 3
    assert presses <= 12


def test_what_went_wrong_is_asked_from_the_menu_too(small: MainWindow) -> None:
    small.menus.actions["went wrong"].trigger()
    page = small.router.at(SittingStation).wrong
    assert small.router.page is page
    page.colour.setText("colour of longing")
    page.look_for_it()
    assert "colour" in page.words.text()
    QTest.keyClick(page, KEY.Key_Escape)
    assert small.router.page is not page


def test_what_is_too_dark_all_along_is_no_matter_of_the_last_touch() -> None:
    """A touch at the light explains nothing at the far end: each place starts from its colour."""
    plan = apron("Deepwell Blue; water 0.5; passes 2", "Lime White; water 1; passes 3; tool glaze")
    touch = edits.with_feather(edits.with_span(plan.passages[0].coats[1], 0, 0.1), 0, 0.6)
    plan = edits.set_coat(plan, 0, 1, touch)
    out = CameOut(plan, 0, 2, lightness="much darker")
    search = way_back(out, demo_rack(), Limits(), LOOK)
    assert len(search.now) == len(search.targets) == 5
    now = as_it_is(out, as_planned(out, LOOK))
    np.testing.assert_allclose(search.now[-1], now[-1], atol=0.01)
    *_, found = finding(search, lambda: True)
    best = found.ways[0]
    assert best.coats
    assert best.mean < 5
    # What comes is drawn as it is on the bench: as light again as was foretold.
    assert best.ground.mean() < best.ribbon.mean()
    laid = laid_way(search, best)
    assert laid.passages[0].coats[:2] == plan.passages[0].coats
