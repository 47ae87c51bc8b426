"""The real main window, driven by clicks, wheel, keys and drags; plan and pixels are looked at."""

from __future__ import annotations

from pathlib import Path
from types import ModuleType

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from driving import (
    add_from_rack,
    choose_paint,
    coats,
    drag,
    flat_ribbon,
    middle_of,
    opens,
    picture,
    point,
    saved,
    scene,
    wheel,
)
from zesty_veil.desktop.kit.geometry import grips
from zesty_veil.desktop.section import desk as stations
from zesty_veil.desktop.section import keptdrawing
from zesty_veil.desktop.section import view as section_view
from zesty_veil.desktop.section.draw import label_box
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import load
from zesty_veil.predict import contribution as adding


def test_a_whole_piece_of_work(window: MainWindow, tmp_path: Path) -> None:
    station, view = window.section, window.section.view
    before = coats(window)
    at_far_end = flat_ribbon(window, 0.97)

    # Add a coat of violet on top, and draw its near end towards the far end.
    station.choose_coat(len(before) - 1)
    add_from_rack(window, "Foxglove Magenta")
    assert len(coats(window)) == len(before) + 1
    top = len(before)
    assert station.coat == top
    start = point(grips(scene(window).strata, top, coats(window)[top])["start"])
    target = QPoint(round(scene(window).strata.x(0.55)), start.y())
    drag(view, start, target)
    assert coats(window)[top].span == pytest.approx((0.55, 1.0), abs=0.01)
    with_coat = flat_ribbon(window, 0.62)

    # One pass more with the wheel changes the drawn colour.
    wheel(view, middle_of(window, top), 1)
    assert coats(window)[top].passes == 2
    assert flat_ribbon(window, 0.62) != with_coat
    assert flat_ribbon(window, 0.97) != at_far_end

    # Three steps back and three forth again.
    assert window.document.unsaved
    done = window.document.plan
    for _ in range(3):
        window.menus.actions["undo"].trigger()
    assert coats(window) == before
    assert flat_ribbon(window, 0.97) == at_far_end
    assert not window.document.unsaved
    for _ in range(3):
        window.menus.actions["redo"].trigger()
    assert window.document.plan == done

    # Save, change, reopen: the same plan as was saved.
    path = tmp_path / "work.veil"
    assert saved(window, path)
    assert not window.document.unsaved
    QTest.keyClick(view, Qt.Key.Key_Minus)
    assert window.document.unsaved
    assert "not saved" in window.windowTitle()
    told = window.header.state
    assert told.text().endswith("work.veil  ·  not saved")
    assert told.width() >= told.sizeHint().width()
    assert opens(window, path)
    assert window.document.plan == edits.used_only(done)
    assert load(path) == edits.used_only(done)


def test_every_end_and_feather_can_be_dragged(small: MainWindow) -> None:
    view = small.section.view
    assert small.section.coat == 1
    for grip, to, wanted in (
        ("end", 0.6, (0.0, 0.6)),
        ("start", 0.2, (0.2, 0.6)),
    ):
        at = point(grips(scene(small).strata, 1, coats(small)[1])[grip])  # type: ignore[index]
        drag(view, at, QPoint(round(scene(small).strata.x(to)), at.y()))
        assert coats(small)[1].span == pytest.approx(wanted, abs=0.01)
    for grip, to, wanted in (
        ("feather end", 0.8, (0.0, 0.2)),
        ("feather start", 0.1, (0.1, 0.2)),
    ):
        at = point(grips(scene(small).strata, 1, coats(small)[1])[grip])  # type: ignore[index]
        drag(view, at, QPoint(round(scene(small).strata.x(to)), at.y()))
        assert coats(small)[1].feather == pytest.approx(wanted, abs=0.015)
    body = middle_of(small, 1)
    drag(view, body, QPoint(body.x() + round(0.1 * scene(small).frame.value.width), body.y()))
    assert coats(small)[1].span == pytest.approx((0.3, 0.7), abs=0.02)
    assert [step.words.partition(" of ")[0] for step in small.document.history.past] == [
        "reach"
    ] * 5


def test_a_drag_is_one_step_and_escape_takes_it_back(small: MainWindow) -> None:
    view, before = small.section.view, coats(small)
    at = point(grips(scene(small).strata, 1, before[1])["end"])
    drag(view, at, at - QPoint(120, 0), release=False)
    assert coats(small)[1].span[1] < 0.9
    QTest.keyClick(view, Qt.Key.Key_Escape)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at)
    assert coats(small) == before
    assert not small.document.history.past
    drag(view, at, at - QPoint(120, 0))
    assert len(small.document.history.past) == 1


def test_a_click_without_moving_changes_nothing(small: MainWindow) -> None:
    view = small.section.view
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=middle_of(small, 0))
    assert small.section.coat == 0
    assert not small.document.history.past


def test_wheel_and_keys_count_passes_and_thinning(small: MainWindow) -> None:
    view, shift = small.section.view, Qt.KeyboardModifier.ShiftModifier
    at = middle_of(small, 1)
    wheel(view, at, 1)
    wheel(view, at, 1)
    assert coats(small)[1].passes == 4
    wheel(view, at, -1, shift)
    assert coats(small)[1].mixture.thinning == 2.5
    # Turns of the wheel that follow each other are one step of undo.
    assert len(small.document.history.past) == 2
    QTest.keyClick(view, Qt.Key.Key_Plus)
    assert coats(small)[1].passes == 5
    QTest.keyClick(view, Qt.Key.Key_Minus)
    QTest.keyClick(view, Qt.Key.Key_T)
    assert coats(small)[1].mixture.thinning == 3.0
    QTest.keyClick(view, Qt.Key.Key_T, shift)
    assert coats(small)[1].mixture.thinning == 2.5


def test_small_turns_of_a_touchpad_add_up(small: MainWindow) -> None:
    view, at = small.section.view, middle_of(small, 1)
    for _ in range(4):
        event = QWheelEvent(
            QPointF(at), QPointF(view.mapToGlobal(at)), QPoint(), QPoint(0, 30),
            Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(view, event)
    assert coats(small)[1].passes == 3


def test_arrows_choose_coats_and_move_ends(small: MainWindow) -> None:
    view = small.section.view
    QTest.keyClick(view, Qt.Key.Key_Down)
    assert small.section.coat == 0
    QTest.keyClick(view, Qt.Key.Key_Up)
    assert small.section.coat == 1
    QTest.keyClick(view, Qt.Key.Key_Left)
    assert coats(small)[1].span == (0.0, 0.95)  # half a millimetre of ten
    QTest.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert coats(small)[1].span == (0.05, 0.95)
    QTest.keyClick(view, Qt.Key.Key_F)
    QTest.keyClick(view, Qt.Key.Key_D)
    assert coats(small)[1].feather == (0.05, 0.05)
    place = view.place
    QTest.keyClick(view, Qt.Key.Key_Period)
    assert view.place > place


def test_order_and_taking_away(small: MainWindow) -> None:
    view = small.section.view
    white, orange = coats(small)
    QTest.keyClick(view, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert coats(small) == (orange, white)
    assert small.section.coat == 0
    QTest.mouseClick(small.section.card.up, Qt.MouseButton.LeftButton)
    assert coats(small) == (white, orange)
    # The labels in the gutter are dragged up and down to change the order.
    boxes = [label_box(scene(small), i) for i in (0, 1)]
    middles = [QPoint(round(b.x + 60), round(b.y + b.height / 2)) for b in boxes]
    drag(view, middles[1], middles[0])
    assert coats(small) == (orange, white)
    assert small.section.coat == 0  # what was dragged is still in hand
    QTest.keyClick(view, Qt.Key.Key_Delete)
    assert coats(small) == (white,)
    QTest.keyClick(view, Qt.Key.Key_Delete)
    assert coats(small) == ()
    assert small.section.coat is None
    QTest.keyClick(view, Qt.Key.Key_Delete)
    small.wait_until_idle()


def test_the_brush_card_changes_the_coat_in_hand(small: MainWindow) -> None:
    card, left = small.section.card, Qt.MouseButton.LeftButton
    QTest.mouseClick(card.passes.more, left)
    assert coats(small)[1].passes == 3
    QTest.mouseClick(card.thin.less, left)
    assert coats(small)[1].mixture.thinning == 2.5
    card.thinner.setCurrentIndex(2)
    card.thinner.activated.emit(2)
    assert coats(small)[1].mixture.thinner == "thick medium"
    row = card.tool.findData("sponge")
    card.tool.setCurrentIndex(row)
    card.tool.activated.emit(row)
    assert coats(small)[1].tool == "sponge"
    QTest.mouseClick(card.sites["recess"], left)
    assert coats(small)[1].sites == ("flat", "ridge")
    card.span[1].setValue(4.0)
    assert coats(small)[1].span == (0.0, 0.4)
    card.feather[1].setValue(2.0)
    assert coats(small)[1].feather == (0.0, 0.2)
    choose_paint(card.mixture.mixing, "Kiln Yellow")
    assert [p.paint for p in coats(small)[1].mixture.parts] == ["Ember Orange", "Kiln Yellow"]
    QTest.mouseClick(card.mixture.rows[1].counter.more, left)
    assert coats(small)[1].mixture.parts[1].parts == 2
    choose_paint(card.mixture.rows[0].swap, "Furnace Red")
    assert coats(small)[1].mixture.parts[0].paint == "Furnace Red"
    assert scene(small).passage.coats == coats(small)
    QTest.mouseClick(card.mixture.rows[0].counter.less, left)
    assert [p.paint for p in coats(small)[1].mixture.parts] == ["Kiln Yellow"]
    assert not card.mixture.rows[1].isVisible()


def test_the_last_site_cannot_be_taken(small: MainWindow) -> None:
    sites = small.section.card.sites
    for site in ("ridge", "recess", "flat"):
        QTest.mouseClick(sites[site], Qt.MouseButton.LeftButton)
    assert coats(small)[1].sites == ("flat",)
    assert sites["flat"].isChecked()


def test_passages_are_added_named_sized_primed_and_taken_away(small: MainWindow) -> None:
    panel = small.section.passages
    QTest.mouseClick(panel.add, Qt.MouseButton.LeftButton)
    assert small.section.editor.passage_index == 1
    panel.name.setText("")
    QTest.keyClicks(panel.name, "Smoke")
    QTest.keyClick(panel.name, Qt.Key.Key_Return)
    panel.length.setValue(33.0)
    panel.area.setValue(99.0)
    QTest.mouseClick(panel.primers["grey"], Qt.MouseButton.LeftButton)
    passage = small.document.plan.passages[1]
    assert (passage.name, passage.length_mm, passage.area_mm2) == ("Smoke", 33.0, 99.0)
    assert passage.ground.primer == "grey"
    QTest.keyClick(small.section.view, Qt.Key.Key_P)
    assert small.document.plan.passages[1].ground.primer == "black"
    small.wait_until_idle()
    panel.list.setCurrentRow(0)
    assert small.section.editor.passage_index == 0
    panel.list.setCurrentRow(1)
    QTest.mouseClick(panel.remove, Qt.MouseButton.LeftButton)
    assert [p.name for p in small.document.plan.passages] == ["flame"]
    QTest.mouseClick(panel.remove, Qt.MouseButton.LeftButton)
    assert small.document.plan.passages == ()
    small.wait_until_idle()
    assert small.section.view.scene is None
    add_from_rack(small, "Kiln Yellow")
    assert "no passage to paint" in small.line.words.text()


def test_typing_in_a_field_is_not_taken_for_keys_of_the_section(small: MainWindow) -> None:
    before = coats(small)
    name = small.section.passages.name
    name.setFocus()
    name.selectAll()
    QTest.keyClicks(name, "TNP+-123")
    QTest.keyClick(name, Qt.Key.Key_Return)
    assert coats(small) == before
    assert small.document.plan.passages[0].name == "TNP+-123"


def test_the_readout_follows_the_pointer(small: MainWindow) -> None:
    view, parts = small.section.view, scene(small).frame
    QTest.mouseMove(view, QPoint(round(parts.value.x + 0.5 * parts.value.width), 60))
    assert view.place == pytest.approx(0.5, abs=0.01)
    words, numbers, value = scene(small).reading("flat")
    assert "sand" in words  # two blotted glazes are a whisper of orange
    assert numbers.startswith("L ")
    assert 5 < value < 9
    assert scene(small).film(1) == pytest.approx(2 * 6 / 4, rel=0.01)


def test_light_and_surround(small: MainWindow) -> None:
    day = flat_ribbon(small, 0.5)
    light = small.section.head.light
    row = light.findData("A")
    light.setCurrentIndex(row)
    light.activated.emit(row)
    assert small.document.plan.light == "A"
    assert flat_ribbon(small, 0.5) != day
    corners = []
    for key in (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3):
        QTest.keyClick(small.section.view, key)
        corners.append(picture(small).pixelColor(2, 2).red())
    assert corners == sorted(corners, reverse=True)
    assert len(set(corners)) == 3


def test_a_hidden_coat_is_told(small: MainWindow) -> None:
    add_from_rack(small, "Lamp Black")
    for box, mm in zip(small.section.card.span, (0, 10), strict=True):
        box.setValue(mm)  # a new coat lies from the reading on
    for _ in range(5):
        small.section.more_passes(1)
    now = scene(small)
    assert now.hidden(1)
    small.section.choose_coat(1)
    assert "Adds nothing that shows" in small.section.card.does.adds.text()


def test_the_interface_itself_has_no_colour(small: MainWindow) -> None:
    for _ in range(2):
        small.section.choose_coat(1)
        small.section.remove_coat()
    small.section.passages.remove_passage()
    small.wait_until_idle()
    image = small.grab().toImage()
    for x in range(0, image.width(), 3):
        for y in range(0, image.height(), 2):
            pixel = image.pixelColor(x, y)
            assert pixel.red() == pixel.green() == pixel.blue(), (x, y)


def test_the_wheel_passes_over_what_is_not_in_hand(small: MainWindow) -> None:
    card, before = small.section.card, coats(small)
    for control in (card.tool, card.thinner, card.span[1], small.section.passages.length):
        wheel(control, QPoint(10, 10), -3)
    assert coats(small) == before
    assert small.document.plan.passages[0].length_mm == 10.0
    card.span[1].setFocus()
    wheel(card.span[1], QPoint(10, 10), -1)
    assert coats(small)[1].span == (0.0, 0.95)


def test_every_control_can_be_reached_and_is_named(window: MainWindow) -> None:
    from PySide6.QtWidgets import QAbstractButton, QAbstractSpinBox, QComboBox  # noqa: PLC0415

    for station in STATIONS:  # pages are made only when they are wanted
        window.router.go(station.id)
        window.router.give_up()
    for kind in (QAbstractButton, QAbstractSpinBox, QComboBox):
        for widget in window.section.findChildren(kind):
            text = widget.text() if isinstance(widget, QAbstractButton) else ""
            assert widget.accessibleName() or len(text) > 1, widget
            spoken = widget.testAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            reached = widget.focusPolicy() & Qt.FocusPolicy.TabFocus or spoken
            assert reached or not widget.isVisible(), widget


def test_what_is_drawn_may_be_older_than_the_plan(small: MainWindow) -> None:
    view = small.section.view
    grip = point(grips(scene(small).strata, 1, coats(small)[1])["end"])
    # Both coats go while the section still shows them: no event in between is worked off.
    small.document.edit(edits.remove_coat(small.document.plan, 0, 1), "gone")
    small.document.edit(edits.remove_coat(small.document.plan, 0, 0), "gone")
    drag(view, grip, grip - QPoint(90, 0))
    assert coats(small) == ()
    small.wait_until_idle()


def test_a_plan_that_changes_in_the_middle_of_a_drag_wins(small: MainWindow) -> None:
    view = small.section.view
    grip = point(grips(scene(small).strata, 1, coats(small)[1])["end"])
    drag(view, grip, grip - QPoint(90, 0), release=False)
    small.document.edit(edits.remove_passage(small.document.plan, 0), "gone")
    QTest.mouseMove(view, grip - QPoint(120, 0))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=grip - QPoint(120, 0))
    assert small.document.plan.passages == ()
    small.wait_until_idle()


def test_a_stale_remark_is_not_applied(window: MainWindow) -> None:
    scene(window)
    line = window.line
    assert line.mend.isVisible()
    small = edits.remove_passage(window.document.plan, 0)
    window.document.edit(small, "gone")
    line.mend.click()
    assert window.document.plan is small
    window.wait_until_idle()


def test_what_the_pointer_does_not_change_is_drawn_once(small: MainWindow) -> None:
    view = small.section.view
    drawn: list[str] = []

    def noted(name: str) -> object:
        real = getattr(keptdrawing, name)
        return lambda *given: (drawn.append(name), real(*given))

    with pytest.MonkeyPatch.context() as patch:
        for name in ("draw_paint", "draw_ribbons"):
            patch.setattr(keptdrawing, name, noted(name))
        view.repaint()
        drawn.clear()
        QTest.mouseMove(view, middle_of(small, 0))
        view.read_at(0.3)
        small.section.choose_coat(1)
        view.repaint()
        assert not drawn
        wheel(view, middle_of(small, 1), 1)
        flat_ribbon(small, 0.5)
        view.repaint()
        assert set(drawn) == {"draw_paint", "draw_ribbons"}
        assert drawn.count("draw_paint") == 1
    # And it looks as if it were drawn anew.
    kept = view.grab().toImage()
    view._kept = keptdrawing.KeptDrawing()
    assert view.grab().toImage() == kept


def test_one_edit_builds_one_request_and_one_scene_for_each_answer(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    """And what each coat adds is worked out once, for the card and for the remarks."""
    built: list[str] = []

    def count(module: ModuleType, name: str) -> None:
        made = getattr(module, name)
        monkeypatch.setattr(module, name, lambda *a, **k: (built.append(name), made(*a, **k))[1])

    window.show()
    QApplication.processEvents()
    for module, name in ((stations, "Request"), (section_view, "build"), (adding, "_without")):
        count(module, name)
    window.section.forecasting.jobs.answered.connect(lambda _: built.append("answer"))
    window.section.more_passes(1)
    assert window.wait_until_idle()
    QApplication.processEvents()
    assert built.count("Request") == 1
    # One more is that of the plan as it was changed, before the first answer is there.
    assert built.count("build") <= built.count("answer") + 1
    # For the plan as it is, and for the one remedy that is tried on it.
    assert built.count("_without") == 2 * len(coats(window))
