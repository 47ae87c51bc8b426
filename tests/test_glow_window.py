"""The Glow station in the real window: a light is dragged, its coats are found, written, undone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace as changed

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import drag, go, opened, settled
from workshop import hand_laid
from zesty_veil.advise.glow.usual import usual_glow
from zesty_veil.advise.match.limits import Limits
from zesty_veil.desktop.glow.glowview import GlowView
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.srgb import lab_of, parsed, srgb
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.glow import CORES
from zesty_veil.plan.samples import sample
from zesty_veil.services.lighting import LightRequest, Painting, lighting, paint_lights

KEY, LEFT = Qt.Key, Qt.MouseButton.LeftButton


@pytest.fixture
def lit(qtbot: QtBot) -> Iterator[MainWindow]:
    """The demo plan with its apron alone lit."""
    plan = hand_laid()
    for i in (2, 3):
        plan = edits.lit_by(plan, i, None)
    yield from opened(qtbot, plan)


def opened_glow(window: MainWindow) -> GlowView:
    QTest.keyClick(window.section.view, KEY.Key_Z)
    glow = window.router.at(LightStation).view
    assert window.router.currentWidget() is glow
    assert glow.wait_until_idle()
    return glow


def brightness(glow: GlowView, x: float, y: float) -> int:
    """Return how light the form is drawn at a place."""
    picture = glow.view.grab().toImage()
    return picture.pixelColor(glow.view.point(x, y).toPoint()).lightness()


def test_a_light_is_dragged_painted_written_and_undone(lit: MainWindow) -> None:
    before = lit.document.plan
    glow = opened_glow(lit)
    assert glow.glow is not None
    values = glow.ladder.accessibleDescription()
    assert "leather apron" in values
    # Dragged to the right, the light leaves the left in the dark.
    left_before = brightness(glow, -0.45, -0.3)
    start = glow.view.point(*glow.view.place[:2]).toPoint()
    drag(glow.view, start, glow.view.point(0.9, 0.2).toPoint())
    assert glow.wait_until_idle()
    assert glow.glow.surfaces[0].place[:2] == pytest.approx((0.9, 0.2), abs=0.02)
    assert brightness(glow, -0.45, -0.3) < left_before - 20
    assert glow.ladder.accessibleDescription() != values
    assert lit.document.plan is before  # it was only tried
    assert not glow.write.isEnabled()
    # The coats are found and shown beside what is wanted.
    QTest.keyClick(glow.view, KEY.Key_F)
    assert glow.stop.isEnabled()
    assert glow.progress.isVisible()
    assert glow.wait_until_idle()
    assert glow.progress.isHidden()
    # Values as steps, the brightest at the light; and nothing, or a warning, about each passage.
    steps = glow.dark.steps()
    assert [value for _, value in steps] == sorted((v for _, v in steps), reverse=True)
    assert steps[0][0].height() / steps[-1][0].height() == pytest.approx(steps[0][1] / steps[-1][1])
    assert glow.notes.count() >= 1
    assert "on average" in glow.words.text()
    assert "dE" in glow.ladder.accessibleDescription()
    found = glow.found
    assert found is not None
    one = found.passages[0]
    assert one.answer is not None
    ring = one.lit.ringed.rings[0].number - 1 if one.lit is not None else 0
    cell = glow.ladder.cell(0, ring)
    picture = glow.ladder.grab().toImage()
    wanted = srgb(np.array(one.targets[0].lab))[0] * 255
    pixel = picture.pixelColor(cell.topLeft().toPoint() + QPoint(4, 4))
    assert np.abs(np.array([pixel.red(), pixel.green(), pixel.blue()]) - wanted).max() < 3
    assert found.achieved[0] is not None
    pixel = picture.pixelColor(cell.bottomLeft().toPoint() + QPoint(4, -4))
    achieved = found.achieved[0][0] * 255
    assert np.abs(np.array([pixel.red(), pixel.green(), pixel.blue()]) - achieved).max() < 3
    # One press writes them; one undo takes all of it back.
    QTest.mouseClick(glow.write, LEFT)
    assert lit.wait_until_idle()
    plan = lit.document.plan
    assert plan.glow is not None
    assert plan.passages[1].coats == one.answer.coats
    assert plan.passages[1].targets == one.targets
    assert plan.passages[2:] == before.passages[2:]
    assert lit.router.currentWidget() is lit.section.view
    lit.document.undo()
    assert lit.document.plan == before
    lit.wait_until_idle()


def test_coats_may_be_written_while_it_is_looked_for_what_stands_in_the_way() -> None:
    plan = edits.lit_by(edits.lit_by(hand_laid(), 2, None), 3, None)
    glow = replace(usual_glow(plan), colour=(88.0, -80.0, 80.0))
    few = tuple(p for p in demo_rack() if p.name in {"Lime White", "Anchor Rust", "Lamp Black"})
    asked = Painting(plan, glow, "inward", None, few, Limits(coats=3))
    steps = list(paint_lights(asked, lambda: True))
    first = next(step for step in steps if step.done)
    assert first.share < 1
    assert first.passages[0].why is None
    assert all(step.plan == first.plan for step in steps[steps.index(first) :])
    assert steps[-1].passages[0].why is not None
    assert steps[-1].share == 1
    assert any("short" in one.words or "off" in one.words for one in steps[-1].warned)
    shares = [step.share for step in steps]
    assert shares == sorted(shares)


def test_stopping_after_the_coats_are_found_keeps_them(lit: MainWindow) -> None:
    glow = opened_glow(lit)
    QTest.keyClick(glow.view, KEY.Key_F)
    assert glow.wait_until_idle()
    found = glow.found
    assert found is not None
    glow._found(changed(found, share=0.9))  # as if it were still looked for reasons
    assert glow.stop.isEnabled()
    assert glow.write.isEnabled()
    QTest.mouseClick(glow.stop, LEFT)
    assert glow.progress.isHidden()
    assert glow.write.isEnabled()
    QTest.mouseClick(glow.write, LEFT)
    assert lit.document.plan == found.plan
    lit.wait_until_idle()


def test_the_light_is_set_by_keys_and_numbers(lit: MainWindow) -> None:
    glow = opened_glow(lit)
    assert glow.glow is not None
    x, y, z = glow.view.place
    QTest.keyClick(glow.view, KEY.Key_Right)
    QTest.keyClick(glow.view, KEY.Key_Down)
    QTest.keyClick(glow.view, KEY.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert glow.glow.surfaces[0].place == pytest.approx((x + 0.05, y - 0.05, z + 0.05))
    glow.numbers.rings.setValue(7)
    glow.numbers.kelvin.setValue(1200)
    glow.numbers.radius.setValue(45)
    glow.numbers.strength.setValue(1.5)
    glow.numbers.ambient.setValue(0.1)
    glow.numbers.falloff.setCurrentIndex(1)
    glow.numbers.falloff.activated.emit(1)
    now = glow.glow
    assert (now.rings, now.kelvin, now.radius_mm) == (7, 1200, 45)
    assert (now.strength, now.ambient, now.falloff) == (1.5, 0.1, "inverse square")
    # The surface, and a light that is no fire.
    glow.row.own.setText("#808890")
    QTest.keyClick(glow.row.own, KEY.Key_Return)
    glow.row.finish.setCurrentIndex(2)
    glow.row.finish.activated.emit(2)
    QTest.mouseClick(glow.row.inside, LEFT)
    # A line of light, whose far end is dragged by itself.
    QTest.mouseClick(glow.row.line, LEFT)
    end = glow.glow.surfaces[0].end
    assert end is not None
    drag(glow.view, glow.view.point(*end[:2]).toPoint(), glow.view.point(0.3, -0.6).toPoint())
    moved = glow.glow.surfaces[0]
    assert moved.end is not None
    assert moved.end[:2] == pytest.approx((0.3, -0.6), abs=0.02)
    assert moved.place == pytest.approx((x + 0.05, y - 0.05, z + 0.05))
    QTest.mouseClick(glow.row.line, LEFT)
    assert glow.glow.surfaces[0].end is None
    glow.row.light.setText("strong green")
    QTest.keyClick(glow.row.light, KEY.Key_Return)
    surface = glow.glow.surfaces[0]
    np.testing.assert_allclose(surface.own, lab_of(parsed("#808890")), atol=0.01)
    assert (surface.finish, surface.inside) == ("gloss", True)
    assert glow.glow.colour is not None
    # No green light has the core of a fire; one that was chosen stays what it is.
    assert glow.glow.core == CORES["lamp"]
    assert not glow.numbers.kelvin.isEnabled()
    glow.row.second.setText("strong blue")
    QTest.keyClick(glow.row.second, KEY.Key_Return)
    assert glow.glow.second is not None
    assert glow.wait_until_idle()
    assert "darker than what is beside it" in glow.ladder.accessibleDescription()
    assert "two lights apart" in glow.dark.words
    glow.row.second_strength.setValue(1.2)
    glow.row.gap.setValue(30)
    assert (glow.glow.second_strength, glow.glow.gap) == (1.2, 0.3)
    glow.row.second.setText("")
    QTest.keyClick(glow.row.second, KEY.Key_Return)
    assert glow.glow.second is None
    glow.row.light.setText("mud")
    QTest.keyClick(glow.row.light, KEY.Key_Return)
    assert "'mud' is no colour" in glow.words.text()
    glow.row.light.setText("")
    QTest.keyClick(glow.row.light, KEY.Key_Return)
    assert glow.glow.colour is None
    assert glow.glow.core == CORES["fire"]
    glow.row.core.setCurrentIndex(glow.row.core.findData("spell"))
    glow.row.core.activated.emit(glow.row.core.currentIndex())
    glow.row.light.setText("strong green")
    QTest.keyClick(glow.row.light, KEY.Key_Return)
    assert glow.glow.core == CORES["spell"]
    assert glow.wait_until_idle()
    QTest.keyClick(glow.view, KEY.Key_Escape)
    assert lit.router.currentWidget() is lit.section.view
    assert lit.document.plan.glow is None
    lit.wait_until_idle()


def test_the_core_is_drawn_with_handles_for_hand_and_keys(lit: MainWindow) -> None:
    glow = opened_glow(lit)
    curve = glow.row.curve
    assert glow.glow is not None
    full, begins, turns = glow.glow.core
    room = curve.width() - 12

    def at(share: float) -> QPoint:
        return QPoint(round(6 + (1 - share) * room), 17)

    QTest.mousePress(curve, LEFT, pos=at(full))
    QTest.mouseMove(curve, at(0.7))
    QTest.mouseRelease(curve, LEFT, pos=at(0.7))
    assert glow.glow.core == pytest.approx((0.7, begins, turns), abs=0.011)
    assert glow.row.core.currentIndex() == -1  # it is one's own now
    # Near-white ends nowhere before it begins to.
    QTest.mousePress(curve, LEFT, pos=at(glow.glow.core[0]))
    QTest.mouseMove(curve, at(0.05))
    QTest.mouseRelease(curve, LEFT, pos=at(0.05))
    assert glow.glow.core[0] > glow.glow.core[1]
    curve.handles[2].setFocus()
    before = glow.glow.core[2]
    QTest.keyClick(curve.handles[2], KEY.Key_Left)
    assert glow.glow.core[2] == pytest.approx(before + 0.01, abs=0.002)
    # What is drawn is near-white at the source, and dark where no light falls.
    picture = curve.grab().toImage()
    left, right = (picture.pixelColor(x, 6).lightness() for x in (10, curve.width() - 8))
    assert left > 180
    assert right < 80
    assert glow.wait_until_idle()


def test_a_light_out_of_reach_says_so_and_a_search_is_stopped(lit: MainWindow) -> None:
    glow = opened_glow(lit)
    glow.numbers.radius.setValue(2)
    assert glow.wait_until_idle()
    assert "does not reach" in glow.words.text()
    glow.numbers.radius.setValue(30)
    glow.numbers.ambient.setValue(0.9)
    assert glow.wait_until_idle()
    notes = [glow.notes.item(i).text() for i in range(glow.notes.count())]
    assert any("a glow reads" in note for note in notes)
    rect = glow.notes.visualItemRect(glow.notes.item(0))
    QTest.mouseClick(glow.notes.viewport(), LEFT, pos=rect.center())
    assert glow.in_view == 0
    glow.numbers.ambient.setValue(0.05)
    glow.numbers.radius.setValue(30)
    assert glow.wait_until_idle()
    QTest.mouseClick(glow.find_coats, LEFT)
    QTest.mouseClick(glow.stop, LEFT)
    assert glow.words.text() == "Stopped."
    assert glow.wait_until_idle()
    assert not glow.write.isEnabled()
    QTest.keyClick(glow.view, KEY.Key_Return)  # nothing to write, and nothing happens
    assert lit.document.plan.glow is None
    QTest.mouseClick(glow.leave, LEFT)
    lit.wait_until_idle()


def test_what_is_sought_for_a_light_ends_when_its_page_is_left(qtbot: QtBot) -> None:
    for window in opened(qtbot, hand_laid()):
        glow = opened_glow(window)
        QTest.mouseClick(glow.find_coats, LEFT)
        go(window, "rack")
        assert glow.jobs.idle() or glow.found is None
        # Another plan, with fewer passages: nothing that comes now is for it.
        window.files.show(small_plan(), None)
        assert glow.wait_until_idle()
        assert glow.found is None
        settled(window)


def test_an_answer_or_a_press_for_another_light_does_nothing(qtbot: QtBot) -> None:
    for window in opened(qtbot, hand_laid()):
        glow = opened_glow(window)
        assert glow.glow is not None
        QTest.mouseClick(glow.find_coats, LEFT)
        assert glow.wait_until_idle()
        found = glow.found
        assert found is not None
        assert len(glow.glow.surfaces) > 1
        shown = glow.ladder.cell(len(glow.glow.surfaces) - 1, 1).center().toPoint()
        # Only the first surface stays lit; what is drawn is of the light before.
        plan = window.document.plan
        for surface in glow.glow.surfaces[1:]:
            index = [p.name for p in plan.passages].index(surface.passage)
            plan = edits.lit_by(plan, index, None)
        window.document.edit(plan, "less lit")
        assert glow.open()
        QTest.mouseClick(glow.ladder, LEFT, pos=shown)
        assert glow.in_view == 0
        glow.jobs.answered.emit(found)
        assert glow.found is None
        assert glow.wait_until_idle()
        glow.give_up()
        window.wait_until_idle()


def test_every_surface_has_its_own_place_of_the_light(qtbot: QtBot) -> None:
    for window in opened(qtbot, hand_laid()):
        window.section.choose_passage(2)
        glow = opened_glow(window)
        assert glow.glow is not None
        assert glow.in_view == 1  # the flask, which was in view
        QTest.mouseClick(glow.ladder, LEFT, pos=glow.ladder.cell(2, 1).center().toPoint())
        assert glow.in_view == 2
        before = glow.glow.surfaces
        QTest.keyClick(glow.view, KEY.Key_Left)
        assert glow.glow.surfaces[:2] == before[:2]
        assert glow.glow.surfaces[2] != before[2]
        assert glow.wait_until_idle()
        glow.give_up()
        window.wait_until_idle()


def test_what_is_lit_later_joins_the_light(lit: MainWindow) -> None:
    glow = opened_glow(lit)
    QTest.keyClick(glow.view, KEY.Key_F)
    assert glow.wait_until_idle()
    glow.write_it()
    plan = edits.lit_by(lit.document.plan, 2, lit.document.plan.passages[0].name)
    lit.document.edit(plan, "light")
    glow = opened_glow(lit)
    assert glow.glow is not None
    assert [s.passage for s in glow.glow.surfaces] == [p.name for p in plan.passages[1:3]]
    # The plan changes meanwhile: what is shown follows, or gives way.
    lit.document.edit(edits.rename_passage(lit.document.plan, 3, "pipe"), "name")
    assert lit.router.currentWidget() is glow
    lit.document.edit(edits.remove_passage(lit.document.plan, 0), "gone")
    assert lit.router.currentWidget() is lit.section.view
    lit.wait_until_idle()


def test_without_a_light_in_the_plan_it_asks_what_shines(small: MainWindow) -> None:
    QTest.keyClick(small.section.view, KEY.Key_Z)
    assert small.router.currentWidget() is small.router.at(LightStation).start
    assert "Esc: back" in small.line.words.text()
    small.wait_until_idle()


def test_a_dragged_light_is_drawn_roughly_and_then_finely(lit: MainWindow) -> None:
    page = opened_glow(lit)
    view = page.view
    fine = view.wanted_size()
    assert fine > 300
    at = view.point(0.2, 0.2).toPoint()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at)
    assert view.wanted_size() < fine
    assert page.wait_until_idle()
    assert view._image is not None
    assert view._image.width() < fine
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at)
    assert page.wait_until_idle()
    assert view._image.width() == fine


def test_the_picture_of_a_light_is_the_same_in_every_size() -> None:
    """What is blended up from the field of the rings shows what a picture of that size shows."""
    plan = sample("glasswright")
    glow = usual_glow(plan)
    (small,), (large,) = (
        list(lighting(LightRequest(plan, glow, 0, size), lambda: True)) for size in (160, 480)
    )
    coarse = large.picture.reshape(160, 3, 160, 3, 4).mean(axis=(1, 3))
    inside = (small.picture[..., 3] == 255) & (coarse[..., 3] == 255)
    off = np.abs(coarse[..., :3] - small.picture[..., :3]).max(axis=-1)[inside]
    # Lines between rings are a pixel wide in either, and so differ; all else agrees.
    assert inside.sum() > 3000
    assert np.percentile(off, 80) < 6


def test_what_stands_in_the_light_casts_a_shadow_and_is_dragged(lit: MainWindow) -> None:
    page = opened_glow(lit)
    view, menu = page.view, page.shadow_of.menu()
    assert menu is not None
    pipe = next(a for a in menu.actions() if "blowpipe" in a.text())
    bare, words = view.grab().toImage(), pipe.text()
    pipe.trigger()
    assert page.wait_until_idle()
    assert page.glow is not None
    shadow = page.glow.surfaces[0].shadow
    assert shadow is not None
    assert "blowpipe" in shadow.of
    assert words in [a.text() for a in menu.actions() if a.isChecked()]
    said = [page.notes.item(i).text() for i in range(page.notes.count())]
    assert any("shadow" in each and "blowpipe" in each for each in said)
    # Dragged before the middle of the form it darkens there, and the light stays where it is.
    place = page.glow.surfaces[0].place
    drag(view, view.point(*shadow.place[:2]).toPoint(), view.point(-0.2, 0.1).toPoint())
    assert page.wait_until_idle()
    moved = page.glow.surfaces[0]
    assert moved.place == place
    assert moved.shadow is not None
    assert moved.shadow.place[:2] == pytest.approx((-0.2, 0.1), abs=0.02)
    now = view.grab().toImage()
    points = [view.point(0.1 * i, 0.1 * k).toPoint() for i in range(-9, 10) for k in range(-9, 10)]
    darker = [bare.pixelColor(at).lightness() - now.pixelColor(at).lightness() for at in points]
    assert sum(by > 15 for by in darker) > 10
    # By keys as well, and nearer to the eye.
    QTest.keyClick(view, KEY.Key_Right, Qt.KeyboardModifier.ControlModifier)
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(view, KEY.Key_Up, both)
    keyed = page.glow.surfaces[0].shadow
    assert keyed is not None
    assert keyed.place[0] == pytest.approx(moved.shadow.place[0] + 0.05)
    assert keyed.place[2] == pytest.approx(moved.shadow.place[2] + 0.05)
    menu.actions()[0].trigger()
    assert page.glow.surfaces[0].shadow is None
