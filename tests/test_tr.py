"""Every text on screen is looked up: a window in an invented language shows nothing of English."""

from __future__ import annotations

import ast
import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QWidget
from pytestqt.qtbot import QtBot

import zesty_veil
from conftest import small_plan
from driving import closed
from zesty_veil.cli.main import run
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.paths import texts_path
from zesty_veil.plan.samples import sample
from zesty_veil.services.starting import DEMOS
from zesty_veil.tr import speak, tr
from zesty_veil.translation import read_texts

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tools"))
from texts import texts

_DESKTOP = Path(zesty_veil.__file__).parent / "desktop"


class _Marked(dict[str, str]):
    """A language in which every text is the English one in marks; it knows what was asked for."""

    def __init__(self) -> None:
        super().__init__()
        self.asked: set[str] = set()

    def __contains__(self, text: object) -> bool:
        return True

    def get(self, text: str, usual: object = None) -> str:  # type: ignore[override]
        self.asked.add(text)
        return f"‹{text}›"


@pytest.fixture
def marked(monkeypatch: pytest.MonkeyPatch) -> _Marked:
    language = _Marked()
    monkeypatch.setattr("zesty_veil.tr._texts", language)
    return language


def _texts(widget: QWidget) -> Iterator[str]:
    yield widget.toolTip()
    yield widget.accessibleName()
    if isinstance(widget, QLabel | QAbstractButton):
        yield widget.text()
    if isinstance(widget, QLineEdit):
        yield widget.placeholderText()


def _english(words: str, own: set[str]) -> bool:
    """Tell whether words are English of the program's, and not a name out of plan or rack."""
    plain = re.sub(r"<[^>]*>", "", words)
    data = plain in own or plain.startswith("Brackwater  ·")  # its maker, kind and pigments
    return bool(re.search(r"[A-Za-z]{3}", plain)) and "‹" not in plain and not data


@pytest.mark.usefixtures("dressed")
def test_no_english_is_left_on_buttons_tips_and_names(qtbot: QtBot, marked: _Marked) -> None:
    window = MainWindow(small_plan())
    qtbot.addWidget(window)
    window.show()
    for station in STATIONS:
        window.router.go(station.id)
        QApplication.processEvents()  # what is painted is looked up when it is painted
        window.user_store.wait_until_idle()
        window.router.give_up()
    assert window.wait_until_idle()
    rack = {paint.name for paint in window.section.rack.paints()}
    plan = window.document.plan
    own = rack | {plan.title, *(p.name for p in plan.passages), "dE", "CIELAB"}
    own |= {sample(name).title for name in DEMOS}
    left = {
        (type(widget).__name__, words)
        for widget in window.findChildren(QWidget)
        if widget.window() is window and not widget.objectName().startswith("qt_")
        for words in _texts(widget)
        if _english(words, own)
    }
    assert not left, "\n".join(f"{k}: {w}" for k, w in sorted(left))
    told = [action.text() for action in window.menus.actions.values()]
    assert all("‹" in words for words in told)
    entries = {
        combo.itemText(i)
        for combo in window.findChildren(QComboBox)
        if not combo.isEditable()
        for i in range(combo.count())
    }
    own |= {"My paints", "Brackwater (demo)", window.user_store.rack.name}
    left_over = sorted(words for words in entries if _english(words, own))
    assert not left_over, left_over
    window.document.forget()
    closed(window)
    # Whoever translates is given every text that the window asked for.
    left = sorted(marked.asked - set(texts()) - {""})
    assert not left, left


def test_literals_given_to_widgets_are_looked_up() -> None:
    """A button made with bare English would stay English."""
    bare = []
    for path in sorted(_DESKTOP.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not isinstance(node, ast.Call):
                continue
            name = node.func.attr if isinstance(node.func, ast.Attribute) else ""
            name = node.func.id if isinstance(node.func, ast.Name) else name
            if name not in {"QPushButton", "Label", "setToolTip", "setText", "setPlaceholderText",
                            "setAccessibleName", "setSpecialValueText"}:  # fmt: skip
                continue
            for given in node.args:
                if isinstance(given, ast.Constant) and isinstance(given.value, str):
                    if re.search(r"[A-Za-z]{2}", given.value):
                        bare.append(f"{path.name}:{node.lineno} {given.value}")
                elif isinstance(given, ast.JoinedStr):
                    parts = [p.value for p in given.values if isinstance(p, ast.Constant)]
                    if re.search(r"[A-Za-z]{3}", "".join(parts)):
                        bare.append(f"{path.name}:{node.lineno} {''.join(parts)}")
    assert bare == []


def test_a_translation_is_read_whole_or_refused_with_a_sentence(tmp_path: Path) -> None:
    path = tmp_path / "words.json"
    path.write_text(json.dumps({"Laid": "Gelegt", "Leave": "", "{0} of {1}": "von {1}: {0}"}))
    try:
        speak(read_texts(path))
        assert tr("Laid") == "Gelegt"
        assert tr("Leave") == "Leave"
        assert tr("{0} of {1}").format(2, 5) == "von 5: 2"
    finally:
        speak({})
    assert tr("Laid") == "Laid"
    for bad, words in (
        ("[1]", "no translation"),
        ('{"{0} min": "{1} Minuten"}', "other values"),
        ('{"{0:.1f} mm": "{0} mm"}', "other values"),
        ('{"{0} min": "{0 Minuten"}', "other values"),
    ):
        path.write_text(bad)
        with pytest.raises(InputError, match=words):
            read_texts(path)


def test_the_painters_own_translation_is_spoken_and_a_bad_one_is_told_of(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    texts_path().parent.mkdir(parents=True, exist_ok=True)
    said = "{0} cannot be read: {1}; check the path."
    texts_path().write_text(json.dumps({said: "Nicht zu lesen: {0}, {1}."}))
    try:
        assert run(["predict", str(tmp_path / "none.veil")]) == 2
        assert "Nicht zu lesen: " in capsys.readouterr().err
        texts_path().write_text("{")
        speak({})
        assert run(["remarks", str(tmp_path / "none.veil")]) == 2
        told = capsys.readouterr().err
        assert "is no translation" in told
        assert "none.veil cannot be read" in told
    finally:
        speak({})
