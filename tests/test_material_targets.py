"""The shipped materials look as such paints do: every target that they were fitted to.

Each says its own source: Pointer (1980) for what real surfaces can be, FOGRA39L for a process ink,
common practice of the trade, or memory. What cannot be met says why, and how far it may be off.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zesty_veil.paint.kinds import USUAL_TOOL
from zesty_veil.paint.rack import demo_rack

TOOLS = Path(__file__).parents[1] / "tools"
sys.path.insert(0, str(TOOLS))
import materials  # noqa: E402
import tune_materials  # noqa: E402

RACK = {paint.name: paint for paint in demo_rack()}
# In tolerances: what the fit leaves over where targets pull both ways, and where one says why.
OVER, OVER_IF_OPEN = 0.3, 1.5
SOURCES = {"from memory", "common practice", "Pointer 1980", "FOGRA39L, measured process ink"}


@pytest.mark.parametrize("target", materials.targets(), ids=lambda t: t.name)
def test_paints_look_as_they_should(target: materials.Target) -> None:
    value = target.measured(RACK)
    assert abs(target.off(value)) <= (OVER_IF_OPEN if target.open else OVER), (
        value,
        target.wanted,
    )


def test_targets_say_where_they_come_from() -> None:
    names = [target.name for target in materials.targets()]
    assert len(set(names)) == len(names)
    for target in materials.targets():
        assert target.source in SOURCES, target.name
        assert target.paints <= RACK.keys(), target.name
        assert target.tolerance > 0
    assert sum(bool(target.open) for target in materials.targets()) <= 8


def plain_pots() -> list[str]:
    clear = {"fluorescent", "metallic", "varnish"}
    return [paint.name for paint in RACK.values() if paint.kind not in clear]


@settings(max_examples=150, deadline=None)
@given(
    st.sampled_from(plain_pots()),
    st.floats(0, 5),
    st.integers(1, 6),
    st.sampled_from(["loaded", "glaze", "airbrush", None]),
    st.sampled_from(["as painted", "satin", "matt"]),
)
def test_no_paint_is_purer_than_any_real_surface(
    pot: str, thinning: float, passes: int, tool: str | None, finish: str
) -> None:
    """Pointer's gamut (1980), with the 5 by which measured process inks lie outside it.

    Neat ink flooded on is deeper than any surface he had, as dyes in photographs are.
    """
    flooded = RACK[pot].kind == "ink" and tool == "loaded"
    words = (
        f"{pot}; water {thinning:.2f}; passes {passes}; tool {tool or USUAL_TOOL[RACK[pot].kind]}"
    )
    stack = (("white", words),)
    one = materials.Target("", "over Pointer", (-100, 5), 1, "", stack, finish=finish)
    assert one.measured(RACK) <= (10.0 if flooded else 5.0)


def test_a_wider_gamut_than_pointers_is_found_out() -> None:
    """Measured by hand: a box of reflectance 0.9 from 500 nm is far purer than a real yellow."""
    nm = np.arange(380, 740, 10)
    assert materials.above_pointer(np.where(nm > 500, 0.9, 0.0)) > 10
    assert materials.above_pointer(np.full(36, 0.5)) < 0


def test_the_fit_is_the_table_that_ships() -> None:
    """Bands stay where their pigments have them, and every pot is one that the fit starts from."""
    start = json.loads(tune_materials.START.read_text("utf-8"))
    now = tune_materials.shipped()
    assert [pot["name"] for pot in now["rack"]] == [pot["name"] for pot in start["rack"]]
    assert tune_materials.rounded(now) == now
    for code, was in start["pigments"].items():
        for one, other in zip(was["absorbs"], now["pigments"][code]["absorbs"], strict=True):
            place = "edge" if "edge" in one else "peak"
            assert abs(one[place] - other[place]) < 20, code
            assert 0.6 < other["width"] / one["width"] < 1.6, code


def test_knobs_move_the_targets_they_are_said_to_move() -> None:
    fit = tune_materials.Fit(tune_materials.shipped())
    x = np.zeros(len(fit.knobs))
    before = fit.residuals(x)[: len(fit.targets)]
    rng = np.random.default_rng(4)
    for k in rng.choice(len(fit.knobs), 4, replace=False):
        turned = x.copy()
        turned[k] = 0.5
        moved = np.flatnonzero(fit.residuals(turned)[: len(fit.targets)] != before)
        assert set(moved) <= set(fit.moves[k])
