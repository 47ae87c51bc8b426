"""A passage that stands in the light of another one casts its shadow there."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.advise.glow.rings import ringed
from zesty_veil.errors import InputError
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.glow import Glow, Shadow, Surface
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.forms.lit import Lamp, places_of
from zesty_veil.predict.forms.shadow import Blocker, in_shadow, outline
from zesty_veil.predict.forms.shapes import Shape, form
from zesty_veil.services.lighting import LightRequest, lighting

# The orb is a ball of this radius, in half widths of its form.
BALL = 0.84


@pytest.mark.parametrize("light", [(-0.7, 0.5, 1.6), (0.1, 0.0, 2.0), (1.2, -1.0, 1.2)])
@pytest.mark.parametrize("scale", [0.3, 0.6])
def test_a_balls_shadow_falls_where_geometry_says(
    light: tuple[float, float, float], scale: float
) -> None:
    # A ray meets a ball where its distance from the middle is under the radius: plain geometry.
    made, middle = form("plate", 160), np.array((0.1, 0.05, 0.9))
    seen = in_shadow(made, Lamp(light, 4.0), Blocker(Shape("orb"), (0.1, 0.05, 0.9), scale))
    start = places_of(made)
    along = np.array(light) - start
    t = np.einsum("ijk,ijk->ij", middle - start, along) / (along**2).sum(axis=-1)
    nearest = start + np.clip(t, 0, 1)[..., None] * along
    geometry = made.mask & (np.linalg.norm(nearest - middle, axis=-1) < BALL * scale)
    assert geometry.any()
    assert not geometry.all()
    assert np.mean((seen > 0.5) == geometry, where=made.mask) > 0.99


def test_a_light_from_within_knows_no_shadow_and_a_line_of_light_has_a_soft_one() -> None:
    made, ball = form("plate", 96), Blocker(Shape("orb"), (0.0, 0.0, 0.9), 0.4)
    assert not in_shadow(made, Lamp((0, 0, 1.8), 4.0, inside=True), ball).any()
    line = in_shadow(made, Lamp((-0.8, 0, 1.8), 4.0, end=(0.8, 0, 1.8)), ball)
    point = in_shadow(made, Lamp((0, 0, 1.8), 4.0), ball)
    assert ((line > 0.05) & (line < 0.95)).sum() > 200
    assert set(np.unique(point)) == {0.0, 1.0}


def test_the_outline_of_a_ball_is_a_circle() -> None:
    assert np.hypot(*outline(Shape("orb")).T) == pytest.approx(BALL, abs=0.02)


SHADOW = Shadow("head", (0.1, 0.0, 0.9))
BANNER = Surface("banner", (40.0, 50.0, 20.0), place=(-0.5, 0.4, 1.6), shadow=SHADOW)
GLOW = Glow("", (BANNER,), radius_mm=60.0)
PLAN = Plan(
    "p",
    (Passage("banner", 30.0, 900.0, form="plate"), Passage("head", 8.0, 100.0, form="orb")),
    glow=GLOW,
)


def test_the_picture_is_dark_in_the_shadow_and_the_rings_keep_their_colours() -> None:
    bare = replace(GLOW, surfaces=(replace(BANNER, shadow=None),))
    (free,) = lighting(LightRequest(PLAN, bare, 0, 96), lambda: True)
    (seen,) = lighting(LightRequest(PLAN, GLOW, 0, 96), lambda: True)
    grey = [each.picture[..., :3].mean(axis=-1) for each in (free, seen)]
    darker = grey[0] - grey[1]
    assert darker.min() >= -1
    assert (darker > 20).sum() > 200
    assert [ring.light for ring in seen.lits[0].ringed.rings] == [
        ring.light for ring in free.lits[0].ringed.rings
    ]
    assert max(ring.shadowed for ring in seen.lits[0].ringed.rings) > 0.2
    assert all(ring.shadowed == 0 for ring in ringed(PLAN, bare, bare.surfaces[0]).rings)
    (said,) = (each.words for each in seen.warned if "shadow" in each.words)
    assert "head" in said


def test_a_shadow_is_kept_renamed_and_goes_with_its_passage() -> None:
    assert parse(dump(PLAN)) == PLAN
    renamed = edits.rename_passage(PLAN, 1, "skull")
    assert renamed.glow is not None
    assert renamed.glow.surfaces[0].shadow is not None
    assert renamed.glow.surfaces[0].shadow.of == "skull"
    gone = edits.remove_passage(PLAN, 1)
    assert gone.glow is not None
    assert gone.glow.surfaces[0].shadow is None


@pytest.mark.parametrize("of", ["nobody", "banner"])
def test_what_casts_no_shadow_is_refused(of: str) -> None:
    glow = replace(GLOW, surfaces=(replace(BANNER, shadow=replace(SHADOW, of=of)),))
    with pytest.raises(InputError, match=f"{of}.*shadow"):
        check_plan(edits.set_glow(PLAN, glow))
