"""The Rack driven as a painter does: drawdowns, a photographed card, keeping, taking back."""

from __future__ import annotations

import dataclasses
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

import cardphoto as camera
from simulated import card_of, true_paint
from zesty_veil.desktop.rack.rackpage import RackPage
from zesty_veil.desktop.window import MainWindow
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.spectra import of_spectrum
from zesty_veil.light.srgb import srgb
from zesty_veil.log.drawn import Laid, drawn
from zesty_veil.log.simulated import SimulatedCard
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import OwnTool
from zesty_veil.plan.refining import in_hand


def opened(window: MainWindow) -> RackPage:
    window.actions_by_name["rack"].trigger()
    page = window.station.stage.rack
    assert page is not None
    settle(window)
    return page


def settle(window: MainWindow) -> None:
    page = window.station.stage.rack
    assert page is not None
    for _ in range(3):
        assert page.measuring.wait_until_idle()
        assert window.keeping.wait_until_idle()
        assert page.wait_until_idle()
        QApplication.processEvents()


def take(page: RackPage, name: str) -> None:
    QTest.mouseClick(
        page.grid, Qt.MouseButton.LeftButton, pos=page.grid.cell(name).center().toPoint()
    )


def named(window: MainWindow, name: str) -> Paint:
    return window.keeping.rack.find(name).paint


@pytest.fixture
def orange(tmp_path: Path, dressed: QApplication) -> Path:
    """A photograph of a card painted with a true orange."""
    rng = np.random.default_rng(4)
    pot = true_paint(rng, "transparent", {"PO73": 1.0}, 1.0)
    painted = {(b, n): R for b, n, R in card_of(rng, pot, 1.0, "loaded")}
    pixels = camera.photograph(painted, camera.Shot(size=(1200, 900), fill=0.66))
    h, w = pixels.shape[:2]
    path = tmp_path / "card.png"
    assert QImage(pixels.tobytes(), w, h, 3 * w, QImage.Format.Format_RGB888).save(str(path))
    return path


def test_paints_are_drawn_as_they_lie(small: MainWindow) -> None:
    page = opened(small)
    # At first they are thinned as the coat in hand is.
    assert page.bar.thinning.value() == 3.0
    page.bar.thinning.setValue(0.0)
    settle(small)
    image = page.grid.grab().toImage()
    for name in ("Kiln Yellow", "Harbour Violet"):
        cell = page.grid.cell(name)
        lab = drawn(next(p for p in demo_rack() if p.name == name), Laid()).lab
        for row, y in ((0, 40), (1, 82)):
            for k, share in ((1, 0.12), (4, 0.88)):
                pixel = image.pixelColor(
                    round(cell.x() + share * cell.width()), round(cell.y() + y)
                )
                shown = np.array([pixel.red(), pixel.green(), pixel.blue()])
                np.testing.assert_allclose(shown, srgb(lab[row, k])[0] * 255, atol=1.5)


def test_the_paint_in_hand_follows_mouse_and_keys(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Ember Orange")
    assert page.card.name.text() == "Ember Orange"
    assert "flame (this plan)" in page.card.used.text()
    assert "Nearest at hand" in page.card.near.text()
    QTest.keyClick(page.grid, Qt.Key.Key_Right)
    assert page.card.name.text() == "Furnace Red"
    QTest.keyClick(page.grid, Qt.Key.Key_Home)
    assert page.card.name.text() == "Lime White"


def press(key: Qt.Key) -> None:
    """Press a key where the focus is, as a hand does."""
    focus = QApplication.focusWidget()
    assert focus is not None
    QTest.keyClick(focus, key)
    QApplication.processEvents()


def test_pages_take_keys_as_soon_as_they_are_open(small: MainWindow) -> None:
    small.activateWindow()
    small.station.view.setFocus()
    stage = small.station.stage
    press(Qt.Key.Key_F6)
    settle(small)
    press(Qt.Key.Key_Right)
    assert stage.rack is not None
    assert stage.rack.card.name.text() == "Driftbone Ivory"
    press(Qt.Key.Key_M)
    press(Qt.Key.Key_Right)
    assert stage.rack.measuring.card.in_hand == ("white", 2)
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_Right)
    assert stage.rack.card.name.text() == "Pewter Grey"
    press(Qt.Key.Key_Escape)
    assert stage.currentWidget() is small.station.view
    press(Qt.Key.Key_F8)
    assert stage.guess is not None
    assert stage.guess.wait_until_idle()
    press(Qt.Key.Key_3)
    assert stage.guess.field.choice == 2
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_F7)
    press(Qt.Key.Key_N)
    assert stage.log is not None
    assert stage.log.pages.currentWidget() is stage.log.entry
    press(Qt.Key.Key_Escape)
    press(Qt.Key.Key_Escape)
    assert stage.currentWidget() is small.station.view


def test_thinning_order_and_search_change_what_is_shown(small: MainWindow) -> None:
    page = opened(small)
    neat = page.grid.grab().toImage()
    page.bar.thinning.setValue(4.0)
    settle(small)
    assert page.grid.grab().toImage() != neat
    page.bar.order.setCurrentIndex(page.bar.order.findData("hue"))
    page.bar.order.activated.emit(0)
    page.bar.search.setText("violet")
    settle(small)
    assert page.bar.count.text() == "2 of 31 paints"
    page.bar.search.setText("")
    settle(small)
    assert page.bar.count.text() == "31 paints"


def test_an_empty_pot_leaves_the_menus(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Kiln Yellow")
    QTest.mouseClick(page.card.statuses["empty"], Qt.MouseButton.LeftButton)
    page.card.notes.setPlainText("dried up")
    settle(small)
    take(page, "Lamp Black")
    settle(small)
    kept = small.keeping.rack.find("Kiln Yellow")
    assert (kept.status, kept.notes) == ("empty", "dried up")
    assert "Kiln Yellow" not in {p.name for p in small.station.rack.paints()}
    page.bar.status.setCurrentIndex(page.bar.status.findData("empty"))
    page.bar.status.activated.emit(0)
    settle(small)
    assert page.bar.count.text() == "1 of 31 paints"


def test_a_photographed_card_changes_the_rack_and_can_be_taken_back(
    small: MainWindow, orange: Path
) -> None:
    page = opened(small)
    before = named(small, "Ember Orange")
    take(page, "Ember Orange")
    QTest.keyClick(page.grid, Qt.Key.Key_M)
    measuring = page.measuring
    assert page.pages.currentWidget() is measuring
    measuring.form.thinning.setValue(1.0)
    measuring.open_photograph(orange)
    settle(small)
    assert "sure within dE" in measuring.shown.told.text()
    assert measuring.photo.corners is not None
    QTest.mouseClick(measuring.accept, Qt.MouseButton.LeftButton)
    settle(small)
    after = named(small, "Ember Orange")
    assert after != before
    assert after.spread
    assert after.name == "Ember Orange"
    assert "Measured from a card (photograph)" in page.card.known.text()
    # The plan that is open is told, and does not change by itself.
    assert small.document.plan.rack()["Ember Orange"] == before
    page.give_up()
    assert small.wait_until_idle()
    assert "Ember Orange is known better now" in small.line.words.text()
    QTest.mouseClick(small.line.mend, Qt.MouseButton.LeftButton)
    assert small.document.plan.rack()["Ember Orange"] == after
    small.document.undo()
    assert small.document.plan.rack()["Ember Orange"] == before
    # And the measurement is taken back.
    page = opened(small)
    take(page, "Ember Orange")
    QTest.mouseClick(page.card.undo, Qt.MouseButton.LeftButton)
    settle(small)
    assert named(small, "Ember Orange") == before


def test_corners_are_dragged_where_the_card_is_not_found(
    small: MainWindow, orange: Path, tmp_path: Path
) -> None:
    image = QImage(str(orange))
    for y in range(150, 260):
        for x in range(150, 260):
            image.setPixelColor(x, y, image.pixelColor(20, 20))
    path = tmp_path / "thumb.png"
    image.save(str(path))
    page = opened(small)
    take(page, "Ember Orange")
    page.measure(page.in_hand)
    view = page.measuring.photo
    page.measuring.open_photograph(orange)
    settle(small)
    assert view.corners is not None
    true = view.corners.copy()
    page.measuring.open_photograph(path)
    settle(small)
    assert "Not all four" in page.measuring.words.text()
    assert page.measuring.result is None
    assert view.corners is not None
    for k, corner in enumerate(true):
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=view.at(view.corners[k]).toPoint())
        QTest.mouseMove(view, view.at(corner).toPoint())
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=view.at(corner).toPoint())
    settle(small)
    assert page.measuring.result is not None
    assert page.measuring.result.found is not None


def test_colours_are_typed_patch_by_patch(small: MainWindow) -> None:
    page = opened(small)
    QTest.mouseClick(page.bar.fresh, Qt.MouseButton.LeftButton)
    measuring = page.measuring
    measuring.form.name.setText("My red")
    measuring.form.pigments.setText("PR254")
    measuring.form.pigments.editingFinished.emit()
    red = drawn(next(p for p in demo_rack() if p.name == "Furnace Red"), Laid()).lab
    one, two, dark = (
        " ".join(f"{v:.1f}" for v in lab) for lab in (red[0, 1], red[0, 2], red[1, 1])
    )
    for words in (one, "nonsense", two):
        measuring.typed.setFocus()
        measuring.typed.setText(words)
        QTest.keyClick(measuring.typed, Qt.Key.Key_Return)
    assert "no colour" in measuring.words.text()
    measuring.card.choose(("black", 1))
    measuring.typed.setText(dark)
    QTest.keyClick(measuring.typed, Qt.Key.Key_Return)
    settle(small)
    assert measuring.result is not None
    assert measuring.result.found is not None
    QTest.keyClick(measuring, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    settle(small)
    assert named(small, "My red").pigments == ("PR254",)
    assert page.card.name.text() == "My red"
    # A coat of it is laid on the section.
    QTest.mouseClick(page.card.lay, Qt.MouseButton.LeftButton)
    assert small.wait_until_idle()
    passage = small.station.hand.passage
    assert passage is not None
    assert passage.coats[-1].mixture.parts[0].paint == "My red"


def test_a_patch_is_forgotten_and_a_bad_card_is_refused(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Furnace Red")
    page.measure(page.in_hand)
    measuring = page.measuring
    # Over white it is darker than over black: that cannot be.
    for place, words in ((("white", 1), "42 62 36"), (("black", 1), "60 50 40")):
        measuring.card.choose(place)  # type: ignore[arg-type]
        measuring.typed.setText(words)
        measuring.type_colour()
    settle(small)
    assert "mixed up" in measuring.shown.told.text()
    assert not measuring.accept.isEnabled()
    measuring.card.choose(("black", 1))
    QTest.keyClick(measuring.card, Qt.Key.Key_Delete)
    settle(small)
    assert measuring.accept.isEnabled()
    QTest.keyClick(measuring, Qt.Key.Key_Escape)
    assert page.pages.currentWidget() is page.shelf


def test_what_a_card_cannot_measure_is_said_at_once(small: MainWindow, tmp_path: Path) -> None:
    page = opened(small)
    take(page, "Tin Silver")
    QTest.keyClick(page.grid, Qt.Key.Key_M)
    assert "a card cannot measure it" in small.line.words.text()
    assert page.pages.currentWidget() is page.shelf
    page.measure(None)
    page.measuring.write_card(tmp_path / "card.pdf")
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")
    page.measuring.write_card(tmp_path / "nowhere" / "card.pdf")
    assert "cannot be written" in page.measuring.words.text()


def test_an_instruments_file_is_read(small: MainWindow, tmp_path: Path) -> None:
    page = opened(small)
    take(page, "Foxglove Magenta")
    page.measure(page.in_hand)
    measuring = page.measuring
    card = measuring.form.card((), "instrument")
    lies = SimulatedCard(named(small, "Foxglove Magenta"), card)
    samples = [
        dataclasses.replace(of_spectrum(f"{b} {n}", lies.reflectance(b, n)))  # type: ignore[arg-type]
        for b in ("white", "black")
        for n in (0, 1, 2, 4)
    ]
    path = tmp_path / "card.cgats"
    path.write_text(write_cgats("card", "D65", samples))
    measuring.open_measurements(path)
    settle(small)
    assert measuring.result is not None
    assert measuring.result.found is not None
    assert float(measuring.result.found.fit.de.max()) < 1.5
    (tmp_path / "bad.csv").write_text("hello")
    measuring.open_measurements(tmp_path / "bad.csv")
    assert "bad.csv" in measuring.words.text()


def test_the_simulated_meter_leads_through_warming_tile_and_patches(small: MainWindow) -> None:
    page = opened(small)
    take(page, "Kelp Green")
    page.measure(page.in_hand)
    measuring = page.measuring
    now = [0.0]
    measuring.meter._clock = lambda: now[0]
    QTest.mouseClick(measuring.from_meter, Qt.MouseButton.LeftButton)
    assert "warms" in measuring.meter.words.text()
    assert not measuring.meter.tile.isEnabled()
    now[0] = 70.0
    measuring.meter.refresh()
    QTest.mouseClick(measuring.meter.tile, Qt.MouseButton.LeftButton)
    measuring.card.choose(("white", 0))
    for _ in range(8):
        QTest.mouseClick(measuring.meter.press, Qt.MouseButton.LeftButton)
    settle(small)
    assert measuring.result is not None
    assert measuring.result.found is not None
    white, black = measuring.result.found.sure_de
    assert white < 1.5
    assert black < 1.5
    # The hand is learnt only from a paint that was measured before.
    assert not measuring.hand.isEnabled()
    QTest.mouseClick(measuring.accept, Qt.MouseButton.LeftButton)
    settle(small)
    page.measure(page.in_hand)
    settle(small)
    QTest.mouseClick(measuring.hand, Qt.MouseButton.LeftButton)
    assert "times the usual film" in measuring.words.text()
    assert small.keeping.hand[0].tool == "loaded"
    QTest.mouseClick(measuring.forget, Qt.MouseButton.LeftButton)
    assert not small.keeping.hand


def test_racks_are_made_taken_in_and_given_out(small: MainWindow, tmp_path: Path) -> None:
    page = opened(small)
    page.export_to(tmp_path / "mine.json")
    QTest.mouseClick(page.bar.new, Qt.MouseButton.LeftButton)
    settle(small)
    assert small.keeping.rack.name == "My paints"
    assert not small.keeping.rack.paints
    page.import_from(tmp_path / "mine.json")
    settle(small)
    assert small.keeping.rack.name == "Brackwater 2"
    assert len(small.keeping.rack.paints) == 31
    (tmp_path / "bad.json").write_text("{")
    page.import_from(tmp_path / "bad.json")
    assert "bad.json" in small.line.words.text()
    assert small.keeping.rack.name == "Brackwater 2"
    page.bar.racks.setCurrentIndex(page.bar.racks.findData("Brackwater"))
    page.bar.racks.activated.emit(0)
    settle(small)
    assert small.keeping.rack.name == "Brackwater"


def test_new_passages_are_laid_by_the_plans_own_hand(small: MainWindow) -> None:
    hand = (OwnTool("glaze", 1.4, 0.2),)
    small.document.edit(in_hand(small.document.plan, hand), "own hand")
    small.station.passages.add_passage()
    assert [passage.own_hand for passage in small.document.plan.passages] == [hand, hand]
    small.document.undo(2)
    assert [passage.own_hand for passage in small.document.plan.passages] == [()]


def test_passages_and_looks_make_room(small: MainWindow) -> None:
    page = opened(small)
    assert not small.station.passages.isVisible()
    assert page.grid.width() > 800
    QTest.keyClick(page.grid, Qt.Key.Key_Escape)
    assert small.station.passages.isVisible()
    assert small.station.stage.currentWidget() is small.station.view


def test_a_log_that_cannot_be_used_is_told_and_the_demo_rack_serves(
    tmp_path: Path, dressed: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    from conftest import small_plan  # noqa: PLC0415

    folder = tmp_path / "xdg_data_home" / "zesty-veil"
    folder.mkdir(parents=True)
    (folder / "log.sqlite").write_bytes(b"no log " * 400)
    window = MainWindow(small_plan())
    window.show()
    assert window.wait_until_idle()
    assert "damaged or is no log" in window.line.words.text()
    assert len(window.station.rack.paints()) == 31
    page = opened(window)
    take(page, "Kiln Yellow")
    QTest.mouseClick(page.card.statuses["empty"], Qt.MouseButton.LeftButton)
    assert (folder / "log.sqlite").read_bytes().startswith(b"no log ")
    assert QPoint() is not None
    window.document.forget()
    window.close()
