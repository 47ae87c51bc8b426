"""Painted light: the colours it wants, ring by ring, and the coats that are found for them.

The order of values, the schools, and what a light does to a coloured surface are common practice;
the last follows from multiplying spectra.
"""

from __future__ import annotations

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from test_cli import answer, run
from workshop import hand_laid
from zesty_veil.advise.glow.painting import (
    SCHOOLS,
    School,
    painted,
    with_painting,
)
from zesty_veil.advise.glow.rings import lit, ringed
from zesty_veil.advise.glow.usual import usual_glow
from zesty_veil.advise.glow.wanted import (
    SOURCE_VALUE,
    UNDER_SOURCE,
    lit_colours,
    second_colours,
    wanted,
)
from zesty_veil.advise.match.limits import Limits
from zesty_veil.cli import main as cli
from zesty_veil.errors import InputError, PlanFileError
from zesty_veil.light.cielab import lab, lch
from zesty_veil.light.illuminant import white
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.fileformat import dump, parse, save
from zesty_veil.plan.glow import FALLOFFS, Glow, Surface
from zesty_veil.plan.model import FORM_NAMES, Passage, Plan
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.forms.lit import Lamp, distance, irradiance
from zesty_veil.predict.forms.shapes import form, half_width_mm, lamp_before, shape_of
from zesty_veil.predict.targets import missed

FIRE_PAINTS = tuple(p for p in demo_rack() if p.kind in {"opaque", "transparent"})[:9]
LEATHER, GOLD, RED = (38.0, 16.0, 24.0), (70.0, 8.0, 60.0), (42.0, 62.0, 40.0)


def lit_plan(*forms: str, area: float = 300.0) -> Plan:
    """Return a plan of a fire and a passage for each form."""
    passages = [Passage("fire", form="flame")]
    passages += [Passage(f"p{i}", area_mm2=area, form=name) for i, name in enumerate(forms)]
    return Plan("lit", tuple(passages), demo_rack())


def glow_on(plan: Plan, *surfaces: Surface, **how: object) -> Glow:
    return Glow("fire", surfaces, **how)  # type: ignore[arg-type]


def demo() -> tuple[Plan, Glow]:
    plan = hand_laid()
    glow = Glow(
        plan.passages[0].name,
        (
            Surface(plan.passages[1].name, LEATHER, place=(-0.7, 0.3, 0.6)),
            Surface(plan.passages[3].name, (55.0, 25.0, 30.0), "satin", (-0.4, 0.2, 0.6)),
            Surface(plan.passages[2].name, (30.0, 15.0, -50.0), "gloss", (-0.8, 0.4, 0.5)),
        ),
    )
    return plan, glow


def reaches(plan: Plan, glow: Glow) -> bool:
    """Tell whether a light reaches a surface at all; one that does not says so."""
    try:
        wanted(plan, glow)
    except InputError:
        return False
    return True


def test_nothing_outshines_the_source_and_every_ring_is_darker_than_the_one_inside() -> None:
    """Over 200 random lights before random forms."""
    rng = np.random.default_rng(1901)
    done = 0
    while done < 200:
        plan = lit_plan(str(rng.choice(FORM_NAMES)), area=float(rng.uniform(60, 900)))
        x, y, z = (float(v) for v in rng.uniform((-1.2, -1.2, 0.3), (1.2, 1.2, 1.2)))
        own = tuple(float(v) for v in rng.uniform((15, -40, -50), (90, 60, 70)))
        surface = Surface(
            "p0", own, str(rng.choice(["matt", "satin", "gloss"])), (x, y, z),  # type: ignore[arg-type]
            inside=bool(rng.integers(2)),
        )  # fmt: skip
        glow = glow_on(
            plan, surface, kelvin=float(rng.uniform(900, 3000)), rings=int(rng.integers(3, 8)),
            radius_mm=float(rng.uniform(8, 60)), strength=float(rng.uniform(0.3, 8)),
            ambient=float(rng.uniform(0, 0.2)), falloff=str(rng.choice(FALLOFFS)),
        )  # fmt: skip
        if not reaches(plan, glow):
            continue
        (found,) = wanted(plan, glow)
        done += 1
        assert found.values[0] <= SOURCE_VALUE - UNDER_SOURCE + 0.2
        assert all(b <= a for a, b in pairwise(found.values)), found
        # No paint is darker than its own surface.
        assert found.values[-1] > 1.5
        rings = found.ringed.rings
        assert [r.number for r in rings] == sorted(r.number for r in rings)
        assert all(a.end <= b.start + 1e-9 for a, b in pairwise(rings))
        assert rings[0].start >= 0
        assert rings[-1].end <= 1
        places = [t.place for t in found.targets]
        assert places == sorted(set(places))


def test_a_ring_ends_where_geometry_says() -> None:
    """Before a flat facet the edge of a ring of radius r is where the distance comes to r."""
    plan = lit_plan("orb", area=400.0)
    surface = Surface("p0", LEATHER, place=(0.0, 0.0, 1.2))
    glow = glow_on(plan, surface, radius_mm=14.0, rings=4)
    half = half_width_mm(plan, plan.passages[1])
    # The orb is 0.84 half widths in radius, and as large as gives it its area: the disk's share
    # of the square is pi / 4 of 0.84 squared.
    assert half == pytest.approx(np.sqrt(400 / (np.pi * 0.84**2)), rel=0.02)
    found = ringed(plan, glow, surface)
    near = (1.2 - 0.84) * half
    for ring in found.rings:
        assert ring.end_mm == pytest.approx(
            min(14 / 4 * ring.number - near, found.length_mm), abs=0.2
        )
    assert sum(ring.share for ring in found.rings) <= 1 + 1e-9


@pytest.mark.common_practice
def test_a_shiny_surface_shows_the_light_further_and_at_its_edges() -> None:
    plan = lit_plan("plate")
    lights = {}
    for finish in ("matt", "satin", "gloss"):
        surface = Surface("p0", LEATHER, finish, (-0.8, -0.6, 0.6))  # type: ignore[arg-type]
        found = ringed(plan, glow_on(plan, surface, radius_mm=14.0), surface)
        lights[finish] = found.rings[-1].light
        lamp = Lamp((-0.8, -0.6, 0.6), 3.0)
        made = form("plate", 96)
        shows = lit(made, lamp, surface)
        bare = irradiance(
            made, Lamp(lamp.place, 3.0 * {"matt": 1.0, "satin": 1.15, "gloss": 1.35}[finish])
        )
        ridge = made.mask & (made.relief > 0.5) & (bare > 0.1) & (shows < 1)
        lights[f"{finish} edges"] = float((shows[ridge] / bare[ridge]).mean())
    assert lights["matt"] < lights["satin"] < lights["gloss"]
    # At the edge of a matt surface's light, where nothing is left of it, gloss still shows some.
    made = form("orb", 96)
    lamp = Lamp((0.0, 0.0, 1.6), 1.0)
    beyond = made.mask & (distance(made, lamp) > 1.0)
    shows = {f: lit(made, lamp, Surface("p0", LEATHER, f)) for f in ("matt", "gloss")}  # type: ignore[arg-type]
    assert shows["matt"][beyond].max() == 0
    assert shows["gloss"][beyond].max() > 0.02
    assert 1 < lights["matt edges"] < lights["satin edges"] < lights["gloss edges"]


def test_two_lights_are_kept_apart_by_a_dark_gap() -> None:
    """Common practice: where two lights meet, a dark gap is left between them."""
    plan, glow = demo()
    glow = replace(glow, second=(60.0, -20.0, -45.0), second_strength=0.6, gap=0.2)
    for one, alone in zip(
        wanted(plan, glow), wanted(plan, replace(glow, second=None)), strict=True
    ):
        rings = one.ringed.rings
        assert one.gap is not None
        assert alone.gap is None
        assert len(one.targets) == len(rings) + 2
        # The gap is as dark as a side away, and darker than what is beside it.
        assert one.values[-2] == pytest.approx(alone.values[-1], abs=0.01)
        assert one.gap >= 0
        assert one.gap == pytest.approx(min(max(one.values[:-2]), one.values[-1]) - one.values[-2])
        assert one.values[-1] > alone.values[-1]
        # It takes its share of the axis, and the rings end before it.
        assert rings[-1].end <= 0.65 + 1e-9
        assert rings[-1].end_mm == pytest.approx(rings[-1].end * one.ringed.length_mm)
        assert one.targets[-2].place == pytest.approx(rings[-1].end + 0.1, abs=1e-4)
    # Every third pot is enough to paint it by, in a third of the time.
    *_, done = painted(plan, glow, "inward", demo_rack()[::3], Limits(coats=5))
    off = [each for one in done if one.answer is not None for each in one.answer.delta_e]
    assert np.median(off) < 6
    # On a grey the far end is of the second light's own hue.
    hue = lch(lab(second_colours(glow, Surface("p", (70.0, 0.0, 0.0))), white()))[2]
    assert hue == pytest.approx(np.degrees(np.arctan2(-45, -20)) % 360, abs=25)
    bad = edits.set_glow(plan, replace(glow, gap=0.9))
    with pytest.raises(InputError, match=r"'gap' is 0\.9"):
        check_plan(bad)


def test_the_axis_of_what_is_lit_runs_away_from_the_light() -> None:
    plan = lit_plan("plate")
    before = form(shape_of(plan, plan.passages[1]), 64)
    glow = glow_on(plan, Surface("p0", LEATHER, place=(0.9, 0.8, 0.4)))
    lit = edits.set_glow(plan, glow)
    made = form(shape_of(lit, lit.passages[1]), 64)
    assert not np.allclose(before.u, made.u)
    row, column = np.unravel_index(np.where(made.mask, made.u, 9).argmin(), made.u.shape)
    assert row < 20  # it begins at the upper right, where the light is
    assert column > 44
    assert lamp_before(lit, lit.passages[0]) is None


@pytest.mark.common_practice
def test_light_on_a_coloured_surface_gives_the_product() -> None:
    one = np.ones(1)

    def seen(own: tuple[float, float, float], colour: tuple[float, float, float]) -> np.ndarray:
        glow = Glow("fire", colour=colour, strength=1.0, ambient=0.0)
        return np.asarray(lch(lab(lit_colours(glow, Surface("p", own), one), white()))[0])

    green, blue, grey = (50.0, -95.0, 65.0), (35.0, 30.0, -75.0), (70.0, 0.0, 0.0)
    # Red under green light goes near black; a grey of its lightness does not.
    assert seen(RED, green)[0] < 0.62 * seen((42.0, 0.0, 0.0), green)[0]
    # Blue light on gold is not blue.
    assert not 230 < seen(GOLD, blue)[2] < 320
    assert 230 < seen(grey, blue)[2] < 320
    # White shows the light's own colour; no light shows none.
    assert 100 < seen((95.0, 0.0, 0.0), green)[2] < 170


def test_without_its_light_a_surface_shows_the_ambient_alone() -> None:
    glow = Glow("fire", ambient=0.3, kelvin=6500.0)
    dark = lit_colours(glow, Surface("p", LEATHER), np.zeros(1))[0]
    day = lit_colours(replace(glow, ambient=1.0), Surface("p", LEATHER), np.zeros(1))[0]
    np.testing.assert_allclose(dark, 0.3 * day, rtol=1e-12)
    # It is daylight, whatever burns: a white in the shade of a fire is not orange.
    shade = lit_colours(replace(glow, kelvin=1200.0), Surface("p", (95.0, 0, 0)), np.zeros(1))
    assert lab(shade, white())[0, 2] < 0
    # Light adds: twice as much of it adds twice as much.
    half, full = lit_colours(glow, Surface("p", LEATHER), np.array([0.5, 1.0]))
    np.testing.assert_allclose(full - dark, 2 * (half - dark), rtol=1e-9)


@pytest.mark.parametrize("school", SCHOOLS)
def test_the_demo_is_painted_ring_by_ring(school: School) -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[::2])  # one is matt, one is glossy
    for i in range(4):
        plan = edits.lit_by(plan, i, None)  # that is written with the rest
    *_, done = painted(plan, glow, school, demo_rack(), Limits(coats=5))
    off = [each for one in done if one.answer is not None for each in one.answer.delta_e]
    assert np.median(off) < 6
    whole = with_painting(plan, glow, done, demo_rack())
    check_plan(whole)
    assert parse(dump(whole)) == edits.used_only(whole)
    for one in done:
        passage = whole.passages[one.passage]
        assert one.answer is not None
        assert passage.lit_by == glow.source
        coats = list(passage.coats)
        # A varnish lies over what is glossy, and in the white school an ink over all.
        kinds = [{whole.rack()[part.paint].kind for part in c.mixture.parts} for c in coats]
        if one.lit is not None and one.lit.ringed.surface.finish == "gloss":
            assert kinds.pop() == {"varnish"}
            assert coats.pop().span == (0.0, 1.0)
        if school == "white" and coats[-1].span == (0.0, 1.0) and len(coats) > 1:
            assert kinds[-1] <= {"ink", "transparent"}
            coats.pop()
        # The coats are nested, and come to what is said of them.
        starts, ends = zip(*(coat.span for coat in coats), strict=True)
        if school in ("inward", "spot"):
            assert set(starts) == {0.0}
            assert all(b <= a for a, b in pairwise(ends))
        else:
            # What is light may end a step before the rest, where it would shine up beside it.
            assert min(ends) >= passage.targets[-2].place
            assert max(ends) == max(t.place for t in passage.targets) or max(ends) == 1.0
            assert all(b >= a for a, b in pairwise(starts))
        told = missed(passage, predict(passage, whole.rack(), axis(400), SITE_RELIEF))
        assert told is not None
        np.testing.assert_allclose(told.by, one.answer.delta_e, atol=0.6)
    # Names, sizes and grounds are the painter's.
    for before, after in zip(plan.passages, whole.passages, strict=True):
        assert (before.name, before.length_mm, before.ground) == (
            after.name, after.length_mm, after.ground,
        )  # fmt: skip


def test_the_fire_itself_is_painted_by_its_school() -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[:1])
    *_, done = painted(plan, glow, "inward", demo_rack(), Limits(coats=5), "deep")
    assert [one.passage for one in done] == [0, 1]
    fire = predict(
        with_painting(plan, glow, done, demo_rack()).passages[0],
        {p.name: p for p in demo_rack()}, axis(7), np.zeros(1),
    )  # fmt: skip
    assert fire.value[0, 0] > 9
    assert all(b < a for a, b in pairwise(fire.value[:, 0]))
    # Dropped, it yields no more.
    assert (
        list(painted(plan, glow, "inward", demo_rack(), Limits(), should_continue=lambda: False))
        == []
    )


def test_a_fire_of_ones_own_is_kept_with_the_plan_and_painted() -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[:1])
    own = [(96.0, 0.0, 10.0), (70.0, 30.0, 60.0), (30.0, 30.0, 20.0)]
    plan = edits.keep_fire(edits.keep_fire(plan, own), own[:2])
    assert [fire.name for fire in plan.fires] == ["own fire 1", "own fire 2"]
    assert parse(dump(plan)).fires == plan.fires
    *_, done = painted(plan, glow, "inward", FIRE_PAINTS, Limits(coats=3), "own fire 1")
    assert [target.lab for target in done[0].targets] == own
    assert [target.place for target in done[0].targets] == [0, 0.5, 1]
    with pytest.raises(InputError, match="no fire 'wild'"):
        list(painted(plan, glow, "inward", FIRE_PAINTS, Limits(), "wild"))
    for spoilt, words in (
        (edits.keep_fire(plan, own[:1]), "'own fire 3': its colours: there are 1"),
        (edits.keep_fire(plan, [*own, (50.0, 999.0, 0.0)]), "is 999"),
        (replace(plan, fires=(plan.fires[0], plan.fires[0])), "two are called 'own fire 1'"),
    ):
        with pytest.raises(InputError, match=words):
            check_plan(spoilt)


def test_a_glow_begins_with_which_passage_lights_which() -> None:
    plan = hand_laid()
    glow = usual_glow(plan)
    assert glow.source == plan.passages[0].name
    assert [s.passage for s in glow.surfaces] == [p.name for p in plan.passages[1:]]
    check_plan(edits.set_glow(plan, glow))
    with pytest.raises(InputError, match="lit by another"):
        usual_glow(lit_plan("orb"))
    plan = edits.set_glow(plan, glow)
    renamed = edits.rename_passage(edits.rename_passage(plan, 0, "furnace"), 1, "apron")
    assert renamed.glow is not None
    assert (renamed.glow.source, renamed.glow.surfaces[0].passage) == ("furnace", "apron")
    fewer = edits.remove_passage(renamed, 1)
    assert fewer.glow is not None
    assert len(fewer.glow.surfaces) == len(glow.surfaces) - 1
    assert edits.remove_passage(renamed, 0).glow is None


@pytest.mark.parametrize(
    ("how", "words"),
    [
        ({"source": "nobody"}, "'nobody' is no passage"),
        ({"source": "p0"}, "'p0' stands in it more than once"),
        ({"kelvin": 3.0}, "'kelvin' is 3"),
        ({"radius_mm": float("nan")}, "'radius_mm' is nan"),
        ({"strength": 0.0}, "'strength' is 0"),
        ({"ambient": 2.0}, "'ambient' is 2"),
        ({"rings": 12}, "'rings' is 12"),
        ({"colour": (50.0, 900.0, 0.0)}, "its colour is 900"),
    ],
)
def test_an_impossible_glow_is_refused(how: dict[str, object], words: str) -> None:
    plan = lit_plan("orb")
    glow = replace(glow_on(plan, Surface("p0", LEATHER)), **how)
    plan = edits.set_glow(plan, glow)
    with pytest.raises(InputError, match=words):
        check_plan(plan)
    with pytest.raises(PlanFileError):
        parse(dump(plan))


def test_a_light_that_reaches_nothing_says_so() -> None:
    plan = lit_plan("orb")
    glow = glow_on(plan, Surface("p0", LEATHER, place=(30.0, 0.0, 0.5)), radius_mm=5.0)
    with pytest.raises(InputError, match="does not reach p0"):
        wanted(plan, glow)


def test_a_glow_from_the_command_line(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    plan, glow = demo()
    glow = replace(glow, surfaces=glow.surfaces[:1])
    for other in (2, 3):
        plan = edits.lit_by(plan, other, None)
    path, out = tmp_path / "lit.veil", tmp_path / "out.veil"
    save(edits.set_glow(plan, glow), path)
    found = answer(capsys, "glow", str(path), "--rings", "4", "-o", str(out), "--json")
    assert found["source"] == glow.source
    (apron,) = found["passages"]
    numbers = [step["ring"] for step in apron["rings"]]
    assert numbers[-1] is None
    assert numbers[:-1] == sorted(numbers[:-1])
    values = [step["value"] for step in apron["rings"]]
    assert values == sorted(values, reverse=True)
    made = parse(out.read_bytes())
    assert made.glow is not None
    assert made.glow.rings == 4
    assert len(made.passages[1].coats) == len(apron["coats"])
    more = ("--colour", "strong green", "--second", "strong blue")
    text = run(capsys, "glow", str(path), "--rings", "4", *more)
    assert "the dark gap" in text
    assert "ring 2" in text
    shade = ("--shadow", made.passages[1].name)
    pipe = made.passages[3].name
    text = run(capsys, "glow", str(path), *shade, f"{pipe}@-0.3,0,0.5")
    assert "% in shadow" in text
    assert cli.run(["glow", str(path), *shade, f"{pipe}@here"]) == 2
    assert "'here' isn't a place" in capsys.readouterr().err
    assert cli.run(["glow", str(path), "--radius", "-4"]) == 2
    assert "'radius_mm' is -4" in capsys.readouterr().err
