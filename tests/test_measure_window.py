"""Paints measured in the window: a photographed card, typed colours, a file, the meter."""

from __future__ import annotations

import dataclasses
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

import cardphoto as camera
from racking import named, opened, settle, take
from simulated import card_of, true_paint
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.spectra import of_spectrum
from zesty_veil.log.drawn import DrawdownMix, paint_drawdown
from zesty_veil.log.meter import SimulatedMeter
from zesty_veil.log.simulated import SimulatedCard
from zesty_veil.paint.rack import demo_rack


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
    red = paint_drawdown(next(p for p in demo_rack() if p.name == "Furnace Red"), DrawdownMix()).lab
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
    passage = small.section.editor.passage
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
    measuring.meter._make = lambda: SimulatedMeter(lambda: now[0])
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
    assert white < 2.5  # so strong a green hides much of it in one pass
    assert black < 1.5
    # The hand is learnt only from a paint that was measured before.
    assert not measuring.hand.isEnabled()
    QTest.mouseClick(measuring.accept, Qt.MouseButton.LeftButton)
    settle(small)
    page.measure(page.in_hand)
    settle(small)
    QTest.mouseClick(measuring.hand, Qt.MouseButton.LeftButton)
    settle(small)
    assert "times the usual film" in measuring.words.text()
    assert small.user_store.hand[0].tool == "loaded"
    QTest.mouseClick(measuring.forget, Qt.MouseButton.LeftButton)
    settle(small)
    assert not small.user_store.hand
