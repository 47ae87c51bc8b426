"""How sure, one pass more or less, coats to, metamerism, and appearance."""

from __future__ import annotations

import warnings

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.light.ciecam16 import Viewing, ciecam16
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.illuminant import white
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.streams import ROOTS, lambertian
from zesty_veil.paint.mixture import blend
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import with_passes
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.predict.coatsto import RATIOS, coats_to, coats_to_hide
from zesty_veil.predict.field import SITE_RELIEF, axis, fold, predict
from zesty_veil.predict.layer import Layer, StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.metamerism import match
from zesty_veil.predict.onepass import one_passes
from zesty_veil.predict.sure import _lognormal, sureness
from zesty_veil.thresholds import CLOSE_DE00

with warnings.catch_warnings():
    # It announces optional plotting features that are not installed.
    warnings.simplefilter("ignore")
    import colour

FLAT = np.zeros(1)
Rack = dict[str, Paint]


def passage(rack: Rack, ground: str, *coats: str) -> Passage:
    laid = tuple(parse_coat(words, rack) for words in coats)
    return Passage("p", ground=Ground(ground), coats=laid)  # type: ignore[arg-type]


def test_a_band_holds_the_nominal_colour_and_widens_with_the_hand(rack: Rack) -> None:
    glaze = passage(rack, "white", "Furnace Red; water 3; passes 3; tool glaze")
    nominal = predict(glaze, rack, axis(5)).lch
    medians = []
    for hand in ("steady", "ordinary", "loose"):
        sure = sureness(glaze, rack, axis(5), SITE_RELIEF, hand)  # type: ignore[arg-type]
        assert (sure.low <= nominal).all()
        assert (nominal <= sure.high).all()
        medians.append(sure.causes["film"])
    assert medians == sorted(medians)
    # Common practice: three passes of a thin glaze by an ordinary hand stay close to plan.
    assert 0.3 < medians[1] < 2


def test_the_same_plan_gives_the_same_band(rack: Rack) -> None:
    glaze = passage(rack, "white", "Flask Blue; water 2", "Lime White; tool sponge; passes 2")
    once, again = (sureness(glaze, rack, axis(3), SITE_RELIEF) for _ in range(2))
    assert (once.low == again.low).all()
    assert once.causes == again.causes


def test_more_passes_are_surer_than_one(rack: Rack) -> None:
    # The same paint in one pass or in eight thin ones: errors of passes average out.
    one, many = (
        sureness(passage(rack, "white", words), rack, axis(1), FLAT).causes["film"]
        for words in ("Furnace Red; water 1", "Furnace Red; water 15; passes 8")
    )
    assert many < one


def test_nothing_varies_where_nothing_is_laid(rack: Rack) -> None:
    sure = sureness(passage(rack, "grey"), rack, axis(3), SITE_RELIEF)
    np.testing.assert_allclose(sure.median, 0, atol=1e-9)
    solid = passage(rack, "black", "Lime White; passes 12")
    assert sureness(solid, rack, axis(1), FLAT).causes["film"] < 0.5


def test_the_cause_that_matters_most_is_named(rack: Rack) -> None:
    solid = passage(rack, "black", "Furnace Red; passes 20")
    assert sureness(solid, rack, axis(1), FLAT, "steady").main_cause == "paint"
    single = passage(rack, "white", "Lamp Black; water 3; tool glaze")
    assert sureness(single, rack, axis(1), FLAT, "loose").main_cause == "film"


def test_hues_are_compared_the_short_way_round(rack: Rack) -> None:
    # A red whose hue lies at 0: its draws fall to both sides of it.
    rose = passage(rack, "white", "Foxglove Magenta 5 + Furnace Red 1; water 3")
    sure = sureness(rose, rack, axis(1), FLAT)
    hue = float(predict(rose, rack, axis(1), FLAT).lch[0, 0, 2])
    assert min(hue, 360 - hue) < 5
    assert float(sure.high[0, 0, 2] - sure.low[0, 0, 2]) < 40


def test_draws_are_neither_thicker_nor_thinner_on_average() -> None:
    drawn = _lognormal(np.random.default_rng(3), 0.45, 20_000)
    assert drawn.mean() == pytest.approx(1, abs=0.005)
    assert drawn.std() == pytest.approx(0.45, rel=0.02)


def test_passes_stray_each_by_itself(rack: Rack) -> None:
    # Eight passes stray by about the root of eight less than all at once would, but for what the
    # whole sitting strays by, which they share.
    thin = "Furnace Red; water 15"
    one = sureness(passage(rack, "white", f"{thin}; passes 1"), rack, axis(1), FLAT)
    whole = predict(passage(rack, "white", f"{thin}; passes 8"), rack, axis(1), FLAT).lab[0, 0]
    third = 1 + np.hypot(0.3 / np.sqrt(8), 0.12)
    stronger = f"Furnace Red; water {16 / third - 1}; passes 8"
    off = float(
        ciede2000(whole, predict(passage(rack, "white", stronger), rack, axis(1), FLAT).lab[0, 0])
    )
    many = sureness(passage(rack, "white", f"{thin}; passes 8"), rack, axis(1), FLAT)
    # The median of a normal spread is two thirds of its deviation.
    assert many.causes["film"] == pytest.approx(0.67 * off, rel=0.5)
    assert one.causes["film"] > 0


def test_medium_leaves_as_thick_a_film_however_much_of_it_there_is(rack: Rack) -> None:
    # Straying in the ratio of medium changes the colour by what paint there is, not by the film:
    # a metal's flakes or a matt paint would tell. Here: the same colours as with water.
    films = [
        sureness(
            passage(rack, "white", f"Furnace Red; {thinner} 4; passes 3"), rack, axis(1), FLAT
        ).causes["ratio"]
        for thinner in ("water", "medium")
    ]
    assert films[0] == pytest.approx(films[1], rel=0.2)


def test_sureness_of_fluorescent_and_metallic_paint(rack: Rack) -> None:
    both = passage(rack, "white", "Tin Silver", "Signal Orange; water 2", "Kiln Yellow; water 3")
    sure = sureness(both, rack, axis(3), FLAT, look=ViewingConditions(angle="glint"))
    assert np.isfinite(sure.low).all()
    assert sure.median.min() > 0


def test_no_draw_of_a_fluorescent_paint_sends_out_more_than_it_takes(rack: Rack) -> None:
    # The dye's share of the absorption stays its share when the paint is drawn stronger or weaker.
    glow = blend(parse_coat("Signal Orange", rack).mixture, rack)
    assert glow.dyes is not None
    for factor in (0.3, 1.0, 3.0):
        mix = glow._replace(mu_a=glow.mu_a * factor)
        layer = Layer.of(mix, np.array(0.03), np.array(0.03), np.array(1.0))
        assert layer.glow is not None
        # Of light that falls in from above, what is sent out on both sides and what is left of it.
        out = layer.glow.sends_up + layer.glow.sends_down
        out = (out * ROOTS[:, None]).sum(axis=(-1, -2))
        sent = np.einsum("k,ksb->sb", out, layer.glow.sees_up)
        for i, own in enumerate(("steep", "shallow")):
            left = sum(getattr(x, own) + x.mixed * ROOTS[1 - i] / ROOTS[i] for x in layer.film)
            assert (sent[i] / ROOTS[i] <= 1 - left + 1e-9).all()


def test_one_pass_more_or_less(rack: Rack) -> None:
    red = passage(
        rack, "white", "Furnace Red; water 3; tool glaze; passes 4", "Kiln Yellow; water 6"
    )
    step, glaze = one_passes(red, rack)
    assert step.less is not None
    assert step.less > step.more > 0  # the first passes change most
    fifth = replace(red, coats=(with_passes(red.coats[0], 5), red.coats[1]))
    whole, other = (predict(p, rack, axis(21)).lab for p in (red, fifth))
    assert step.more == pytest.approx(float(ciede2000(whole, other).max()))
    assert glaze.less is None


def test_coats_to_a_colour(rack: Rack) -> None:
    coat = parse_coat("Furnace Red; tool glaze", rack)
    here = passage(rack, "white")
    goal = passage(rack, "white", "Furnace Red; water 3; tool glaze; passes 6")
    wanted = predict(goal, rack, axis(1), FLAT).lab[0, 0]
    ways = {way.thinning: way for way in coats_to(wanted, coat, here, rack)}
    assert set(ways) == set(RATIOS)
    counts = [ways[r].passes for r in RATIOS if ways[r].passes is not None]
    assert counts == sorted(counts)  # thinner takes more passes
    assert ways[3.0].passes is not None
    assert ways[3.0].passes <= 6
    assert ways[3.0].closest <= CLOSE_DE00
    assert all(way.passes == 0 for way in coats_to(wanted, coat, goal, rack))
    # Thinner passes stray less, which is why a less sure hand takes them.
    strays = [way.sensitivity for way in ways.values() if way.sensitivity is not None]
    assert 0.2 < strays[-1] < strays[0] < 8


def test_the_closest_is_the_best_on_the_way_not_the_last(rack: Rack) -> None:
    # Blue glazes pass by this pale blue and go on into the dark.
    wanted = predict(
        passage(rack, "white", "Flask Blue; water 8; passes 2"), rack, axis(1), FLAT
    ).lab[0, 0] + np.array([0.0, 6.0, 0.0])
    ways = coats_to(
        wanted, parse_coat("Flask Blue; tool glaze", rack), passage(rack, "white"), rack
    )
    assert all(way.passes is None for way in ways)
    assert all(way.closest < 12 for way in ways)


def test_never_is_said_when_it_cannot(rack: Rack) -> None:
    """Common practice: no number of passes of yellow brings black to yellow over white."""
    clean = passage(rack, "white", "Kiln Yellow; passes 2")
    wanted = predict(clean, rack, axis(1), FLAT).lab[0, 0]
    coat = parse_coat("Flask Blue; tool glaze", rack)
    for way in coats_to(wanted, coat, passage(rack, "black"), rack):
        assert way.passes is None
        assert way.closest > 20


def test_hiding(rack: Rack) -> None:
    """Common practice: white hides in a few coats, ink over white does not."""
    black = passage(rack, "black")
    white_ways = coats_to_hide(parse_coat("Lime White", rack), black, rack)
    assert white_ways[0].passes is not None
    assert 2 <= white_ways[0].passes <= 8
    ink = coats_to_hide(
        parse_coat("Clinker Red Ink; tool glaze", rack), passage(rack, "white"), rack
    )
    assert ink[-1].passes is None


def two_greys() -> tuple[StackOptics, StackOptics]:
    """Return two stacks that match under daylight by construction and under nothing else."""
    from zesty_veil.light.illuminant import weights  # noqa: PLC0415

    W = weights("D65")
    rng = np.random.default_rng(0)
    noise = np.convolve(rng.normal(size=36), np.ones(5), "same")
    black = noise - W @ np.linalg.lstsq(W, noise, rcond=None)[0]  # no XYZ of its own
    base = np.full(36, 0.4)
    finish = np.array(0.0)
    one, other = base, base + 0.12 * black / np.abs(black).max()
    from zesty_veil.optics.surface import internal  # noqa: PLC0415

    first, second = (
        StackOptics(plain(lambertian(internal(r, 0.0))), finish, None) for r in (one, other)
    )
    return first, second


def test_a_match_that_breaks_under_another_light() -> None:
    found = match(*two_greys())
    assert found.under["D65"] < 0.1
    assert found.under["A"] > 1
    assert set(found.breaks) == {n for n, dE in found.under.items() if dE > 4}
    same = match(two_greys()[0], two_greys()[0])
    assert set(same.under.values()) == {0.0}
    assert same.breaks == ()


def test_two_pots_of_the_same_orange_part_under_a_bulb(rack: Rack) -> None:
    # Mixed and pure orange: what matches by day need not by lamp light.
    pure = passage(rack, "white", "Ember Orange")
    mixed = passage(rack, "white", "Kiln Yellow 3 + Furnace Red 1")
    states = [fold(p, p.coats, rack, axis(1), FLAT) for p in (pure, mixed)]
    under = match(states[0], states[1]).under
    assert len({round(v, 2) for v in under.values()}) > 1


@pytest.mark.parametrize("light", ["D65", "A"])
@pytest.mark.parametrize("background", [0.01, 0.2, 0.9])
def test_appearance_agrees_with_the_reference(light: str, background: float) -> None:
    # CIE 248:2022, with colour-science's implementation as the reference.
    rng = np.random.default_rng(9)
    xyz = rng.uniform(0.01, 1, (200, 3)) * white(light)
    ours = ciecam16(xyz, white(light), Viewing(background, 64.0))
    theirs = colour.XYZ_to_CAM16(
        xyz * 100,
        white(light) * 100,
        64.0,
        background * 100,
        colour.VIEWING_CONDITIONS_CAM16["Average"],
    )
    np.testing.assert_allclose(ours[:, 0], theirs.J, rtol=1e-6)
    np.testing.assert_allclose(ours[:, 1], theirs.M, rtol=1e-6)
    np.testing.assert_allclose(ours[:, 2], theirs.h, rtol=1e-6)


def test_a_black_surround_makes_an_orange_look_brighter(rack: Rack) -> None:
    """Common practice: the black round a flame is what makes it glow."""
    state = fold(passage(rack, "white"), (parse_coat("Ember Orange", rack),), rack, axis(1), FLAT)
    from zesty_veil.light.cielab import xyz_from_lab  # noqa: PLC0415

    tristimulus = xyz_from_lab(colours(state)[0][0, 0], white())
    J = [ciecam16(tristimulus, white(), Viewing(Y))[0] for Y in (0.02, 0.2, 0.85)]
    assert J[0] > J[1] > J[2]
