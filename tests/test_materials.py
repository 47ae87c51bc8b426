"""Varnish, metal, fluorescence, grounds and strokes, as painters know them.

Every figure here is common practice: a fact of the trade without a published source.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from seeing import Name, Seen, flat
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lch, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights, white
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.grounds import focused, underpaint, zenithal
from zesty_veil.plan.model import Coat, Ground, Passage, Plan
from zesty_veil.predict.field import axis, fold, predict
from zesty_veil.predict.lay import thickness
from zesty_veil.predict.look import ViewingConditions, spectrum

pytestmark = pytest.mark.common_practice


def spectrum_of(rack: dict[str, Paint], ground: str, *coats: str, **look: str) -> Array:
    """Return the radiance factor on the flat, (36,)."""
    laid = tuple(parse_coat(words, rack) for words in coats)
    passage = Passage("test", ground=Ground(ground), coats=laid)  # type: ignore[arg-type]
    state = fold(passage, laid, rack, axis(1), np.zeros(1))
    return spectrum(state, ViewingConditions(**look))[0, 0]  # type: ignore[arg-type]


def luminance_of(rack: dict[str, Paint], ground: str, *coats: str, angle: str) -> float:
    """Return Y on the flat in the shade or in the glint."""
    seen_there = spectrum_of(rack, ground, *coats, angle=angle)
    return float(xyz(seen_there, weights())[1])


METALS = ("Tin Silver", "Pipe Copper", "Sovereign Gold")
FLUORESCENT = ("Signal Orange", "Lure Green", "Buoy Pink")


def test_matt_varnish_chalks_a_deep_violet_and_gloss_brings_it_back(seen: Seen, name: Name) -> None:
    violet = f"{name('PV23', 'ink')}; passes 6"
    gloss, satin, matt = (
        flat(seen("white", violet, f"{finish} Varnish")) for finish in ("Gloss", "Satin", "Matt")
    )
    assert matt[1] <= gloss[1] - 8
    assert gloss[0] < satin[0] < matt[0]
    assert matt[1] < satin[1] < gloss[1]
    back = flat(seen("white", violet, "Matt Varnish", "Gloss Varnish"))
    assert back == pytest.approx(gloss, abs=1.5)


def test_a_varnish_only_changes_the_finish(seen: Seen, name: Name) -> None:
    red = name("PR254", "transparent")
    looked_at = {
        finish: seen("white", red, finish=finish).lab for finish in ("gloss", "matt", "satin")
    }
    for finish, looked in looked_at.items():
        varnished = seen("white", red, f"{finish} Varnish").lab
        assert float(ciede2000(looked, varnished).max()) < 1


def test_wet_paint_looks_darker_and_richer_than_dry(seen: Seen, name: Name) -> None:
    for words in (name("PR101", "opaque"), f"{name('PV23', 'transparent')}; water 6; passes 4"):
        dry, wet = flat(seen("white", words)), flat(seen("white", words, finish="wet"))
        assert wet[0] < dry[0]
        assert wet[1] > dry[1]


@pytest.mark.parametrize("metal", METALS)
def test_metal_flashes_more_over_black_than_over_white(metal: str, rack: dict[str, Paint]) -> None:
    ratio = {
        ground: luminance_of(rack, ground, metal, angle="glint")
        / luminance_of(rack, ground, metal, angle="shade")
        for ground in ("black", "white")
    }
    assert ratio["black"] > ratio["white"] > 1


@pytest.mark.parametrize("metal", METALS)
def test_gloss_in_the_wash_keeps_the_shine_of_metal(metal: str, rack: dict[str, Paint]) -> None:
    bare = luminance_of(rack, "black", metal, angle="glint")
    glossy, matt = (
        luminance_of(
            rack, "black", metal, f"Soot Wash 1 + {v} Varnish 15; tool wash", angle="glint"
        )
        for v in ("Gloss", "Matt")
    )
    assert glossy >= 0.8 * bare
    assert matt < 0.8 * bare


def test_colour_mixed_into_metal_tints_its_flash(rack: dict[str, Paint]) -> None:
    def hue(*coats: str) -> float:
        tristimulus = xyz(spectrum_of(rack, "black", *coats, angle="glint"), weights())
        return float(lch(lab(tristimulus, white()))[2])

    assert 200 < hue("Tin Silver 6 + Flask Blue 1") < 290
    assert 200 < hue("Tin Silver", "Flask Blue; water 6; tool glaze") < 290
    assert 20 < hue("Pipe Copper") < 75
    assert 65 < hue("Sovereign Gold") < 100


@pytest.mark.parametrize("paint", FLUORESCENT)
def test_fluorescent_paint_outshines_white_in_its_own_hue(
    paint: str, rack: dict[str, Paint]
) -> None:
    bare = spectrum_of(rack, "white")
    lit = spectrum_of(rack, "white", paint)
    assert lit.max() > 1
    assert lit.max() > bare.max()
    over_black = spectrum_of(rack, "black", paint)
    assert over_black.max() < lit.max()  # it needs white or yellow below
    covered = spectrum_of(rack, "white", paint, "Dusk Violet Ink; water 3")
    assert covered.max() < 0.8 * lit.max()


def test_fluorescent_orange_glows_less_by_a_warm_bulb(rack: dict[str, Paint]) -> None:
    # A bulb has little of the blue and green light that excites it.
    day, bulb = (spectrum_of(rack, "white", "Signal Orange", light=n).max() for n in ("D65", "A"))
    assert bulb < day
    assert bulb > spectrum_of(rack, "white", light="A").max()


def test_flooded_loads_are_darkest_in_recesses_however_thin(rack: dict[str, Paint]) -> None:
    flooded = [p.name for p in rack.values() if p.kind in {"wash", "contrast"}]
    for name_of in flooded:
        for water in (0, 0.5, 2, 6):
            for passes in (1, 3):
                coat = parse_coat(f"{name_of}; water {water}; passes {passes}", rack)
                passage = Passage("p", ground=Ground("white"), coats=(coat,))
                relief = np.linspace(-1, 1, 9)
                value = predict(passage, rack, axis(1), relief).value[0]
                assert (np.diff(value) > 0).all(), (name_of, water, passes)


def on_axis(coat: Coat, rack: dict[str, Paint], passage: Passage) -> Array:
    """Return the thickness of a coat along the flat of a passage, (41,) mm."""
    return thickness(coat, passage, axis(41), np.zeros(1)).neat[:, 0]


def test_a_stroke_leaves_more_where_it_ends_and_the_reverse_evens_it(
    rack: dict[str, Paint],
) -> None:
    even = parse_coat("Furnace Red; water 3; tool glaze", rack)
    passage = Passage("p", 20.0)
    to_far = on_axis(replace(even, stroke="to far"), rack, passage)
    to_light = on_axis(replace(even, stroke="to light"), rack, passage)
    plain_one = on_axis(even, rack, passage)
    assert to_far[-1] == pytest.approx(1.25 * plain_one[-1])
    np.testing.assert_allclose(to_light, to_far[::-1])
    both = (to_far + to_light) / 2
    assert np.ptp(both) < 0.6 * np.ptp(to_far)
    # What the end gains, the way there lacks.
    assert np.trapezoid(to_far) == pytest.approx(np.trapezoid(plain_one), rel=0.01)


def test_wicking_takes_the_puddle_from_the_recess(rack: dict[str, Paint]) -> None:
    wash = parse_coat("Soot Wash", rack)
    pooled, wicked = (
        predict(
            Passage("p", ground=Ground("white"), coats=(replace(wash, wicked=w),)), rack, axis(1)
        )
        for w in (False, True)
    )
    assert wicked.value[0, 0] > pooled.value[0, 0] + 0.3
    np.testing.assert_allclose(wicked.lab[0, 1:], pooled.lab[0, 1:])
    assert wicked.value[0, 0] == pytest.approx(wicked.value[0, 1])


def test_sprays_reach_what_faces_them(rack: dict[str, Paint]) -> None:
    spray = replace(parse_coat("Lime White; tool spray", rack), nozzle=0.0)
    laid = on_axis(spray, rack, Passage("p", tilt=(0.0, 120.0)))
    assert (np.diff(laid) <= 1e-12).all()
    assert laid[-1] == 0  # turned away
    assert on_axis(replace(spray, nozzle=None), rack, Passage("p"))[-1] > 0
    # A nozzle is led round the same way as surfaces are turned: it finds the one that faces it.
    turned = Passage("p", tilt=(20.0, 80.0))
    near, far = (on_axis(replace(spray, nozzle=n), rack, turned) for n in (20.0, 80.0))
    assert near[0] > near[-1]
    assert far[-1] > far[0]


def test_grounds_that_painters_prepare(rack: dict[str, Paint]) -> None:
    plan = Plan("p", (Passage("flame", 20.0),))
    titanium = rack["Lime White"]

    def values(made: Plan) -> Array:
        check_plan(made)
        return predict(made.passages[0], made.rack(), axis(21), np.zeros(1)).value[:, 0]

    sprayed = values(zenithal(plan, 0, titanium))
    assert sprayed[0] > sprayed[-1] + 3
    assert (np.diff(sprayed) <= 1e-9).all()
    round_light = values(focused(plan, 0, titanium))
    assert round_light[0] > 5
    assert round_light[-1] == pytest.approx(values(plan)[-1])
    three = [rack[n] for n in ("Foxglove Magenta", "Flask Blue", "Harbour Violet")]
    coloured = underpaint(plan, 0, three, titanium)
    field = predict(coloured.passages[0], coloured.rack(), axis(3), np.zeros(1))
    hues = field.lch[:, 0, 2]
    assert (hues[0] + 30) % 360 < 60
    assert 230 < hues[1] < 290
    assert 285 < hues[2] < 325
    assert (field.lch[:, 0, 1] > 25).all()  # also over black primer
    assert {p.name for p in edits.used_only(coloured).paints} == {
        p.name for p in (*three, titanium)
    }


def test_a_ground_coat_that_is_wrong_is_named(rack: dict[str, Paint]) -> None:
    coat = parse_coat("Lime White", rack)
    plan = Plan("p", (Passage("flame", ground=Ground(coats=(coat,))),))
    with pytest.raises(InputError, match="'flame': ground coat 1: the paint 'Lime White' is not"):
        check_plan(plan)
