"""Fields of passages: spans and feathers, continuity, partial cover, what a coat adds, words."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from conftest import small_plan
from workshop import hand_laid
from zesty_veil.errors import InputError, PaintError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.light.value import value
from zesty_veil.optics.dabs import beside, domed, uneven
from zesty_veil.optics.stack import over
from zesty_veil.optics.streams import diffuse, lambertian
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.paint.primer import primer
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paint.tool import tools
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import with_feather, with_passes, with_span
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.plan.samples import SAMPLES, sample
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import SITE_RELIEF, axis, fold, predict
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.harsh import harsh_places, step_sizes
from zesty_veil.predict.lay import bare, laid_up, prepare, thickness
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.named import named
from zesty_veil.predict.pour import laid
from zesty_veil.predict.strokes import STROKE_MM, passes_along
from zesty_veil.predict.words import change_word, describe

U = axis(401)
FLAT = np.zeros(1)
RACK = {paint.name: paint for paint in demo_rack()}


def coat_of(words: str, rack: dict[str, Paint], start: float, end: float, **feather: float) -> Coat:
    """Return a coat with a span and feathers."""
    coat = with_span(parse_coat(words, rack), start, end)
    return with_feather(coat, feather.get("light", 0.0), feather.get("far", 0.0))


def test_one_neat_coat_by_hand(rack: dict[str, Paint]) -> None:
    # The whole chain written out for one place: a film over the primer, 50 um of wet film
    # thinned 1:1, pooled by 0.25 sinh-normalised as the relief asks.
    coat = parse_coat("Kiln Yellow; medium 1", rack)
    passage = Passage("test", ground=Ground("white"), coats=(coat,))
    X = 0.050 / 2 * 0.25 / np.sinh(0.25)
    # Ridges and valleys of a loaded brush: a fifth of it.
    one = uneven(*spectra(rack["Kiln Yellow"]), np.array(X), np.array(0.2))
    found = fold(passage, passage.coats, rack, axis(1), FLAT).R.d
    for mine, theirs in zip(found, over(one, lambertian(primer("white"))), strict=True):
        np.testing.assert_allclose(mine[0, 0], theirs, rtol=1e-12)


def test_a_coat_is_full_in_its_span_and_gone_beyond_its_feathers(rack: dict[str, Paint]) -> None:
    coat = coat_of("Ember Orange; passes 4", rack, 0.3, 0.6, light=0.1, far=0.2)
    share = passes_along(coat, U, 40.0).sum(axis=0) / 4
    assert (share[(U >= 0.3) & (U <= 0.6)] == 1).all()
    assert (share[(U <= 0.2 - 1e-9) | (U >= 0.8 + 1e-9)] == 0).all()
    outward = share[U >= 0.6]
    assert (np.diff(outward) <= 1e-15).all()
    assert 0.4 < float(np.interp(0.7, U, share)) < 0.6


def test_each_pass_stops_a_little_earlier_than_the_one_before(rack: dict[str, Paint]) -> None:
    coat = coat_of("Ember Orange; passes 5", rack, 0.0, 0.4, far=0.5)
    reaches = [float(U[row > 0.5].max()) for row in passes_along(coat, U, 40.0)]
    np.testing.assert_allclose(np.diff(reaches), -0.1, atol=0.006)


def test_an_unfeathered_edge_is_as_soft_as_a_stroke(rack: dict[str, Paint]) -> None:
    coat = coat_of("Ember Orange; passes 3", rack, 0.0, 0.5)
    share = passes_along(coat, U, 10.0)
    soft = STROKE_MM / 10.0
    assert (share[:, 0.5 + soft <= U] == 0).all()
    assert 0.3 < float(share[0, np.abs(U - 0.5 - soft / 2).argmin()]) < 0.7


span_end = st.floats(0, 1)


@given(span_end, st.floats(0, 0.5), st.integers(1, 6), st.sampled_from(["glaze", "sponge"]))
def test_the_field_moves_smoothly_with_every_number(
    end: float, feather: float, passes: int, tool: str
) -> None:
    rack = {p.name: p for p in hand_laid().paints}
    base = parse_coat(f"Furnace Red; water 2; tool {tool}; passes {passes}", rack)

    def colours(end: float, feather: float, thinning: float) -> Array:
        mixture = replace(base.mixture, thinning=thinning)
        coat = replace(base, span=(0.0, end), feather=(0.0, feather), mixture=mixture)
        passage = Passage("p", 20.0, coats=(coat,), ground=Ground("white"))
        return predict(passage, rack, axis(9)).lab

    # Not through the edits, which round to what a hand can place.
    here = colours(end, feather, 2.0)
    for other in (
        colours(min(end + 2e-5, 1), feather, 2.0),
        colours(end, feather + 2e-5, 2.0),
        colours(end, feather, 2.0001),
    ):
        assert float(ciede2000(here, other).max()) < 0.2


@given(
    st.sampled_from(["water", "medium", "thick medium"]),
    st.floats(0, 8),
    st.sampled_from(["loaded", "wash", "airbrush", "drybrush", "stipple"]),
    st.floats(0, 120),
    st.floats(0.1, 5),
)
def test_every_other_number_moves_it_smoothly_too(
    thinner: str, thinning: float, tool: str, nozzle: float, parts: float
) -> None:
    base = parse_coat(f"Signal Orange 2 + Pipe Copper 1; tool {tool}; stroke to far", RACK)

    def colours(thinning: float, nozzle: float, parts: float, length: float) -> Array:
        mixed = (replace(base.mixture.parts[0], parts=parts), base.mixture.parts[1])
        mixture = Mixture(mixed, thinner, thinning)  # type: ignore[arg-type]
        coat = replace(base, mixture=mixture, nozzle=nozzle, span=(0.2, 0.7), feather=(0.1, 0.1))
        coats = (coat, parse_coat("Soot Wash", RACK))
        passage = Passage("p", length, coats=coats, ground=Ground("white"))
        return predict(passage, RACK, axis(9), look=ViewingConditions(angle="glint")).lab

    here = colours(thinning, nozzle, parts, 20.0)
    for other in (
        colours(thinning + 1e-5, nozzle, parts, 20.0),
        colours(thinning, nozzle + 1e-4, parts, 20.0),
        colours(thinning, nozzle, parts + 1e-5, 20.0),
        colours(thinning, nozzle, parts, 20.0001),
    ):
        assert float(ciede2000(here, other).max()) < 0.1


@given(st.integers(1, 12), st.floats(0, 20))
def test_more_passes_of_an_ink_never_raise_reflectance(passes: int, thinning: float) -> None:
    rack = {p.name: p for p in hand_laid().paints}
    ink = replace(rack["Dusk Violet Ink"], mu_s=(0.0,) * 36)
    coat = parse_coat(f"Dusk Violet Ink; water {thinning}", rack)
    passage = Passage("p", ground=Ground("white"))
    state = bare(passage, axis(1), FLAT)
    once, more = (
        diffuse(
            fold_coats(
                state, prepare([with_passes(coat, n)], {ink.name: ink}, passage, axis(1), FLAT)
            ).R.d
        )
        for n in (passes, passes + 1)
    )
    assert (more <= once + 1e-15).all()


def test_paint_is_conserved_over_the_relief(rack: dict[str, Paint]) -> None:
    relief = np.linspace(-1, 1, 2001)
    for tool in ("loaded", "glaze", "wash", "contrast"):
        coat = parse_coat(f"Flask Blue; water 2; tool {tool}", rack)
        across = laid(coat, Passage("p"), axis(1), relief).across
        mean = np.trapezoid(across, relief) / 2
        assert mean == pytest.approx(tools()[tool].wet_film_um / 1000, rel=1e-4)
        assert (across > 0).all()


def test_water_leaves_and_medium_stays(rack: dict[str, Paint]) -> None:
    water, medium = (
        thickness(parse_coat(f"Flask Blue; {t} 3", rack), Passage("p"), axis(1), FLAT)
        for t in ("water", "medium")
    )
    assert medium.neat == pytest.approx(water.neat, rel=5e-3)
    assert medium.dry == pytest.approx(4 * water.dry, rel=5e-3)


def test_partial_cover_is_averaged_pass_by_pass(rack: dict[str, Paint]) -> None:
    """A sponge touches 0.35 of the area, in domes; a thirteenth of the light goes between them."""
    passage = Passage("p", ground=Ground("black"))
    state = bare(passage, axis(1), FLAT)
    sponge = parse_coat("Lime White; tool sponge", rack)
    dab = fold_coats(state, prepare([sponge], rack, passage, axis(1), FLAT)).R.d
    black = lambertian(primer("black"))
    dome = domed(*spectra(rack["Lime White"]), np.array(0.033))
    full = over(dome, black)
    among = over(beside(dome, np.array(0.35)), black)
    stray = 4 * 0.03 / (np.pi * 0.5)
    for mine, covered, bared, mixed in zip(dab, full, black, among, strict=True):
        apart = 0.35 * covered + 0.65 * bared
        np.testing.assert_allclose(mine[0, 0], apart + stray * (mixed - apart), rtol=1e-12)


def test_an_unknown_paint_is_named(rack: dict[str, Paint]) -> None:
    passage = replace(small_plan().passages[0])
    with pytest.raises(PaintError, match="'Lime White' is not held"):
        predict(passage, {}, axis(3))


@pytest.mark.parametrize("name", SAMPLES)
def test_demo_fields_are_possible_colours(name: str) -> None:
    plan = sample(name)
    for passage in plan.passages:
        field = predict(passage, plan.rack(), axis(33), np.linspace(-1, 1, 9))
        assert field.lab.shape == (33, 9, 3)
        assert np.isfinite(field.lab).all()
        assert ((field.value > 0) & (field.value < 12)).all()
        assert ((field.rgb >= 0) & (field.rgb <= 1)).all()


def test_the_demo_flame_goes_from_white_through_yellow_and_red_to_black() -> None:
    plan = hand_laid()
    field = predict(plan.passages[0], plan.rack(), axis(101), FLAT)
    words = [describe(field.lch[i, 0], float(field.value[i, 0])) for i in range(101)]
    first = [
        next(i for i, w in enumerate(words) if part in w)
        for part in ("white", "yellow", "orange", "red", "black")
    ]
    assert first == sorted(first)
    assert (np.diff(field.value[:, 0]) < 0.05).all()


def test_what_a_coat_adds(rack: dict[str, Paint]) -> None:
    coats = tuple(
        parse_coat(words, rack)
        for words in ("Foxglove Magenta", "Lamp Black; passes 4", "Kiln Yellow; water 1")
    )
    hidden, black, yellow = contributions(Passage("p", ground=Ground("white"), coats=coats), rack)
    assert hidden.most < 1  # black hides what is below it
    assert black.most > 30
    assert 0 < yellow.mean <= yellow.most
    whole = predict(Passage("p", ground=Ground("white"), coats=coats), rack, axis(41))
    without = predict(Passage("p", ground=Ground("white"), coats=coats[:2]), rack, axis(41))
    assert yellow.most == pytest.approx(float(ciede2000(whole.lab, without.lab).max()))


def test_what_a_coat_adds_is_found_where_it_lies(rack: dict[str, Paint]) -> None:
    coats = (coat_of("Ember Orange", rack, 0.8, 1.0),)
    (only,) = contributions(Passage("p", ground=Ground("white"), coats=coats), rack)
    assert 0.75 <= only.where <= 1.0


def test_a_harsh_step_is_found_and_a_long_feather_mends_it(rack: dict[str, Paint]) -> None:
    def places(feather: float) -> tuple[float, ...]:
        coat = coat_of("Furnace Red; water 14; passes 8; tool glaze", rack, 0, 0.4, far=feather)
        field = predict(Passage("p", 30.0, ground=Ground("white"), coats=(coat,)), rack, axis(256))
        return harsh_places(field.lab, axis(256), 30.0)

    (edge,) = places(0.0)
    assert edge == pytest.approx(0.4, abs=0.03)
    assert places(0.55) == ()


def test_step_sizes_are_differences_over_half_a_millimetre() -> None:
    u = axis(101)
    lab = np.stack([50 + 0 * u, 0 * u, 0 * u], axis=-1)
    assert step_sizes(lab, u, 20.0).max() == 0


@pytest.mark.parametrize(
    ("lch", "value", "words"),
    [
        ((95, 1, 0), 9.5, "white"),
        ((8, 1, 0), 0.7, "black"),
        ((50, 2, 200), 5, "grey"),
        ((86, 92, 92), 8.5, "vivid yellow"),
        ((49, 32, 109), 4.8, "muted olive-green"),
        ((44, 78, 31), 4.3, "strong red"),
        ((65, 94, 57), 6.4, "vivid orange"),
        ((30, 22, 50), 3.0, "muted brown"),
        ((24, 78, 306), 2.4, "strong dark violet"),
        ((55, 50, 200), 5.4, "clear turquoise"),
        ((60, 40, 359.9), 5.9, "clear pink"),
    ],
)
def test_words_for_a_colour(lch: tuple[float, float, float], value: float, words: str) -> None:
    """The words are common practice."""
    assert describe(np.array(lch, dtype=float), value) == words


def test_words_for_a_change() -> None:
    """The borders are common practice."""
    words = [change_word(d) for d in (0.5, 2, 5, 12, 40)]
    assert len(set(words)) == 5
    assert words[0] == "nothing that shows"


@pytest.mark.parametrize(
    "words",
    ["strong orange", "vivid yellow", "muted brown", "dark grey", "clear blue", "clear violet",
     "strong red", "clear pink", "muted olive-green"],
)  # fmt: skip
def test_words_lead_to_a_colour_that_is_so_called(words: str) -> None:
    L, C, h = (float(v) for v in lch(named(words)))
    Y = ((L + 16) / 116) ** 3
    assert describe(np.array([L, C, h]), float(value(np.array(Y)))) == words


def test_fewer_words_mean_any_such_colour_and_none_mean_none() -> None:
    assert "orange" in describe(lch(named("Orange")), 6.0)
    for nothing in ("", "  ", "mauvish", "strong", "orange of a sort"):
        with pytest.raises(InputError, match="is no colour"):
            named(nothing)


@pytest.mark.parametrize("name", SAMPLES)
def test_single_precision_is_as_good_for_pictures(name: str) -> None:
    plan, relief = sample(name), np.linspace(-1, 1, 9)
    for passage in plan.passages:
        exact, rough = (
            colours(fold(passage, passage.coats, plan.rack(), axis(33), relief, rough=rough))[0]
            for rough in (False, True)
        )
        assert float(ciede2000(exact, rough).max()) < 0.01


def test_what_is_kept_below_a_coat_is_what_lies_there(rack: dict[str, Paint]) -> None:
    """Edits one after the other come out as if each plan were seen for the first time."""

    def over(words: str, start: float, end: float) -> Coat:
        return with_feather(with_span(parse_coat(words, rack), start, end), 0.1, 0.2)

    coats = [
        over("Lime White; tool sponge; passes 3", 0, 0.7),
        over("Flask Blue; water 3", 0.2, 1),
        over("Signal Orange; water 1", 0.1, 0.5),
        over("Tin Silver", 0.4, 0.8),
        parse_coat("Kiln Yellow; water 2", rack),
    ]
    rng = np.random.default_rng(8)
    for _ in range(30):
        k = int(rng.integers(len(coats)))
        match rng.integers(4):
            case 0:
                coats[k] = replace(coats[k], passes=int(rng.integers(1, 4)))
            case 1:
                coats[k] = replace(
                    coats[k], mixture=replace(coats[k].mixture, thinning=float(rng.integers(4)))
                )
            case 2:
                coats = coats[k:] + coats[:k]
            case _:
                coats = coats[:k] + coats[k + 1 :] + [coats[k]]
        ground_now = Ground(str(rng.choice(["white", "black"])))  # type: ignore[arg-type]
        passage = Passage("p", ground=ground_now, coats=tuple(coats))
        u, wet = axis(100), bool(rng.integers(2))
        kept = laid_up(passage, coats, rack, u, SITE_RELIEF, wet)
        plainly = fold_coats(
            bare(passage, u, SITE_RELIEF), prepare(coats, rack, passage, u, SITE_RELIEF, wet)
        )
        for mine, theirs in zip(colours(kept), colours(plainly), strict=True):
            np.testing.assert_allclose(mine, theirs, atol=1e-9)
