"""Words of a file are shown as words: no markup, no pictures, no keys; and numbers are numbers."""

from __future__ import annotations

import ast
import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6 import QtGui
from PySide6.QtCore import QLocale, QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton, QToolButton, QToolTip, QWidget
from pytestqt.qtbot import QtBot

import zesty_veil.desktop
from conftest import small_plan
from driving import opened
from zesty_veil.desktop.kit.numberbox import CountBox, NumberBox
from zesty_veil.desktop.kit.paper.sheet import write_sheet
from zesty_veil.desktop.kit.plain import Label, entry, tip
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.paint.mixture import Part
from zesty_veil.plan import edits
from zesty_veil.plan.model import Plan

HOSTILE = '<img src="file:///dev/zero">&x'


def hostile(markup: str = HOSTILE) -> Plan:
    """A plan whose every name is markup."""
    plan = small_plan()
    paints = tuple(replace(p, name=f"{markup}{i}", maker=markup) for i, p in enumerate(plan.paints))
    (passage,) = plan.passages
    coats = tuple(
        replace(c, mixture=replace(c.mixture, parts=(Part(paints[i % 2].name),)))
        for i, c in enumerate(passage.coats)
    )
    one = replace(passage, name=markup, coats=coats)
    two = replace(passage, name=f"{markup}2", coats=coats, lit_by=markup, surround=markup)
    return replace(plan, title=markup, passages=(one, two), paints=paints)


@pytest.fixture
def window(qtbot: QtBot, dressed: QApplication) -> Iterator[MainWindow]:
    """A window with a hostile plan."""
    yield from opened(qtbot, hostile())


def widgets(window: QWidget) -> list[QWidget]:
    return [window, *window.findChildren(QWidget)]


def markup(words: str) -> bool:
    """Tell whether Qt would read words as markup in which something of the file is a tag."""
    return QtGui.Qt.mightBeRichText(words) and "<img" in words


def test_no_widget_reads_a_name_as_markup(window: MainWindow) -> None:
    window.say(f"{HOSTILE} cannot be written.")
    seen = 0
    for name in ("to rack", "to log", "to guess", "to sitting", "match", "glow", "form"):
        window.menus.actions[name].trigger()
        window.wait_until_idle()
        for widget in widgets(window):
            assert not markup(widget.toolTip()), widget
            if isinstance(widget, QLabel):
                assert widget.textFormat() == Qt.TextFormat.PlainText, widget
                seen += HOSTILE in widget.text()
        page = window.router.currentWidget()
        if hasattr(page, "give_up"):
            page.give_up()
    assert seen > 0
    for menu in (window.menus.recent, window.menus.steps, window.menus.lit_by):
        menu.aboutToShow.emit()
        for action in menu.actions():
            assert not (menu.toolTipsVisible() and markup(action.toolTip()))
            assert "&" not in action.text().replace("&&", "")


def test_a_letter_after_an_ampersand_is_no_key(window: MainWindow) -> None:
    window.document.edit(edits.retitle(window.document.plan, "Salt & Pepper"), "Salt & Pepper")
    assert window.menus.actions["undo"].text() == "Undo Salt && Pepper"
    for button in window.findChildren(QPushButton) + window.findChildren(QToolButton):
        assert "&x" not in button.text().replace("&&", ""), button.text()


def test_only_one_place_makes_labels_and_tips_of_names() -> None:
    """A label made elsewhere would read names as markup again."""
    root = Path(zesty_veil.desktop.__file__).parent
    for path in root.rglob("*.py"):
        if path.name == "plain.py":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                assert node.func.id != "QLabel", path
            if isinstance(node, ast.Import | ast.ImportFrom):
                assert "QMessageBox" not in {a.name for a in node.names}, path


def test_words_are_escaped_only_where_they_must_be(qtbot: QtBot) -> None:
    assert tip("plain words, 3:1") == "plain words, 3:1"
    assert "&lt;b&gt;" in tip("<b>")
    assert entry("a & b") == "a && b"
    label = Label("<b>x</b>")
    qtbot.addWidget(label)
    assert label.text() == "<b>x</b>"
    assert label.textFormat() == Qt.TextFormat.PlainText


@pytest.mark.parametrize("locale", ["C", "en_US", "de_DE", "fr_FR", "sv_SE", "ar_EG"])
def test_point_and_comma_are_the_same_in_every_locale(qtbot: QtBot, locale: str) -> None:
    QLocale.setDefault(QLocale(locale))
    try:
        box, count, whole = NumberBox(), CountBox(), NumberBox()
        whole.setDecimals(0)
        for each in (box, count, whole):
            qtbot.addWidget(each)
            each.setRange(0, 60)
        for typed in ("2,5", "2.5"):
            for each, wanted in ((box, 2.5), (count, 2), (whole, 2)):
                each.setValue(7)
                each.selectAll()
                QTest.keyClicks(each, typed)
                QTest.keyClick(each, Qt.Key.Key_Return)
                assert each.value() == pytest.approx(wanted, abs=0.5 if each is not box else 1e-9)
        assert "," not in box.text()
    finally:
        QLocale.setDefault(QLocale.system())


def test_what_is_typed_is_held_to_limits_and_nonsense_is_not_taken(qtbot: QtBot) -> None:
    box = NumberBox()
    qtbot.addWidget(box)
    box.setRange(1, 50)
    box.setSuffix(" mm")
    box.setValue(7)
    for typed, wanted in (("400", 50.0), ("0", 1.0), ("abc", 50.0), ("-3", 1.0), ("1.2.3", 1.23)):
        box.setValue(50)
        box.selectAll()
        QTest.keyClicks(box, typed)
        QTest.keyClick(box, Qt.Key.Key_Return)
        assert box.value() == pytest.approx(wanted), typed
    box.setRange(0, 50)
    box.setSpecialValueText("not noted")
    box.setValue(0)
    assert box.text() == "not noted"
    box.selectAll()
    QTest.keyClicks(box, "20")
    QTest.keyClick(box, Qt.Key.Key_Return)
    assert box.value() == 20


def was_read(path: Path) -> bool:
    """Tell whether somebody has read a file since it was written, by when it was read last."""
    return path.stat().st_atime_ns > 10**9


def canary(path: Path) -> Path:
    """Make a picture that tells when it is read."""
    image = QImage(8, 8, QImage.Format.Format_RGB888)
    image.fill(0)
    assert image.save(str(path))
    os.utime(path, ns=(10**9, path.stat().st_mtime_ns))
    return path


def test_no_file_is_read_while_a_hostile_plan_is_open(
    qtbot: QtBot, dressed: QApplication, tmp_path: Path
) -> None:
    """Qt opens the pictures that markup names as soon as it is drawn."""
    control, bird = canary(tmp_path / "control.png"), canary(tmp_path / "bird.png")
    control.read_bytes()
    if not was_read(control):
        pytest.skip("this file system does not note when a file was read")
    rich = QLabel(f'<img src="file://{control}">')
    qtbot.addWidget(rich)
    os.utime(control, ns=(10**9, control.stat().st_mtime_ns))
    rich.grab()
    assert was_read(control), "the test could not fail"
    markup = f'<img src="file://{bird}">'
    for window in opened(qtbot, hostile(markup)):
        window.say(markup)
        for name in ("to rack", "to log", "to guess", "to sitting", "match", "glow", "form"):
            window.menus.actions[name].trigger()
            window.wait_until_idle()
            window.grab()
            for widget in widgets(window):
                if widget.isVisible() and widget.toolTip():
                    QToolTip.showText(QPoint(5, 5), widget.toolTip(), widget)
                    QApplication.processEvents()
            page = window.router.currentWidget()
            if hasattr(page, "give_up"):
                page.give_up()
        write_sheet(window.document.plan, tmp_path / "sheet.pdf")
        assert not was_read(bird)
