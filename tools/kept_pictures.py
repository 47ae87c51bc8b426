"""The pictures of Rack, Log and guessing, with an invented card and invented records in them."""

from __future__ import annotations

import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.guess.station import GuessStation
from zesty_veil.desktop.kit.photos import thumbnail
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.record import Conditions, ObservedColour, Record
from zesty_veil.plan.samples import sample

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

import cardphoto
import simulated

# As small as the window goes without giving anything up, so that pages with pictures load soon.
SIZE = (1160, 680)
_NOTES = (
    "", "Glaze pooled in the recess; wicked late.", "First figure of three.",
    "Orange came a shade too dull, one pass more next time.", "", "Thinner blade brush.",
    "Ends pushed twice.", "", "As wished.",
)  # fmt: skip


def shoot_kept(folder: Path) -> None:
    """Draw the Rack, a card being measured, the Log, and a guess."""
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    _rack(window, folder)
    _log(window, folder)
    window.menus.actions["to guess"].trigger()
    guess = window.router.at(GuessStation).view
    guess.ask(5)
    guess.wait_until_idle()
    QTest.keyClick(guess.field, Qt.Key.Key_2)
    _grab(window, folder / "guess.png")
    guess.give_up()
    window.document.forget()
    window.close()


def _grab(window: MainWindow, path: Path) -> None:
    for _ in range(3):
        QApplication.processEvents()
    window.grab().save(str(path))


def _rack(window: MainWindow, folder: Path) -> None:
    window.menus.actions["to rack"].trigger()
    rack = window.router.at(RackStation).view
    rack.bar.thinning.setValue(0.0)
    rack.bar.order.setCurrentIndex(rack.bar.order.findData("hue"))
    rack.refresh()
    rack.wait_until_idle()
    rack.grid.chosen.emit("Ember Orange")
    rack.measure(rack.in_hand)
    measuring = rack.measuring
    measuring.form.thinning.setValue(1.0)
    path = folder / "card.jpg"
    _photograph(path)
    measuring.open_photograph(path)
    measuring.wait_until_idle()
    _grab(window, folder / "measure.png")
    path.unlink()
    measuring.keep()
    window.user_store.wait_until_idle()
    rack.wait_until_idle()
    rack.grid.setFocus()
    assert rack._shown is not None
    rack.grid.show_rack(rack._shown, "Ember Orange")
    _grab(window, folder / "rack.png")
    rack.give_up()


def _photograph(path: Path) -> None:
    """Render a card painted with an orange of adding-doubling, and photograph it askew."""
    rng = np.random.default_rng(4)
    pot = simulated.true_paint(rng, "transparent", {"PO73": 1.0}, 1.0)
    painted = {(b, n): R for b, n, R in simulated.card_of(rng, pot, 1.0, "loaded")}
    shot = cardphoto.Shot(tilt=18, towards=70, roll=-5, fill=0.68)
    pixels = cardphoto.photograph(painted, shot)
    h, w = pixels.shape[:2]
    QImage(pixels.tobytes(), w, h, 3 * w, QImage.Format.Format_RGB888).save(str(path))


def _write(
    user_store: UserStore, record: Record, photo: tuple[str, bytes] | None, small: bytes | None
) -> None:
    user_store.do(lambda desk: desk.book.add(record, photo, small))


def _log(window: MainWindow, folder: Path) -> None:
    """Write records as if the paints were a little otherwise, and the painter learnt from them."""
    plan, rng = window.document.plan, np.random.default_rng(3)
    form = window.section.passages.form_view.grab().toImage()
    form = form.convertToFormat(QImage.Format.Format_RGB888)
    kept = folder / "form.png"
    form.save(str(kept))
    now = datetime.now(UTC)
    for i, words in enumerate(_NOTES):
        seen = []
        for passage in plan.passages[:3]:
            said = predicted_at(plan, passage.name, 0.4, "flat", len(passage.coats))
            came = said + rng.normal(0, 3 - 0.25 * i, 3) + np.array([-3.0, 0.0, -2.0]) * (i < 5)
            came = np.clip(came, (0, -99, -99), (100, 99, 99))
            L, a, b = (float(v) for v in came)
            R, c, d = (float(v) for v in said)
            coats = len(passage.coats)
            seen.append(ObservedColour(passage.name, 0.4, "flat", coats, (L, a, b), (R, c, d)))
        when = (now - timedelta(days=40 - 4 * i)).isoformat(timespec="seconds")
        record = Record(when, plan, "", tuple(seen), words, 240.0 - 5 * i, Conditions(21.0, 0.45))
        photo = (".png", kept.read_bytes()) if i % 2 == 0 else None
        _write(window.user_store, record, photo, thumbnail(form) if photo else None)
    window.user_store.wait_until_idle()
    kept.unlink()
    window.user_store.learn()
    window.user_store.wait_until_idle()
    window.menus.actions["to log"].trigger()
    log = window.router.at(LogStation).view
    log.wait_until_idle()
    QApplication.processEvents()  # what is now to be drawn asks for its lines
    log.wait_until_idle()
    _grab(window, folder / "log.png")
    log.give_up()
