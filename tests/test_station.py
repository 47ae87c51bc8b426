"""A station says of itself all that the window needs: its entry in the list is the only one."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from functools import cached_property
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from conftest import opened, small_plan
from driving import drop, go, settled
from zesty_veil.desktop.kit.command import Command, Keys
from zesty_veil.desktop.kit.icons import icon
from zesty_veil.desktop.kit.page import Page
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.kit.theme import SURROUNDS, Surround
from zesty_veil.desktop.shell import commands, rail, stationrouter
from zesty_veil.desktop.shell.stations import STATIONS, read_ahead
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.plan import edits

TOY = Keys("toy", Command("play", "Play", ("Y",), "play"))


class ToyPage(Page):
    keys = TOY
    surround: Surround | None = None

    def set_surround(self, surround: Surround) -> None:
        self.surround = surround


class ToyStation(Station):
    id, words, key = "toy", "Toy", "F11"
    keys = (TOY,)
    drops = frozenset({".toy"})
    taken: Path | None = None

    @cached_property
    def view(self) -> ToyPage:
        page = ToyPage()
        self.add(page)
        return page

    def page(self) -> Page:
        if self.context.document.plan.title == "no toys":
            raise InputError("This plan is not for play.")
        return self.view

    def drop(self, path: Path) -> None:
        self.taken = path


@pytest.fixture
def toys(
    monkeypatch: pytest.MonkeyPatch, qtbot: QtBot, dressed: QApplication
) -> Iterator[MainWindow]:
    """A window that has one station more."""
    for module in (commands, rail, stationrouter):
        monkeypatch.setattr(module, "STATIONS", (*STATIONS, ToyStation))
    monkeypatch.setattr(rail, "icon", lambda name, side: icon("guess", side))
    yield from opened(qtbot, small_plan())


def test_one_entry_gives_a_station_rail_menu_key_line_and_files(
    toys: MainWindow, tmp_path: Path
) -> None:
    router = toys.router
    toys.section.set_surround("dark")
    go(toys, "toy")
    assert router.station == "toy"
    assert router.page is router.at(ToyStation).view
    # Made only now, it lies in the grey that was chosen before.
    assert router.at(ToyStation).view.surround is SURROUNDS["dark"]
    assert toys.line.words.text() == "Y: play."
    assert toys.rail.tabs.marked == "toy"
    tabs = toys.rail.tabs
    assert tabs.tabToolTip(tabs.ids.index("toy")) == "Toy (F11)"
    router.show_section()
    QTest.keyClick(toys.section.view, Qt.Key.Key_F11)
    assert router.station == "toy"
    assert "to toy" in toys.menus.actions
    assert [each.id for each in commands.all_commands()].count("play") == 1
    router.show_section()
    assert drop(toys, tmp_path / "a.TOY")
    assert router.at(ToyStation).taken == tmp_path / "a.TOY"
    assert router.station == "toy"


def test_what_stations_say_they_read_is_all_that_their_pages_need(toys: MainWindow) -> None:
    read_ahead()
    before = {name for name in sys.modules if name.startswith("zesty_veil")}
    for kind in STATIONS:
        toys.router.go(kind.id)
        settled(toys)
    assert {name for name in sys.modules if name.startswith("zesty_veil")} == before
    toys.router.give_up()


def test_a_station_that_has_nothing_to_show_says_so_and_stays_away(toys: MainWindow) -> None:
    toys.document.edit(edits.retitle(toys.document.plan, "no toys"), "title")
    go(toys, "toy")
    assert toys.router.station == "section"
    assert toys.rail.tabs.marked != "toy"
    assert toys.line.words.text() == "This plan is not for play."
