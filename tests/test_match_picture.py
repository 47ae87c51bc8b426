"""Targets from a reference picture: read against its white, by a line drawn in the real window."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from driving import drag
from test_match_window import opened_match
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.picture import WHITE_PAINT, read_along
from zesty_veil.light.srgb import decode, encode, lab_of, parsed
from zesty_veil.plan import edits

BANDS = ("#ffd020", "#ff8a1e", "#b02020")


def strips(tint: tuple[float, float, float] = (1.0, 1.0, 1.0)) -> np.ndarray:
    """Return a picture of a white strip and three colours below each other, under a light."""
    rows = [np.full(3, WHITE_PAINT), *(decode(parsed(words)) for words in BANDS)]
    linear = np.repeat(np.array(rows)[:, None], 100, axis=1) * np.array(tint)
    return np.repeat((encode(linear) * 255 + 0.5).astype(np.uint8), 40, axis=0)


def test_a_line_over_a_picture_becomes_a_fire(small: MainWindow, reference: Path) -> None:
    match = opened_match(small)
    match.taking.show(reference)
    assert match.taking.jobs.wait_until_idle()
    QTest.mouseClick(match.wanted.keep, Qt.MouseButton.LeftButton)
    assert "Draw a line first" in match.words.text()
    picture = match.picture
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=picture.point((0.5, 0.15)).toPoint())
    match.wanted.count.setValue(3)
    start, end = picture.point((1 / 6, 0.65)).toPoint(), picture.point((5 / 6, 0.65)).toPoint()
    drag(picture, start, end)
    QTest.mouseClick(match.wanted.keep, Qt.MouseButton.LeftButton)
    assert "Kept as own fire 1" in match.words.text()
    (own,) = small.document.plan.fires
    wanted = lab_of(np.array([parsed(words) for words in BANDS]))
    assert float(ciede2000(np.array(own.colours), wanted).max()) < 4
    match.give_up()
    # A light can be painted by it.
    plan = edits.copy_passage(small.document.plan, 0)
    small.document.edit(edits.lit_by(plan, 0, plan.passages[1].name), "lit")
    small.router.go("light")
    glow = small.router.at(LightStation).view
    assert glow.flame.findData("own fire 1") > 0
    glow.give_up()
    small.wait_until_idle()


def test_colours_are_read_against_white_under_whatever_light() -> None:
    wanted = lab_of(np.array([parsed(words) for words in BANDS]))
    for tint in ((1.0, 1.0, 1.0), (0.9, 0.65, 0.4), (0.4, 0.4, 0.4)):
        found = read_along(strips(tint), (0.5, 0.375), (0.5, 0.875), 3, (0.5, 0.125))
        assert float(ciede2000(found, wanted).max()) < 1.5, tint
    plain = read_along(strips(), (0.5, 0.375), (0.5, 0.875), 3, None)
    assert float(ciede2000(plain, wanted).max()) < 0.6
    one = read_along(strips(), (0.5, 0.0), (0.5, 1.0), 1, None)
    assert one.shape == (1, 3)


def test_black_is_no_white() -> None:
    dark = np.zeros((20, 20, 3), dtype=np.uint8)
    with pytest.raises(InputError, match="nearly black"):
        read_along(dark, (0, 0), (1, 1), 3, (0.5, 0.5))


@pytest.fixture
def reference(tmp_path: Path) -> Path:
    """A picture with a white spot at its top and three colours from left to right, as a JPEG."""
    image = QImage(300, 200, QImage.Format.Format_RGB32)
    image.fill(QColor("#808080"))
    painter = QPainter(image)
    painter.fillRect(120, 10, 60, 40, QColor("#f3f3f3"))
    for i, words in enumerate(BANDS):
        painter.fillRect(100 * i, 80, 100, 100, QColor(words))
    painter.end()
    path = tmp_path / "flame.jpg"
    assert image.save(str(path), "JPG", 95)
    return path


def test_a_line_over_a_picture_becomes_targets(
    small: MainWindow, reference: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = small.document.plan
    match = opened_match(small)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(reference), ""))
    QTest.mouseClick(match.wanted.open_picture, Qt.MouseButton.LeftButton)
    assert match.taking.jobs.wait_until_idle()
    picture = match.picture
    assert picture.isVisible()
    assert "Click what is white" in match.words.text()
    QTest.mouseClick(match.wanted.take, Qt.MouseButton.LeftButton)
    assert "Draw a line first" in match.words.text()
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=picture.point((0.5, 0.15)).toPoint())
    assert picture.white == pytest.approx((0.5, 0.15), abs=0.01)
    match.wanted.count.setValue(3)
    start, end = picture.point((1 / 6, 0.65)).toPoint(), picture.point((5 / 6, 0.65)).toPoint()
    drag(picture, start, end)
    assert "takes 3 colours" in match.words.text()
    QTest.mouseClick(match.wanted.take, Qt.MouseButton.LeftButton)
    assert not picture.isVisible()
    targets = small.document.plan.passages[0].targets
    assert [t.place for t in targets] == [0, 0.5, 1]
    wanted = lab_of(np.array([parsed(words) for words in BANDS]))
    assert float(ciede2000(np.array([t.lab for t in targets]), wanted).max()) < 4
    match.limits.coats.setValue(3)
    assert match.wait_until_idle()
    assert match.list.ways[0].mean < 6
    QTest.keyClick(match.list, Qt.Key.Key_Return)
    assert small.document.plan.passages[0].coats == match.list.ways[0].coats
    small.document.undo()
    small.document.undo()
    assert small.document.plan == before
    small.wait_until_idle()


def test_the_line_is_drawn_by_keys_too(small: MainWindow, reference: Path) -> None:
    match = opened_match(small)
    match.taking.show(reference)
    assert match.taking.jobs.wait_until_idle()
    picture = match.picture
    QTest.keyClick(picture, Qt.Key.Key_Up)
    assert picture.start == (0.25, 0.48)
    QTest.keyClick(picture, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert picture.end == (0.77, 0.5)
    QTest.keyClick(picture, Qt.Key.Key_B)
    assert picture.white == (0.25, 0.48)
    assert small.section.editor.passage is not None
    match.give_up()
    small.wait_until_idle()


def test_what_is_no_picture_says_so(small: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "not.png"
    path.write_bytes(b"\x89PNG\r\n" + bytes(50))
    match = opened_match(small)
    match.taking.show(path)
    assert match.taking.jobs.wait_until_idle()
    assert "not.png is no picture" in match.words.text()
    assert not match.picture.isVisible()
    match.give_up()
    small.wait_until_idle()
