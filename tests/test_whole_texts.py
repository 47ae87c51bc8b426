"""No text is cut off or lies over another, at any size and scale that is offered."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest
from msgspec.structs import replace
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QApplication, QLabel, QPushButton, QVBoxLayout, QWidget

from driving import closed, settled
from recorder import cut_texts, drawn_texts, overlapping_texts
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.plan.samples import sample

SIZES = (1160, 640), (1280, 800), (1366, 768), (1920, 1080)


def faults(window: MainWindow, *sizes: tuple[int, int]) -> list[str]:
    """Return what is wrong with the texts of every station of a window at some sizes."""
    found = []
    for station in STATIONS:
        window.router.go(station.id)
        for size in sizes:
            window.resize(*size)
            settled(window)
            texts = drawn_texts(window)
            assert len(texts) > 20
            wrong = [*cut_texts(texts), *overlapping_texts(texts)]
            found += [f"{size[0]}x{size[1]} {station.id}: {words}" for words in wrong]
    return found


def test_the_recorder_sees_what_is_cut_and_what_lies_over_another(dressed: QApplication) -> None:
    box = QWidget()
    column = QVBoxLayout(box)
    column.addWidget(QLabel("quite whole"))
    box.resize(300, 200)
    box.show()
    assert [text.words for text in drawn_texts(box)] == ["quite whole"]
    assert not list(cut_texts(drawn_texts(box)))
    narrow, over = QPushButton("much too long for it", box), QLabel("over", box)
    narrow.setGeometry(10, 10, 60, 32)
    over.setGeometry(20, 16, 60, 20)
    for widget in (narrow, over):
        widget.setFont(QFont("Inter", 12))
        widget.show()
    texts = drawn_texts(box)
    assert any("too long" in words for words in cut_texts(texts))
    assert any("'over'" in words for words in overlapping_texts(texts))
    box.close()


def test_no_text_is_cut_at_any_size(window: MainWindow) -> None:
    assert faults(window, *SIZES) == []


def test_no_text_of_an_empty_plan_is_cut(qtbot, dressed: QApplication) -> None:  # type: ignore[no-untyped-def]
    window = MainWindow(Plan("New plan", passages=(Passage("new passage"),)))
    qtbot.addWidget(window)
    window.show()
    assert faults(window, SIZES[0]) == []
    window.document.forget()
    closed(window)


def wrong(root: QWidget) -> list[str]:
    texts = drawn_texts(root)
    assert texts
    return [*cut_texts(texts), *overlapping_texts(texts)]


def test_no_text_is_cut_whatever_is_in_hand_or_open(window: MainWindow) -> None:
    window.resize(*SIZES[0])
    section = window.section
    for index, passage in enumerate(window.document.plan.passages):
        section.choose_passage(index)
        for coat in range(len(passage.coats)):
            section.choose_coat(coat)
            settled(window)
            assert not wrong(window), (passage.name, coat)
    section.passages.details.open_beside(section.passages)
    window.preferences_panel.show_preferences(window.preferences)
    window.preferences_panel.open_below(window.rail)
    menu = section.head.paints
    assert isinstance(menu, PaintMenu)
    menu.open_at(window.mapToGlobal(window.rect().topLeft()), window)
    assert menu.jobs.wait_until_idle()
    for opened in (section.passages.details, window.preferences_panel, menu):
        assert not wrong(opened)
        opened.close()
    window.router.go("rack")
    page = window.router.at(RackStation).view
    for kept in window.user_store.rack.paints[::3]:
        page.show_paint(kept.paint.name)
        settled(window)
        assert not wrong(window), kept.paint.name
    page.measure(None)
    settled(window)
    assert not wrong(window)


@pytest.mark.parametrize("scale", ["1.5", "2"])
def test_no_text_is_cut_on_screens_of_finer_pixels(scale: str) -> None:
    # How fine the pixels are is settled when an application starts.
    run = subprocess.run(
        [sys.executable, __file__],
        env={**os.environ, "QT_SCALE_FACTOR": scale, "QT_QPA_PLATFORM": "offscreen"},
        capture_output=True, text=True, timeout=240, check=False,
    )  # fmt: skip
    assert (run.returncode, run.stdout) == (0, "nothing is cut\n"), run.stderr


if __name__ == "__main__":
    from zesty_veil.desktop.kit.theme import dress

    application = QApplication([])
    dress(application)
    # Finding coats takes its time; one passage will do.
    demo = sample("diver")
    shown = MainWindow(replace(demo, passages=demo.passages[-1:]))
    shown.show()
    print("\n".join(faults(shown, SIZES[0])) or "nothing is cut")
    shown.document.forget()
    closed(shown)
