"""Where a colour is asked for: the panel of what paint comes to, a paint's own, a picture's."""

from __future__ import annotations

import warnings
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it has no plotting here, and says so
    import colour

from driving import settled
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.kit import colourplane
from zesty_veil.desktop.kit.colourfield import ColourField, written_colour
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import lab_of
from zesty_veil.paint.rack import demo_rack
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.reach import Reach, Reaching, reachable

KEY = Qt.Key


def reach_of(*names: str) -> Reach:
    paints = tuple(p for p in demo_rack() if not names or p.name in names)
    (found,) = reachable(Reaching(paints), lambda: True)
    return found


def lab(L: float, C: float, h: float) -> Array:
    return np.array([L, C * np.cos(np.radians(h)), C * np.sin(np.radians(h))])


def test_what_is_picked_from_lies_in_reach_of_real_paint() -> None:
    found = reach_of()
    for own in found.own.values():
        assert bool(found.has(np.array(own)))
    for beyond in (lab(55, 140, 40), lab(90, 60, 300), lab(10, 60, 110)):
        assert not bool(found.has(beyond))
        near = found.nearest(beyond)
        assert bool(found.has(near))
        hue = np.degrees(np.arctan2(near[2], near[1])) % 360
        assert hue == pytest.approx(np.degrees(np.arctan2(beyond[2], beyond[1])) % 360, abs=1)
    inside = lab(50, 20, 200)
    np.testing.assert_allclose(found.nearest(inside), inside)


def test_reach_keeps_within_real_surface_colours() -> None:
    """Against the gamut of real surface colours: Pointer, Color Research & Application 5 (1980).

    It is told under illuminant C; what that moves, and that few pigments were left out there, is
    given 12 of chroma. Fluorescent paint is no surface colour and is left out.
    """
    paints = tuple(p for p in demo_rack() if p.glow is None)
    (found,) = reachable(Reaching(paints), lambda: True)
    table = colour.models.DATA_POINTER_GAMUT_VOLUME.reshape(-1, 3)
    middle = table[(table[:, 0] >= 30) & (table[:, 0] <= 80)]
    assert len(middle) > 300
    reached_C = []
    for L, C, h in middle:
        assert not bool(found.has(lab(L, C + 12, h))), (L, C, h)
        near = found.nearest(lab(L, 150, h))
        reached_C.append(float(np.hypot(near[1], near[2])) / C)
    # A rack of ordinary pigments comes to a good part of what nature has.
    assert 0.5 < float(np.mean(reached_C)) < 1.05


def test_fewer_paints_reach_less_and_none_at_all_are_no_error() -> None:
    all_of_it, one, none = reach_of(), reach_of("Furnace Red"), reach_of("no such paint")
    red, blue = lab(45, 40, 35), lab(40, 30, 270)
    told = [[bool(one.has(lab)) for lab in (red, blue)] for one in (all_of_it, one, none)]
    assert told == [[True, True], [True, False], [False, False]]
    assert np.hypot(*none.nearest(red)[1:]) < 5


def opened(window: MainWindow) -> ColourField:
    window.router.go("match")
    settled(window)
    field = window.router.at(MatchStation).view.wanted.target
    field.opener.trigger()
    assert field.panel.reaches.wait_until_idle()
    assert field.panel.isVisible()
    return field


def test_a_colour_is_picked_by_keys_and_pressed_and_wanted(small: MainWindow) -> None:
    field = opened(small)
    panel, plane = field.panel, field.panel.plane
    panel.show_colour(np.array(parse_colour("strong red")))
    before = panel.words.text()
    for _ in range(30):
        QTest.keyClick(plane, KEY.Key_PageDown)  # 60 degrees back from red: purple or pink
    assert panel.words.text() != before
    QTest.mouseClick(plane, Qt.MouseButton.LeftButton, pos=QPoint(plane.width() - 8, 90))
    # Far out to the right nothing is in reach, so the strongest that is was taken.
    picked = np.array(parse_colour(panel.numbers.text()))
    assert float(reach_of().beyond(picked)) < 1
    assert np.hypot(*picked[1:]) > 20
    count = len(small.document.plan.passages[0].targets)
    QTest.mouseClick(panel.take, Qt.MouseButton.LeftButton)
    assert not panel.isVisible()
    targets = small.document.plan.passages[0].targets
    assert len(targets) == count + 1
    assert min(float(ciede2000(np.array(t.lab), picked)) for t in targets) < 1


def test_only_what_changes_of_the_plane_is_drawn_again(
    small: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn: list[str] = []
    for name in ("_field_image", "_strip_image"):
        real = getattr(colourplane, name)
        monkeypatch.setattr(
            colourplane, name, lambda *given, r=real, n=name: (drawn.append(n), r(*given))[1]
        )
    plane = opened(small).panel.plane
    plane.grab()
    drawn.clear()
    for key, again in ((KEY.Key_Up, []), (KEY.Key_PageUp, ["_field_image"]), (KEY.Key_Left, [])):
        QTest.keyClick(plane, key)
        plane.grab()
        assert drawn == again
        drawn.clear()
    # What nobody sees is not drawn at all.
    plane.hide()
    plane.show_colour(np.array([50.0, 30.0, -30.0]))
    settled(small)
    assert drawn == []


def test_a_paints_own_colour_is_taken(small: MainWindow) -> None:
    field = opened(small)
    menu = field.panel.paints
    menu.fill()
    menu.picker.choose("Furnace Red")
    own = np.array(reach_of().own["Furnace Red"])
    shown = np.array(parse_colour(field.panel.numbers.text()))
    assert float(ciede2000(own, shown)) < 1
    assert "red" in field.panel.words.text()
    field.panel.close()


def test_the_colour_of_a_place_of_a_picture_is_taken(small: MainWindow, tmp_path: Path) -> None:
    image = QImage(200, 100, QImage.Format.Format_RGB888)
    image.fill(0xFF203040)
    for x in range(100, 200):
        for y in range(100):
            image.setPixel(x, y, 0xFFA05030)
    path = tmp_path / "picture.png"
    assert image.save(str(path))
    field = opened(small)
    field.panel.open_photograph(path)
    assert field.panel.photographs.wait_until_idle()
    place = field.panel.place
    assert place.isVisible()
    for x, rgb in ((0.25, (0x20, 0x30, 0x40)), (0.75, (0xA0, 0x50, 0x30))):
        at = QPoint(round(place.width() * x), place.height() // 2)
        QTest.mouseClick(place, Qt.MouseButton.LeftButton, pos=at)
        shown = np.array(parse_colour(field.panel.numbers.text()))
        assert float(ciede2000(lab_of(np.array(rgb) / 255), shown)) < 1
    field.panel.open_photograph(tmp_path / "none.png")
    assert field.panel.photographs.wait_until_idle()
    assert "none.png" in field.panel.words.text()
    field.panel.close()


def test_a_surface_takes_a_colour_from_the_panel(window: MainWindow) -> None:
    window.router.go("light")
    settled(window)
    page = window.router.at(LightStation).view
    field = page.row.own
    field.opener.trigger()
    assert field.panel.reaches.wait_until_idle()
    field.panel.show_colour(np.array([40.0, -20.0, 10.0]))
    QTest.mouseClick(field.panel.take, Qt.MouseButton.LeftButton)
    settled(window)
    own = page.glow.surfaces[page.in_view].own
    assert float(ciede2000(np.array(own), np.array([40.0, -20.0, 10.0]))) < 1
    assert field.text() == written_colour(np.array(own))
