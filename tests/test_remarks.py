"""Remarks: for each kind a plan that raises it and a twin that does not; the remedy removes it.

Every figure here is common practice: a fact of the trade without a published source.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).parents[1] / "tools"))

import randomplans
from zesty_veil.advise.remark import Remark, RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.advise.remedies import white_needed
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import coat_words, parse_coat
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import HIDDEN_DE00, OUTSHONE_VALUES, TIPS_SHARE

pytestmark = pytest.mark.common_practice

RACK = {paint.name: paint for paint in demo_rack()}
Reached = tuple[float, float, float, float]  # span, then feathers


def plan_of(primer: Primer, *coats: tuple[str, Reached] | str, length: float = 20.0) -> Plan:
    """Return a plan of one passage; a coat is words, or words with span and feathers."""
    laid: list[Coat] = []
    for each in coats:
        words, reached = (each, (0.0, 1.0, 0.0, 0.0)) if isinstance(each, str) else each
        coat = edits.with_span(parse_coat(words, RACK), reached[0], reached[1])
        laid.append(edits.with_feather(coat, reached[2], reached[3]))
    passage = Passage("p", length, ground=Ground(primer), coats=tuple(laid))
    return Plan("plan", (passage,), demo_rack())


def kinds(plan: Plan) -> list[RemarkKind]:
    return [remark.kind for remark in remarks(plan, 0, demo_rack())]


def the(plan: Plan, kind: RemarkKind) -> Remark:
    return next(r for r in remarks(plan, 0, demo_rack()) if r.kind == kind)


def beside(plan: Plan, words: str) -> Plan:
    """Return a plan with a second passage, q, of one coat on grey."""
    coats = (parse_coat(words, RACK),)
    return edits.add_passage(plan, Passage("q", ground=Ground("grey"), coats=coats))


def shining(plan: Plan) -> Plan:
    """Return a plan in which p is the light of a second passage."""
    lit = Passage("lit", ground=Ground("black"), lit_by="p")
    return edits.add_passage(plan, lit)


SMOOTH = "Furnace Red; water 3; tool glaze"
TWINS: dict[RemarkKind, tuple[Plan, Plan]] = {
    "nearly hidden": (
        plan_of("black", "Slipway Orange; water 0.5", "Saffron Buoy; water 0.5; passes 2"),
        plan_of(
            "black",
            "Slipway Orange; water 0.5",
            ("Saffron Buoy; water 0.5; passes 2", (0.0, 0.3, 0.0, 0.3)),
        ),
    ),
    "piled up": (
        plan_of("black", "Lime White; passes 5"),
        plan_of("black", "Lime White; water 1; passes 5"),
    ),
    "hidden": (
        plan_of("black", "Flask Blue", "Lime White; passes 12"),
        plan_of("black", "Lime White; passes 12", "Flask Blue"),
    ),
    "dark below": (
        plan_of("black", "Kiln Yellow; water 1; passes 2"),
        plan_of("white", "Kiln Yellow; water 1; passes 2"),
    ),
    "outshone": (
        shining(plan_of("black", ("Lime White; passes 3", (0.4, 0.9, 0.3, 0.1)))),
        shining(plan_of("black", ("Lime White; passes 3", (0.0, 0.4, 0.0, 0.3)))),
    ),
    "harsh step": (
        plan_of("white", (f"{SMOOTH}; passes 3", (0.5, 1.0, 0.0, 0.0)), length=30),
        plan_of("white", f"{SMOOTH}; passes 3", length=30),
    ),
    "large tips": (
        plan_of("white", ("Lamp Black; water 2; passes 3", (0.5, 1.0, 0.3, 0.0)), length=60),
        plan_of("white", ("Lamp Black; water 2; passes 3", (0.95, 1.0, 0.05, 0.0)), length=60),
    ),
    "minty": (
        plan_of("white", "Kelp Green 1 + Lime White 1"),
        plan_of("white", "Kelp Green 1 + Lime White 1 + Kiln Yellow 1"),
    ),
    "chalky": (
        plan_of("white", "Harbour Violet 1 + Lime White 1"),
        plan_of("white", "Harbour Violet 1 + Foxglove Magenta 1"),
    ),
    "greyed": (
        plan_of("grey", "Furnace Red; water 1; passes 2"),
        plan_of("white", "Furnace Red; water 1; passes 2"),
    ),
    "pinked": (
        plan_of("white", "Furnace Red 2 + Lime White 1"),
        plan_of("white", "Furnace Red 2 + Ember Orange 1"),
    ),
    "sickly": (
        plan_of("white", "Kiln Yellow 9 + Lamp Black 1"),
        plan_of("white", "Kiln Yellow 9 + Hull Umber 1"),
    ),
    "covered light": (
        plan_of(
            "white",
            ("Furnace Red; water 1; passes 3", (0.3, 1.0, 0.3, 0.0)),
            "Ember Orange; medium 3; tool glaze; passes 2",
            "Kiln Yellow; medium 2; tool glaze; passes 2",
        ),
        plan_of(
            "white",
            ("Furnace Red; water 1; passes 3", (0.3, 1.0, 0.3, 0.0)),
            ("Ember Orange; medium 3; tool glaze; passes 2", (0.3, 1.0, 0.2, 0.0)),
        ),
    ),
    "runs": (
        plan_of("white", "Ember Orange; water 3; tool sponge; passes 4"),
        plan_of("white", "Ember Orange; thick medium 3; tool sponge; passes 4"),
    ),
    "thinned can": (
        plan_of("black", "Lime White; water 1; passes 3; tool spray"),
        plan_of("black", "Lime White; passes 3; tool spray"),
    ),
    "weak glow": (
        plan_of("black", "Signal Orange; passes 2"),
        plan_of("black", "Lime White; passes 5", "Signal Orange; passes 2"),
    ),
    "starved": (
        plan_of("white", "Flask Blue; water 8; passes 3"),
        plan_of("white", "Flask Blue; medium 8; passes 3"),
    ),
    "chalked by matt": (
        plan_of("white", "Dusk Violet Ink; passes 6", "Matt Varnish"),
        plan_of("white", "Dusk Violet Ink; passes 6", "Gloss Varnish"),
    ),
    "many passes": (
        plan_of("white", "Furnace Red; water 7; passes 12; tool glaze"),
        plan_of("white", "Furnace Red; water 3; passes 6; tool glaze"),
    ),
    "mud": (
        plan_of(
            "white",
            "Harbour Violet; water 1; passes 4; tool glaze",
            "Kiln Yellow; water 1; passes 2; tool glaze",
        ),
        plan_of(
            "white",
            "Harbour Violet; water 1; passes 4; tool glaze",
            "Foxglove Magenta; water 1; tool glaze",
        ),
    ),
    "dimmed": (
        plan_of("white", "Signal Orange; passes 2", "Furnace Red; water 1; passes 2"),
        plan_of("white", "Furnace Red; water 1; passes 2", "Signal Orange; passes 2"),
    ),
    "alike": (
        edits.surround(
            beside(plan_of("grey", "Flask Blue; water 2; tool glaze"), "Ember Orange; passes 1"),
            0,
            "q",
        ),
        edits.surround(
            beside(plan_of("grey", "Flask Blue; water 2; tool glaze"), "Lamp Black; passes 3"),
            0,
            "q",
        ),
    ),
}


def told_apart(kind: RemarkKind, twins: tuple[Plan, Plan]) -> None:
    """Check that the first of two plans raises a remark, and its twin does not."""
    raises, twin = twins
    assert kind in kinds(raises)
    assert kind not in kinds(twin)
    remark = the(raises, kind)
    assert remark.words.endswith(".")
    assert remark.number >= 0


def mended_by_its_remedy(kind: RemarkKind, plan: Plan) -> None:
    """Check that the remedy of a remark leaves a good plan without it."""
    remark = the(plan, kind)
    assert remark.mend is not None
    assert remark.remedy
    mended = remark.mend(plan)
    check_plan(mended)
    assert kind not in kinds(mended)
    assert parse(dump(mended)) == edits.used_only(mended)


@pytest.mark.parametrize("kind", TWINS)
def test_a_plan_raises_it_and_its_twin_does_not(kind: RemarkKind) -> None:
    told_apart(kind, TWINS[kind])


@pytest.mark.parametrize("kind", TWINS)
def test_the_remedy_removes_it(kind: RemarkKind) -> None:
    mended_by_its_remedy(kind, TWINS[kind][0])


def test_a_clear_film_is_judged_by_its_own_colour_over_white() -> None:
    """Over black a violet glaze has no colour of its own; on yellow it makes mud all the same."""
    yellow, violet = "Kiln Yellow; water 2; passes 2", "Harbour Violet; water 2; tool glaze"
    assert "mud" in kinds(plan_of("white", yellow, f"{violet}; passes 3"))
    assert "mud" not in kinds(plan_of("white", "Foxglove Magenta; water 2", violet))


def hidden_by(passes: int) -> Plan:
    return plan_of("black", "Ember Orange", f"Lime White; water 1; passes {passes}")


def dark_over(share: float) -> Plan:
    """Return yellow over black but for white over the rest of the axis."""
    return plan_of(
        "black", ("Lime White; passes 6", (share, 1.0, 0.0, 0.0)), "Kiln Yellow; water 1"
    )


def light_elsewhere(passes: int) -> Plan:
    """Return light grey at the light, and a lighter place further off."""
    grey = "Lime White 3 + Lamp Black 1; passes 8"
    light = (f"Lime White; water 12; tool glaze; passes {passes}", (0.4, 0.9, 0.2, 0.1))
    return shining(plan_of("grey", grey, light))


def tips_from(start: float) -> Plan:
    return plan_of("white", ("Lamp Black; water 2; passes 4", (start, 1.0, 0.0, 0.0)), length=60)


@pytest.mark.parametrize(
    ("kind", "made", "low", "high"),
    [
        ("hidden", lambda n: hidden_by(40 - n), 0.3, 3.0),
        ("outshone", lambda n: light_elsewhere(41 - n), 0.2, 1.2),
        ("large tips", lambda n: tips_from(0.5 + n * 0.0125), 0.11, 0.19),
    ],
)
def test_the_border_of_a_remark_is_where_it_is_said_to_be(
    kind: RemarkKind, made: Callable[[int], Plan], low: float, high: float
) -> None:
    """Step by step over the border, each remark falls silent once, near the figure it names."""
    border = {"hidden": HIDDEN_DE00, "outshone": OUTSHONE_VALUES, "large tips": TIPS_SHARE}[kind]
    spoken = []
    for step in range(1, 40):
        plan = made(step)
        number = how_much(kind, plan)
        if low < number < high:
            spoken.append((number, kind in kinds(plan)))
    assert any(number < border for number, _ in spoken)
    assert any(number > border for number, _ in spoken)
    for number, raised in spoken:
        assert raised == (number < border if kind == "hidden" else number > border), number


def how_much(kind: RemarkKind, plan: Plan) -> float:
    """Return the figure that a remark is about, worked out apart from it."""
    passage = plan.passages[0]
    field = predict(passage, RACK, axis(201), np.zeros(1))
    value = field.value[:, 0]
    if kind == "hidden":
        without = predict(
            edits.with_coats(passage, passage.coats[1:]), RACK, axis(201), np.zeros(1)
        )
        return float(ciede2000(field.lab, without.lab).max())
    if kind == "outshone":
        return float(value[axis(201) > 0.15].max() - value[axis(201) <= 0.06].max())
    return float((value < 2.6).mean())


def test_a_colour_that_lies_on_dark_for_a_small_part_is_left_in_peace() -> None:
    assert "dark below" not in kinds(dark_over(0.3))
    assert "dark below" in kinds(dark_over(0.7))


def test_each_hue_wants_its_own_value_below() -> None:
    """Common practice: red covers what yellow does not."""
    grey = {
        name: kinds(plan_of("grey", f"{name}; water 1")) for name in ("Kiln Yellow", "Furnace Red")
    }
    assert "dark below" in grey["Kiln Yellow"]
    assert "dark below" not in grey["Furnace Red"]
    # On grey it loses its warmth all the same.
    assert "greyed" in grey["Furnace Red"]
    assert "dark below" in kinds(plan_of("black", "Furnace Red; water 1"))
    # Violet and blue do not mind.
    assert "dark below" not in kinds(plan_of("black", "Harbour Violet; water 1"))


def test_as_much_white_is_asked_for_as_it_takes() -> None:
    plan = plan_of("black", ("Kiln Yellow; water 1; passes 2", (0.1, 0.8, 0.05, 0.1)))
    remark = the(plan, "dark below")
    assert remark.mend is not None
    mended = remark.mend(plan).passages[0]
    white = mended.coats[0]
    assert (white.span, white.feather) == (mended.coats[1].span, mended.coats[1].feather)
    assert int(remark.remedy.split()[0]) == white.passes
    # Both ways are told with what each costs, and no bare number of a value that it "wants".
    assert "laid straight on it" in remark.words
    assert "With white below first" in remark.words
    assert "wants value" not in remark.words
    plain = plan.passages[0]
    counts = [
        white_needed(plain, 0, v, RACK, demo_rack(), ViewingConditions())
        for v in (3, 6.5, 8, 8.9, 9.9)
    ]
    assert counts == sorted(counts)
    assert counts[1] == white.passes
    assert 1 < counts[3] < 8 == counts[4]  # white paint itself is not lighter
    lit, less = (
        predict(
            edits.with_coats(plain, (edits.with_passes(white, n),)), RACK, axis(64), np.zeros(1)
        )
        .value[16:48]
        .min()
        for n in (counts[3], counts[3] - 1)
    )
    assert less < 8.9 <= lit
    # Orange is content with less, so it takes fewer.
    orange = the(plan_of("black", "Ember Orange; water 1; passes 2"), "dark below")
    assert int(orange.remedy.split()[0]) <= white.passes


def test_what_is_dark_from_end_to_end_has_no_tips() -> None:
    assert "large tips" not in kinds(plan_of("black", "Lamp Black; passes 3"))


def test_folds_of_cloth_have_shadows_and_no_tips() -> None:
    plan = TWINS["large tips"][0]
    assert "large tips" in kinds(plan)
    passage, *others = plan.passages
    folds = replace(plan, passages=(replace(passage, form="folds"), *others))
    assert "large tips" not in kinds(folds)


def test_tips_are_drawn_back_no_further_than_needed() -> None:
    plan = TWINS["large tips"][0]
    remark = the(plan, "large tips")
    assert remark.mend is not None
    after = remark.mend(plan)
    assert 0.1 < how_much("large tips", after) <= 0.15


def test_matt_does_harm_only_to_deep_colours() -> None:
    """Common practice: a matt varnish dulls deep violet; on pale skin nobody sees it."""
    pale = plan_of("white", "Kiln Yellow; water 1", "Matt Varnish")
    assert "chalked by matt" not in kinds(pale)
    # A mid green loses more chroma than a deep violet does, and yet stands it.
    green = plan_of("white", "Kelp Green; passes 2", "Matt Varnish")
    assert "chalked by matt" not in kinds(green)
    deep = plan_of("white", "Flask Blue 8 + Lamp Black 1; passes 2", "Matt Varnish")
    lost = [
        float(
            predict(deep.passages[0], RACK, axis(1), np.zeros(1), ViewingConditions(finish=f)).lch[
                0, 0, 1
            ]
        )
        for f in ("satin", "as painted")
    ]
    assert 1 < lost[0] - lost[1] < 8  # deep, but there is little to lose
    assert "chalked by matt" not in kinds(deep)
    faint = plan_of("white", "Dusk Violet Ink; passes 3", "Satin Varnish")
    assert "chalked by matt" not in kinds(faint)


def test_medium_takes_the_place_of_as_much_water() -> None:
    plan = TWINS["starved"][0]
    remark = the(plan, "starved")
    assert remark.mend is not None
    mixture = remark.mend(plan).passages[0].coats[0].mixture
    assert (mixture.thinner, mixture.thinning) == ("medium", 8.0)


def test_pink_takes_the_place_of_half_the_white() -> None:
    plan = TWINS["chalky"][0]
    remark = the(plan, "chalky")
    assert remark.mend is not None
    parts = {p.paint: p.parts for p in remark.mend(plan).passages[0].coats[0].mixture.parts}
    assert parts == {"Harbour Violet": 1.0, "Lime White": 0.5, "Foxglove Magenta": 0.5}


def test_a_stronger_mix_lays_as_much_paint_in_few_passes() -> None:
    """Common practice: where 7-8 passes were needed, 2-4 of a stronger mix do it."""
    plan = TWINS["many passes"][0]
    remark = the(plan, "many passes")
    assert remark.mend is not None
    before, after = (p.passages[0].coats[0] for p in (plan, remark.mend(plan)))
    assert 2 <= after.passes <= 4
    paint = [c.passes / (1 + c.mixture.thinning) for c in (before, after)]
    assert paint[1] == pytest.approx(paint[0], rel=0.15)
    colours_ = [
        predict(p.passages[0], RACK, axis(1), np.zeros(1)).lab for p in (plan, remark.mend(plan))
    ]
    assert float(ciede2000(*colours_).max()) < 3
    # The eye has had enough long before: it says when.
    too_many = the(plan_of("white", "Pilot Red; water 2; passes 12"), "many passes")
    assert re.search(r"To the eye it is solid after [2-9]\.$", too_many.words)
    # What is neat already cannot be laid stronger.
    assert "many passes" not in kinds(plan_of("white", "Furnace Red; passes 12"))


def test_a_dark_passage_stands_out_from_a_light_one_after_the_remedy() -> None:
    plan = TWINS["alike"][0]
    remark = the(plan, "alike")
    assert remark.mend is not None
    assert "as light as q round it" in remark.words
    after = remark.mend(plan)
    assert after.passages[0] == plan.passages[0]
    values = [predict(p, RACK, axis(33), np.zeros(1)).value.mean() for p in after.passages]
    assert values[0] - values[1] >= 1.5


def test_nothing_is_said_of_an_empty_passage() -> None:
    assert kinds(plan_of("black")) == []


def test_metal_may_lie_below_a_transparent_colour() -> None:
    assert "dark below" not in kinds(plan_of("black", "Tin Silver", "Ember Orange; water 3"))


def test_a_remedy_that_lacks_its_paint_says_so() -> None:
    plan = TWINS["dark below"][0]
    poor: tuple[Paint, ...] = tuple(p for p in demo_rack() if p.pigments != ("PW6",))
    remark = next(r for r in remarks(plan, 0, poor) if r.kind == "dark below")
    assert remark.mend is not None
    with pytest.raises(Exception, match="no paint of PW6 alone"):
        remark.mend(plan)


def test_a_varnish_is_never_work_for_nothing() -> None:
    thin = plan_of("white", "Lime White; passes 3", "Satin Varnish; medium 6; tool glaze")
    assert "hidden" not in kinds(thin)
    assert "hidden" not in kinds(plan_of("white", "Kiln Yellow", "Matt Varnish", "Matt Varnish"))


def test_turquoise_is_no_minty_green() -> None:
    assert "minty" not in kinds(plan_of("white", "Shoal Turquoise 1 + Lime White 1"))
    assert "minty" not in kinds(plan_of("white", "Flask Blue 1 + Kelp Green 1 + Lime White 2"))
    assert "minty" in kinds(plan_of("white", "Kelp Green 1 + Lime White 2"))


def test_nothing_outshines_a_light_that_is_not_named() -> None:
    bare = plan_of("black", ("Lime White; passes 3", (0.4, 0.9, 0.3, 0.1)))
    assert "outshone" not in kinds(bare)
    assert "outshone" in kinds(shining(bare))


def test_a_complementary_glaze_is_called_by_its_name() -> None:
    """Common practice: orange over violet is sometimes meant to dull; nobody calls that dull."""
    plan = TWINS["mud"][0]
    assert "dark below" not in kinds(plan)
    assert "is a complementary glaze" in the(plan, "mud").words
    assert "Where it is not meant to dull" in the(plan, "mud").words


def test_matt_over_metal_takes_its_glint() -> None:
    gold = "Sovereign Gold; passes 2"
    plan = plan_of("black", gold, "Matt Varnish")
    remark = the(plan, "chalked by matt")
    assert "glint of the metal" in remark.words
    assert remark.mend is not None
    assert "chalked by matt" not in kinds(remark.mend(plan))
    assert "chalked by matt" not in kinds(plan_of("black", gold, "Gloss Varnish"))


def test_metal_counts_as_it_glints() -> None:
    """In the shade silver is dark; a light painted in silver is no dark light for that."""
    silver = plan_of("black", "Tin Silver; passes 3")
    lit = edits.add_passage(silver, Passage("q", ground=Ground("grey"), lit_by="p"))
    coat = parse_coat("Pewter Grey; passes 2", RACK)
    lit = edits.set_passage(lit, 1, edits.with_coats(lit.passages[1], (coat,)))
    assert "outshines source" not in [r.kind for r in remarks(lit, 1, demo_rack())]


def test_the_dearest_remark_stands_first() -> None:
    plan = plan_of(
        "black",
        "Kiln Yellow; water 1; passes 3",
        ("Furnace Red; water 1; passes 3", (0.5, 1.0, 0.3, 0.0)),
        "Kelp Green 1 + Lime White 1; water 8; tool glaze",
    )
    found = remarks(plan, 0, demo_rack())
    costs = [remark.cost for remark in found]
    assert costs == sorted(costs, reverse=True)
    assert len(costs) > 2
    # What must be painted again from the first coat on costs most, what only its own coat least.
    first = next(r for r in found if r.coat == 0)
    last = next(r for r in found if r.coat == 2)
    assert first.cost > last.cost > 0


def test_the_brightest_spot_is_put_back_by_one_press() -> None:
    plan = TWINS["covered light"][0]
    remark = the(plan, "covered light")
    assert remark.mend is not None
    mended = remark.mend(plan)
    assert len(mended.passages[0].coats) == len(plan.passages[0].coats) + 1
    assert mended.passages[0].coats[-1].span[1] < 0.1


def test_on_random_plans_remarks_agree_and_remedies_help() -> None:
    """A short form of tools/randomplans.py: five hundred of them are looked at by hand."""
    rng = np.random.default_rng(7)
    told = 0
    for _ in range(30):
        plan = randomplans.random_plan(rng)
        told += len(remarks(plan, 0, demo_rack()))
        assert not list(map(str, randomplans.findings(plan)))
    assert told > 20


def test_a_remedy_tells_what_it_changes() -> None:
    for kind in ("hidden", "mud", "harsh step"):
        remark = the(TWINS[kind][0], kind)  # type: ignore[index, arg-type]
        assert re.fullmatch(
            r"\d+ → \d+ passes, about \d+ → \d+ min, changes the colour by dE \d+", remark.effect
        ), remark.effect
    hidden = the(TWINS["hidden"][0], "hidden")
    assert hidden.effect.endswith("by dE 0")
    assert hidden.effect.startswith("13 → 12 passes")


def test_what_a_coat_is_meant_for_is_not_held_against_it() -> None:
    for kind, meant in (
        ("mud", "dull"), ("nearly hidden", "base"), ("hidden", "base"), ("harsh step", "edge"),
        ("dark below", "base"),
    ):  # fmt: skip
        raised = TWINS[kind][0]  # type: ignore[index]
        told = the(raised, kind)  # type: ignore[arg-type]
        assert told.coat is not None
        coat = raised.passages[0].coats[told.coat]
        said = edits.set_coat(raised, 0, told.coat, replace(coat, meant=meant))
        assert kind not in kinds(said), (kind, meant)
        # Said of it, it is in the plan's file and on the command line.
        assert parse(dump(said)) == edits.used_only(said)
        again = parse_coat(coat_words(said.passages[0].coats[told.coat]), RACK)
        assert again.meant == meant
    with pytest.raises(InputError, match="isn't meant as 'fun'"):
        parse_coat("Lime White; meant fun", RACK)
