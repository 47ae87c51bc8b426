"""Ramps, why not, and rescue: nested coats, reasons, and ways on from what is there."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from test_match import FLAT, PAINTS, PRIMERS, RACK, colour, primed
from workshop import hand_laid
from zesty_veil.advise.match.choices import tools_for
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import USUAL_TOOLS, Limits
from zesty_veil.advise.match.ramp import Recipe, ramp_ways
from zesty_veil.advise.match.rescue import covered_starts, covers, now_on
from zesty_veil.advise.match.spots import Spot, even
from zesty_veil.advise.match.starts import SearchStart, ramps_from
from zesty_veil.advise.match.whynot import nearest_alone, why_not
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.recovery import recover_reflectance
from zesty_veil.light.srgb import lab_of, parsed, srgb
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import coat_words, parse_coat
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Ground, Passage, Primer
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions, colours

PLACES = (0.0, 0.25, 0.5, 0.75, 1.0)
FLAME = ("#fff6d0", "#ffd020", "#ff8a1e", "#b02020", "#301818")


def along(primer: Primer, coats: tuple[Coat, ...]) -> Array:
    """Return what coats come to at the places, predicted as everywhere else."""
    passage = Passage("p", ground=Ground(primer), coats=coats)
    return np.asarray(predict(passage, RACK, np.array(PLACES), FLAT).lab[:, 0])


def best_ramp(primer: Primer, labs: Array, limits: Limits | None = None) -> Recipe:
    *_, ways = ramp_ways(
        even(primed(primer), PLACES, labs), demo_rack(), limits or Limits(), ViewingConditions()
    )
    return ways[0]


def test_a_ramp_of_nested_coats_is_found_again() -> None:
    rng = np.random.default_rng(11)
    plain = [paint for paint in PAINTS if paint.kind not in {"fluorescent", "metallic", *CLEAR}]
    off = []
    for i in range(4):
        coats = []
        for start in sorted([0.0, *rng.uniform(0.1, 0.9, rng.integers(1, 4))]):
            paint = plain[rng.integers(len(plain))]
            mixture = Mixture((Part(paint.name),), "water", float(rng.choice([0.5, 1, 2, 3])))
            coat = Coat(mixture, tools_for(paint, USUAL_TOOLS)[0], int(rng.integers(1, 5)))
            coats.append(with_feather(with_span(coat, start, 1), min(start, 0.15), 0))
        primer = PRIMERS[i % 3]
        wanted = along(primer, tuple(coats))
        *_, ways = ramp_ways(
            even(primed(primer), PLACES, wanted), demo_rack(), Limits(), ViewingConditions()
        )
        for way in ways:
            # What is said of it is what is predicted for it, place by place.
            said = ciede2000(along(primer, way.coats), wanted)
            np.testing.assert_allclose(said, way.delta_e, atol=1e-6)
        off.append(min(way.mean for way in ways))
    assert np.mean(off) <= 2.0
    # One of them begins with an umber that lies against the blue it ends in; no painter lays that.
    assert sorted(off)[-2] <= 1.0


@pytest.mark.common_practice
def test_a_flame_on_black_is_painted_as_painters_do() -> None:
    """White or ivory, yellow, orange, red, then the dark, each of which reaches less far.

    Or the other way round: the dark first, lighter and lighter inward, and white at the light.
    """
    labs = np.array([lab_of(parsed(words)) for words in FLAME])
    way = best_ramp("black", labs, Limits(coats=5, passes=40))
    assert way.mean < 4
    # There is something to choose between, and one of fewer passes for those in haste.
    limits = Limits(coats=5, passes=40)
    *_, ways = ramp_ways(
        even(primed("black"), PLACES, labs), demo_rack(), limits, ViewingConditions()
    )
    assert len({sum(coat.passes for coat in each.coats) for each in ways}) > 1
    starts = [coat.span[0] for coat in way.coats if coat.span[1] == 1]
    ends = [coat.span[1] for coat in way.coats if coat.span[1] < 1 and coat.span[0] == 0]
    assert starts == sorted(starts)
    assert ends == sorted(ends, reverse=True)
    used = {part.paint for coat in way.coats for part in coat.mixture.parts}
    assert used & {"Lime White", "Driftbone Ivory", "Cuttlebone"}
    assert used & {"Kiln Yellow", "Saffron Buoy", "Lantern Amber"}


def test_a_ramp_keeps_to_its_limits_and_says_what_is_wrong() -> None:
    labs = np.array([lab_of(parsed(words)) for words in FLAME])
    limits = Limits(coats=3, passes=9, minutes=60, mixes=0, tools=("loaded",))
    for ways in ramp_ways(
        even(primed("black"), PLACES, labs), demo_rack(), limits, ViewingConditions()
    ):
        for way in ways:
            assert len(way.coats) <= 3
            assert sum(coat.passes for coat in way.coats) <= 9
            assert way.minutes <= 60
            assert all(len(coat.mixture.parts) == 1 for coat in way.coats)
            assert {coat.tool for coat in way.coats} <= {"loaded"}
    one = Limits(coats=3, mixes=1)
    for ways in ramp_ways(
        even(primed("black"), PLACES, labs), demo_rack(), one, ViewingConditions()
    ):
        for way in ways:
            assert sum(len(coat.mixture.parts) > 1 for coat in way.coats) <= 1
    with pytest.raises(InputError, match="must rise"):
        list(
            ramp_ways(
                even(primed("black"), (0.5, 0.2), labs[:2]),
                demo_rack(),
                limits,
                ViewingConditions(),
            )
        )
    with pytest.raises(InputError, match="this has 0"):
        list(ramp_ways((), demo_rack(), limits, ViewingConditions()))
    stopped = ramp_ways(
        even(primed("black"), PLACES, labs), demo_rack(), limits, ViewingConditions(), lambda: False
    )
    assert list(stopped) == []


def nearest_of(
    primer: Primer, names: tuple[str, ...], target: Array
) -> tuple[MatchContext, tuple[Coat, ...]]:
    """Return the nearest coats of some paints to a colour, and where they were looked for."""
    paints = [RACK[name] for name in names]
    bench = MatchContext(primed(primer), paints, Limits(), ViewingConditions())
    best = nearest_alone(bench, Spot(0.5, target, bench.ground), lambda: True)
    assert best is not None
    return bench, best.coats


FIRE = ("Kiln Yellow", "Furnace Red", "Lamp Black", "Lime White")


@pytest.mark.parametrize(
    ("primer", "names", "target", "words", "paint"),
    [
        ("white", FIRE, (38.0, 35.0, -72.0), "pure enough", {"PB29", "PB15:3"}),
        ("black", ("Kiln Yellow", "Ember Orange"), (90.0, 2.0, 80.0), "on white primer", None),
        ("white", FIRE, (108.0, -20.0, 60.0), "brighter than white", None),
        (
            "white",
            ("Lime White", "Lamp Black"),
            (70.0, 40.0, 65.0),
            "pure enough",
            {"PO73", "PY74"},
        ),
    ],
)
def test_what_stands_in_the_way_is_said(
    primer: Primer,
    names: tuple[str, ...],
    target: tuple[float, float, float],
    words: str,
    paint: set[str] | None,
) -> None:
    bench, coats = nearest_of(primer, names, np.array(target))
    why = why_not(bench, coats, np.array(target), primed("white"), demo_rack())
    assert why is not None
    assert words in " ".join(why.reasons)
    assert all(reason.endswith(".") for reason in why.reasons)
    if paint is not None:
        assert why.paint is not None
        assert set(why.paint.pigments) & paint
        # And it does help: the search with that paint comes as near as is said.
        more = MatchContext(
            primed(primer), [*(RACK[n] for n in names), why.paint], Limits(), ViewingConditions()
        )
        best = nearest_alone(more, Spot(0.5, np.array(target), more.ground), lambda: True)
        assert best is not None
        assert best.mean <= why.with_paint + 1.0


def test_only_a_fluorescent_is_as_bright_as_a_fluorescent() -> None:
    glow = Coat(Mixture((Part("Signal Orange"),), "water", 0.5), "loaded", 4)
    target = colour("white", glow)
    names = tuple(p.name for p in PAINTS if p.kind in {"opaque", "transparent"})[::3]
    bench, coats = nearest_of("white", names, target)
    why = why_not(bench, coats, target, primed("white"), demo_rack())
    assert why is not None
    assert why.paint is not None
    assert why.paint.kind == "fluorescent"
    assert "Only a fluorescent paint is as bright as this." in why.reasons


def test_nothing_stands_in_the_way_of_what_is_reached() -> None:
    target = colour("white", Coat(Mixture((Part("Kiln Yellow"),), "water", 1.0), "loaded", 2))
    bench, coats = nearest_of("white", FIRE, target)
    assert why_not(bench, coats, target, primed("white"), demo_rack()) is None


def test_a_spoiled_passage_is_rescued_by_going_on_or_by_covering() -> None:
    plan = hand_laid()
    passage = plan.passages[3]  # a pipe that has gone dark
    state = now_on(passage, plan.rack(), 0.9)
    whole = predict(passage, plan.rack(), np.array([0.9]), FLAT).lab[0, 0]
    np.testing.assert_allclose(colours(state, ViewingConditions())[0][0, 0], whole, atol=1e-9)
    bare = now_on(passage, plan.rack(), 0.9, coats=0)
    assert float(ciede2000(colours(bare, ViewingConditions())[0][0, 0], whole)) > 1
    names = ("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red", "Lamp Black")
    spots = (Spot(0.5, lab_of(parsed("#ff8a1e")), state),)
    how = ([RACK[name] for name in names], Limits(coats=3), ViewingConditions())
    starts = [SearchStart(spots, how[1]), *covered_starts(spots, *how)]
    *_, ways = ramps_from(starts, how[0], how[2])
    bench = MatchContext(state, *how)
    covering = [way for way in ways if way.coats[0] == starts[-1].cover[0]]
    assert min(way.mean for way in covering) < 2.5
    assert all(covers(bench, way.coats) for way in covering)
    assert list(ramps_from(starts, how[0], how[2], lambda: False)) == []


def test_a_measured_colour_is_a_ground_that_looks_like_it() -> None:
    for target in ((40.0, 10.0, 20.0), (20.0, 0.0, 0.0), (85.0, 5.0, 60.0), (55.0, -30.0, 10.0)):
        found = Passage("p", ground=Ground(measured=target))
        seen = colours(now_on(found, {}, 0.5), ViewingConditions())[0][0, 0]
        assert float(ciede2000(seen, np.array(target))) < 0.5, target
        # Nothing shows through it, whatever the primer was.
        white = replace(found, ground=replace(found.ground, primer="white"))
        np.testing.assert_array_equal(now_on(white, {}, 0.5).R.d, now_on(found, {}, 0.5).R.d)


@given(st.lists(st.floats(0.05, 0.9), min_size=36, max_size=36))
def test_the_smoothest_spectrum_has_the_colour_it_was_asked_for(bands: list[float]) -> None:
    eye = weights()
    wanted = xyz(np.array(bands), eye)
    found = recover_reflectance(wanted, eye)
    assert ((found >= 0.003) & (found <= 0.98)).all()
    white = eye.sum(axis=0)
    assert float(ciede2000(lab(xyz(found, eye), white), lab(wanted, white))) < 0.5
    # None that has this colour is smoother.
    assert (np.diff(found) ** 2).sum() <= (np.diff(bands) ** 2).sum() + 1e-9


@given(st.tuples(*[st.integers(0, 255)] * 3))
def test_a_screen_colour_comes_back(rgb: tuple[int, int, int]) -> None:
    words = "#{:02x}{:02x}{:02x}".format(*rgb)
    encoded = parsed(words)
    np.testing.assert_allclose(encoded * 255, rgb)
    back, inside = srgb(lab_of(encoded))
    assert inside
    np.testing.assert_allclose(back, encoded, atol=2e-3)


@given(st.data())
def test_a_coat_is_read_as_it_is_written(data: st.DataObject) -> None:
    names = data.draw(
        st.lists(st.sampled_from([p.name for p in PAINTS]), min_size=1, max_size=3, unique=True)
    )
    parts = tuple(Part(name, data.draw(st.sampled_from([1.0, 2.0, 0.5]))) for name in names)
    coat = Coat(
        Mixture(parts, data.draw(st.sampled_from(["water", "medium", "thick medium"])), 2.5),
        data.draw(st.sampled_from(["loaded", "glaze", "airbrush"])),
        data.draw(st.integers(1, 9)),
        sites=data.draw(
            st.sampled_from([("recess",), ("flat", "ridge"), ("recess", "flat", "ridge")])
        ),
        stroke=data.draw(st.sampled_from(["across", "to far"])),
        wicked=data.draw(st.booleans()),
        nozzle=data.draw(st.sampled_from([None, 20.0])),
    )
    again = parse_coat(coat_words(coat), RACK)
    # Equal parts are written without numbers, and so come back as one each.
    even = len({part.parts for part in parts}) == 1
    if even:
        parts = tuple(Part(part.paint) for part in parts)
    assert again == replace(coat, mixture=replace(coat.mixture, parts=parts))
