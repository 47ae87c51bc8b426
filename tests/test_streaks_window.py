"""An uneven film is drawn in streaks on the section, and the card says so."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from pytestqt.qtbot import QtBot

from driving import opened
from test_streaks import RACK, passage
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan import edits
from zesty_veil.plan.model import Plan

WHITE = passage("black", "Lime White; water 0.5")


@pytest.fixture
def white(qtbot: QtBot) -> Iterator[MainWindow]:
    yield from opened(qtbot, Plan("a cloak", (WHITE,), tuple(RACK.values())))


def levels(window: MainWindow) -> int:
    """Return how many colours the ribbon of the flat shows one above the other at one place."""
    view = window.section.view
    scene = view.scene
    assert scene is not None
    picture, box = view.grab().toImage(), scene.frame.ribbons[1]
    x, down = round(box.x + 0.8 * box.width), range(round(box.y) + 1, round(box.bottom) - 1)
    return len({picture.pixelColor(x, y).rgb() for y in down})


def test_a_first_coat_of_white_over_black_is_drawn_patchy(white: MainWindow) -> None:
    white.section.view.selected.emit(0)
    white.wait_until_idle()
    assert levels(white) > 3
    assert "patchy" in white.section.card.does.touchy.text()
    even = edits.with_passes(WHITE.coats[0], 4)
    white.document.edit(edits.set_coat(white.document.plan, 0, 0, even), "four passes")
    white.wait_until_idle()
    assert levels(white) == 1
    assert "patchy" not in white.section.card.does.touchy.text()
