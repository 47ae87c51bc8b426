"""The paint picker: typing narrows the rack, each paint shows how it would come out here."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec import structs
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from driving import coats
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.log.racks import Kept, Rack, Racks
from zesty_veil.log.store import opened as opened_log
from zesty_veil.plan import edits
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.services.picking import Picking, coat_with, picked

KEY = Qt.Key


def rested(menu: PaintMenu) -> None:
    """Wait until what is looked at is shown, however long that takes."""
    while menu.resting.isActive():
        QTest.qWait(10)


@pytest.fixture
def menu(small: MainWindow) -> PaintMenu:
    small.section.choose_coat(0)
    small.section.view.read_at(0.4)
    assert small.wait_until_idle()
    menu = small.section.head.paints
    menu.fill()
    assert menu.jobs.wait_until_idle()
    return menu


def listed(menu: PaintMenu) -> list[str]:
    model = menu.picker.list.model()
    return [model.index(row, 0).data() for row in range(model.rowCount())]


def test_each_paint_is_shown_as_the_plan_would_show_it(small: MainWindow) -> None:
    """One and two passes above a coat, under those over it: the prediction of such a plan."""
    plan, paints = small.document.plan, small.section.rack.paints()
    for above, place in ((None, 0.3), (0, 0.4), (1, 0.8)):
        asked = Picking(plan, 0, above, place, paints, DAYLIGHT)
        *_, found = picked(asked, lambda: True)
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
    rested(menu)
    shown = small.document.plan.passages[0].coats
    assert len(shown) == len(before) + 1
    assert shown[1].mixture.parts[0].paint == "Furnace Red"
    assert len(small.document.history.past) == past  # shown, but not done
    line.clear()
    for _ in range(3):
        QTest.keyClick(line, KEY.Key_Down)
    rested(menu)
    assert len(small.document.plan.passages[0].coats) == len(before) + 1
    menu.closed.emit()  # as Escape closes it
    assert coats(small) == before
    QTest.keyClicks(line, "furnace red")
    QTest.keyClick(line, KEY.Key_Return)
    assert coats(small)[1].mixture.parts[0].paint == "Furnace Red"
    assert len(small.document.history.past) == past + 1
    assert small.section.coat == 1
    assert small.wait_until_idle()


def test_the_patches_on_the_list_are_those_colours(small: MainWindow, menu: PaintMenu) -> None:
    menu.open_at(small.mapToGlobal(small.rect().center()), small)
    QTest.keyClicks(menu.picker.search, "furnace red")
    box = menu.picker.list.box(1).toRect()
    image = menu.picker.list.viewport().grab().toImage()
    wanted = menu.picker.list.colours["Furnace Red"]
    for k, x in enumerate((20, 55)):
        drawn = image.pixelColor(box.x() + x, box.center().y())
        seen = np.array([drawn.red(), drawn.green(), drawn.blue()])
        assert np.abs(seen - np.round(wanted[k] * 255)).max() <= 1
    menu.close()
    assert small.wait_until_idle()


def test_a_paint_mixed_in_or_swapped_is_shown_as_the_plan_would_show_it(small: MainWindow) -> None:
    plan, paints = small.document.plan, small.section.rack.paints()
    old = plan.passages[0].coats[1].mixture.parts[0].paint
    for swapped in ("", old):
        asked = Picking(plan, 0, None, 0.5, paints, DAYLIGHT, within=1, swapped=swapped)
        *_, found = picked(asked, lambda: True)
        for paint in paints[1::7]:
            for k in (0, 1):
                coat = coat_with(plan.passages[0].coats[1], paint, swapped)
                coat = edits.with_passes(coat, coat.passes + k)
                other = edits.set_coat(edits.hold(plan, paint), 0, 1, coat)
                field = predict(other.passages[0], other.rack(), np.array([0.5]), np.zeros(1))
                np.testing.assert_allclose(found.rgb[paint.name][k], field.rgb[0, 0], atol=1e-6)


def test_arrows_show_a_swap_from_what_was_there_and_enter_does_it(small: MainWindow) -> None:
    small.section.choose_coat(1)
    assert small.wait_until_idle()
    rows = small.section.card.mixture
    before, past = coats(small), len(small.document.history.past)
    old = before[1].mixture.parts[0].paint
    swap = rows.rows[0].swap
    assert isinstance(swap, PaintMenu)
    swap.fill()
    assert swap.jobs.wait_until_idle()
    for name in ("Furnace Red", "Kelp Green"):
        swap.picker.search.clear()
        QTest.keyClicks(swap.picker.search, name)
        rested(swap)
        (part,) = small.document.plan.passages[0].coats[1].mixture.parts
        assert part.paint == name
    swap.closed.emit()
    assert coats(small) == before
    assert before[1].mixture.parts[0].paint == old
    QTest.keyClicks(swap.picker.search, "")
    swap.picker.choose("Furnace Red")
    assert coats(small)[1].mixture.parts[0].paint == "Furnace Red"
    assert len(small.document.history.past) == past + 1
    rows.mixing.fill()
    rows.mixing.picker.choose("Kelp Green")
    assert [p.paint for p in coats(small)[1].mixture.parts] == ["Furnace Red", "Kelp Green"]
    assert small.wait_until_idle()


def test_a_new_coat_lies_where_it_makes_sense(small: MainWindow) -> None:
    red = next(p for p in small.section.rack.paints() if p.name == "Furnace Red")
    varnish = next(p for p in small.section.rack.paints() if p.kind == "varnish")
    passage = small.document.plan.passages[0]
    assert edits.placed_coat(red, edits.with_coats(passage, ()), 0.3).span == (0.0, 1.0)
    read = edits.placed_coat(red, passage, 0.3)
    assert read.span == (0.3, 1.0)
    assert read.feather == (0.2, 0.0)
    for end in (0.0, 1.0):  # nothing is read but an end
        assert edits.placed_coat(red, passage, end).span == (0.5, 1.0)
    assert edits.placed_coat(varnish, passage, 0.3).span == (0.0, 1.0)


def test_a_rack_of_three_hundred_paints_is_typed_through(small: MainWindow) -> None:
    base = small.section.rack.paints()
    many = tuple(
        structs.replace(paint, name=f"{paint.name} {n}") for n in range(6) for paint in base
    )[:300]
    with opened_log() as store:
        Racks(store).put(Rack("Large", tuple(Kept(paint) for paint in many)))
        Racks(store).choose("Large")
    small.user_store.look()
    assert small.user_store.wait_until_idle()
    menu = small.section.head.paints
    menu.fill()
    assert menu.jobs.wait_until_idle()
    names = {paint.name for paint in many}
    assert len(names & set(listed(menu))) == 300
    assert names <= set(menu.picker.list.colours)
    QTest.keyClicks(menu.picker.search, "kelp 4")
    assert menu.picker.paint is not None
    assert menu.picker.paint.name == "Kelp Green 4"
    QTest.keyClick(menu.picker.search, KEY.Key_Return)
    assert coats(small)[-1].mixture.parts[0].paint == "Kelp Green 4"
    assert small.wait_until_idle()


def test_it_opens_under_the_place_where_the_coat_will_lie(small: MainWindow) -> None:
    small.section.choose_coat(0)
    small.section.view.read_at(0.5)
    assert small.wait_until_idle()
    QTest.keyClick(small.section.view, KEY.Key_N)
    menu = small.section.head.paints
    assert menu.isVisible()
    scene_now = small.section.view.scene
    assert scene_now is not None
    strata = scene_now.strata
    surface = float(np.interp(0.5, strata.u, strata.strata[0].upper))
    at = small.section.view.mapFromGlobal(menu.pos())
    assert surface < at.y() < surface + 20 or menu.geometry().bottom() >= (
        small.screen().availableGeometry().bottom() - 2  # there was no room below
    )
    assert menu.picker.search.hasFocus()
    QTest.keyClicks(menu.picker.search, "red")
    QTest.keyClick(menu.picker.search, KEY.Key_Return)
    assert not menu.isVisible()
    assert len(coats(small)) == 3
    # What was taken stands first the next time.
    taken = coats(small)[1].mixture.parts[0].paint
    menu.fill()
    assert listed(menu)[:2] == ["taken lately", taken]
    assert menu.jobs.wait_until_idle()
    menu.closed.emit()
