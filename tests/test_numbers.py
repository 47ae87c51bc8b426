"""Numbers that the program stands on and that could be changed without anything looking wrong.

Each is held against physics, a standard or common practice, not against itself.
"""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest
from msgspec.structs import replace

from conftest import small_plan
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.ramp import ramp_ways
from zesty_veil.advise.match.spots import even
from zesty_veil.bench.amounts import pots, wet_ul
from zesty_veil.desktop.session.document import Document
from zesty_veil.exchange.cgats import read_cgats
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.log.card import Card, Patch
from zesty_veil.log.fit import fit
from zesty_veil.log.learn import learnt
from zesty_veil.log.record import ObservedColour, Record
from zesty_veil.optics import flakes
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.mixture import Mixture, starved
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage, Plan
from zesty_veil.predict.field import predict
from zesty_veil.predict.lay import ground
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.predict.strokes import passes_along
from zesty_veil.predict.sure import sureness

_FLAT = np.zeros(1)


def test_a_straight_beam_goes_in_and_out_by_beers_law() -> None:
    """Bouguer-Lambert-Beer: exp(-mu x) over the way in and the way out, for what absorbs alone."""
    mu, x = np.array([0.5, 3.0, 12.0]), np.array(0.02)
    np.testing.assert_allclose(flakes.direct(mu, 0 * mu, x), np.exp(-mu * x) ** 2, rtol=1e-12)
    # Leaves all through a deep film: what the first of them mirror, seen through nothing, with
    # no pigment between them, is the mirrored part of all that they send back: q / q.
    deep = flakes.flash(40.0, np.array(1.0), np.array(0.0), np.array(0.0), np.array(10.0))
    clear = float(1 - flakes.spread(40.0, np.array(0.0)))
    assert float(deep) == pytest.approx(clear, rel=1e-9)
    # With absorption as strong as the leaves are dense, a third of that is left: each leaf at
    # depth x is seen through exp(-(q + 2 mu) x), and q / (q + 2 q) = 1/3.
    dim = flakes.flash(40.0, np.array(1.0), np.array(40.0), np.array(0.0), np.array(10.0))
    assert float(dim) == pytest.approx(clear / 3, rel=1e-9)


def test_twelve_parts_of_water_leave_a_gloss_paint_nearly_matt() -> None:
    """Common practice: neat it is as it was, at 3:1 still, beyond 10:1 it dries nearly matt."""
    gloss, matt = FINISHES["gloss"], FINISHES["matt"]
    lost = [(starved(gloss, Mixture((), "water", n)) - gloss) / (matt - gloss) for n in (3, 6, 12)]
    assert lost[0] == 0
    assert 0.2 < lost[1] < 0.4
    assert 0.55 < lost[2] < 0.75


def test_drops_stray_by_a_tenth(rack: dict[str, Paint]) -> None:
    """Common practice: drops from one bottle differ by about a tenth, and a pot has few of them."""
    coat = parse_coat("Furnace Red; water 3; passes 4; tool glaze", rack)
    passage = Passage("p", ground=Ground("white"), coats=(coat,))
    found = sureness(passage, rack, np.array([0.5]), _FLAT)

    def colour(thinning: float) -> np.ndarray:
        other = replace(coat, mixture=replace(coat.mixture, thinning=thinning))
        one = edits.with_coats(passage, (other,))
        return predict(one, rack, np.array([0.5]), _FLAT).lab[0, 0]

    # Half of all pots stray by less than 0.67 of the deviation.
    tenth = [float(ciede2000(colour(3.0 * f), colour(3.0))) for f in (0.9, 1.1)]
    assert found.causes["ratio"] == pytest.approx(0.67 * np.mean(tenth), rel=0.35)


def test_a_coat_of_a_ramp_reaches_back_to_the_place_before(rack: dict[str, Paint]) -> None:
    """Common practice: a blend runs from one place to the next; it does not stop halfway."""
    paints = [rack["Kiln Yellow"], rack["Furnace Red"]]
    passage = Passage("p", 30.0, ground=Ground("white"))
    below = ground(passage, rack, np.array([0.5]), _FLAT)
    labs = np.array([[85.0, 5.0, 80.0], [50.0, 55.0, 40.0]])
    limits = Limits(tools=("glaze", "loaded"))
    *_, found = ramp_ways(even(below, (0.2, 0.8), labs), paints, limits, DAYLIGHT)
    later = [coat for way in found for coat in way.coats if 0 < coat.span[0] < 1]
    assert later
    for coat in later:
        first, middle, full = passes_along(coat, np.array([0.2, 0.5, 0.8]), 30.0).sum(axis=0).T
        assert first < 0.05 * full
        assert 0.2 * full < middle < 0.95 * full
    assert MatchContext(below, paints, limits, DAYLIGHT).fits(later[0:1] and (later[0],))


def test_a_third_of_what_is_mixed_stays_in_palette_and_brush() -> None:
    """Common practice: half as much again is mixed as lies on the figure in the end."""
    plan = small_plan()
    laid = sum(wet_ul(coat, p, 1) for p in plan.passages for coat in (*p.ground.coats, *p.coats))
    mixed = sum(pot.drops.needed_ul for pot in pots(plan, plan.rack()))
    assert 1.35 < mixed / laid < 1.75


def test_a_card_that_fits_badly_is_believed_less(rack: dict[str, Paint]) -> None:
    """Statistics: where residuals are larger than the noise said, so is the noise."""
    paint = rack["Furnace Red"]
    rng = np.random.default_rng(4)

    def card(noise: float) -> Card:
        patches = []
        for backing in ("white", "black"):
            for passes in (1, 2, 4):
                coat = parse_coat(f"Furnace Red; water 1; passes {passes}; tool loaded", rack)
                one = Passage("p", ground=Ground(backing), coats=(coat,))  # type: ignore[arg-type]
                lab = predict(one, rack, np.array([0.5]), _FLAT).lab[0, 0]
                seen = lab + rng.normal(0, noise, 3)
                patches.append(Patch(backing, passes, tuple(seen.tolist())))  # type: ignore[arg-type]
        return Card("A", paint.kind, tuple(patches), paint.pigments, thinning=1.0)

    clean, noisy = (float(np.trace(fit([card(noise)]).covariance)) for noise in (0.05, 6.0))
    assert noisy > 1.5 * clean


def test_a_loose_hand_teaches_less_of_a_paint_than_a_steady_one(rack: dict[str, Paint]) -> None:
    """Statistics: what the hand may have done, the paint need not have."""
    now = datetime(2026, 3, 1, tzinfo=UTC)
    coat = parse_coat("Furnace Red; water 2; tool glaze", rack)

    def moved(hand: str) -> float:
        passage = Passage("p", ground=Ground("white"), coats=(coat,))
        plan = Plan("x", (passage,), (rack["Furnace Red"],), hand=hand)  # type: ignore[arg-type]
        said = predict(passage, rack, np.array([0.5]), _FLAT).lab[0, 0]
        came = said + np.array([-4.0, 4.0, 3.0])
        seen = ObservedColour("p", 0.5, "flat", 1, tuple(came.tolist()), tuple(said.tolist()))
        records = [Record(now.isoformat(), plan, seen=(seen,), number=n) for n in range(4)]
        paint = learnt(records, {"Furnace Red": rack["Furnace Red"]}, now).paints["Furnace Red"]
        before = np.log(np.array(rack["Furnace Red"].mu_a))
        return float(np.abs(np.log(np.array(paint.mu_a)) - before).mean())

    assert moved("loose") < 0.9 * moved("steady")


def test_edits_are_one_gesture_only_while_they_follow_quickly() -> None:
    """Common practice: notches of one turn of the wheel; not what comes seconds later."""
    clock = [100.0]
    document = Document(small_plan(), now=lambda: clock[0])

    def wheel() -> None:
        passage = document.plan.passages[0]
        coat = replace(passage.coats[1], passes=passage.coats[1].passes + 1)
        document.edit(edits.set_coat(document.plan, 0, 1, coat), "passes", "passes 1")

    for seconds in (0.0, 0.3, 0.3):
        clock[0] += seconds
        wheel()
    assert len(document.history.past) == 1
    clock[0] += 5.0
    wheel()
    assert len(document.history.past) == 2


@pytest.mark.parametrize(
    ("named", "white"),
    [
        # CIE 15:2004 table T.3, two degrees; a file that names none is of D50 (ISO 13655).
        ("", (96.42, 100.0, 82.51)),
        ('WEIGHTING_FUNCTION "ILLUMINANT, D50"', (96.42, 100.0, 82.51)),
        ('WEIGHTING_FUNCTION "ILLUMINANT, D65"', (95.04, 100.0, 108.88)),
    ],
)
def test_the_white_of_a_cgats_file_is_white(named: str, white: tuple[float, ...]) -> None:
    X, Y, Z = white
    text = "\n".join(
        ["CGATS.17", *([named] if named else []), "NUMBER_OF_FIELDS 4", "BEGIN_DATA_FORMAT",
         "SAMPLE_ID XYZ_X XYZ_Y XYZ_Z", "END_DATA_FORMAT", "NUMBER_OF_SETS 1", "BEGIN_DATA",
         f"1 {X} {Y} {Z}", "END_DATA", ""]
    )  # fmt: skip
    (sample,) = read_cgats(text, "x.txt")
    np.testing.assert_allclose(sample.lab, [100, 0, 0], atol=0.05)
