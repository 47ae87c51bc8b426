"""The paint picker: typing narrows the rack, each paint shows how it would come out here."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from driving import coats
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.services.picking import Picking, picked

KEY = Qt.Key


@pytest.fixture
def menu(small: MainWindow) -> PaintMenu:
    small.section.choose_coat(0)
    small.section.view.read_at(0.4)
    assert small.wait_until_idle()
    menu = small.section.head.paints
    menu.aboutToShow.emit()
    assert menu.jobs.wait_until_idle()
    return menu


def listed(menu: PaintMenu) -> list[str]:
    model = menu.picker.model
    return [model.item(row).text() for row in range(model.rowCount())]


def test_each_paint_is_shown_as_the_plan_would_show_it(small: MainWindow) -> None:
    """One and two passes above a coat, under those over it: the prediction of such a plan."""
    plan, paints = small.document.plan, small.section.rack.paints()
    for above, place in ((None, 0.3), (0, 0.4), (1, 0.8)):
        asked = Picking(plan, 0, above, place, paints, DAYLIGHT)
        (found,) = picked(asked, lambda: True)
        assert set(found.rgb) == {paint.name for paint in paints}
        for paint in paints[::6]:
            for k, passes in enumerate((1, 2)):
                coat = edits.with_passes(edits.usual_coat(paint), passes)
                at = 0 if above is None else above + 1
                other = edits.add_coat(edits.hold(plan, paint), 0, coat, at)
                field = predict(other.passages[0], other.rack(), np.array([place]), np.zeros(1))
                np.testing.assert_allclose(found.rgb[paint.name][k], field.rgb[0, 0], atol=1e-6)


def test_words_find_by_name_kind_pigment_and_colour(menu: PaintMenu) -> None:
    line = menu.picker.search
    whole = listed(menu)
    assert whole[0] == "in this plan"
    assert "Ember Orange" in whole[1:4]
    for words, found, not_found in (
        ("ember", "Ember Orange", "Furnace Red"),
        ("pbk7", "Lamp Black", "Ember Orange"),
        ("metallic", "Pipe Copper", "Ember Orange"),
    ):
        line.clear()
        QTest.keyClicks(line, words)
        assert any(found.split()[0] in name for name in listed(menu)), (words, listed(menu))
        assert not_found not in listed(menu)
    line.clear()
    QTest.keyClicks(line, "no such paint")
    assert listed(menu) == []
    QTest.keyClick(line, KEY.Key_Return)  # nothing to choose, and nothing happens


def test_arrows_show_a_paint_in_the_section_and_enter_lays_it(
    small: MainWindow, menu: PaintMenu
) -> None:
    before, past = coats(small), len(small.document.history.past)
    line = menu.picker.search
    QTest.keyClicks(line, "furnace red")
    assert menu.picker.paint is not None
    assert coats(small) == before  # only what is rested on is shown
    QTest.qWait(200)
    shown = small.document.plan.passages[0].coats
    assert len(shown) == len(before) + 1
    assert shown[1].mixture.parts[0].paint == "Furnace Red"
    assert len(small.document.history.past) == past  # shown, but not done
    line.clear()
    for _ in range(3):
        QTest.keyClick(line, KEY.Key_Down)
    QTest.qWait(200)
    assert len(small.document.plan.passages[0].coats) == len(before) + 1
    menu.aboutToHide.emit()  # as Escape closes it
    assert coats(small) == before
    QTest.keyClicks(line, "furnace red")
    QTest.keyClick(line, KEY.Key_Return)
    assert coats(small)[1].mixture.parts[0].paint == "Furnace Red"
    assert len(small.document.history.past) == past + 1
    assert small.section.coat == 1
    assert small.wait_until_idle()


def test_the_patches_on_the_list_are_those_colours(small: MainWindow, menu: PaintMenu) -> None:
    menu.popup(small.mapToGlobal(small.rect().center()))
    QTest.keyClicks(menu.picker.search, "furnace red")
    index = menu.picker.model.index(1, 0)
    box = menu.picker.list.visualRect(index)
    image = menu.picker.list.viewport().grab().toImage()
    wanted = menu.picker._colours["Furnace Red"]
    for k, x in enumerate((20, 55)):
        drawn = image.pixelColor(box.x() + x, box.center().y())
        seen = np.array([drawn.red(), drawn.green(), drawn.blue()])
        assert np.abs(seen - np.round(wanted[k] * 255)).max() <= 1
    menu.close()
    assert small.wait_until_idle()
