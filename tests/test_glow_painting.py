"""How a painted light is laid: mixtures laid again, ink and varnish over all, specks, warnings.

The ways of painters and every border between fine and not are common practice.
"""

from __future__ import annotations

from dataclasses import replace as changed
from itertools import pairwise

import numpy as np
import pytest
from msgspec.structs import replace

from test_glow import LEATHER, demo, glow_on, lit_plan
from zesty_veil.advise.glow.flame import specks, touches
from zesty_veil.advise.glow.painting import USUAL_LIMITS, School, painted, with_hindrances
from zesty_veil.advise.glow.wanted import Lit, both_lights, lit_colours, second_colours, wanted
from zesty_veil.advise.glow.warnings import after_coats, before_coats
from zesty_veil.advise.match.context import MatchContext, once_each
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import joined_coats
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.remarks import remarks
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lch
from zesty_veil.light.illuminant import white
from zesty_veil.paint.mixture import Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.glow import Surface
from zesty_veil.plan.model import MOST_PASSES, Coat, Ground, Passage, Plan, Target
from zesty_veil.plan.samples import SAMPLES, sample
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.lay import ground
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.targets import missed
from zesty_veil.thresholds import AWAY_VALUE

RACK = {paint.name: paint for paint in demo_rack()}
ORANGE = "Ember Orange; water 4; tool glaze"


def coat(words: str, end: float = 1.0) -> Coat:
    return replace(parse_coat(words, RACK), span=(0.0, end))


def black() -> StackOptics:
    return ground(Passage("p"), RACK, np.zeros(1), np.zeros(1))


@pytest.mark.parametrize("name", SAMPLES)
def test_the_demo_plans_are_painted_by_their_light(name: str) -> None:
    plan = sample(name)
    assert plan.glow is not None
    lit = [p for p in plan.passages if p.lit_by == plan.glow.source]
    assert [p.name for p in lit] == [s.passage for s in plan.glow.surfaces]
    off: list[float] = []
    brightest = []
    for passage in (next(p for p in plan.passages if p.name == plan.glow.source), *lit):
        field = predict(passage, plan.rack(), axis(200), SITE_RELIEF)
        told = missed(passage, field)
        assert told is not None
        off += told.by
        brightest.append(float(field.value.max()))
        # What comes keeps the order of values, and not only what is wanted.
        at = [round(t.place * 199) for t in passage.targets if t.site == "flat"]
        assert all(b <= a + 0.1 for a, b in pairwise(field.value[at, 1])), passage.name
    assert np.median(off) < 3
    assert brightest[0] > max(brightest[1:]) + 0.3


def test_one_mixture_laid_again_counts_as_one_coat() -> None:
    again = Limits(coats=2, passes=24, mixes=1, again=True)
    coats = (coat(ORANGE), coat("Kiln Yellow; water 2", 0.6), coat(ORANGE, 0.3))
    bench = MatchContext(black(), demo_rack(), again, ViewingConditions())
    assert bench.fits(coats)
    assert not MatchContext(
        black(), demo_rack(), changed(again, again=False), ViewingConditions()
    ).fits(coats)
    assert not bench.fits((*coats, coat("Kelp Green; water 2", 0.2)))
    assert once_each(coats) == coats[:2]
    # Another thinning is another pot.
    assert len(once_each((coat(ORANGE), coat("Ember Orange; water 3; tool glaze")))) == 2


def test_coats_that_differ_in_passes_alone_are_one() -> None:
    one, two = replace(coat(ORANGE), passes=2), replace(coat(ORANGE), passes=3)
    assert joined_coats((one, two)) == [replace(one, passes=5)]
    assert joined_coats((one, replace(two, span=(0.0, 0.5)))) == [
        one,
        replace(two, span=(0.0, 0.5)),
    ]
    most = replace(one, passes=MOST_PASSES)
    assert joined_coats((one, most)) == [one, most]


@pytest.mark.common_practice
def test_a_glow_lays_few_mixtures_in_many_passes_further_in() -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[:1])
    *_, done = painted(plan, glow, "inward", demo_rack(), USUAL_LIMITS)
    answer = done[0].answer
    assert answer is not None
    assert answer.mean < 3
    assert max(answer.delta_e) < 5
    *_, few = painted(plan, glow, "inward", demo_rack(), Limits(coats=3))
    assert few[0].answer is not None
    mixtures = {c.mixture for c in few[0].answer.coats}
    assert len(mixtures) <= 3
    assert joined_coats(few[0].answer.coats) == list(few[0].answer.coats)
    shares = [one[-1].share for one in painted(plan, glow, "inward", demo_rack(), USUAL_LIMITS)]
    assert shares == sorted(shares)
    assert shares[-1] == 1


def test_a_ramp_is_found_through_what_lies_over_it() -> None:
    over = (coat("Dusk Violet Ink; medium 5; tool glaze"),)
    base = Passage("p", ground=Ground("white"))
    below = (coat("Kiln Yellow; water 2"), replace(coat("Furnace Red; water 3"), span=(0.5, 1.0)))
    whole = predict(replace(base, coats=(*below, *over)), RACK, np.array([0.1, 0.9]), np.zeros(1))
    targets = tuple(
        Target(place, tuple(float(v) for v in whole.lab[i, 0]))  # type: ignore[arg-type]
        for i, place in enumerate((0.1, 0.9))
    )
    few = tuple(RACK[n] for n in ("Kiln Yellow", "Furnace Red", "Lime White", "Dusk Violet Ink"))
    request = MatchRequest(
        (base,), (), targets, few, Limits(coats=3, mixes=0), ViewingConditions(), over=over
    )
    *_, last = solve(request)
    best = last.ways[0]
    assert best.coats[-1:] == over
    assert best.mean < 1
    # Without it in mind the same search would be far off.
    *_, blind = solve(changed(request, over=()))
    bare = replace(base, coats=(*blind.ways[0].coats, *over))
    seen = predict(bare, RACK, np.array([0.1, 0.9]), np.zeros(1)).lab[:, 0]
    assert float(ciede2000(seen, whole.lab[:, 0]).mean()) > best.mean + 3


@pytest.mark.common_practice
def test_white_under_all_ends_with_an_ink_of_the_glows_own_hue() -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[:1])
    opaque = [RACK[n] for n in ("Lime White", "Anchor Rust", "Lamp Black")]

    def last(ink: str, school: School = "white") -> Coat:
        paints = (*opaque, RACK[ink])
        *_, done = painted(plan, glow, school, paints, Limits(coats=3, mixes=0))
        assert done[0].answer is not None
        return done[0].answer.coats[-1]

    over = last("Ember Orange")
    assert (over.mixture.parts, over.mixture.thinner, over.tool) == (
        (Part("Ember Orange"),),
        "medium",
        "glaze",
    )
    assert (over.span, over.passes) == ((0.0, 1.0), 1)
    # A blue is no ink for an orange glow, and the other schools lay none.
    for other in (last("Flask Blue"), last("Ember Orange", "sketch")):
        assert other.mixture.thinner == "water" or other.span != (0.0, 1.0)


def test_what_is_glossy_ends_with_a_gloss_varnish() -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[2:])
    *_, done = painted(plan, glow, "inward", demo_rack(), USUAL_LIMITS)
    assert done[0].answer is not None
    last = done[0].answer.coats[-1].mixture.parts[0].paint
    assert (RACK[last].kind, RACK[last].finish) == ("varnish", RACK["Gloss Varnish"].finish)
    assert max(done[0].answer.delta_e) < 6


@pytest.mark.common_practice
def test_a_cold_fire_ends_in_light_blue_specks() -> None:
    paints = tuple(
        RACK[n]
        for n in ("Lime White", "Flask Blue", "Ember Orange", "Harbour Violet", "Kiln Yellow")
    )
    plan, glow = demo()
    glow = replace(glow, surfaces=())
    *_, done = painted(plan, glow, "inward", paints, Limits(coats=3, mixes=0), "cold")
    (fire,) = done
    assert fire.answer is not None
    assert len(fire.answer.delta_e) == len(fire.targets)
    assert fire.targets[-1].site == "ridge"
    speck = fire.answer.coats[-1]
    assert speck.sites == ("ridge",)
    assert speck.span[0] > 0.8
    assert {part.paint for part in speck.mixture.parts} == {"Lime White", "Flask Blue"}
    on = fire.on(plan.passages[0])
    ridge = predict(on, RACK, np.ones(1), np.ones(1))
    assert 200 < ridge.lch[0, 0, 2] < 290
    assert ridge.value[0, 0] > predict(on, RACK, np.ones(1), np.zeros(1)).value[0, 0] + 2
    assert specks(on, paints[1:], ViewingConditions()) is None  # without white


@pytest.mark.common_practice
def test_a_fire_is_brightest_in_its_recesses_and_darkest_on_its_ridges() -> None:
    plan = sample("glasswright")
    fire = predict(plan.passages[0], plan.rack(), axis(11), SITE_RELIEF)
    recess, flat, ridge = fire.value.T
    assert (recess[1:4] > flat[1:4] + 0.1).all()
    assert (ridge[4:9] < flat[4:9] - 0.1).all()
    assert (ridge[4:7] < flat[4:7] - 0.5).all()  # further out both are nearly black
    # Flats are what was asked for, touches or not, and no touch is laid where none would help.
    told = missed(plan.passages[0], predict(plan.passages[0], plan.rack(), axis(400), SITE_RELIEF))
    assert told is not None
    assert max(told.by) < 5
    bare = Passage("p", ground=Ground("white"))
    assert touches(bare, (RACK["Kiln Yellow"],), ViewingConditions()) == ()


def test_a_second_light_falls_on_the_far_end_beyond_the_gap() -> None:
    glow = replace(demo()[1], second=(50.0, -20.0, -45.0), gap=0.2)
    surface = Surface("p", (70.0, 0.0, 0.0))
    u = np.array([0.1, 0.3, 0.5, 0.65, 1.0])
    full = np.ones(5)
    seen = both_lights(glow, surface, full, u, 0.4)
    dark = lit_colours(glow, surface, np.zeros(1))[0]
    np.testing.assert_allclose(seen[:2], lit_colours(glow, surface, full[:2]))
    np.testing.assert_allclose(seen[2], dark)  # in the gap, whatever light falls there
    assert dark[1] < seen[3, 1] < seen[4, 1]
    np.testing.assert_allclose(seen[4], second_colours(glow, surface))
    assert 200 < lch(lab(seen[4], white()))[2] < 300
    alone = both_lights(replace(glow, second=None), surface, full, u, 0.4)
    np.testing.assert_allclose(alone, lit_colours(glow, surface, full))


def warned(lits: tuple[Lit, ...], source_value: float = 9.5) -> str:
    return " ".join(one.words for one in before_coats(lits, 0, source_value))


@pytest.mark.common_practice
def test_what_would_go_wrong_is_said_before_any_coat() -> None:
    plan = lit_plan("folds")
    surface = Surface("p0", LEATHER)
    fine = wanted(plan, glow_on(plan, surface, radius_mm=20.0, strength=3.0))
    assert warned(fine) == ""
    assert "has to stay darker" in warned(fine, 3.0)
    bright = wanted(plan, glow_on(plan, replace(surface, own=(90.0, 0.0, 5.0)), ambient=0.6))
    assert bright[0].values[-1] > AWAY_VALUE
    assert f"{AWAY_VALUE:g} or darker a glow reads" in warned(bright)
    strong = wanted(plan, glow_on(plan, replace(surface, own=(90.0, 0.0, 5.0)), strength=9.0))
    assert strong[0].exposure < 0.8
    assert "outshine all paint" in warned(strong)
    faint = wanted(plan, glow_on(plan, surface, strength=0.1))
    assert "a difference of only" in warned(faint)
    two = wanted(plan, glow_on(plan, surface, second=(60.0, 0.0, -40.0), second_strength=0.1))
    assert two[0].gap is not None
    assert "keep two lights apart" in warned(two)


def test_a_ring_beyond_the_rack_says_why() -> None:
    plan = lit_plan("orb")
    surface = Surface("p0", (78.0, -40.0, 50.0), place=(0.0, 0.0, 1.2))
    glow = glow_on(plan, surface, colour=(88.0, -80.0, 80.0), rings=3, radius_mm=20.0)
    few = tuple(RACK[name] for name in ("Lime White", "Anchor Rust", "Lamp Black", "Lure Green"))
    *_, laid = painted(plan, glow, "inward", few, Limits(coats=3))
    assert laid[0].answer is not None
    assert max(laid[0].answer.delta_e) > 10
    assert laid[0].why is None, "nobody waits for reasons"
    *_, done = with_hindrances(plan, laid, "inward", few, Limits(coats=3))
    (one,) = done
    assert one.why is not None
    words = " ".join(w.words for w in after_coats(plan, done, few))
    assert "pure enough" in words
    # A fluorescent paint does not go into a ramp, but is what would help.
    assert one.why.paint is not None
    assert one.why.paint.name == "Lure Green"
    assert "Lure Green would bring it within dE" in words


def test_what_is_dark_because_it_is_wanted_dark_is_no_mistake() -> None:
    laid = (coat("Ember Orange; water 1"),)
    passage = Passage("p", coats=laid)
    plan = edits.hold(Plan("t", (passage,)), RACK["Ember Orange"])

    def kinds(now: Plan) -> set[str]:
        return {remark.kind for remark in remarks(now, 0, demo_rack())}

    assert "dark below" in kinds(plan)
    here = predict(passage, plan.rack(), np.array([0.5]), np.zeros(1)).lab[0, 0]
    L, a, b = (float(v) for v in here)
    assert "dark below" not in kinds(edits.set_target(plan, 0, Target(0.5, (L, a, b))))
    assert "dark below" in kinds(edits.set_target(plan, 0, Target(0.5, (L + 30, a, b))))
