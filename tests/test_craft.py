"""What painters know of stacked transparent colour, on the demo rack.

Every figure here is common practice: a fact of the trade without a published source. The paints
are invented; what is checked is that the model brings out what any painter sees.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lch, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights, white
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import USUAL_TOOL, Paint
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.grounds import focused, underpaint, zenithal
from zesty_veil.plan.model import Coat, Ground, Passage, Plan
from zesty_veil.predict.field import Field, axis, fold, predict
from zesty_veil.predict.lay import thickness
from zesty_veil.predict.look import Look, spectrum
from zesty_veil.predict.words import describe

pytestmark = pytest.mark.common_practice

FLAT = SITES.index("flat")
Seen = Callable[..., Field]
PaintOf = Callable[[str, str], Paint]


def flat(field: Field) -> tuple[float, float, float]:
    """Return L, C, h on the flat."""
    L, C, h = (float(v) for v in field.lch[0, FLAT])
    return L, C, h


def recess_to_ridge(field: Field) -> float:
    """Return how much recess and ridge differ, dE00."""
    return float(ciede2000(field.lab[0, 0], field.lab[0, 2]))


@pytest.fixture
def name(paint_of: PaintOf) -> Callable[[str, str], str]:
    """Name the paint of one pigment and kind, so that no test leans on an invented name."""
    return lambda pigment, kind: paint_of(pigment, kind).name


Name = Callable[[str, str], str]


@pytest.fixture
def yellow(name: Name) -> str:
    return name("PY74", "transparent")


@pytest.fixture(name="white_paint")
def _white(name: Name) -> str:
    return name("PW6", "opaque")


def test_the_rack_holds_what_a_painter_needs(rack: dict[str, Paint]) -> None:
    assert len(rack) >= 16
    assert {p.kind for p in rack.values()} == set(USUAL_TOOL)
    for pigments, kind in (
        (("PR254",), "ink"),
        (("PV23",), "ink"),
        (("PW6",), "opaque"),
        (("PBk7",), "opaque"),
    ):
        assert any(p.pigments == pigments and p.kind == kind for p in rack.values())


def test_yellow_over_black_is_greener_and_half_as_strong(seen: Seen, yellow: str) -> None:
    over_white, over_black = flat(seen("white", yellow)), flat(seen("black", yellow))
    assert over_black[2] >= over_white[2] + 10
    assert over_black[1] <= over_white[1] / 2


def test_yellow_over_black_stays_dull_through_three_passes(seen: Seen, yellow: str) -> None:
    once = flat(seen("white", yellow))[1]
    three = flat(seen("black", f"{yellow}; passes 3"))[1]
    assert three < 0.75 * once
    assert "olive" in describe(seen("black", yellow).lch[0, FLAT], 5.0)


def test_red_over_black_is_far_darker_than_over_white(seen: Seen, name: Name) -> None:
    red = name("PR254", "transparent")
    assert flat(seen("black", red))[0] <= flat(seen("white", red))[0] - 8


def test_two_thinned_coats_of_white_hide_black(seen: Seen, white_paint: str) -> None:
    assert flat(seen("black", white_paint, white_paint))[0] >= 90
    assert flat(seen("black", f"{white_paint}; water 0.5; passes 2"))[0] >= 90


def test_green_with_white_alone_goes_minty(
    seen: Seen, name: Name, yellow: str, white_paint: str
) -> None:
    green = name("PG7", "transparent")
    minty = flat(seen("white", f"{green} + {white_paint}"))[2]
    kept = flat(seen("white", f"{green} + {white_paint} + {yellow}"))[2]
    blue = flat(seen("white", name("PB15:3", "transparent")))[2]
    assert abs(minty - blue) < abs(kept - blue)


def test_white_in_red_makes_pink_and_yellow_makes_orange(
    seen: Seen, name: Name, yellow: str, white_paint: str
) -> None:
    red = name("PR254", "transparent")
    pure = flat(seen("white", red))
    pink = flat(seen("white", f"{red} + {white_paint}"))
    orange = flat(seen("white", f"{red} + {yellow} 3"))
    assert pink[0] > pure[0]
    assert pink[2] < pure[2]
    assert orange[2] > pure[2] + 8


def passes_to(seen: Seen, ink: str, depth: float) -> int:
    """Return how many passes of an ink reach a lightness over white."""
    for passes in range(1, 60):
        if flat(seen("white", f"{ink}; passes {passes}"))[0] <= depth + 0.5:
            return passes
    raise AssertionError("never that deep")


def test_violet_ink_at_a_quarter_needs_three_times_the_passes(seen: Seen, name: Name) -> None:
    ink = name("PV23", "ink")
    depth = flat(seen("white", f"{ink}; passes 2"))[0]
    strong, weak = passes_to(seen, ink, depth), passes_to(seen, f"{ink}; water 3", depth)
    assert weak >= 3 * strong


def test_orange_glaze_over_violet_darkens_and_dulls(seen: Seen, name: Name) -> None:
    orange, violet = name("PO73", "transparent"), name("PV23", "transparent")
    for ground in (violet, f"{violet}; water 1"):
        before = flat(seen("white", ground))
        for passes in (1, 2):
            after = flat(seen("white", ground, f"{orange}; water 3; passes {passes}; tool glaze"))
            assert after[0] < before[0]
            assert after[1] < before[1]


def test_blue_glaze_over_yellow_is_green(seen: Seen, name: Name, yellow: str) -> None:
    blue = name("PB15:3", "transparent")
    assert 110 < flat(seen("white", yellow, f"{blue}; water 4; tool glaze"))[2] < 200


def test_orange_glazed_into_blue_passes_through_brown(seen: Seen, name: Name) -> None:
    blue, orange = name("PB15:3", "transparent"), name("PO73", "transparent")
    both = seen("white", f"{blue}; water 3; tool glaze", f"{orange}; water 2; passes 2; tool glaze")
    assert flat(both)[1] < 45
    assert "brown" in describe(both.lch[0, FLAT], float(both.value[0, FLAT]))


def test_layers_of_violet_shift_in_hue_as_they_build(seen: Seen, name: Name) -> None:
    ink = name("PV23", "ink")
    once, often = (flat(seen("white", f"{ink}; water 4; passes {n}"))[2] for n in (1, 8))
    assert abs(once - often) > 4


def test_a_wash_collects_in_recesses_and_a_blotted_glaze_does_not(
    seen: Seen, rack: dict[str, Paint]
) -> None:
    washes = [paint for paint in rack.values() if paint.kind == "wash"]
    for wash in washes:
        field = seen("white", wash.name)
        assert field.value[0, 0] < field.value[0, 1] < field.value[0, 2]
        assert recess_to_ridge(field) >= 5
    for paint in rack.values():
        assert recess_to_ridge(seen("white", f"{paint.name}; water 3; tool glaze")) < 3


def test_contrast_type_paint_gives_base_shade_and_highlight_in_one_coat(
    seen: Seen, rack: dict[str, Paint]
) -> None:
    for paint in rack.values():
        if paint.kind == "contrast":
            assert recess_to_ridge(seen("white", paint.name)) >= 15


def test_matt_lightens_and_greys_a_deep_violet(seen: Seen, name: Name, paint_of: PaintOf) -> None:
    ink = name("PV23", "ink")
    glossy = flat(seen("white", f"{ink}; passes 3"))
    starved = flat(seen("white", f"{ink}; water 20; passes 60"))
    assert starved[0] > glossy[0]
    assert paint_of("PV23", "ink").finish < paint_of("PW6", "opaque").finish


def test_dry_brush_reaches_ridges_only(seen: Seen, white_paint: str) -> None:
    bare, brushed = seen("black"), seen("black", f"{white_paint}; tool drybrush; passes 4")
    np.testing.assert_allclose(brushed.lab[0, :2], bare.lab[0, :2], atol=1e-9)
    assert brushed.value[0, 2] > bare.value[0, 2] + 1


def test_a_sponge_covers_little_at_first_and_more_with_every_dab(
    seen: Seen, white_paint: str
) -> None:
    L = [flat(seen("black", f"{white_paint}; tool sponge; passes {n}"))[0] for n in (1, 3, 8)]
    assert L[0] < L[1] < L[2]
    assert L[0] < 65


def test_thick_medium_stays_where_it_is_put(seen: Seen, rack: dict[str, Paint]) -> None:
    wash = next(p.name for p in rack.values() if p.kind == "wash")
    spread = [recess_to_ridge(seen("white", f"{wash}; {t} 2")) for t in ("thick medium", "water")]
    assert spread[0] < spread[1]


def spectrum_of(rack: dict[str, Paint], ground: str, *coats: str, **look: str) -> Array:
    """Return the radiance factor on the flat, (36,)."""
    laid = tuple(parse_coat(words, rack) for words in coats)
    passage = Passage("test", ground=Ground(ground), coats=laid)  # type: ignore[arg-type]
    state = fold(passage, laid, rack, axis(1), np.zeros(1))
    return spectrum(state, Look(**look))[0, 0]  # type: ignore[arg-type]


def luminance_of(rack: dict[str, Paint], ground: str, *coats: str, angle: str) -> float:
    """Return Y on the flat in the shade or in the glint."""
    seen_there = spectrum_of(rack, ground, *coats, angle=angle)
    return float(xyz(seen_there, weights())[1])


METALS = ("Tin Silver", "Pipe Copper", "Sovereign Gold")
FLUORESCENT = ("Signal Orange", "Lure Green", "Buoy Pink")


def test_matt_varnish_chalks_a_deep_violet_and_gloss_brings_it_back(seen: Seen, name: Name) -> None:
    violet = f"{name('PV23', 'ink')}; passes 3"
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
