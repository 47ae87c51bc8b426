"""The plan sheet: a whole PDF of the paper asked for, or a sentence and nothing."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from conftest import small_plan
from zesty_veil.bench.air import Air
from zesty_veil.bench.card import HEIGHT_MM, WIDTH_MM, card_marks, greys, patches
from zesty_veil.desktop.kit.paper.sheet import sheet_html, sheet_ribbons, write_sheet
from zesty_veil.desktop.kit.paper.testcard import draw_card, write_card
from zesty_veil.errors import VeilError
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import axis, predict


@pytest.mark.parametrize(("paper", "points"), [("A4", (595, 842)), ("Letter", (612, 792))])
def test_a_sheet_is_a_pdf_of_its_paper(
    dressed: QApplication, tmp_path: Path, paper: str, points: tuple[int, int]
) -> None:
    path = tmp_path / "sheet.pdf"
    pages = write_sheet(sample("glasswright"), path, paper)
    raw = path.read_bytes()
    assert raw.startswith(b"%PDF-")
    assert raw.rstrip().endswith(b"%%EOF")
    assert len(re.findall(rb"/Type\s*/Page\b", raw)) == pages >= 2
    found = re.search(rb"/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)", raw)
    assert found is not None
    assert [float(n) for n in found.groups()] == pytest.approx(points, abs=1)
    assert [p.name for p in tmp_path.iterdir()] == ["sheet.pdf"]


def test_a_sheet_says_everything_in_words() -> None:
    plan = replace(sample("glasswright"), figures=3)
    text = sheet_html(plan, Air(humidity=70))
    for passage in plan.passages:
        assert passage.name in text
    for words in (
        "3 figures", "70 % humidity", "respirator", "Do not point a brush", "only the ridges",
        "medium", "For the whole batch", "µl", "black primer, Lime White sprayed from above",
    ):  # fmt: skip
        assert words in text, words
    boxes = sum(c.passes for p in plan.passages for c in (*p.ground.coats, *p.coats))
    assert text.count("☐") == boxes
    calm = small_plan()
    assert "respirator" not in sheet_html(calm, Air())
    odd = replace(calm, title="A <b>plan & more")
    assert "A &lt;b&gt;plan &amp; more" in sheet_html(odd, Air())


def test_its_ribbons_are_what_is_predicted(dressed: QApplication) -> None:
    plan = sample("glasswright")
    passage = plan.passages[0]
    image = sheet_ribbons(plan, passage)
    rgb = predict(passage, plan.rack(), axis(2), np.array([1.0, 0.0, -1.0])).rgb
    for k, y in enumerate((10, 50, 90)):
        for place, x in ((0, 2), (1, image.width() - 3)):
            pixel = image.pixelColor(x, y)
            seen = np.array([pixel.red(), pixel.green(), pixel.blue()]) / 255
            assert np.abs(seen - rgb[place, k]).max() < 0.03


def test_what_cannot_be_written_gets_a_sentence(dressed: QApplication, tmp_path: Path) -> None:
    with pytest.raises(VeilError, match="cannot be written"):
        write_sheet(small_plan(), tmp_path / "no" / "sheet.pdf")
    with pytest.raises(VeilError, match="no paper 'A3'"):
        write_sheet(small_plan(), tmp_path / "sheet.pdf", "A3")
    assert list(tmp_path.iterdir()) == []


def test_a_sheet_from_the_command_line(tmp_path: Path) -> None:
    save(small_plan(), tmp_path / "small.veil")
    words = [sys.executable, "-m", "zesty_veil", "sheet", "small.veil", "-o", "small.pdf"]
    done = subprocess.run(words, cwd=tmp_path, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    assert done.stdout == "Wrote small.pdf, 1 page\n"
    assert (tmp_path / "small.pdf").read_bytes().startswith(b"%PDF-")


def test_the_card_is_drawn_where_it_says(dressed: QApplication, tmp_path: Path) -> None:
    image = QImage(1200, 1000, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.scale(6, 6)
    draw_card(painter)
    painter.end()
    for area in (*card_marks()[:1], *greys(), *patches()):
        x, y = 6 * (area.x + area.width / 2), 6 * (area.y + area.height / 2)
        assert image.pixelColor(round(x), round(y)).red() == area.grey, area
        assert area.x + area.width <= WIDTH_MM
        assert area.y + area.height <= HEIGHT_MM
    # Only the first mark is solid, so that nobody reads it upside down.
    holes = [area for area in card_marks() if area.name.startswith("hole")]
    assert len(holes) == 3
    # Nothing that is painted on or read lies over something else.
    parts = [*card_marks(), *greys(), *patches()]
    for i, one in enumerate(parts):
        for other in parts[i + 1 :]:
            if "hole" in other.name and "mark" in one.name:
                continue
            apart = (
                one.x + one.width <= other.x + 1e-9 or other.x + other.width <= one.x + 1e-9
                or one.y + one.height <= other.y + 1e-9 or other.y + other.height <= one.y + 1e-9
            )  # fmt: skip
            assert apart, (one, other)
    path = tmp_path / "card.pdf"
    write_card(path, "Letter")
    assert path.read_bytes().startswith(b"%PDF-")
    with pytest.raises(VeilError, match="no paper"):
        write_card(path, "A3")
    with pytest.raises(VeilError, match="cannot be written"):
        write_card(tmp_path / "no" / "card.pdf")
