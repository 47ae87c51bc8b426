"""A colour straight on what is there, against white first: both are done; each has its cost.

That yellow over black stays dull through many coats, and is clean in one or two over white, and
that a red wants white below it, are common practice.
"""

from __future__ import annotations

import numpy as np
import pytest

from test_cli import answer, run
from zesty_veil.advise.direct import both_routes
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Ground, Passage, Primer
from zesty_veil.predict.coatsto import LOOKED_AT, coats_to, coats_to_solid
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import DAYLIGHT

RACK = {paint.name: paint for paint in demo_rack()}
FLAT = np.zeros(1)


def on(primer: Primer) -> Passage:
    return Passage("p", ground=Ground(primer))


@pytest.mark.common_practice
@pytest.mark.parametrize("paint", ["Kiln Yellow", "Ember Orange", "Furnace Red"])
def test_clear_warm_paints_on_black_pay_for_white_first(paint: str) -> None:
    coat = parse_coat(f"{paint}; water 0.5", RACK)
    both = both_routes(coat, on("black"), RACK, demo_rack(), DAYLIGHT)
    assert both.white is not None
    assert both.white_pays
    assert both.white.off < 2
    assert both.direct.off > both.white.off + 2
    assert both.white.passes <= 7
    assert both.white.coats[0].mixture.parts[0].paint == "Lime White"
    assert any("shows through" in each.words for each in both.obstacles)


@pytest.mark.common_practice
def test_on_white_nothing_stands_in_the_way() -> None:
    both = both_routes(parse_coat("Kiln Yellow", RACK), on("white"), RACK, demo_rack(), DAYLIGHT)
    assert both.direct.off < 1
    assert both.direct.passes <= 4
    assert both.obstacles == ()
    assert not both.white_pays


def test_what_is_told_of_a_route_is_what_is_predicted_for_it() -> None:
    coat = parse_coat("Kiln Yellow; water 1", RACK)
    both = both_routes(coat, on("grey"), RACK, demo_rack(), DAYLIGHT)
    for route in (both.direct, both.white):
        assert route is not None
        passage = Passage("p", ground=Ground("grey"), coats=route.coats)
        seen = predict(passage, RACK, axis(1), FLAT).lab[0, 0]
        # Passes laid one by one keep their own ridges, which a coat of many evens out.
        np.testing.assert_allclose(seen, route.lab, atol=0.5)
        assert route.off == pytest.approx(float(ciede2000(seen, both.wanted)), abs=0.3)
        assert route.minutes == pytest.approx(sum(whole(c, passage) for c in route.coats))
        assert route.passes == sum(c.passes for c in route.coats)


def test_without_white_in_the_rack_only_one_way_is_told() -> None:
    few = tuple(p for p in demo_rack() if "PW6" not in p.pigments)
    coat = parse_coat("Kiln Yellow", RACK)
    both = both_routes(coat, on("black"), RACK, few, DAYLIGHT)
    assert both.white is None
    assert not both.white_pays


def test_what_comes_after_three_six_and_twelve_passes_is_told() -> None:
    coat, passage = parse_coat("Kiln Yellow", RACK), on("black")
    wanted = np.array([86.0, 6.0, 90.0])
    (way,) = coats_to(wanted, coat, passage, RACK, ratios=(3.0,))
    assert len(way.after) == len(LOOKED_AT)
    for count, off in zip(LOOKED_AT, way.after, strict=True):
        laid = Passage(
            "p",
            ground=Ground("black"),
            coats=(parse_coat(f"Kiln Yellow; water 3; passes {count}", RACK),),
        )
        seen = predict(laid, RACK, axis(1), FLAT).lab[0, 0]
        assert off == pytest.approx(float(ciede2000(seen, wanted)), abs=0.3)


def test_both_figures_are_told(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("coats-to", "--ground", "black", "--using", "Kiln Yellow")
    text = run(capsys, *words)
    (eye,) = coats_to_solid(parse_coat("Kiln Yellow", RACK), on("black"), RACK, ratios=(1.0,))
    assert f"1:1  solid to the eye in {eye}; its own depth in" in text
    assert "Straight on it:" in text
    assert "What stands in the way:" in text
    assert "What would do it: white first:" in text
    assert "never" not in text
    told = answer(capsys, *words, "--json")
    assert told["white_pays"] is True
    assert told["direct"]["minutes"] > 0
    assert told["white_first"]["passes"] < 12
    rescue = run(
        capsys, "match", "--on", "20,0,0", "--target", "86,6,82", "--rescue", "--max-coats", "3"
    )
    going, covering = (next(x for x in rescue.splitlines() if x.startswith(w))
                       for w in ("Going on", "Covering first"))  # fmt: skip
    # No film makes a near-black yellow.
    assert going == "Going on: nothing comes near that doesn't hide what is there."
    assert "passes" in covering
    assert "min" in covering
