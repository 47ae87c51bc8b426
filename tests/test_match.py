"""Match: what is searched for is found, as well as anything could, and within the limits."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zesty_veil.advise.match.choices import tools_for
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import USUAL_TOOLS, Limits
from zesty_veil.advise.match.pareto import pareto_front
from zesty_veil.advise.match.ramp import Recipe, ramp_ways
from zesty_veil.advise.match.spots import Spot
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab_from_lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import CLEAR, SPECIAL
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Coat, Ground, Passage, Primer
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.lay import ground
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import AS_NEAR_DE00, CLOSE_DE00

FLAT = np.zeros(1)
RACK = {paint.name: paint for paint in demo_rack()}
PAINTS = tuple(paint for paint in demo_rack() if paint.kind not in CLEAR)
PLAIN = tuple(paint for paint in demo_rack() if paint.kind not in SPECIAL)
PRIMERS: tuple[Primer, ...] = ("black", "white", "grey")


def primed(primer: Primer) -> StackOptics:
    return ground(Passage("p", ground=Ground(primer)), RACK, axis(1), FLAT)


def searched(
    primer: Primer,
    target: Array,
    paints: Sequence[Paint] | None = None,
    limits: Limits | None = None,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[tuple[Recipe, ...]]:
    """Yield the ways to one colour on a primer, with the whole rack if no paints are named."""
    some = demo_rack() if paints is None else paints
    spot = Spot(0.5, target, primed(primer))
    return ramp_ways((spot,), some, limits or Limits(), ViewingConditions(), wanted)


def colour(primer: Primer, *coats: Coat) -> Array:
    """Return what coats come to, predicted as everywhere else."""
    passage = Passage("p", ground=Ground(primer), coats=coats)
    return np.asarray(predict(passage, RACK, axis(1), FLAT).lab[0, 0])


def best(primer: Primer, target: Array) -> Recipe:
    """Return the way to a colour that stands first."""
    *_, ways = searched(primer, target)
    return ways[0]


def random_stack(rng: np.random.Generator) -> tuple[Coat, ...]:
    """Return one to four coats of the rack, laid as their kinds are."""
    coats = []
    for _ in range(rng.integers(1, 5)):
        paint = PLAIN[rng.integers(len(PLAIN))]
        tools = tools_for(paint, USUAL_TOOLS)
        mixture = Mixture((Part(paint.name),), "water", float(rng.choice([0, 0.5, 1, 2, 3, 4, 5])))
        coats.append(Coat(mixture, tools[rng.integers(len(tools))], int(rng.integers(1, 5))))
    return tuple(coats)


def test_what_a_stack_comes_to_is_found_again() -> None:
    """The search is told the colour of each of 24 stacks, and nothing of its coats."""
    rng = np.random.default_rng(1976)
    off = []
    for i in range(24):
        primer = PRIMERS[i % 3]
        target = colour(primer, *random_stack(rng))
        way = best(primer, target)
        # What is said of a way is what is predicted for it elsewhere.
        assert way.mean == pytest.approx(
            float(ciede2000(colour(primer, *way.coats), target)), abs=1e-6
        )
        off.append(way.mean)
    assert np.mean(np.array(off) <= CLOSE_DE00) >= 0.95  # so near, the plainest is taken
    assert max(off) <= 3.0


def pigments(way: Recipe) -> list[set[str]]:
    """Return the pigments of each coat, from the ground up."""
    return [
        {code for part in coat.mixture.parts for code in RACK[part.paint].pigments}
        for coat in way.coats
    ]


def colour_of(lightness: float, chroma: float, hue: float) -> Array:
    return np.asarray(lab_from_lch(np.array([lightness, chroma, hue])))


@pytest.mark.common_practice
def test_bright_yellow_on_black_begins_with_white() -> None:
    target = colour("white", Coat(Mixture((Part("Kiln Yellow"),), "water", 1.0), "loaded", 2))
    way = best("black", target)
    assert way.mean < 2.5
    # Something that hides lies first: white, ivory, or a yellow that hides.
    assert RACK[way.coats[0].mixture.parts[0].paint].kind == "opaque"
    assert any("PY74" in codes or "PY42" in codes for codes in pigments(way))


@pytest.mark.common_practice
def test_a_deep_warm_yellow_shadow_needs_no_black() -> None:
    # What magenta and orange under yellow give, not what black in it gives.
    way = best("white", colour_of(58, 68, 68))
    assert way.mean < 2.5
    assert not any(part.paint == "Lamp Black" for c in way.coats for part in c.mixture.parts)


@pytest.mark.common_practice
def test_deep_violet_is_shaded_with_blue() -> None:
    violet = Coat(Mixture((Part("Harbour Violet"),), "water", 1.0), "loaded", 2)
    blue = Coat(Mixture((Part("Midwater Ultramarine"),), "water", 3.0), "glaze", 6)
    way = best("white", colour("white", violet, blue))
    assert way.mean < 2.5
    codes = set().union(*pigments(way))
    assert codes & {"PV23", "PR122"}
    assert codes & {"PB15:3", "PB29"}
    assert "PBk7" not in codes


@pytest.mark.common_practice
def test_a_bright_red_is_laid_over_white_and_has_none_in_it() -> None:
    target = colour("white", Coat(Mixture((Part("Furnace Red"),), "water", 1.0), "loaded", 2))
    way = best("black", target)
    assert way.mean < 2.5
    assert not pigments(way)[-1] & {"PW6"}


SMALL = tuple(p for p in PAINTS if p.kind in {"opaque", "transparent"})[:5]


@settings(max_examples=6)
@given(
    st.integers(1, 3),
    st.integers(1, 8),
    st.one_of(st.none(), st.floats(3, 120)),
    st.integers(0, 2),
    st.sets(st.sampled_from(["loaded", "glaze", "sponge"]), min_size=1),
    st.tuples(st.floats(10, 95), st.floats(0, 80), st.floats(0, 359)),
)
def test_limits_are_never_broken(
    coats: int,
    passes: int,
    minutes: float | None,
    mixes: int,
    tools: set[str],
    lch: tuple[float, float, float],
) -> None:
    limits = Limits(coats, passes, minutes, mixes, tuple(sorted(tools)))
    for ways in searched("grey", colour_of(*lch), SMALL, limits):
        for way in ways:
            assert len(way.coats) <= coats
            assert sum(coat.passes for coat in way.coats) <= passes
            assert minutes is None or way.minutes <= minutes + 1e-9
            pots = {coat.mixture.parts for coat in way.coats}
            assert sum(len(parts) > 1 for parts in pots) <= mixes
            assert all(coat.tool in tools for coat in way.coats)
            names = {part.paint for coat in way.coats for part in coat.mixture.parts}
            assert names <= {paint.name for paint in SMALL}


def test_no_more_pots_are_mixed_than_is_allowed() -> None:
    for lch in ((60, 40, 60), (45, 50, 20), (70, 30, 110)):
        for ways in searched("black", colour_of(*lch), limits=Limits(mixes=1)):
            for way in ways:
                pots = {coat.mixture.parts for coat in way.coats}
                assert sum(len(parts) > 1 for parts in pots) <= 1


@pytest.mark.parametrize("relief", [-1.0, 0.0, 1.0])
def test_a_bank_lays_what_is_predicted_everywhere_else(relief: float) -> None:
    """Every kind of paint and tool, in several passes, at every relief."""
    coats = [
        parse_coat(words, RACK)
        for words in (
            "Lime White; water 0.5; passes 2",
            "Soot Wash; water 1; passes 2",
            "Flood Teal",
            "Signal Orange; water 1; passes 3",
            "Tin Silver; passes 2",
            "Ember Orange; water 1; passes 5; tool sponge",
            "Furnace Red; medium 4; passes 3; tool glaze",
            "Flask Blue; water 7; passes 2; sites ridge flat",
        )
    ]
    bench = MatchContext(primed("grey"), PAINTS, Limits(), ViewingConditions(), relief)
    for pair in itertools.permutations(coats, 2):
        passage = Passage("p", ground=Ground("grey"), coats=pair)
        wanted = predict(passage, RACK, axis(1), np.array([relief])).lab[0, 0]
        ours = colours(bench.on(pair, bench.ground), ViewingConditions())[0][0, 0]
        np.testing.assert_allclose(ours, wanted, atol=1e-8)


def test_every_run_gives_the_same_answer() -> None:
    target = colour_of(55, 45, 40)
    answers = []
    for _ in range(2):
        *_, last = searched("black", target, SMALL, Limits(coats=3))
        answers.append([(way.coats, way.aims) for way in last])
    assert answers[0] == answers[1]


def test_of_the_answers_none_is_worse_in_everything() -> None:
    *_, ways = searched("black", colour_of(60, 40, 60))
    # The plainest of those that are there stands first.
    assert ways[0].off <= max(min(way.off for way in ways) + AS_NEAR_DE00, CLOSE_DE00)
    for one, other in itertools.permutations(ways, 2):
        assert any(a < b for a, b in zip(one.aims, other.aims, strict=True))
    assert len(ways) > 2  # there is something to choose between


def test_worth_choosing_keeps_what_is_best_at_something() -> None:
    def way(*aims: float) -> Recipe:
        return Recipe((), (aims[0],), aims[1], int(aims[2]), aims[3], 0.0)

    good, quick, worse = way(0.5, 60, 1, 2), way(4.0, 10, 0, 2), way(4.0, 70, 1, 2)
    assert pareto_front([worse, quick, good]) == (good, quick)
    assert pareto_front([good, good]) == (good,)
    hopeless = way(9.5, 1, 0, 0)  # so far off that it is no way there, however soon it is done
    assert pareto_front([hopeless, good]) == (good,)
    assert pareto_front([hopeless, quick]) == (quick, hopeless)


def test_thin_passes_stray_less_than_one_that_is_as_strong() -> None:
    made = MatchContext(primed("white"), PAINTS, Limits(), ViewingConditions())

    def strays(thinning: float, passes: int) -> float:
        laid = Coat(Mixture((Part("Furnace Red"),), "water", thinning), "loaded", passes)
        return made.sensitivity((laid,), made.ground)

    assert strays(0, 1) > strays(1, 2) > strays(3, 4) > 0.3
    # A neat coat cannot be stronger, and strays the other way as far as one hardly thinned.
    assert strays(0, 1) == pytest.approx(strays(0.35, 1), rel=0.35)
    assert made.sensitivity((), made.ground) == 0


def test_a_search_that_is_not_wanted_stops_at_once() -> None:
    asked = 0

    def wanted() -> bool:
        nonlocal asked
        asked += 1
        return asked < 3

    answers = list(searched("black", colour_of(60, 40, 60), wanted=wanted))
    # The bare ground, and nothing after that.
    assert {way.coats for ways in answers for way in ways} == {()}
    assert asked < 12


def test_a_fluorescent_is_taken_where_nothing_else_is_as_bright() -> None:
    glow = Coat(Mixture((Part("Signal Orange"),), "water", 0.5), "loaded", 3)
    target = colour("white", glow)
    # The brightest of all others, and some more.
    some = [p for k, p in enumerate(PAINTS) if p.kind == "fluorescent" or k % 4 == 0]
    *_, ways = searched("white", target, [*some, RACK["Lime White"]])
    way = ways[0]
    assert way.mean < 2.5
    kinds = {RACK[part.paint].kind for coat in way.coats for part in coat.mixture.parts}
    assert "fluorescent" in kinds


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"coats": 0}, "from 1 to 10"),
        ({"passes": 0}, "1 or more"),
        ({"minutes": 0.0}, "more than 0"),
        ({"mixes": -1}, "0 or more"),
        ({"tools": ("trowel",)}, "'trowel' is no tool"),
        ({"tools": ()}, "No tool is at hand"),
    ],
)
def test_limits_that_allow_nothing_are_refused(wrong: dict[str, object], words: str) -> None:
    with pytest.raises(InputError, match=words):
        Limits(**wrong)  # type: ignore[arg-type]


def test_paints_without_any_that_can_be_laid_lead_nowhere() -> None:
    poor: tuple[Paint, ...] = tuple(p for p in demo_rack() if p.kind == "varnish")
    assert list(searched("black", colour_of(60, 40, 60), poor)) == []
