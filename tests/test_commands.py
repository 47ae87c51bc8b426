"""One table of commands: menus, ticks, tooltips, the lines of pages and the README come from it."""

from __future__ import annotations

import sys
from collections import Counter
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QWidget

from zesty_veil.desktop.kit.command import SEPARATOR
from zesty_veil.desktop.kit.commands import COMMANDS, tooltip
from zesty_veil.desktop.logbook.keys import LOG
from zesty_veil.desktop.match.keys import MATCH
from zesty_veil.desktop.rack.keys import MEASURE, RACK
from zesty_veil.desktop.section.keys import COAT
from zesty_veil.desktop.shell.commands import all_commands, menus, pages
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.keys import SITTING

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tools"))
from keys_table import README, filled

_IN_MENUS = [each for menu in menus().values() for each in menu if each is not SEPARATOR]


_TOGGLES = [each.id for each in _IN_MENUS if each.on is not None]


def test_each_command_stands_in_the_table_once_and_no_key_means_two_things() -> None:
    assert [
        i for i, count in Counter(each.id for each in all_commands()).items() if count > 1
    ] == []
    for commands in (_IN_MENUS, *(keys.commands for keys in pages())):
        keys = Counter(key for each in commands for key in each.keys)
        assert [key for key, count in keys.items() if count > 1] == []


def test_the_window_does_every_command_and_knows_which_toggles_are_on(small: MainWindow) -> None:
    assert set(small.menus.actions) == {each.id for each in _IN_MENUS if not each.submenu}
    assert all(each.act is not None for each in _IN_MENUS if not each.submenu)
    assert sum(each.on is not None for each in _IN_MENUS) >= 21


def test_a_toggle_shows_its_state(small: MainWindow) -> None:
    small.section.looks.keep(small.document.plan)
    small.section.head.glint.setEnabled(True)  # as where there is metal

    def ticked(name: str) -> bool:
        for menu in small.menuBar().actions():
            if menu.menu() is not None:
                menu.menu().aboutToShow.emit()
        return small.menus.actions[name].isChecked()

    for name in _TOGGLES:
        before = ticked(name)
        small.menus.actions[name].trigger()
        kind = f"{name.split(maxsplit=1)[0]} "
        if kind.strip() in {"surround", "observer", "hand"}:  # one of several: the others are off
            assert ticked(name), name
            others = [n for n in _TOGGLES if n.startswith(kind) and n != name]
            assert not any(small.menus.actions[n].isChecked() for n in others), name
        else:
            assert ticked(name) == (not before), name
            if name not in {"split", "step"}:  # those go on to the next, and the next
                small.menus.actions[name].trigger()
                assert ticked(name) == before, name


def test_the_line_of_a_page_is_that_of_the_table(small: MainWindow) -> None:
    for name, keys in (("match", MATCH), ("rack", RACK), ("log", LOG), ("sitting", SITTING)):
        small.menus.actions[f"to {name}"].trigger()
        assert small.line.words.text() == keys.hint()
        small.router.give_up()
    assert MATCH.hint().endswith("P: keep one.  Enter: lay it.  Esc: back.")
    assert COAT.hint().startswith("Up, down: coat in hand.")


def test_keys_mean_what_the_table_says() -> None:
    def key(which: Qt.Key, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> QKeyEvent:
        return QKeyEvent(QKeyEvent.Type.KeyPress, which, held)

    pad, control = Qt.KeyboardModifier.KeypadModifier, Qt.KeyboardModifier.ControlModifier
    assert MATCH.pressed(key(Qt.Key.Key_Enter, pad)) == "lay way"
    assert MEASURE.pressed(key(Qt.Key.Key_Return, control)) == "keep paint"
    assert MEASURE.pressed(key(Qt.Key.Key_Return)) is None
    assert MATCH.pressed(key(Qt.Key.Key_P)) == "keep way"
    assert SITTING.pressed(key(Qt.Key.Key_P)) == "pause"
    assert SITTING.pressed(key(Qt.Key.Key_Q)) is None


def test_tooltips_name_the_key_of_their_command(small: MainWindow) -> None:
    assert tooltip("form") == ("The passage on its form; click to see it large or small again (O)")
    assert MEASURE.tooltip("keep paint", "Keep it").endswith("(Ctrl+Enter)")
    assert small.section.head.add.toolTip() == tooltip("add coat")
    # A key in brackets that no command of the table has is of an older table.
    told = {key.replace("Return", "Enter") for each in all_commands() for key in each.keys}
    for widget in small.findChildren(QWidget):
        words = widget.toolTip()
        if isinstance(widget, QAbstractButton) and words.endswith(")"):
            inside = words.rpartition("(")[2].rstrip(")")
            assert inside in told or " " in inside, words
    QTest.keyClick(small.section.view, Qt.Key.Key_O)
    assert small.router.form_is_big


def test_the_readme_tells_the_keys_that_there_are() -> None:
    text = README.read_text(encoding="utf-8")
    assert filled(text) == text, "run tools/keys_table.py"
    assert "`Ctrl+Shift+N` | Add a passage" in text
    assert COMMANDS["add coat"].keys == ("N",)
