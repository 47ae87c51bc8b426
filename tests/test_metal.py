"""Metal with pigment in one pot: leaves and pigment share the light, without a jump.

Common practice: white makes silver lighter and more opaque, a little colour keeps the metal's tint,
and the more pigment there is, the less it glints.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.optics.flakes import direct, flash
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import usual_coat, with_feather, with_span
from zesty_veil.plan.model import Ground, Passage, Primer
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import Angle, ViewingConditions

RACK = {paint.name: paint for paint in demo_rack()}
SHARES = ("99 + {} 1", "20 + {} 1", "6 + {} 1", "3 + {} 1", "1 + {} 1", "1 + {} 3", "1 + {} 20")


def seen(words: str, ground: Primer = "black", angle: Angle = "shade") -> np.ndarray:
    coat = parse_coat(f"{words}; passes 2", RACK)
    passage = Passage("p", ground=Ground(ground), coats=(coat,))
    return predict(passage, RACK, np.array([0.5]), np.zeros(1), ViewingConditions(angle=angle)).lab[
        0, 0
    ]


def mixed(metal: str, pigment: str) -> list[str]:
    """Return mixtures from pure metal to pure paint."""
    between = [f"{metal} {share.format(pigment)}" for share in SHARES]
    return [metal, *between, pigment]


@pytest.mark.parametrize("metal", ["Tin Silver", "Sovereign Gold", "Pipe Copper"])
def test_white_lightens_metal_and_never_darkens_it(metal: str) -> None:
    L = [float(seen(words)[0]) for words in mixed(metal, "Lime White")]
    assert sorted(L) == L
    # Two coats of it hide whatever lies below.
    assert float(ciede2000(seen(metal), seen(metal, "white"))) < 2


@pytest.mark.parametrize("pigment", ["Lime White", "Flask Blue", "Lamp Black"])
def test_glint_fades_without_a_jump(pigment: str) -> None:
    steps = mixed("Tin Silver", pigment)
    glint = [float(seen(words, angle="glint")[0] - seen(words)[0]) for words in steps]
    assert glint[0] > 30
    assert glint == sorted(glint, reverse=True)
    assert glint[-1] == pytest.approx(0, abs=1e-9)
    assert glint[1] > 0.75 * glint[0]  # one part in a hundred is a little


def test_a_little_white_keeps_the_tint_of_gold() -> None:
    pure, some = (
        lch(seen(words)) for words in ("Sovereign Gold", "Sovereign Gold 8 + Lime White 1")
    )
    assert some[1] > 0.75 * pure[1]
    assert abs(some[2] - pure[2]) < 12


def test_two_halves_of_a_metallic_film_are_the_whole() -> None:
    mu_a, mu_s, mirror = np.full(36, 2.0), np.full(36, 9.0), np.full(36, 0.9)
    whole, half = (flash(60.0, mirror, mu_a, mu_s, np.array(X)) for X in (0.02, 0.01))
    through = direct(mu_a, mu_s, np.array(0.01), 60.0)
    np.testing.assert_allclose(half + through * half, whole, rtol=1e-12)


def test_metal_in_full_lies_over_what_changes_along_the_axis() -> None:
    coats = tuple(
        with_feather(with_span(parse_coat(words, RACK), start, 1), feather, 0)
        for words, start, feather in (
            ("Furnace Red; water 1; passes 3", 0.5, 0.3),
            ("Tin Silver; passes 2", 0.0, 0.0),
            ("Flask Blue; water 3; passes 2", 0.6, 0.2),
        )
    )
    passage = Passage("p", ground=Ground("white"), coats=coats)
    glint = predict(passage, RACK, axis(65), np.zeros(1), ViewingConditions(angle="glint"))
    # The red is hidden below it; the blue is not.
    assert float(ciede2000(glint.lab[0, 0], glint.lab[24, 0])) < 2
    assert float(ciede2000(glint.lab[0, 0], glint.lab[-1, 0])) > 20


def test_metal_on_a_part_of_a_passage_glints_there_and_nowhere_else(
    rack: dict[str, Paint],
) -> None:
    """So many places are worked out in blocks, of which some have no metal at all."""
    metal = next(p for p in rack.values() if p.flakes is not None)
    coat = replace(usual_coat(metal), span=(0.7, 0.9))
    passage = Passage("p", 40.0, coats=(coat,), ground=Ground("black"))
    u, relief = axis(320), np.linspace(-1, 1, 17)
    glint = predict(passage, rack, u, relief, ViewingConditions(angle="glint"))
    shade = predict(passage, rack, u, relief, ViewingConditions(angle="shade"))
    brighter = (glint.lab - shade.lab)[..., 0]
    assert brighter[(u > 0.72) & (u < 0.88)].min() > 10
    assert np.abs(brighter[(u < 0.6)]).max() < 1e-9
