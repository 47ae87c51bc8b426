"""The stated band holds what it says, of paints that nobody measured, by any hand.

The truth is drawn otherwise than the band: paints from the table with their strength, scattering
and bands astray, films by gamma variates, one after the other, an evening rich or poor as a whole.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import wavelengths
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.model import Coat, Ground, Hand, OwnTool, Passage
from zesty_veil.predict.field import field_of
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.predict.sure import sureness

AT, FLAT = np.array([0.5]), np.zeros(1)
KINDS = {"transparent", "ink", "opaque", "wash", "contrast"}


def astray(rng: np.random.Generator, paint: Paint) -> Paint:
    """Return a paint as somebody's bottle may hold it."""
    nm = wavelengths()
    mu_a = np.interp(nm - 5.0 * rng.standard_normal(), nm, paint.mu_a) * rng.gamma(16, 1 / 16)
    mu_s = np.array(paint.mu_s) * rng.gamma(16, 1 / 16)
    return replace(paint, mu_a=tuple(mu_a.tolist()), mu_s=tuple(mu_s.tolist()))


def held(cv: float, hand: Hand, many: tuple[int, int], pots: int, stacks: int) -> np.ndarray:
    """Return the share of stacks inside their band, of L, C and h."""
    rng = np.random.default_rng([int(100 * cv), *many, pots])
    rack = [p for p in demo_rack() if p.kind in KINDS]
    out = []
    for _ in range(stacks):
        coats: list[Coat] = []
        used: dict[str, Paint] = {}
        for _ in range(int(rng.integers(*many))):
            own = [rack[i] for i in rng.choice(len(rack), pots, replace=False)]
            used |= {paint.name: paint for paint in own}
            parts = tuple(Part(paint.name, float(rng.integers(1, 4))) for paint in own)
            mixture = Mixture(parts, "water", float(rng.choice([0.5, 1, 2, 3])))
            coats.append(
                Coat(mixture, str(rng.choice(["glaze", "loaded"])), int(rng.integers(1, 4)))
            )
        bare = Passage("x", ground=Ground(str(rng.choice(["white", "grey", "black"]))))  # type: ignore[arg-type]
        band = sureness(replace(bare, coats=tuple(coats)), used, AT, FLAT, hand)
        true = {name: astray(rng, paint) for name, paint in used.items()}
        evening = float(np.exp(0.12 * rng.standard_normal()))
        state = ground(bare, true, AT, FLAT)
        for coat in coats:
            thinning = coat.mixture.thinning * rng.gamma(100, 0.01)
            single = replace(coat, passes=1, mixture=replace(coat.mixture, thinning=thinning))
            for _ in range(coat.passes):
                film = OwnTool(coat.tool, evening * rng.gamma(1 / cv**2, cv**2))
                there = replace(bare, own_hand=(film,))
                state = fold_coats(state, prepare((single,), true, there, AT, FLAT))
        came = lch(field_of(state, AT, FLAT, DAYLIGHT).lab[0, 0])
        low, high = band.low[0, 0], band.high[0, 0]
        came[2] = low[2] + (came[2] - low[2]) % 360
        out.append((low <= came) & (came <= high))
    return np.asarray(np.mean(out, axis=0))


@pytest.mark.parametrize(("cv", "hand"), [(0.2, "steady"), (0.3, "ordinary"), (0.45, "loose")])
@pytest.mark.parametrize(("many", "pots"), [((1, 2), 1), ((1, 2), 2), ((2, 5), 1)])
def test_a_band_of_ten_to_ninety_holds_eight_of_ten(
    cv: float, hand: Hand, many: tuple[int, int], pots: int
) -> None:
    """Hue by itself held 49 % before bands could lie aside."""
    share = held(cv, hand, many, pots, 80)
    assert 0.7 <= share.mean() <= 0.9
    # One of three counted by itself strays by 0.045 in eighty.
    assert (share >= 0.62).all()
    assert (share <= 0.97).all()
