"""Light as painters go about it: off the figure, over what is there, who wins, and the schools.

All of it is common practice.
"""

from __future__ import annotations

from dataclasses import replace as changed
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from lightjobs import BLUE, RACK, coats_for, lamp, red_armour, rings, thing
from randomlights import random_lights
from test_cli import answer
from workshop import hand_laid
from zesty_veil.advise.glow.painting import (
    USUAL_LIMITS,
    School,
    changes,
    painted,
    with_painting,
)
from zesty_veil.advise.glow.usual import USUAL_WINS, off_figure, usual_glow
from zesty_veil.advise.glow.wanted import wanted
from zesty_veil.advise.match.along import falling, farthest_along
from zesty_veil.advise.match.shortlist import solid_looks
from zesty_veil.advise.remarks import remarks
from zesty_veil.advise.templates.every import template
from zesty_veil.cli import main as cli
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.fileformat import dump, parse, save
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer, Target
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.targets import missed
from zesty_veil.services.colours import parse_colour
from zesty_veil.thresholds import RISES_VALUES


def test_a_light_off_the_figure_is_no_passage_and_asks_for_no_steps() -> None:
    plan = hand_laid()
    glow = off_figure(plan, [1, 2])
    assert glow.source == ""
    assert [s.passage for s in glow.surfaces] == [plan.passages[i].name for i in (1, 2)]
    assert glow.wins == USUAL_WINS
    whole = edits.set_glow(plan, glow)
    check_plan(whole)
    assert parse(dump(whole)).glow == glow
    done = coats_for(plan, glow, "inward")
    assert [one.passage for one in done] == [1, 2]
    written = with_painting(plan, glow, done, demo_rack())
    assert len(written.passages) == len(plan.passages)
    assert [p.lit_by for p in written.passages] == [p.lit_by for p in plan.passages]
    kinds = {"outshines source", "no complement", "large tips"}
    for index in (1, 2):
        alone = edits.lit_by(written, index, None)
        assert not kinds & {remark.kind for remark in remarks(alone, index, demo_rack())}
    with pytest.raises(InputError, match="A light off the figure is not painted"):
        list(painted(plan, glow, "inward", demo_rack(), USUAL_LIMITS, "deep"))
    with pytest.raises(InputError, match="no passage for a light"):
        off_figure(Plan("empty"))


def test_what_a_light_off_the_figure_falls_on_may_be_renamed_and_taken_away() -> None:
    plan = edits.set_glow(hand_laid(), off_figure(hand_laid(), [1, 2]))
    named = edits.rename_passage(plan, 1, "apron")
    assert named.glow is not None
    assert named.glow.surfaces[0].passage == "apron"
    assert edits.is_lit(named, 1)
    assert not edits.is_lit(edits.set_glow(named, None), 0)
    fewer = edits.remove_passage(named, 1)
    assert fewer.glow is not None
    assert len(fewer.glow.surfaces) == 1
    assert edits.remove_passage(fewer, 1).glow is None  # it falls on nothing any more


def test_the_dial_goes_from_light_times_surface_to_the_lights_own_colour() -> None:
    physical, half, full = (rings(lamp(wins)) for wins in (0.0, 0.5, 1.0))
    own = float(lch(np.array(BLUE))[2])
    lit = full[:-1]
    np.testing.assert_allclose(lit[:, 2], own, atol=3)
    # Saturation is kept outward: even the outermost ring on black has a colour.
    assert lit[1:, 1].min() >= 27
    # Nearest to the light it is nearly white, and of the light's hue.
    assert lit[0, 0] > 80
    assert 15 < lit[0, 1] < 40
    assert all(b <= a + 1e-9 for a, b in pairwise(full[:, 0]))
    assert np.all(half[:-1, 1] > physical[:-1, 1])
    assert np.all(half[1:-1, 1] < full[1:-1, 1])
    # Where no light falls nothing changes.
    np.testing.assert_allclose(full[-1], physical[-1])
    # A white light has no colour that could win.
    white = replace(lamp(), colour=(95.0, 0.0, 0.0))
    assert rings(white)[:-1, 1].max() < 8


def test_a_fire_wins_with_its_own_colour_too() -> None:
    fire = replace(lamp(), colour=None, kelvin=1900.0)
    lit = rings(fire)[:-1]
    assert np.all((lit[:, 2] > 40) & (lit[:, 2] < 90))
    assert lit[:, 1].min() > 30


@pytest.mark.common_practice
@pytest.mark.parametrize("school", ["inward", "white", "sketch", "spot"])
def test_a_blue_lamp_on_black_takes_few_passes_and_no_brown(school: School) -> None:
    (one,) = coats_for(thing(), lamp(), school)
    assert one.answer is not None
    coats = one.answer.coats
    assert sum(coat.passes for coat in coats) <= 30
    assert one.answer.mean < 5
    looks = lch(solid_looks([c.mixture.parts for c in coats], RACK)[1])
    strong = looks[:, 1] > 25
    # Blues alone: nobody lays brown or yellow between blue rings.
    assert np.all((looks[strong, 2] > 200) & (looks[strong, 2] < 330))


@pytest.mark.common_practice
def test_schools_are_done_as_painters_do_them() -> None:
    def laid(school: School) -> tuple[Coat, ...]:
        (one,) = coats_for(thing(), lamp(), school)
        assert one.answer is not None
        return one.answer.coats

    def white(coat: Coat) -> bool:
        return float(solid_looks([coat.mixture.parts], RACK)[0, 0, 0]) > 80

    under = laid("white")
    assert white(under[0])
    assert under[0].span == (0.0, 1.0)
    # White is never greyed: no grey or black lies where a colour is wanted.
    want = wanted(thing(), lamp())[0].targets
    for coat in under[1:]:
        L, C, _ = (float(v) for v in lch(solid_looks([coat.mixture.parts], RACK)[1, 0]))
        there = [t for t in want if coat.span[0] <= t.place <= coat.span[1]]
        most = max(float(lch(np.array(t.lab))[1]) for t in there)
        assert C > 25 or L > 80 or most < 25, coat
    sketch = laid("sketch")
    assert white(sketch[0])
    assert sketch[0].span[1] < 1.0  # what stays dark is not sketched
    inward = laid("inward")
    ends = [coat.span[1] for coat in inward]
    assert all(b < a for a, b in pairwise(ends))
    looks = solid_looks([c.mixture.parts for c in inward], RACK)[0, :, 0]
    assert all(b > a - 3 for a, b in pairwise(looks[: len(ends)]))
    spots = laid("spot")
    assert {coat.tool for coat in spots} <= {"airbrush", "glaze"}
    assert "airbrush" in {coat.tool for coat in spots}


@pytest.mark.common_practice
def test_five_rings_on_bone_take_no_more_than_thirty_passes() -> None:
    bone = thing("white", "Driftbone Ivory; passes 2")
    glow = replace(lamp(own=(84.0, 2.0, 16.0)), colour=(70.0, -55.0, 45.0), rings=5)
    (one,) = coats_for(bone, glow, "inward")
    assert one.answer is not None
    assert sum(coat.passes for coat in one.answer.coats) <= 30
    # On bone that is dark first nothing comes nearer without burying the detail.
    assert one.answer.mean < 7


def test_what_is_there_stays_and_only_films_and_lights_are_added() -> None:
    plan = red_armour()
    glow = replace(lamp(0.6), colour=(62.0, 52.0, 70.0))
    (one,) = coats_for(plan, glow, "inward", keep=True)
    assert one.answer is not None
    assert one.kept == plan.passages[0].coats
    written = with_painting(plan, glow, (one,), demo_rack())
    after = written.passages[0]
    assert after.coats[:2] == plan.passages[0].coats
    assert after.ground == plan.passages[0].ground
    # Away from the light it is as it was, or darker; near it nearer to what is wanted.
    u = axis(40)
    before = predict(plan.passages[0], RACK, u, SITE_RELIEF)
    now = predict(after, RACK, u, SITE_RELIEF)
    assert now.value[-1, 1] <= before.value[-1, 1] + 0.3
    assert float(ciede2000(now.lab[-1, 1], before.lab[-1, 1])) < 15
    assert now.value[0, 1] > before.value[0, 1]
    assert "keeps its 2 coats and lays" in changes(plan, one)
    # Anew, they are taken away, and that is said before.
    (anew,) = coats_for(plan, glow, "inward")
    assert anew.kept == ()
    assert "takes its 2 coats away" in changes(plan, anew)
    assert "lays" in changes(thing(), coats_for(thing(), lamp(), "inward")[0])


@pytest.mark.common_practice
@pytest.mark.parametrize("form", ["plate", "orb", "folds"])
def test_fire_on_red_from_what_is_there_hides_nothing_and_needs_no_blue(form: str) -> None:
    red = replace(
        thing("black", "Pilot Red; water 0.5; passes 3").passages[0], form=form, length_mm=30.0
    )
    plan = Plan("armour", (red,), demo_rack())
    (one,) = coats_for(plan, replace(off_figure(plan), wins=0.4), "inward", keep=True)
    assert one.answer is not None
    assert one.answer.mean < 3.2
    assert all(coat.span != (0.0, 1.0) for coat in one.answer.coats)
    looks = lch(solid_looks([c.mixture.parts for c in one.answer.coats], RACK)[1])
    # Blue would dull orange on red; painters go outward in reds and browns.
    assert not ((looks[:, 2] > 200) & (looks[:, 2] < 310) & (looks[:, 1] > 25)).any()


def test_what_will_not_show_any_more_is_said() -> None:
    plan = thing("black", "Brash Ice Blue; water 0.5; passes 3 ", "Flask Blue; water 5; tool glaze")

    (one,) = coats_for(plan, lamp(), "inward", keep=True)
    hidden = changed(one, lost=(1,))
    assert "of Flask Blue, 5:1 water nothing will show" in changes(plan, hidden)


def test_a_light_off_the_figure_from_the_command_line(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path, out = tmp_path / "p.veil", tmp_path / "out.veil"
    save(thing(), path)
    told = answer(
        capsys, "glow", str(path), "--off-figure", "--colour", "45,10,-60", "--radius", "45",
        "--light-wins", "1", "--json", "-o", str(out),
    )  # fmt: skip
    assert told["source"] is None
    (passage,) = told["passages"]
    assert passage["ground"] == "black primer"
    assert passage["changes"].startswith("thing: lays")
    written = parse(out.read_bytes())
    assert written.glow is not None
    assert (written.glow.source, written.glow.wins) == ("", 1.0)
    assert len(written.passages) == 1
    kept = answer(capsys, "glow", str(out), "--keep", "--json")
    assert "keeps its" in kept["passages"][0]["changes"]
    for words, sentence in (
        (["--on", "thing"], "give --off-figure too"),
        (["--off-figure", "--on", "moon"], "no passage 'moon'"),
    ):
        assert cli.run(["glow", str(path), *words]) == 2
        assert sentence in capsys.readouterr().err


def test_a_passage_that_is_lit_gives_the_glow_to_begin_with() -> None:
    assert usual_glow(hand_laid()).wins == USUAL_WINS


def test_a_glow_over_what_is_there_asks_for_what_is_there_where_no_light_falls() -> None:
    """No coat may be wanted on dark red that no light reaches, and none of grey over any red."""
    plan = red_armour()
    before = plan.passages[0]
    for lit in wanted(plan, off_figure(plan), there=True):
        u = np.array([target.place for target in lit.targets])
        now = predict(before, plan.rack(), u, np.zeros(1)).lab[:, 0]
        unlit = np.array([*(ring.light == 0 for ring in lit.ringed.rings), True])
        labs = np.array([target.lab for target in lit.targets])
        assert unlit.sum() >= 1
        assert ciede2000(labs[unlit], now[unlit]).max() < 1
        # Light is added, never taken away.
        assert (labs[:, 0] >= now[:, 0] - 1).all()


@pytest.mark.common_practice
@pytest.mark.parametrize("primer", ["white", "grey"])
def test_spots_begin_with_a_dark_where_there_is_none(primer: Primer) -> None:
    (one,) = coats_for(thing(primer), lamp(), "spot")
    assert one.answer is not None
    assert one.answer.mean < 5
    first = one.answer.coats[0]
    assert first.span == (0.0, 1.0)
    assert float(solid_looks([first.mixture.parts], RACK)[0, 0, 0]) < 30


def test_progress_goes_evenly_where_the_order_of_work_is_given() -> None:
    shares = [
        done[-1].share
        for done in painted(thing(), lamp(), "inward", demo_rack(), USUAL_LIMITS)
        if done[-1].answer is None or done[-1].share < 1
    ]
    assert shares == sorted(shares)
    assert shares[-1] > 0.6


def test_what_light_promises_is_what_the_section_shows_between_the_rings_too() -> None:
    for plan, glow, school in random_lights(5):
        *_, done = painted(plan, glow, school, demo_rack(), USUAL_LIMITS)
        written = with_painting(plan, glow, done, demo_rack())
        passage = written.passages[0]
        field = predict(passage, written.rack(), axis(41), SITE_RELIEF)
        told = missed(passage, field)
        assert told is not None
        assert done[0].answer is not None
        shown = told.worst_place(passage, field.u)[1]
        assert done[0].answer.worst == pytest.approx(shown, abs=0.5)
        assert done[0].answer.worst >= max(done[0].answer.delta_e) - 0.6


def test_nothing_shines_up_from_under_a_darker_coat() -> None:
    """A light coat that ends where the dark one over it does is seen beside it: it ends earlier."""
    white = Coat(Mixture((Part("Lime White"),), "water", 0.5), "loaded", 3, (0.0, 0.7), (0.0, 0.3))
    dark = Coat(Mixture((Part("Hull Umber"),), "water", 0.5), "glaze", 4, (0.4, 0.7), (0.3, 0.3))
    targets = tuple(
        Target(place, lab)
        for place, lab in ((0.05, (90.0, 0, 0)), (0.7, (35.0, 8, 12)), (1.0, (20.0, 2, 3)))
    )
    passage = Passage("cloth", ground=Ground("black"), coats=(white, dark), targets=targets)
    look, paints = ViewingConditions(), {paint.name: paint for paint in demo_rack()}
    worst, rises = farthest_along(passage, paints, look)
    assert rises > RISES_VALUES
    now = falling(passage, 0, paints, look)
    assert farthest_along(now, paints, look)[1] <= RISES_VALUES
    assert farthest_along(now, paints, look)[0] <= worst


@pytest.mark.parametrize("primer", ["white", "grey"])
def test_a_small_rise_is_not_exchanged_for_a_far_end_of_another_colour(primer: str) -> None:
    """A brown that fire lights stays near to its targets, and nothing is remarked on it."""
    chosen = template("light")
    asked = {"source": "fire", "primer": primer}
    *_, made = chosen.build(chosen.answered(asked, parse_colour, demo_rack()), lambda: True)
    assert made.plan is not None
    for index, passage in enumerate(made.plan.passages):
        field = predict(passage, made.plan.rack(), axis(41), SITE_RELIEF)
        told = missed(passage, field)
        assert told is None or max(told.by) < 8
        kinds = {remark.kind for remark in remarks(made.plan, index, demo_rack())}
        assert "dark below" not in kinds, passage.name


@pytest.mark.parametrize("number", [8, 24])  # paint piled up; a gap beside what is not lit
def test_a_second_light_raises_no_remark(number: int) -> None:
    *_, (plan, glow, school) = random_lights(number + 1)
    *_, done = painted(plan, glow, school, demo_rack(), USUAL_LIMITS)
    laid = with_painting(plan, glow, done, demo_rack())
    assert {remark.kind for remark in remarks(laid, 0, demo_rack())} <= {"no complement"}
