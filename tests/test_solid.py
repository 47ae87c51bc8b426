"""Solid to the eye, cover that can be set, and coloured undercoats."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from zesty_veil.bench.amounts import wet_ul
from zesty_veil.bench.steps import steps
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.log.drawn import DrawdownMix, paint_drawdown
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PLAIN, PRIMERS, primer
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import coat_words, parse_coat
from zesty_veil.plan.edits import usual_coat, with_cover
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.coatsto import coats_to_hide, coats_to_solid
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.solid import judged_over, solid_after


def greys(*levels: float) -> np.ndarray:
    """Return greys of some lightnesses as CIELAB."""
    return np.array([[L, 0.0, 0.0] for L in levels])


def test_solid_is_when_one_pass_more_is_nearly_nothing() -> None:
    assert solid_after(greys(100, 60, 45, 40, 39.2, 39)) == 3
    assert solid_after(greys(100, 60, 45, 40, 36, 33)) is None
    # So little of each pass that no one of them shows, and yet all of it has still to come.
    assert solid_after(greys(100, 99, 98, 97, 96, 95)) is None
    assert solid_after(greys(50, 50, 50)) == 0
    assert solid_after(greys(50)) is None


@pytest.mark.common_practice
def test_solid_to_the_eye_comes_before_the_paints_own_depth(rack: dict[str, Paint]) -> None:
    """White on white is solid at once, opaque paint soon, and a glaze long before its masstone."""
    bare = Passage("x", ground=Ground("white"))
    red = parse_coat("Furnace Red; water 1", rack)
    eye = coats_to_solid(red, bare, rack, ratios=(1.0, 3.0))
    depth = coats_to_hide(red, bare, rack)
    assert eye[0] is not None
    assert eye[1] is not None
    assert eye[0] <= eye[1]
    assert depth[0].passes is None or eye[0] < depth[0].passes
    shown = paint_drawdown(rack["Anchor Rust"], DrawdownMix())
    assert shown.passes_to_solid() in {1, 2}


def test_cover_is_set_said_and_kept(rack: dict[str, Paint]) -> None:
    coat = parse_coat("Lime White; tool sponge; cover 20%", rack)
    assert coat.cover == pytest.approx(0.2)
    assert parse_coat(coat_words(coat), rack) == coat
    plain = replace(coat, cover=None)
    bare = Passage("x", ground=Ground("black"))

    def lightness(one: object) -> float:
        there = replace(bare, coats=(one,))  # type: ignore[arg-type]
        return float(predict(there, rack, axis(1)).lab[0, 1, 0])

    assert lightness(coat) < lightness(plain) < lightness(with_cover(coat, 0.9))
    # A brush covers all, whatever is asked for.
    brushed = replace(coat, tool="loaded")
    assert lightness(brushed) == lightness(replace(brushed, cover=None))
    assert wet_ul(coat, bare) == pytest.approx(wet_ul(plain, bare) * 0.2 / 0.35)
    plan = Plan("x", (replace(bare, coats=(coat,)),), (rack["Lime White"],))
    assert parse(dump(plan)) == plan
    assert "Touch about 20 % of the area" in steps(plan)
    with pytest.raises(InputError, match="share that its passes cover"):
        check_plan(replace(plan, passages=(replace(bare, coats=(replace(coat, cover=1.5),)),)))


def test_the_menu_of_paints_says_when_each_is_solid(small: MainWindow) -> None:
    small.wait_until_idle()
    menu = small.section.head.paints
    menu.fill()
    model = menu.picker.list.model()
    rows = [model.index(row, 0) for row in range(model.rowCount())]
    tips = ((row.data(), row.data(Qt.ItemDataRole.ToolTipRole)) for row in rows)
    words = {name: told for name, told in tips if told}
    assert menu.jobs.wait_until_idle()
    for paint in demo_rack():
        coat = usual_coat(paint)
        (wanted,) = coats_to_solid(
            coat, Passage("p", ground=Ground(judged_over(paint.kind))), {paint.name: paint},
            ratios=(coat.mixture.thinning,),
        )  # fmt: skip
        told = f"solid in {wanted}" in words[paint.name]
        if paint.kind in CLEAR or wanted is None or wanted > 8:
            assert "solid" not in words[paint.name], paint.name
        elif paint.glow is None and paint.flakes is None:
            assert told, (paint.name, wanted, words[paint.name])
        if paint.kind == "opaque":  # common practice: it hides in one coat or two
            assert wanted in (1, 2), paint.name


def test_cover_in_the_window(small: MainWindow) -> None:
    card = small.section.card
    small.section.choose_coat(0)
    assert not card.strokes.cover.isVisible()
    card.tool.setCurrentIndex(card.tool.findData("sponge"))
    card.tool.activated.emit(card.tool.currentIndex())
    assert card.strokes.cover.isVisible()
    assert not card.strokes.stroke.isVisible()
    assert card.strokes.cover.value() == 35
    card.strokes.cover.setValue(60)
    assert small.document.plan.passages[0].coats[0].cover == pytest.approx(0.6)
    small.document.undo()
    assert small.document.plan.passages[0].coats[0].cover is None
    small.wait_until_idle()


def test_undercoats_are_colours_from_a_can(small: MainWindow) -> None:
    assert PRIMERS[:3] == PLAIN
    for name in PRIMERS[3:]:
        assert 0 < primer(name).min() <= primer(name).max() < 1
    panel = small.section.passages
    row = panel.undercoat.findData("brown")
    panel.undercoat.setCurrentIndex(row)
    panel.undercoat.activated.emit(row)
    assert small.document.plan.passages[0].ground.primer == "brown"
    assert not any(button.isChecked() for button in panel.primers.values())
    QTest.mouseClick(panel.primers["white"], Qt.MouseButton.LeftButton)
    assert panel.undercoat.currentIndex() == 0
    assert small.document.plan.passages[0].ground.primer == "white"
    small.wait_until_idle()
