"""The plan sheet: a whole PDF of the paper asked for, or a sentence and nothing."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from conftest import small_plan
from recorder import TextPaper
from zesty_veil.bench.air import Air
from zesty_veil.bench.amounts import pots
from zesty_veil.bench.card import HEIGHT_MM, WIDTH_MM, card_marks, greys, patches
from zesty_veil.desktop.kit.paper.flow import PageBlock, Paper, paginated
from zesty_veil.desktop.kit.paper.sheet import draw_sheet, write_sheet
from zesty_veil.desktop.kit.paper.testcard import draw_card, write_card
from zesty_veil.errors import VeilError
from zesty_veil.plan import edits
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Plan
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import axis, predict
from zesty_veil.services.sheet import sheet_of


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


_USUAL = Air()


def drawn(plan: Plan, air: Air = _USUAL) -> tuple[list[str], QImage]:
    """Return the texts of a plan's sheet, and what its first page looks like at 60 dpi."""
    sheet, dpi, pages = sheet_of(plan, air), 60, [QImage()]
    texts: list[str] = []
    like = QImage(10, 10, QImage.Format.Format_RGB32)
    page = TextPaper(round(182 * dpi / 25.4), round(269 * dpi / 25.4), like)
    painter = QPainter(page)
    draw_sheet(Paper(painter, dpi), (182, 269), sheet, lambda: texts.append("next page"))
    painter.end()
    texts += [words for words, _ in page.seen]
    image = QImage(page.width(), 3000, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    draw_sheet(Paper(painter, dpi), (182, 1000), sheet, lambda: pages.append(QImage()))
    painter.end()
    return texts, image


def test_a_sheet_says_everything_in_words(dressed: QApplication) -> None:
    plan = replace(sample("glasswright"), figures=3)
    texts, _ = drawn(plan, Air(humidity=70))
    text = " ".join(texts)
    for words in (
        "3 figures", "70 % humidity", "respirator", "Do not point a brush", "idges only",
        "medium", "For the whole batch", "µl", "black primer, Lime White sprayed from above",
        "Drip each out once", "next page",
    ):  # fmt: skip
        assert words in text, words
    for passage in plan.passages:
        assert passage.name in text
    assert f"1 / {texts.count('next page') + 1}" in text
    calm, _ = drawn(small_plan())
    assert "respirator" not in " ".join(calm)
    odd, _ = drawn(replace(small_plan(), title="A <b>plan & more"))
    assert "A <b>plan & more" in " ".join(odd)


def test_its_steps_are_the_plans(dressed: QApplication) -> None:
    plan = sample("glasswright")
    sheet = sheet_of(plan, Air())
    found = {pot.letter: pot for pot in sheet.pots}
    assert len(found) == len(sheet.pots) == len(pots(plan, plan.rack()))
    for passage, printed in zip(plan.passages, sheet.passages, strict=True):
        coats = (*passage.ground.coats, *passage.coats)
        assert [step.passes for step in printed.steps] == [coat.passes for coat in coats]
        assert printed.strata.shape[0] == len(coats)
        for number, (step, coat) in enumerate(zip(printed.steps, coats, strict=True), 1):
            assert step.number == number
            assert {part.paint for part in coat.mixture.parts} == {
                name for name, _ in found[step.pot].drops
            }
            assert f"{passage.name} " in found[step.pot].serves
            assert ("respirator" in step.caution) == (coat.tool in ("spray", "airbrush"))


def test_its_ribbons_are_what_is_predicted(dressed: QApplication) -> None:
    plan = sample("glasswright")
    passage = plan.passages[0]
    printed = sheet_of(plan, Air()).passages[0]
    rgb = predict(passage, plan.rack(), axis(2), np.array([1.0, 0.0, -1.0])).rgb
    np.testing.assert_allclose(printed.ribbons[:, [0, -1]], np.swapaxes(rgb, 0, 1), atol=1e-6)
    _, image = drawn(replace(plan, passages=(passage,)))
    colours = {image.pixel(x, y) & 0xFFFFFF for x in range(0, 430) for y in range(300, 900)}
    for k, place in ((0, 0), (1, -1)):
        r, g, b = (round(255 * float(v)) for v in printed.ribbons[k, place])
        assert any(
            abs((c >> 16) - r) + abs((c >> 8 & 255) - g) + abs((c & 255) - b) < 24 for c in colours
        )


def test_every_pass_has_its_box_to_tick(dressed: QApplication) -> None:
    plan = small_plan()
    (passage,) = plan.passages
    many = tuple(edits.with_passes(coat, coat.passes + 5) for coat in passage.coats)

    class Counted(Paper):
        boxes = 0

        def box(self, x: float, y: float, width: float, height: float) -> QRectF:
            self.boxes += width == height == 4.2
            return super().box(x, y, width, height)

    for coats in (passage.coats, many):
        image = QImage(430, 640, QImage.Format.Format_RGB32)
        painter = QPainter(image)
        paper = Counted(painter, 60)
        shown = replace(plan, passages=(replace(passage, coats=coats),))
        draw_sheet(paper, (182, 269), sheet_of(shown, Air()), lambda: None)
        painter.end()
        assert paper.boxes == sum(coat.passes for coat in coats)


def test_steps_stay_whole_and_a_head_stays_with_its_first_step() -> None:
    def block(high: float, together: bool = False) -> PageBlock:
        return PageBlock(high, lambda y: None, together)

    pages = paginated([block(50), block(60, True), block(30, True), block(40), block(500)], 200)
    assert [[b.high for _, b in page] for page in pages] == [[50, 60, 30, 40], [500]]
    pages = paginated([block(80), block(60, True), block(30, True), block(40)], 200)
    assert [[b.high for _, b in page] for page in pages] == [[80], [60, 30, 40]]


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
