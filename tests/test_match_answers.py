"""Wishes with several grounds, sites, and what is there already; and why a ramp is not reached."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pytest
from msgspec.structs import replace

from test_match import FLAT, PAINTS, RACK
from zesty_veil.advise.match.answering import spots_on, weighed
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.rescue import covering, covers
from zesty_veil.advise.match.solve import (
    Answers,
    MatchRequest,
    Recipe,
    in_order,
    solve,
)
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import Array
from zesty_veil.paint.catalogue import catalogue
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.drying import whole
from zesty_veil.plan.edits import with_span
from zesty_veil.plan.grounds import prepared_ground
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer, Target
from zesty_veil.predict.field import SITE_RELIEF, predict
from zesty_veil.predict.look import Angle, ViewingConditions

FIRE = tuple(
    RACK[name] for name in ("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red", "Soot Wash")
)
SMALL = Limits(coats=3, mixes=0)


def on(primer: Primer, *coats: Coat) -> Passage:
    return Passage("p", ground=Ground(primer), coats=coats)


def coat(paint: str, thinning: float, passes: int, start: float = 0.0) -> Coat:
    laid = Coat(Mixture((Part(paint),), "water", thinning), "loaded", passes)
    return with_span(laid, start, 1.0)


def seen(passage: Passage, places: Sequence[float], sites: Sequence[Site]) -> Array:
    """Return what a passage comes to at places on sites, predicted as everywhere else."""
    labs = predict(passage, RACK, np.array(places), SITE_RELIEF).lab
    return np.array([labs[i, SITES.index(site)] for i, site in enumerate(sites)])


def wanted_of(passage: Passage, places: Sequence[float], sites: Sequence[Site]) -> list[Target]:
    labs = seen(passage, places, sites).tolist()
    return [Target(p, tuple(lab), s) for p, s, lab in zip(places, sites, labs, strict=True)]


def asked(
    bases: Sequence[Passage],
    targets: Sequence[Target],
    paints: tuple[Paint, ...] = FIRE,
    limits: Limits = SMALL,
    rescue: bool = False,
) -> Answers:
    request = MatchRequest(
        tuple(bases),
        PAINTS,
        tuple(targets),
        paints,
        limits,
        ViewingConditions(),
        rescue,
        catalogue(),
    )
    *_, last = solve(request)
    assert last.share == 1
    return last


def holds(answer: Recipe, base: Passage, targets: Sequence[Target]) -> None:
    """Check that an answer comes to what it says, on its base, wherever something is wanted."""
    ordered = in_order(targets)
    whole = replace(base, coats=(*base.coats, *answer.coats))
    got = seen(whole, [t.place for t in ordered], [t.site for t in ordered])
    np.testing.assert_allclose(
        ciede2000(got, np.array([t.lab for t in ordered])), answer.delta_e, atol=1e-6
    )


def test_ridge_and_recess_are_matched_with_the_same_coats() -> None:
    """A wash pools: one stack makes the recess darker than the ridge, as was wanted."""
    wash = Coat(Mixture((Part("Soot Wash"),), "water", 0.0), "wash", 1)
    made = on("white", coat("Ember Orange", 1, 2), wash)
    targets = wanted_of(made, [0.5, 0.5, 0.5], ["ridge", "recess", "flat"])
    found = asked([on("white")], targets)
    assert found.ways[0].mean < 1
    assert any(c.tool == "wash" for c in found.ways[0].coats)
    for way in found.ways:
        holds(way, on("white"), targets)
    # So they are at several places; the coats of a place lie on all of its sites.
    longer = replace(made, coats=(*made.coats, coat("Furnace Red", 3, 3, 0.5)))
    places, sites = [0.2, 0.2, 0.8, 0.8], ["recess", "ridge", "recess", "ridge"]
    both = wanted_of(longer, places, sites)  # type: ignore[arg-type]
    for way in asked([on("white")], both).ways:
        holds(way, on("white"), both)
        assert {c.span[0] for c in way.coats} <= {0.0, 0.8}
    # One site alone is matched at its own relief.
    single = asked([on("white")], targets[1:2])
    assert single.ways[0].mean < 1.5  # as near as pots that belong there come
    holds(single.ways[0], on("white"), targets[1:2])


def test_a_ground_that_changes_along_the_axis_is_matched_place_by_place() -> None:
    plan = prepared_ground(Plan("p", (on("black"),)), 0, "focused", demo_rack())
    base = plan.passages[0]
    spots = spots_on(base, [Target(p, (50.0, 0.0, 0.0)) for p in (0.1, 0.5, 0.9)], PAINTS)
    assert len({float(spot.ground.R.d.steep.mean()) for spot in spots}) == 3
    made = replace(base, coats=(coat("Kiln Yellow", 1, 2), coat("Furnace Red", 2, 2, 0.5)))
    targets = wanted_of(made, [0.1, 0.5, 0.9], ["flat"] * 3)
    found = asked([base], targets)
    assert found.ways[0].mean < 1.5
    for way in found.ways:
        holds(way, base, targets)
    # Where the ground is the same all along, the places share one.
    bare = spots_on(on("black"), [Target(p, (50.0, 0.0, 0.0)) for p in (0.1, 0.5)], PAINTS)
    assert bare[0].ground is bare[1].ground


@pytest.mark.parametrize("angle", ["shade", "glint"])
def test_a_glaze_over_metal_is_matched_at_either_angle(angle: Angle) -> None:
    """No paint of the rack has flakes; the metal below shines through all the same."""
    look = ViewingConditions("D65", 2, "as painted", angle)
    metal = Coat(Mixture((Part("Sovereign Gold"),)), "loaded", 3)
    base = on("black", metal)
    made = replace(base, coats=(metal, coat("Furnace Red", 3, 2)))
    lab = predict(made, RACK, np.zeros(1), FLAT, look).lab[0, 0]
    for places in ((0.5,), (0.2, 0.8)):
        targets = tuple(Target(place, tuple(lab.tolist())) for place in places)
        *_, last = solve(MatchRequest((base,), PAINTS, targets, FIRE, SMALL, look))
        for way in last.ways:
            whole = replace(base, coats=(metal, *way.coats))
            got = predict(whole, RACK, np.array(places), FLAT, look).lab[:, 0]
            np.testing.assert_allclose(ciede2000(got, lab), way.delta_e, atol=1e-6)
        assert last.ways[0].mean < 1


def test_the_best_of_several_grounds_is_taken() -> None:
    """Common practice: yellow wants white below it, black wants black."""
    primers: tuple[Primer, ...] = ("white", "grey", "black")
    bases = [on(primer) for primer in primers]
    yellow = wanted_of(on("white", coat("Kiln Yellow", 1, 3)), [0.2, 0.8], ["flat", "flat"])
    limits = Limits(coats=1, mixes=0)
    found = asked(bases, yellow, limits=limits)
    assert bases[found.ways[0].base].ground.primer == "white"
    dark = [Target(0.5, (26.0, 0.0, 0.0))]
    found = asked(bases, dark, limits=limits)
    assert bases[found.ways[0].base].ground.primer == "black"
    assert found.ways[0].coats == ()
    for way in found.ways:
        holds(way, bases[way.base], dark)


def test_a_spoiled_ramp_goes_on_or_is_covered() -> None:
    spoiled = on("white", coat("Furnace Red", 0.5, 4))
    wanted = on("white", coat("Kiln Yellow", 1, 3), coat("Ember Orange", 2, 2, 0.6))
    targets = wanted_of(wanted, [0.1, 0.9], ["flat", "flat"])
    found = asked([spoiled], targets, rescue=True, limits=Limits(coats=4, mixes=0))
    best = found.ways[0]
    assert best.coats[0].span == (0.0, 1.0)
    assert "Lime White" in {part.paint for part in best.coats[0].mixture.parts}
    assert best.mean < 3.5
    request = MatchRequest(
        (spoiled,), PAINTS, tuple(targets), FIRE, SMALL, ViewingConditions(), True
    )
    for way in found.ways:
        holds(way, spoiled, targets)
        again = weighed(request, spoiled, way.coats)
        assert again.minutes == pytest.approx(way.minutes)
        assert (again.pots, again.covers) == (way.pots, way.covers)
    few = Limits(coats=3, passes=6, minutes=90, mixes=0)
    for way in asked([spoiled], targets, rescue=True, limits=few).ways:
        assert len(way.coats) <= 3
        assert sum(c.passes for c in way.coats) <= 6
        assert way.minutes <= 90


def test_covering_is_shown_even_where_going_on_is_better_in_everything() -> None:
    begun = on("white", coat("Kiln Yellow", 1, 2))
    target = wanted_of(on("white", coat("Kiln Yellow", 1, 3)), [0.5], ["flat"])
    found = asked([begun], target, rescue=True)
    assert {way.covers for way in found.ways} == {True, False}
    assert not found.ways[0].covers
    assert len(found.ways[0].coats) <= 1  # as it is, it is within dE 2


def test_a_cover_is_white_or_ivory_that_hides_and_leaves_room_for_more() -> None:
    ground = spots_on(on("black"), [Target(0.5, (50.0, 0.0, 0.0))], ())[0].ground
    limits = Limits(coats=3, passes=20, minutes=200)
    found = list(covering(MatchContext(ground, PAINTS, limits, ViewingConditions())))
    assert [c.mixture.parts[0].paint for c, _ in found] == ["Lime White", "Driftbone Ivory"]
    for cover, rest in found:
        assert covers(MatchContext(ground, PAINTS, limits, ViewingConditions()), (cover,))
        assert (rest.coats, rest.passes) == (2, 20 - cover.passes)
        assert rest.minutes == pytest.approx(200 - whole(cover, Passage("matched")))
    grey = (RACK["Pewter Grey"], RACK["Kiln Yellow"])
    assert not list(covering(MatchContext(ground, grey, limits, ViewingConditions())))
    for tight in (Limits(coats=1), Limits(passes=1), Limits(tools=("glaze",))):
        assert not list(covering(MatchContext(ground, PAINTS, tight, ViewingConditions())))


def test_why_a_ramp_is_not_reached_is_told_for_its_worst_place() -> None:
    targets = [Target(0.1, (90.0, 0.0, 10.0)), Target(0.9, (35.0, 20.0, -60.0))]
    found = asked([on("white")], targets, FIRE[:3])
    assert found.where == targets[1]
    assert found.why is not None
    assert found.why.paint is not None
    assert set(found.why.paint.pigments) & {"PB29", "PV23", "PB15:3"}
    # Where each alone is in reach, what lies between them is what stands in the way.
    few = Limits(coats=1, mixes=0)
    yellow, red = coat("Kiln Yellow", 1, 3), coat("Furnace Red", 1, 4)
    apart = [
        *wanted_of(on("white", yellow), [0.1], ["flat"]),
        *wanted_of(on("white", red), [0.9], ["flat"]),
    ]
    found = asked([on("white")], apart, limits=few)
    assert found.why is not None
    assert "By itself it would come within" in found.why.reasons[0]


def test_a_way_that_somebody_chose_is_weighed_like_those_found() -> None:
    made = on("white", coat("Kiln Yellow", 1, 3), coat("Furnace Red", 1, 3, 0.6))
    targets = wanted_of(made, [0.2, 0.8], ["flat", "flat"])
    request = MatchRequest((on("white"),), PAINTS, tuple(targets), FIRE, SMALL, ViewingConditions())
    *_, last = solve(request)
    assert any(c.span[0] > 0 for c in last.ways[0].coats)
    for way in last.ways:
        # What feathers out does so by passes that change the colour evenly.
        for laid in way.coats:
            assert bool(laid.stagger) == (laid.feather != (0.0, 0.0) and laid.passes > 1)
        again = weighed(request, on("white"), way.coats)
        np.testing.assert_allclose(again.delta_e, way.delta_e, atol=1e-6)
        assert again.minutes == pytest.approx(way.minutes)
        assert again.sensitivity == pytest.approx(way.sensitivity)
        assert (again.pots, again.covers) == (way.pots, way.covers)


def test_shares_rise_and_a_search_that_is_dropped_tells_no_more() -> None:
    targets = wanted_of(on("white", coat("Kiln Yellow", 1, 3)), [0.2, 0.8], ["flat", "flat"])
    request = MatchRequest((on("white"),), PAINTS, tuple(targets), FIRE, SMALL, ViewingConditions())
    shares = [found.share for found in solve(request)]
    assert shares == sorted(shares)
    assert shares[-1] == 1
    assert max(shares[:-1]) < 1
    assert all(found.share < 1 for found in solve(request, lambda: False))


def test_what_cannot_be_sought_is_said() -> None:
    with pytest.raises(InputError, match="no target yet"):
        asked([on("white")], [])
    with pytest.raises(InputError, match="nothing to lay"):
        asked([on("white")], [Target(0.1, (50, 0, 0)), Target(0.9, (40, 0, 0))], paints=())


def test_the_catalogue_has_every_pigment_as_it_is_sold() -> None:
    names = [paint.name for paint in catalogue()]
    assert len(set(names)) == len(names)
    sold = {(p.pigments, p.kind) for p in catalogue()}
    assert (("PR122",), "ink") in sold
    assert (("PO73", "PW6"), "opaque") in sold
    assert (("PW6",), "transparent") not in sold
    white = predict(on("black", coat("Lime White", 0.5, 4)), RACK, np.zeros(1), FLAT).lab[0, 0]
    orange = next(p for p in catalogue() if p.name == "an opaque paint of PO73 and white")
    rack = {orange.name: orange}
    over = [
        predict(on(primer, coat(orange.name, 0.0, 4)), rack, np.zeros(1), FLAT).lab[0, 0]
        for primer in ("white", "black")
    ]
    assert float(ciede2000(*over)) < 3  # it hides
    assert over[0][0] < white[0]
