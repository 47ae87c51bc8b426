"""Amounts, drying and evenings: what to count out, how long films wait, how work is split.

Drops, losses and minutes are common practice; vapour pressures are checked against a published
table.
"""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from test_cli import answer, run
from zesty_veil.bench.air import Air, before_flood, floods, recoat, slower, vapour_pressure
from zesty_veil.bench.amounts import DROP_UL, LOSS, drops_of, pots, totals, wet_ul
from zesty_veil.bench.schedule import Changes, Task
from zesty_veil.bench.sessions import split_sessions
from zesty_veil.bench.steps import span_words
from zesty_veil.bench.tasks import tasks
from zesty_veil.cli import main as cli
from zesty_veil.errors import InputError
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.plan.samples import sample

RACK = {paint.name: paint for paint in demo_rack()}


def coat(words: str) -> Coat:
    return parse_coat(words, RACK)


def test_vapour_pressures_are_those_of_the_tables() -> None:
    """Saturation over water, CRC Handbook of Chemistry and Physics, in hPa; from memory."""
    for celsius, hpa in ((10.0, 12.28), (20.0, 23.39), (30.0, 42.47)):
        assert vapour_pressure(celsius) == pytest.approx(hpa, rel=0.005)
    assert slower(Air()) == pytest.approx(1)
    # Half as dry an air takes twice as long (Dalton).
    assert slower(Air(humidity=75)) == pytest.approx(2)


@pytest.mark.common_practice
@pytest.mark.parametrize(
    ("words", "least", "most"),
    [
        ("Furnace Red; water 3; tool glaze", 2, 5),
        ("Lime White; water 1", 5, 10),
        ("Soot Wash; tool wash", 45, 60),
        ("Lime White; tool spray", 30, 60),
    ],
)
def test_minutes_at_twenty_degrees_are_those_of_the_trade(
    words: str, least: float, most: float
) -> None:
    found = recoat(coat(words), Air())
    assert found.least == pytest.approx(least, rel=0.25)
    assert found.most == pytest.approx(most, rel=0.25)


@settings(max_examples=40, deadline=None)
@given(st.floats(6, 38), st.floats(6, 92), st.floats(0.3, 3), st.floats(0, 6))
def test_damp_cold_and_thick_films_dry_more_slowly(
    celsius: float, humidity: float, film: float, thinning: float
) -> None:
    laid = replace(coat("Lime White"), mixture=Mixture((Part("Lime White"),), "water", thinning))
    here = recoat(laid, Air(celsius, humidity), film)
    assert here.least <= here.most
    assert recoat(laid, Air(celsius + 1, humidity), film).most <= here.most
    assert recoat(laid, Air(celsius, humidity + 2), film).most >= here.most
    assert recoat(laid, Air(celsius, humidity), film * 1.1).most >= here.most
    thinner = replace(laid, mixture=replace(laid.mixture, thinning=thinning + 1))
    assert recoat(thinner, Air(celsius, humidity), film).most >= here.most


@pytest.mark.common_practice
def test_a_hairdryer_takes_seconds_puddles_long_and_a_flood_waits() -> None:
    glaze, wash = coat("Furnace Red; water 3; tool glaze"), coat("Soot Wash; tool wash")
    assert recoat(glaze, Air(hairdryer=True)).most < 1
    assert recoat(coat("Lime White; tool spray"), Air(hairdryer=True)).least > 20
    assert recoat(replace(wash, wicked=True), Air()).most < 0.5 * recoat(wash, Air()).most
    assert before_flood(glaze, Air()).least == pytest.approx(3 * recoat(glaze, Air()).least)
    assert floods(wash)
    assert not floods(glaze)
    slow = recoat(glaze, Air(retarder=True))
    assert slow.most == pytest.approx(2 * recoat(glaze, Air()).most)
    medium = coat("Furnace Red; medium 3; tool glaze")
    assert recoat(medium, Air()).least > recoat(glaze, Air()).least


@pytest.mark.parametrize(
    ("air", "words"),
    [((60.0, 50.0), "At 60 degrees"), ((20.0, 100.0), "At 100 % humidity")],
)
def test_air_that_nobody_paints_in_is_refused(air: tuple[float, float], words: str) -> None:
    with pytest.raises(InputError, match=words):
        Air(*air)


def test_a_film_takes_its_area_times_its_thickness() -> None:
    passage = Passage("p", area_mm2=1000.0)
    # 1000 mm2 under 6 um, three times: 18 mm3, which are microlitres.
    glaze = coat("Furnace Red; water 3; passes 3; tool glaze")
    assert wet_ul(glaze, passage) == pytest.approx(18)
    assert wet_ul(glaze, passage, figures=3) == pytest.approx(54)
    half = replace(glaze, span=(0.0, 0.4), feather=(0.0, 0.2))
    assert wet_ul(half, passage) == pytest.approx(9)
    # Ridges alone are a quarter of the relief.
    assert wet_ul(replace(glaze, sites=("ridge",)), passage) == pytest.approx(4.5, rel=0.1)


@pytest.mark.parametrize(
    ("span", "feather", "words"),
    [
        (
            (1.0, 1.0),
            (0.2, 0.0),
            "the last fifth, full only at the far end (16 to 20 mm, in full from 20)",
        ),
        (
            (0.0, 0.0),
            (0.0, 0.25),
            "at the light alone, faded out by a quarter (0 to 5 mm, in full to 0)",
        ),
        (
            (0.5, 0.5),
            (0.1, 0.2),
            "round half-way, soft at both ends (8 to 14 mm, in full 10 to 10)",
        ),
        (
            (0.5, 1.0),
            (0.1, 0.0),
            "from half-way on, fading in from two fifths (8 to 20 mm, in full from 10)",
        ),
    ],
)
def test_no_step_covers_nothing(
    span: tuple[float, float], feather: tuple[float, float], words: str
) -> None:
    """What lies in full at a point alone is told by where it reaches, not as from 20 to 20 mm."""
    laid = replace(coat("Furnace Red; water 3; tool glaze"), span=span, feather=feather)
    assert span_words(laid, Passage("p", 20.0)) == words


@settings(max_examples=150, deadline=None)
@given(
    st.lists(st.integers(1, 6), min_size=1, max_size=3),
    st.sampled_from([0.0, 0.5, 1.0, 1.5, 2.5, 3.0, 5.0, 7.0]),
    st.floats(0.1, 2000),
)
def test_drops_are_whole_enough_and_no_further_off_than_they_say(
    parts: list[int], thinning: float, needed: float
) -> None:
    mixture = Mixture(tuple(Part(f"p{i}", n) for i, n in enumerate(parts)), "water", thinning)
    paints, thinner, error = drops_of(mixture, needed)
    drops = [n for _, n in paints]
    assert min(drops) >= 1
    assert (sum(drops) + thinner) * DROP_UL >= needed - 1e-6
    for n, part in zip(drops, parts, strict=True):
        assert abs(n / sum(drops) * sum(parts) / part - 1) <= error + 1e-9
    if thinning:
        assert abs(thinner / sum(drops) / thinning - 1) <= error + 1e-9
    # All these ratios can be counted out with few drops.
    assert error <= 0.05 + 1e-9


@pytest.mark.common_practice
def test_common_ratios_are_common_drops() -> None:
    for words, paints, thinner in (
        ("Furnace Red; water 3", [1], 3),
        ("Lamp Black 2 + Furnace Red 1; water 5", [2, 1], 15),
        ("Lime White; water 0.5", [2], 1),
        ("Driftbone Ivory 1 + Kiln Yellow 2; water 1", [1, 2], 3),
    ):
        found, thin, error = drops_of(coat(words).mixture, 10.0)
        assert ([n for _, n in found], thin, error) == (paints, thinner, 0)


def test_paint_is_conserved_from_pots_to_batch() -> None:
    plan = replace(sample("glasswright"), figures=3)
    made = pots(plan, plan.rack())
    assert len({pot.mixture for pot in made}) == len(made)
    laid = sum(wet_ul(c, p, 3) for p in plan.passages for c in (*p.ground.coats, *p.coats))
    assert sum(pot.drops.needed_ul for pot in made) * (1 - LOSS) == pytest.approx(laid)
    thinners = sum(
        pot.drops.needed_ul * pot.mixture.thinning / (1 + pot.mixture.thinning) for pot in made
    )
    paints = sum(ul for _, ul, _ in totals(plan))
    assert (paints + thinners) * (1 - LOSS) == pytest.approx(laid)


def test_rounding_says_how_far_it_leads() -> None:
    odd = replace(coat("Furnace Red; tool glaze"), passes=6)
    odd = replace(
        odd, mixture=Mixture((Part("Furnace Red"), Part("Lime White", 37.0)), "water", 0.03)
    )
    plan = Plan("odd", (Passage("p", area_mm2=30.0, coats=(odd,)),), demo_rack())
    (pot,) = pots(plan, plan.rack())
    assert pot.drops.ratio_error > 0.2
    assert pot.drops.de00 > 1
    plain = replace(plan, passages=(replace(plan.passages[0], coats=(coat("Furnace Red"),)),))
    assert pots(plain, plain.rack())[0].drops.de00 == 0


def test_evenings_end_in_time_and_lay_everything_once() -> None:
    plan = sample("diver")
    chains = tasks(plan, Air(), 2)
    found = split_sessions(chains, 60, Changes())
    assert len(found) > 2
    assert all(one.makespan <= 60 for one in found)
    whats = [(p.work.figure, p.work.what) for one in found for p in one.placed]
    assert sorted(map(str, whats)) == sorted(str((w.figure, w.what)) for c in chains for w in c)
    # Every passage goes on where it was.
    for chain in chains:
        mine = [p.work for one in found for p in one.placed if p.work in chain]
        order = [w.what for w in mine if w.figure == chain[0].figure]
        assert order == [w.what for w in chain]
    assert len(split_sessions(chains, None)) == 1
    with pytest.raises(InputError, match="too short"):
        split_sessions(chains, 0.1)
    with pytest.raises(InputError, match="more than 60 evenings"):
        split_sessions((tuple(Task(1, 1) for _ in range(80)),), 1.5)


def test_a_schedule_from_the_command_line(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path = tmp_path / "d.veil"
    save(sample("diver"), path)
    found = answer(capsys, "schedule", str(path), "--figures", "2", "--json")
    (sitting,) = found["sittings"]
    assert sitting["minutes"] >= sitting["bound"]
    assert sitting["pots_at_once"] >= 1
    assert {step["figure"] for step in sitting["steps"]} == {1, 2}
    starts = [step["start"] for step in sitting["steps"]]
    assert starts == sorted(starts)
    assert all(pot["needed_ul"] > 0 for pot in found["drops"])
    damp = answer(capsys, "schedule", str(path), "--humidity", "85", "--json")
    dry = answer(capsys, "schedule", str(path), "--hairdryer", "--json")
    assert dry["sittings"][0]["minutes"] < damp["sittings"][0]["minutes"]
    text = run(capsys, "schedule", str(path), "--evening", "60")
    assert "Sitting 2:" in text
    assert "pass 1 of 2" in text
    save(Plan("empty", (Passage("p"),)), path)
    for words, said in (
        (("schedule", str(path)), "nothing to lay"),
        (("schedule", str(path), "--evening", "-3"), "must be more than 0"),
        (("schedule", str(path), "--celsius", "99"), "At 99 degrees"),
    ):
        assert cli.run(list(words)) == 2
        assert said in capsys.readouterr().err
