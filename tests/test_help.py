"""Help for every page, a term explained where it stands, and one line that finds everything."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QToolTip

from conftest import small_plan
from zesty_veil.desktop.help.station import HelpStation
from zesty_veil.desktop.kit.command import SEPARATOR
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.shell.commands import menus
from zesty_veil.desktop.shell.keysheet import KeySheet
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.tour import Tour
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.services.helptext import (
    PAGES,
    explained,
    glossary,
    help_text,
    search,
    terms_in,
    title_of,
)
from zesty_veil.services.lookup import ranked

LEFT = Qt.MouseButton.LeftButton


def test_every_station_has_its_page_and_every_page_a_picture() -> None:
    assert {station.id for station in STATIONS} - {"help"} <= set(PAGES)
    for page in PAGES:
        text = help_text(page)
        assert text.startswith(f"# {title_of(page)}\n")
        assert page == "glossary" or f"({page}.svg)" in text
        assert len(text) > 250


def test_f1_opens_the_page_of_the_station_and_the_help_is_leafed_through(
    small: MainWindow,
) -> None:
    for station in ("section", "rack", "log"):
        small.router.go(station)
        QTest.keyClick(QApplication.focusWidget() or small, Qt.Key.Key_F1)
        page = small.router.at(HelpStation).view
        assert small.router.page is page
        assert page.shown == station
        assert title_of(station) in page.text.toPlainText()
    QTest.mouseClick(page.before, LEFT)
    assert page.shown == "rack"
    page.leaf(1)
    assert page.shown == "log"
    assert not page.after.isEnabled()
    page.search.setText("feather")
    listed = [page.list.item(i).text() for i in range(page.list.count())]
    assert any(words.startswith("Section") for words in listed)
    page.list.setCurrentRow(0)
    assert page.shown == next(search("feather")).page
    # Its pictures are there: a drawing takes room in the text.
    page.show_page("section")
    assert page.text.document().size().height() > 300
    QTest.keyClick(page.text, Qt.Key.Key_Escape)
    assert small.router.station == station  # where it was opened last
    small.router.show_section()


def test_the_help_is_searched_by_all_words() -> None:
    assert next(hit.page for hit in search("axis")) in {"section", "glossary"}
    assert "glossary" in {hit.page for hit in search("zenithal")}
    assert list(search("zenithal nonsense")) == []
    assert list(search("  ")) == []


def test_terms_are_found_in_the_words_on_screen() -> None:
    assert len(glossary()) >= 50
    assert all(words[0].isalpha() and words.endswith(".") for words in glossary().values())
    assert terms_in("Feathers and passes") == ("feather", "pass")
    assert terms_in("surpass the passenger") == ()
    assert explained("value 9.4").startswith("value: ")
    assert explained("Nothing here") == ""


def test_a_term_is_explained_at_the_pointer(small: MainWindow) -> None:
    label = next(
        one for one in small.findChildren(QLabel) if one.text() == "Primer" and one.isVisible()
    )
    at = label.mapTo(small, label.rect().center())
    event = QHelpEvent(QEvent.Type.ToolTip, at, small.mapToGlobal(at))
    QApplication.sendEvent(small, event)
    assert QToolTip.text() == f"primer: {glossary()['primer']}"
    view = small.section.view
    ribbon = view.scene.frame.ribbons[0]  # type: ignore[union-attr]
    assert "ridge" in view.words_at(QPoint(20, round(ribbon.y + 10)))
    QToolTip.hideText()


def test_find_knows_every_command_term_page_paint_and_passage(small: MainWindow) -> None:
    entries = small.findable.entries()
    titles = {entry.title for entry in entries}
    for commands in menus().values():
        for each in commands:
            if each is not SEPARATOR and each.act is not None:
                assert each.words.rstrip(" …") in titles
    assert set(glossary()) <= titles
    assert {title_of(page) for page in PAGES} <= titles
    assert {passage.name for passage in small.document.plan.passages} <= titles
    assert {paint.name for paint in small.section.rack.paints()} <= titles
    assert ranked(entries, "under another light half")[0].title == "Half under another light"


def test_find_runs_what_is_chosen(small: MainWindow) -> None:
    QTest.keyClick(small.section.view, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    finder = small.finder
    assert finder.isVisible()
    QTest.keyClicks(finder.search, "more pass")
    assert finder.in_hand is not None
    assert finder.in_hand[1] == "One pass more"
    before = small.document.plan.passages[0].coats[-1].passes
    QTest.keyClick(finder.search, Qt.Key.Key_Return)
    assert not finder.isVisible()
    assert small.document.plan.passages[0].coats[-1].passes == before + 1
    small.find_anything()
    QTest.keyClicks(finder.search, "kiln yellow")
    QTest.keyClick(finder.search, Qt.Key.Key_Return)
    assert small.router.station == "rack"
    rack = small.router.at(RackStation).view
    assert rack.jobs.wait_until_idle()
    assert rack.card.name.text() == "Kiln Yellow"
    # A command of the section, from elsewhere: it is done on the section.
    small.find_anything()
    QTest.keyClicks(finder.search, "thin it")
    QTest.keyClick(finder.search, Qt.Key.Key_Return)
    assert small.router.station == "section"
    small.find_anything()
    QTest.keyClicks(finder.search, "qwertz")
    assert finder.in_hand is None
    QTest.keyClick(finder.search, Qt.Key.Key_Escape)
    finder.close()
    small.wait_until_idle()


@pytest.mark.parametrize("station", ["section", "match"])
def test_the_keys_lie_over_the_page_until_any_key(small: MainWindow, station: str) -> None:
    small.router.go(station)
    small.show_keys()
    (sheet,) = small.findChildren(KeySheet)
    words = {label.text() for label in sheet.findChildren(QLabel)}
    assert ("Add a coat" in words) == (station == "section")
    assert ("Lay it" in words) == (station == "match")
    assert small.rect().contains(sheet.geometry())
    QTest.keyClick(sheet, Qt.Key.Key_X)
    assert sheet.isHidden()
    small.wait_until_idle()


def test_the_tour_leads_through_five_stops(small: MainWindow) -> None:
    small.document.replace(small_plan(), None)
    small.show_round()
    (tour,) = small.findChildren(Tour)
    seen = []
    for _ in range(5):
        seen.append(small.router.station)
        assert small.rect().contains(tour.geometry())
        QTest.mouseClick(tour.next, LEFT)
        small.user_store.wait_until_idle()
    assert seen == ["section", "section", "light", "match", "sitting"]
    assert tour.isHidden()
    small.router.show_section()
    assert small.wait_until_idle()
