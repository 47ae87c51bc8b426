"""Forms: their geometry agrees with itself, and what is looked up on them is what is computed."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.interpolate import interpn

from conftest import small_plan
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import decode, encode, lab_of
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import set_passage, with_coats
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.grounds import with_nozzles, zenithal
from zesty_veil.plan.model import FORM_NAMES, Ground, Passage, Plan
from zesty_veil.plan.samples import SAMPLES, sample
from zesty_veil.predict.field import predict
from zesty_veil.predict.forms import onform
from zesty_veil.predict.forms.edges import edge_of
from zesty_veil.predict.forms.facing import facing, tilt
from zesty_veil.predict.forms.onform import (
    FormConditions,
    kept_table,
    picture,
    scene,
    table,
)
from zesty_veil.predict.forms.shapes import FORMS, form, shape_of
from zesty_veil.predict.forms.surface import grid, normals, surface
from zesty_veil.predict.look import Angle, ViewingConditions
from zesty_veil.predict.squint import along_axis, blur_mm, over_form
from zesty_veil.predict.turned import each_way
from zesty_veil.services.forecast import Request, forecasts
from zesty_veil.services.formedits import faced


def looked_up(values: Array, u: Array, relief: Array, towards: Array | None = None) -> Array:
    """Return values of a table (p, r, f, 3) between its places, as scipy has them."""
    axes = [np.linspace(0, 1, values.shape[0]), np.linspace(-1, 1, values.shape[1])]
    points = [u, relief]
    if values.shape[2] > 1:
        assert towards is not None
        axes.append(onform._FACINGS)
        points.append(towards)
    else:
        values = values[:, :, 0]
    return np.asarray(interpn(axes, values, np.stack(points, axis=-1)))


def test_every_form_that_a_plan_can_name_is_made() -> None:
    assert tuple(FORMS) == FORM_NAMES
    with pytest.raises(InputError, match="no form 'teapot'"):
        form("teapot", 32)


@pytest.mark.parametrize("name", FORM_NAMES)
def test_a_form_is_sound(name: str) -> None:
    shape = form(name, 200)
    assert 0.1 < shape.mask.mean() < 0.8
    assert np.isfinite(shape.height).all()
    assert (shape.height[~shape.mask] == 0).all()
    np.testing.assert_allclose(np.linalg.norm(shape.normal, axis=-1), 1, atol=1e-12)
    assert (shape.normal[..., 2] > 0).all()
    inside = shape.relief[shape.mask]
    assert abs(inside.mean()) < 0.01
    assert inside.min() >= -1
    assert inside.max() <= 1
    assert ((shape.u >= 0) & (shape.u <= 1)).all()
    assert np.ptp(shape.u[shape.mask]) > 0.6  # the axis is used
    with pytest.raises(ValueError, match="read-only"):
        shape.height[0, 0] = 1


@pytest.mark.parametrize("name", FORM_NAMES)
def test_normals_are_the_slopes_of_the_height(name: str) -> None:
    shape, step = form(name, 160), 2 / 160
    h, mask = shape.height, shape.mask
    whole = mask[1:-1, 1:-1] & mask[:-2, 1:-1] & mask[2:, 1:-1]
    rows, columns = np.nonzero(whole & mask[1:-1, :-2] & mask[1:-1, 2:])
    rows, columns = rows + 1, columns + 1
    across = (h[rows, columns + 1] - h[rows, columns - 1]) / (2 * step)
    upward = (h[rows - 1, columns] - h[rows + 1, columns]) / (2 * step)
    normal = shape.normal[rows, columns]
    np.testing.assert_allclose(-normal[:, 0] / normal[:, 2], across, atol=1e-6)
    np.testing.assert_allclose(-normal[:, 1] / normal[:, 2], upward, atol=1e-6)


def test_a_ball_has_the_normals_of_a_ball() -> None:
    x, y = grid(400)
    far = np.hypot(x, y)
    height = np.sqrt(np.clip(0.8**2 - far**2, 0, None))
    inner = far < 0.6
    normal = normals(height)
    wanted = np.stack([x, y, height], axis=-1) / 0.8
    np.testing.assert_allclose(normal[inner], wanted[inner], atol=2e-3)


def test_relief_finds_grooves_and_crests_but_not_slopes() -> None:
    x, y = grid(300)
    mask = (np.abs(x) < 0.9) & (np.abs(y) < 0.9)
    wave = surface(0.05 * np.cos(x * 20), mask, x)
    middle = np.abs(y) < 0.3
    crest = middle & (np.cos(x * 20) > 0.98) & (np.abs(x) < 0.7)
    groove = middle & (np.cos(x * 20) < -0.98) & (np.abs(x) < 0.7)
    assert wave.relief[crest].mean() > 0.5
    assert wave.relief[groove].mean() < -0.5
    slope = surface(0.5 * x, mask, x)
    assert np.abs(slope.relief[(np.abs(x) < 0.5) & (np.abs(y) < 0.5)]).max() < 0.05


@pytest.mark.parametrize("name", SAMPLES)
@pytest.mark.parametrize("angle", ["shade", "glint"])
def test_looked_up_pixels_are_the_computed_ones(name: str, angle: Angle) -> None:
    plan = sample(name)
    look = ViewingConditions(plan.light, angle=angle)
    rng = np.random.default_rng(12)
    for passage in plan.passages:
        shape = form(passage.form, 300)
        some = rng.choice(int(shape.mask.sum()), 250, replace=False)
        u, relief = shape.u[shape.mask][some], shape.relief[shape.mask][some]
        found = table(passage, plan.rack(), look)
        towards = facing(shape.normal[shape.mask][some], found.nozzle or 0.0)
        colour = looked_up(found.lab, u, relief, towards)
        far = []
        for group in np.array_split(np.argsort(u), 250 if found.nozzle is not None else 25):
            one = passage
            if found.nozzle is not None:
                turned = np.degrees(np.arccos(np.clip(towards[group[0]], 0, 1)))
                one = replace(passage, tilt=(found.nozzle + turned,) * 2)
            # Every place with every relief of the group; each pixel has its own on the diagonal.
            exact = predict(one, plan.rack(), u[group], relief[group], look).lab
            off = ciede2000(colour[group], exact[np.arange(group.size), np.arange(group.size)])
            far += list(off)
        # Where a coat ends at the edge of the ridges a pixel in a thousand is a little off.
        assert np.quantile(far, 0.98) < 0.4, passage.name
        assert max(far) < 0.7, passage.name


def test_a_spray_lands_on_what_faces_its_nozzle() -> None:
    plan = zenithal(small_plan(), 0, find("Lime White", demo_rack()), 0.0)
    plan = set_passage(plan, 0, with_coats(plan.passages[0], ()))
    above, aside = plan, with_nozzles(plan, 0, 90.0)
    lit = [
        scene(
            [("orb", kept_table(p.passages[0], p.paints, ViewingConditions()))],
            120,
            FormConditions(studio=False),
        )
        for p in (above, aside)
    ]
    top, right, foot, left = (15, 60), (60, 105), (105, 60), (60, 15)
    assert lit[0][top][0] > lit[0][right][0] > lit[0][foot][0]
    assert lit[1][right][0] > lit[1][top][0] > lit[1][left][0]
    # Turned by a right angle, the same light falls on the same ball; but for its axis, which
    # does not matter where nothing but primer and spray lie.
    turned, inside = np.rot90(lit[0].astype(int), -1), lit[1][..., 3] == 255
    assert np.abs(turned - lit[1])[inside & (turned[..., 3] == 255)].max() <= 3


def test_where_the_nozzle_is_does_not_change_the_table() -> None:
    white = find("Lime White", demo_rack())
    plans = [zenithal(small_plan(), 0, white, nozzle) for nozzle in (0.0, 70.0)]
    made = [table(plan.passages[0], plan.rack(), ViewingConditions()) for plan in plans]
    held = [kept_table(plan.passages[0], plan.paints, ViewingConditions()) for plan in plans]
    assert [t.nozzle for t in held] == [0.0, 70.0]
    assert held[0].fine is held[1].fine  # worked out once
    for one in (made[1], held[1]):
        np.testing.assert_allclose(one.lab, made[0].lab, atol=1e-9)


def test_a_section_is_sprayed_as_its_form_faces_the_nozzle() -> None:
    orb = form("orb", 200)
    light, *_, far = tilt(orb, 0.0)
    assert light < 50
    assert 80 < far <= 90
    # A ridged form turns to the nozzle and away again; no line of angles could say so.
    folds = tilt(form("folds", 200), 0.0)
    steps = [b - a for a, b in pairwise(folds)]
    assert min(steps) < 0 < max(steps)
    # From the other side the light's end is in the spray's shadow.
    turned = tilt(orb, 135.0)
    assert turned[0] - 135 > 60


def test_a_passage_in_front_hides_what_surrounds_it() -> None:
    plan = small_plan()
    seen = table(plan.passages[0], plan.rack(), ViewingConditions())
    alone = scene([("folds", seen)], 80, FormConditions())
    both = scene([("folds", seen), ("orb", seen)], 80, FormConditions())
    orb, folds = form("orb", 80).mask, form("folds", 80).mask
    edges = np.zeros(80 * 80, dtype=bool)
    for name in ("orb", "folds"):
        edges[edge_of(name, 80).at] = True
    inner = ~edges.reshape(80, 80)
    assert (both[..., 3] == 255 * (orb | folds))[inner].all()
    assert (both[~orb & inner] == alone[~orb & inner]).all()
    assert (both[orb] != alone[orb]).any()


@pytest.mark.parametrize("size", [80, 400])
def test_edges_are_without_stairs(size: int) -> None:
    """The area that a disc covers is pi r^2 to a pixel's part, and its edge holds every share."""
    seen = table(small_plan().passages[0], small_plan().rack(), ViewingConditions())
    alpha = scene([("orb", seen)], size, FormConditions())[..., 3] / 255.0
    across = np.flatnonzero(alpha[size // 2] > 0.5)
    radius = across.size / 2
    assert abs(alpha.sum() / (np.pi * radius**2) - 1) < 2 / radius
    edge = alpha[(alpha > 0) & (alpha < 1)]
    assert edge.size > 2 * radius
    assert np.histogram(edge, bins=4, range=(0, 1))[0].min() > 0


def test_grey_has_no_colour_and_flat_has_no_light() -> None:
    plan = small_plan()
    photograph = table(plan.passages[0], plan.rack(), ViewingConditions(), grey=True)
    grey, _ = picture("orb", 60, photograph, FormConditions())
    seen = table(plan.passages[0], plan.rack(), ViewingConditions())
    assert np.ptp(grey, axis=-1).max() < 0.01
    flat, mask = picture("orb", 60, seen, FormConditions(studio=False))
    wanted = looked_up(seen.rgb, form("orb", 60).u[mask], form("orb", 60).relief[mask])
    # Taken from the nearest row of a fine table: half a step of eight bits at most.
    np.testing.assert_allclose(flat, wanted, atol=0.006)


def test_squinting_averages_light_over_what_the_eye_blurs() -> None:
    # A white line on black, two thirds of a millimetre wide: its light spreads, and is kept.
    assert 0.4 < blur_mm() < 1
    assert blur_mm(1200) == pytest.approx(2 * blur_mm(600))
    rgb = np.zeros((600, 1, 3))
    rgb[290:310] = 1.0
    soft = along_axis(rgb, 20.0)
    assert soft.max() < 0.8
    assert (soft**2.2).sum() == pytest.approx((rgb**2.2).sum(), rel=1e-6)
    assert soft[300, 0, 0] > soft[340, 0, 0] > 0
    even = np.full((100, 3, 3), 0.4)
    np.testing.assert_allclose(along_axis(even, 20.0), even, atol=1e-12)


def test_squinting_at_a_form_blurs_its_edge_into_the_surround() -> None:
    plan = small_plan()
    seen = table(plan.passages[0], plan.rack(), ViewingConditions())
    sharp = scene([("orb", seen)], 120, FormConditions())
    soft = over_form(sharp, 40.0, 0.5)
    assert (soft[..., 3] == 255).all()
    assert np.abs(soft[0, 0, :3].astype(int) - 128).max() <= 2
    edges = [np.abs(np.diff(p[60, :, 0].astype(int))).max() for p in (sharp, soft)]
    assert edges[1] < edges[0] / 2


def test_the_mirror_turns_left_to_right() -> None:
    plan = small_plan()
    seen = table(plan.passages[0], plan.rack(), ViewingConditions())
    straight, mirrored = (
        scene([("orb", seen)], 90, FormConditions(mirrored=m)) for m in (False, True)
    )
    np.testing.assert_array_equal(mirrored, straight[:, ::-1])


@pytest.mark.parametrize("name", FORMS)
def test_where_only_facing_is_asked_for_no_relief_is_worked_out(
    name: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The window asks on its own thread while a nozzle or a light is moved."""
    whole = form(name, 48)
    monkeypatch.setattr("zesty_veil.predict.forms.surface.relief", None)
    facing = form(name, 48, rough=False)
    np.testing.assert_array_equal(facing.normal, whole.normal)
    np.testing.assert_array_equal(facing.u, whole.u)
    assert not facing.relief.any()
    assert whole.relief.any()


@pytest.mark.parametrize("name", FORMS)
def test_a_spray_is_one_thing_in_the_ribbon_and_on_the_form(name: str) -> None:
    """Both agree to dE 3 from light to far end, though one place is turned many ways."""
    paints = {paint.name: paint for paint in demo_rack()}
    white = parse_coat("Lime White; tool spray; passes 2; nozzle 0", paints)
    yellow = parse_coat("Kiln Yellow; water 1; passes 2; tool airbrush; nozzle 0", paints)
    bare = Passage("p", 20.0, 300.0, Ground("black", (white,)), (yellow,), form=name)
    plan = faced(Plan("p", (bare,), demo_rack()), 0)
    sprayed = plan.passages[0]
    shape = shape_of(plan, sprayed)
    made = form(shape, 256)
    seen = kept_table(sprayed, plan.paints, ViewingConditions())
    pixels, _ = picture(shape, 256, seen, FormConditions(studio=False))
    u = made.u[made.mask]
    for place in (0.1, 0.3, 0.5, 0.7, 0.9):
        mean = encode(decode(pixels[np.abs(u - place) < 0.02].astype(float)).mean(axis=0))
        ribbon = predict(sprayed, paints, np.array([place]), np.zeros(1)).lab[0, 0]
        assert float(ciede2000(lab_of(mean), ribbon)) < 3, place


def test_what_is_turned_many_ways_is_seen_as_the_mean_of_its_light() -> None:
    """Half white, half black send back half the light: L 76 (CIE 15:2018), whatever paint is."""
    paints = {paint.name: paint for paint in demo_rack()}
    white = parse_coat("Lime White; tool spray; passes 6; nozzle 0", paints)
    sides = ((0.0, 0.0), (90.0, 90.0))  # one half faces the nozzle, the other looks away
    both = Passage("p", ground=Ground("black"), coats=(white,), turns=sides)
    one, other = (
        predict(replace(both, tilt=row, turns=()), paints, np.array([0.5]), np.zeros(1))
        for row in sides
    )
    seen = predict(both, paints, np.array([0.5]), np.zeros(1))
    Y = (luminous(one.lab[..., 0]) + luminous(other.lab[..., 0])) / 2
    np.testing.assert_allclose(luminous(seen.lab[..., 0]), Y, atol=1e-9)
    assert one.lab[0, 0, 0] - other.lab[0, 0, 0] > 60
    # The section shows the same; what no nozzle sprays is not asked for its turns.
    plan = Plan("p", (both,), demo_rack())
    *_, shown = forecasts(Request(plan, 0, demo_rack(), ViewingConditions()), lambda: True)
    assert shown.field is not None
    np.testing.assert_allclose(shown.field.lab[128, 1], seen.lab[0, 0], atol=1e-6)
    brushed = replace(both, coats=(replace(white, nozzle=None),))
    assert each_way(brushed) == (brushed,)


def test_turns_are_kept_in_the_plan_and_must_be_tilts() -> None:
    plan = faced(zenithal(small_plan(), 0, find("Lime White", demo_rack()), 0.0), 0)
    assert len(plan.passages[0].turns) == 5
    assert parse(dump(plan)).passages == plan.passages
    # Of equal shares, each faces the nozzle less than the one after.
    rows = np.array(plan.passages[0].turns)
    assert (np.diff(rows, axis=0) <= 1e-9).all()
    wrong = replace(plan.passages[0], turns=((0.0, 999.0),))
    with pytest.raises(InputError, match=r"a tilt is 999; it must be from -360 to 360"):
        check_plan(replace(plan, passages=(wrong,)))
