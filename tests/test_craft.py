"""What painters know of stacked transparent colour, on the demo rack.

Every figure here is common practice: a fact of the trade without a published source. The paints
are invented; what is checked is that the model brings out what any painter sees.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from seeing import FLAT, Name, PaintOf, Seen, flat, recess_to_ridge
from zesty_veil.paint.kinds import USUAL_TOOL
from zesty_veil.paint.paint import Paint
from zesty_veil.predict.words import describe

pytestmark = pytest.mark.common_practice


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
    for ground in (f"{violet}; water {water}; passes 4; tool glaze" for water in (1, 3)):
        before = flat(seen("white", ground))
        for passes in (1, 2):
            after = flat(seen("white", ground, f"{orange}; water 3; passes {passes}; tool glaze"))
            assert after[0] < before[0]
            assert after[1] < before[1]


def test_blue_glaze_over_yellow_is_green(seen: Seen, name: Name, yellow: str) -> None:
    blue = name("PB15:3", "transparent")
    assert 110 < flat(seen("white", yellow, f"{blue}; water 4; passes 3; tool glaze"))[2] < 200


def test_orange_glazed_into_blue_passes_through_brown(seen: Seen, name: Name) -> None:
    blue, orange = name("PB15:3", "transparent"), name("PO73", "transparent")
    blues = f"{blue}; water 1; passes 2; tool glaze"
    both = seen("white", blues, f"{orange}; water 1; passes 7; tool glaze")
    assert flat(both)[1] < 45
    assert "brown" in describe(both.lch[0, FLAT], float(both.value[0, FLAT]))


def test_layers_of_violet_shift_in_hue_as_they_build(seen: Seen, name: Name) -> None:
    ink = name("PV23", "ink")
    once, often = (flat(seen("white", f"{ink}; water 1; passes {n}"))[2] for n in (1, 8))
    assert abs(once - often) > 3


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


def test_yellow_is_shaded_with_magenta_and_sickly_with_black(seen: Seen, name: Name) -> None:
    yellow, black = name("PY74", "transparent"), name("PBk7", "opaque")
    magenta = name("PR122", "transparent")
    plain = flat(seen("white", f"{yellow}; passes 3"))
    sickly, warm = (flat(seen("white", f"{yellow} 10 + {c} 1; passes 3")) for c in (black, magenta))
    assert sickly[2] > plain[2] + 10  # towards green
    assert warm[2] < plain[2] - 10  # towards orange
    assert sickly[1] < 0.5 * warm[1]
    for glaze, way in ((black, 1), (magenta, -1)):
        under = flat(
            seen("white", f"{yellow}; passes 2", f"{glaze}; water 3; passes 3; tool glaze")
        )
        assert way * (under[2] - plain[2]) > 2


def test_violet_goes_chalky_with_white_and_is_lifted_with_pink(seen: Seen, name: Name) -> None:
    violet, white_ = name("PV23", "transparent"), name("PW6", "opaque")
    pink = name("PR122", "transparent")
    chalky = flat(seen("white", f"{violet} 1 + {white_} 4; passes 3"))
    lifted = flat(seen("white", f"{violet} 1 + {pink} 2 + {white_} 2; passes 3"))
    assert lifted[1] > chalky[1] + 6
    assert chalky[0] > lifted[0]


def test_blue_over_a_red_wash_is_dark_purple(seen: Seen, name: Name) -> None:
    blue = name("PB29", "transparent")
    both = flat(seen("white", "Oxblood Wash", f"{blue}; water 2; passes 4; tool glaze"))
    assert 290 < both[2] < 345
    assert both[0] < 45


def test_orange_and_violet_by_turns_go_to_a_deep_brown_violet(seen: Seen, name: Name) -> None:
    orange, violet = name("PO73", "transparent"), name("PV23", "transparent")
    pair = [f"{each}; water 2; passes 2; tool glaze" for each in (orange, violet)]
    depth = [flat(seen("white", *pair * turns)) for turns in (1, 2, 3, 4)]
    assert all(b[0] < a[0] - 3 for a, b in pairwise(depth))
    assert depth[-1][0] < 30
    assert depth[-1][1] < 35
    assert depth[-1][2] < 45 or depth[-1][2] > 320  # neither orange nor violet


def test_ivory_takes_a_shadow_back_in_two_coats(seen: Seen) -> None:
    ivory = flat(seen("black", "Driftbone Ivory; water 0.5; passes 2"))
    over_white = flat(seen("white", "Driftbone Ivory; water 0.5; passes 2"))
    assert ivory[0] > 84
    assert over_white[0] - ivory[0] < 5


def test_two_inks_give_a_deep_tone_in_several_coats(seen: Seen, name: Name) -> None:
    red, violet = name("PR254", "ink"), name("PV23", "ink")
    deep = [flat(seen("white", f"{red} 1 + {violet} 1; passes {n}; tool glaze")) for n in (1, 3, 6)]
    assert deep[0][0] > 45
    assert deep[2][0] < 22
    assert deep[2][1] > 30  # deep and still a colour


def test_a_little_red_or_black_goes_a_long_way(seen: Seen, name: Name) -> None:
    white_, black = name("PW6", "opaque"), name("PBk7", "opaque")
    blue, yellow = name("PB15:3", "transparent"), name("PY74", "transparent")
    red = name("PR254", "transparent")
    plain = flat(seen("white", f"{white_}; passes 6"))[0]
    for strong in (black, blue):
        assert flat(seen("white", f"{white_} 10 + {strong} 1; passes 6"))[0] < plain - 15
    orange = flat(seen("white", f"{red} 1 + {yellow} 1; passes 4"))
    alone = [flat(seen("white", f"{each}; passes 4"))[2] for each in (red, yellow)]
    assert alone[0] + 4 < orange[2] < alone[1] - 20
