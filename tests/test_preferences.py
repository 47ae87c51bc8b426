"""Two themes, the size of type, and how the window stood: kept between starts."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from conftest import small_plan
from driving import closed
from zesty_veil.desktop.kit import theme
from zesty_veil.desktop.kit.ribbons import reading_ink
from zesty_veil.desktop.kit.theme import Shade, level_of, wear
from zesty_veil.desktop.session.preferences import (
    ZOOMS,
    Preferences,
    keep_preferences,
    kept_preferences,
    zoom_fits,
)
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.srgb import decode
from zesty_veil.paths import preferences_path


def contrast(one: int, other: int) -> float:
    """Return the contrast of two greys as WCAG 2.1 defines it (relative luminance plus 0.05)."""
    light, dark = sorted(float(decode(np.array(g / 255.0))) + 0.05 for g in (one, other))[::-1]
    return light / dark


@pytest.mark.parametrize("name", theme.THEMES)
def test_words_read_on_every_tone_they_stand_on(dressed: QApplication, name: str) -> None:
    """At least 4.5:1 for words and 3:1 for the frame of the focus (WCAG 2.1, 1.4.3 and 1.4.11)."""
    wear(dressed, name)  # type: ignore[arg-type]
    try:
        for paper in (theme.WINDOW, theme.PANEL, theme.RAISED, theme.WELL, theme.RAIL):
            for ink in (theme.TEXT, theme.QUIET):
                assert contrast(level_of(ink), level_of(paper)) >= 4.5
            assert contrast(level_of(theme.TEXT), level_of(paper)) >= 3
        assert contrast(level_of(theme.ON_STRONG), level_of(theme.STRONG)) >= 4.5
        for button in (theme.RAISED, theme.PANEL):
            assert contrast(level_of(theme.DISABLED), level_of(button)) >= 2.5
    finally:
        wear(dressed, "day")


def test_both_themes_are_without_colour(small: MainWindow, dressed: QApplication) -> None:
    for name in theme.THEMES:
        wear(dressed, name)
        small.show_preferences()
        image = small.preferences_panel.grab().toImage()
        small.preferences_panel.close()
        image = image.convertToFormat(QImage.Format.Format_RGB888)
        for x in range(0, image.width(), 3):
            for y in range(0, image.height(), 3):
                colour = image.pixelColor(x, y)
                assert colour.red() == colour.green() == colour.blue()
    wear(dressed, "day")


def test_a_theme_is_chosen_and_worn_at_once(small: MainWindow, dressed: QApplication) -> None:
    before = small.rail.grab().toImage().pixelColor(2, small.rail.height() // 2).red()
    small.show_preferences()
    QTest.mouseClick(small.preferences_panel.theme.buttons["night"], Qt.MouseButton.LeftButton)
    small.preferences_panel.close()
    try:
        after = small.rail.grab().toImage().pixelColor(2, small.rail.height() // 2).red()
        assert before == theme.RAIL
        assert after == theme.RAIL.night
        assert small.user_store.writes.wait_until_idle()
        assert kept_preferences().theme == "night"
    finally:
        wear(dressed, "day")


def test_a_tone_is_its_grey_by_day_and_another_by_night(dressed: QApplication) -> None:
    tone = Shade(0xCC, 0x26)
    assert level_of(tone) == 0xCC
    assert level_of(0x80) == 0x80
    wear(dressed, "night")
    try:
        assert level_of(tone) == 0x26
        assert level_of(0x80) == 0x80
    finally:
        wear(dressed, "day")


def test_size_and_station_are_remembered(qtbot: QtBot, dressed: QApplication) -> None:
    window = MainWindow(small_plan(), None, Preferences(width=1300, height=710))
    qtbot.addWidget(window)
    window.show()
    assert (window.width(), window.height()) == (1300, 710)
    window.resize(1444, 777)
    window.router.go("rack")
    window.wait_until_idle()
    window.document.forget()
    closed(window)
    kept = kept_preferences()
    assert (kept.width, kept.height, kept.station) == (1444, 777, "rack")


def test_damaged_preferences_are_those_of_the_first_start() -> None:
    assert kept_preferences() == Preferences()
    keep_preferences(Preferences(theme="night", zoom=140))
    assert kept_preferences() == Preferences(theme="night", zoom=140)
    for bad in (b"{", b'{"zoom": 5}', b'{"theme": "pink"}', b"\xff\xfe"):
        preferences_path().write_bytes(bad)
        assert kept_preferences() == Preferences()
    assert min(ZOOMS) == 80
    assert max(ZOOMS) == 160


def test_sizes_at_which_the_window_would_not_fit_are_not_offered(small: MainWindow) -> None:
    screen = small.screen().availableSize()
    small.show_preferences()
    panel = small.preferences_panel
    for zoom in ZOOMS:
        fits = screen.width() * 100 >= 1160 * zoom and screen.height() * 100 >= 640 * zoom
        assert panel.zoom.buttons[zoom].isEnabled() == (fits or zoom == small.preferences.zoom)
    assert not panel.zoom.buttons[160].isEnabled()  # this screen is a small one
    panel.close()
    # On a wide one all of them are, whatever size it was started with.
    for started in ZOOMS:
        room = (round(2560 * 100 / started), round(1440 * 100 / started))
        assert all(zoom_fits(zoom, started, room) for zoom in ZOOMS)


def test_numbers_read_on_every_colour_they_stand_on() -> None:
    """On the value strip and in cells: 4.5:1 as WCAG 2.2 (1.4.3) has it, on greys and colours."""
    greys = np.repeat(np.linspace(0, 1, 256)[:, None], 3, axis=1)
    for rgb in (*greys, *np.random.default_rng(5).random((500, 3))):
        ink = reading_ink(rgb)
        light = [
            float(decode(np.array(one)) @ [0.2126, 0.7152, 0.0722]) + 0.05
            for one in (rgb, [ink.redF(), ink.greenF(), ink.blueF()])
        ]
        assert max(light) / min(light) >= 4.5, rgb
