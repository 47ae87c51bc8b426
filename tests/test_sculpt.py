"""Sculpts: what is drawn of a mesh is its shape, and no file does harm."""

from __future__ import annotations

import zlib
from contextlib import suppress
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from conftest import small_plan
from meshes import ball, box, stl, written
from zesty_veil.errors import InputError, PlanFileError, SculptError
from zesty_veil.exchange import meshfile
from zesty_veil.exchange.meshfile import read_mesh
from zesty_veil.exchange.sculptjob import Opened, opening
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.edits import set_sculpt
from zesty_veil.plan.fileformat import dump, parse
from zesty_veil.plan.model import Axis, Plan, Sculpt
from zesty_veil.predict.forms.facing import tilt
from zesty_veil.predict.forms.mesh import Mesh, View, coarse, heights, turned
from zesty_veil.predict.forms.sculpted import axis_mm, kept_view, sculpted, unpacked, usual_axis
from zesty_veil.predict.forms.shading import clay
from zesty_veil.predict.forms.shapes import Shape, form, shape_of
from zesty_veil.predict.forms.surface import grid

SIZE = 256


def seen_ball(fine: int, tmp_path: Path) -> tuple[np.ndarray, float, float]:
    """Return the height of a ball from a file, its radius in the view, and its facets' sagitta."""
    path = tmp_path / "ball.stl"
    made = ball(fine)
    made.export(path)
    mesh, notes = read_mesh(path)
    assert notes == ()
    view = View(turned(20, 35, 10), (0.0, 0.0), 12.0)
    # How far the middles of facets lie below the sphere on which their corners are.
    middles = np.linalg.norm(made.triangles.mean(axis=1), axis=1)
    return heights(mesh, view, SIZE), 10 / 12, float((10 - middles.min()) / 12)


@pytest.mark.parametrize("fine", [3, 5])
def test_a_ball_has_the_height_of_a_ball(fine: int, tmp_path: Path) -> None:
    height, radius, sagitta = seen_ball(fine, tmp_path)
    x, y = grid(SIZE)
    far = np.hypot(x, y)
    wanted = np.sqrt(np.clip(radius**2 - far**2, 0, None))
    inner = far < 0.9 * radius
    # Along the view a facet is off by its sagitta over the cosine of its slope.
    below = (wanted - height)[inner] * (wanted / radius)[inner]
    assert below.min() > -1e-6
    assert below.max() < 1.2 * sagitta
    covered = np.isfinite(height).mean()
    assert covered == pytest.approx(np.pi * radius**2 / 4, rel=0.02)


def test_a_ball_has_the_normals_of_a_ball(tmp_path: Path) -> None:
    height, radius, sagitta = seen_ball(5, tmp_path)
    shape = sculpted(kept_view("ball", height, 12.0), Axis(), SIZE)
    x, y = grid(SIZE)
    inner = np.hypot(x, y) < 0.7 * radius
    wanted = np.stack([x, y, np.sqrt(np.clip(radius**2 - x**2 - y**2, 0, None))], -1) / radius
    off = np.degrees(np.arccos(np.clip((shape.normal * wanted).sum(axis=-1), -1, 1)))[inner]
    # A facet is turned from the sphere by up to the angle from its middle to its corner.
    assert off.max() < 2 * np.degrees(np.sqrt(2 * sagitta / radius))
    assert off.mean() < 1.0


def test_a_cube_is_flat_and_where_it_is(tmp_path: Path) -> None:
    mesh, notes = read_mesh(written(tmp_path / "cube.STL", stl(box())))
    assert notes == ()
    assert (len(mesh.vertices), len(mesh.faces)) == (8, 12)
    height = heights(mesh, View(turned(0, 0), (0.0, 0.0), 2.0), 64)
    mask = np.isfinite(height)
    np.testing.assert_allclose(height[mask], 0.5, atol=1e-6)
    assert mask.sum() == 32 * 32
    assert mask[16:48, 16:48].all()
    # Moved in its frame it moves the other way, and what is outside is left out.
    moved = np.isfinite(heights(mesh, View(turned(0, 0), (1.0, 0.0), 2.0), 64))
    assert moved[16:48, 0:32].all()
    assert not moved[:, 32:].any()
    lowered = np.isfinite(heights(mesh, View(turned(0, 0), (0.0, 1.5), 2.0), 64))
    assert lowered[40:, 16:48].all()
    assert not lowered[:40].any()


def test_turns_go_the_way_they_are_called() -> None:
    def where(across: float, up: float, roll: float, point: tuple[float, ...]) -> list[float]:
        return [round(float(v), 6) + 0.0 for v in np.array(turned(across, up, roll)) @ point]

    front, top, left = (0.0, -1.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)
    assert where(0, 0, 0, front) == [0, 0, 1]
    assert where(0, 0, 0, top) == [0, 1, 0]
    assert where(-90, 0, 0, left) == [0, 0, 1]  # its left side faces the eye
    assert where(0, 90, 0, top) == [0, 0, 1]
    assert where(0, 0, 90, top) == [-1, 0, 0]


def test_nearer_surfaces_hide_those_behind_whichever_way_they_are_turned() -> None:
    flat = np.array([[-1.0, 0, -1], [1, 0, -1], [1, 0, 1], [-1, 0, 1]])
    far = flat + np.array([0.0, 1, 0])
    near = flat * 0.5
    mesh = Mesh(
        np.concatenate([far, near]).astype(np.float32),
        np.array([[0, 1, 2], [0, 2, 3], [6, 5, 4], [7, 6, 4]], dtype=np.int32),
    )
    height = heights(mesh, View(turned(0, 0), (0.0, 0.0), 1.0), 40)
    assert height[20, 20] == pytest.approx(0.5)
    assert height[2, 2] == pytest.approx(-0.5)
    assert np.isfinite(height).all()  # no seam between the two halves of a face


def test_the_draft_looks_like_the_whole(tmp_path: Path) -> None:
    made = ball(6)
    mesh = Mesh(made.vertices.astype(np.float32), made.faces.astype(np.int32))
    draft = coarse(mesh)
    assert len(draft.faces) < len(mesh.faces) / 1.5
    view = View(turned(0, 0), (0.0, 0.0), 12.0)
    one, other = (heights(m, view, 128) for m in (mesh, draft))
    both = np.isfinite(one) & np.isfinite(other)
    assert both.mean() > 0.95 * np.isfinite(one).mean()
    assert np.abs(one[both] - other[both]).mean() < 0.02
    grey = clay(one)[..., :3]
    assert (grey == grey[..., :1]).all()  # clay has no colour


OPEN = box()[:10]
FLIPPED = np.concatenate([box()[:11], box()[11:, ::-1]])
SOME_NAN = np.concatenate([box(), np.full((2, 3, 3), np.nan)])


@pytest.mark.parametrize(
    ("triangles", "note"),
    [
        (OPEN, "4 open edges"),
        (FLIPPED, "turned inside out"),
        (SOME_NAN, "2 triangles without real corners were left out"),
        (np.concatenate([box(), np.full((1, 3, 3), 1e30)]), "1 triangle without real corners was"),
        (np.concatenate([box(), np.ones((1, 3, 3))]), None),
    ],
)
def test_a_mesh_with_faults_is_drawn_as_far_as_it_goes(
    triangles: np.ndarray, note: str | None, tmp_path: Path
) -> None:
    mesh, notes = read_mesh(written(tmp_path / "faulty.stl", stl(triangles)))
    assert (note is None and notes == ()) or note in " ".join(notes)
    height = heights(mesh, View(turned(30, 20), (0.0, 0.0), 2.0), 64)
    assert np.isfinite(height).mean() > 0.2


TEXT = b"solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\n"
HOSTILE = {
    "empty.stl": (b"", "is empty"),
    "zeros.stl": (bytes(5000), "is empty"),
    "liar.stl": (bytes(80) + b"\xff\xff\xff\xff" + stl(box())[84:], "4,294,967,295 triangles"),
    "cut.stl": (stl(box())[:400], "ends after 6"),
    "short.stl": (b"abc", "too short"),
    "none.stl": (stl(np.zeros((0, 3, 3))) + b"x", "no triangles"),
    "words.stl": (b"solid nothing\nendsolid nothing\n", "no triangles"),
    "half.stl": (TEXT, "half.stl"),
    "nan.stl": (stl(np.full((4, 3, 3), np.nan)), "no triangle with three real corners"),
    "flat.stl": (stl(np.ones((4, 3, 3))), "without area"),
    "picture.stl": (b"\xff\xd8\xff\xe0" + bytes(range(256)) * 40, "no STL file"),
    "wild.obj": (b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 900000000\n", "wild.obj"),
    "points.obj": (b"v 0 0 0\nv 1 0 0\n", "no faces"),
    "bytes.obj": (b"f \0\0\0" * 90, "is text"),
    "letters.obj": (b"v a b c\nf one two three\n", "letters.obj"),
    "figure.txt": (b"hello", "neither an STL nor an OBJ"),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_files_get_one_sentence(name: str, tmp_path: Path) -> None:
    raw, words = HOSTILE[name]
    with pytest.raises(SculptError) as error:
        read_mesh(written(tmp_path / name, raw))
    said = str(error.value)
    assert words in said
    assert said.endswith(".")
    assert "\n" not in said
    assert len(said) < 220


@given(st.binary(max_size=400), st.sampled_from([".stl", ".obj"]))
def test_any_bytes_are_read_or_refused(raw: bytes, suffix: str) -> None:
    path = Path(f"/tmp/zesty-veil-test{suffix}")
    path.write_bytes(raw)
    with suppress(SculptError):
        mesh, _ = read_mesh(path)
        assert np.isfinite(mesh.vertices).all()
    path.unlink()


def test_what_cannot_be_read_says_why(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(SculptError, match="no such file"):
        read_mesh(tmp_path / "gone.stl")
    (tmp_path / "folder.stl").mkdir()
    with pytest.raises(SculptError, match="isn't a file that can be read"):
        read_mesh(tmp_path / "folder.stl")
    monkeypatch.setattr(meshfile, "MOST_TRIANGLES", 5)
    for path in (tmp_path / "much.stl", tmp_path / "much.obj"):
        ball(0).export(path)
        with pytest.raises(SculptError, match="20 triangles, and up to 5"):
            read_mesh(path)


def test_a_parser_that_lets_wild_corners_through_does_no_harm() -> None:
    corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 0, 1]])
    faces = np.array([[0, 1, 2], [0, 1, 7], [0, -1, 2]])
    mesh, notes = meshfile._sound(corners, faces, "wild.obj")
    assert len(mesh.faces) == 1
    assert "2 triangles without real corners were left out." in notes


def test_an_obj_brings_its_shape_and_no_pictures(tmp_path: Path) -> None:
    path = tmp_path / "cube.obj"
    words = ball(1).export(file_type="obj")
    path.write_text(f"mtllib /etc/passwd\no ball\nusemtl red\n{words}")
    mesh, notes = read_mesh(path)
    assert (len(mesh.faces), notes) == (80, ())
    # Four corners to a face are cut into two triangles.
    square = "v 0 0 0\nv 1 0 0\nv 1 0 1\nv 0 0 1\nf 1 2 3 4\n"
    mesh, _ = read_mesh(written(tmp_path / "square.obj", square.encode()))
    assert len(mesh.faces) == 2


def test_text_and_binary_stl_are_the_same_shape(tmp_path: Path) -> None:
    made = ball(2)
    (tmp_path / "text.stl").write_text(made.export(file_type="stl_ascii"))
    said_solid = b"solid" + stl(np.array(made.triangles))[5:]
    (tmp_path / "binary.stl").write_bytes(said_solid + b"made by a program that adds this")
    meshes = [read_mesh(tmp_path / f"{kind}.stl")[0] for kind in ("text", "binary")]
    assert len(meshes[0].faces) == len(meshes[1].faces) == 320
    view = View(turned(10, 20), (0.0, 0.0), 12.0)
    one, other = (heights(mesh, view, 64) for mesh in meshes)
    np.testing.assert_allclose(
        np.nan_to_num(one, neginf=0), np.nan_to_num(other, neginf=0), atol=1e-5
    )


def test_reading_goes_on_elsewhere_and_is_killed_when_unwanted(tmp_path: Path) -> None:
    path = tmp_path / "ball.stl"
    ball(3).export(path)
    *told, last = opening(path, lambda: True)
    assert "reading" in told
    assert isinstance(last, Opened)
    assert len(last.mesh.faces) == len(last.draft.faces) == 1280
    assert list(opening(path, lambda: False)) == []
    path.write_bytes(stl(box())[:300])
    with pytest.raises(SculptError, match="cut short"):
        list(opening(path, lambda: True))


def view_of_a_ball() -> Sculpt:
    made = ball(4)
    mesh = Mesh(made.vertices.astype(np.float32), made.faces.astype(np.int32))
    return kept_view("ball", heights(mesh, View(turned(0, 0), (0, 0), 12.5), 128), 12.5)


def test_a_view_is_kept_whole_in_the_plan() -> None:
    sculpt = view_of_a_ball()
    height, mask = unpacked(sculpt)
    assert height[mask].max() == pytest.approx(0.8 - 0.0, abs=0.02)
    assert len(sculpt.heights) < 40_000
    plan = set_sculpt(small_plan(), 0, sculpt, usual_axis(sculpt))
    check_plan(plan)
    again = parse(dump(plan))
    assert again.sculpts == (sculpt,)
    assert again.passages[0].form == "ball"
    shape = form(shape_of(again, again.passages[0]), 90)
    assert shape.mask.mean() == pytest.approx(np.pi * 0.64 / 4, rel=0.03)
    np.testing.assert_allclose(np.linalg.norm(shape.normal, axis=-1), 1, atol=1e-9)
    # A sculpt that no passage is seen on is not saved.
    bare = replace(plan, passages=(replace(plan.passages[0], form="orb"),))
    assert parse(dump(bare)).sculpts == ()


def test_the_axis_runs_where_it_is_laid() -> None:
    sculpt = view_of_a_ball()
    straight = Axis((-0.4, 0.0), (0.4, 0.0))
    assert axis_mm(sculpt, straight) == pytest.approx(0.8 * 12.5, abs=0.2)
    x, y = grid(128)
    shape = sculpted(sculpt, straight, 128)
    u = np.where(shape.mask, shape.u, np.nan)
    middle = np.abs(y) < 0.02
    between = middle & (np.abs(x) < 0.4)
    np.testing.assert_allclose(u[between], (x[between] + 0.4) / 0.8, atol=0.02)
    assert np.nanmin(u) == 0
    assert np.nanmax(u) == 1
    rings = sculpted(sculpt, replace(straight, start=(0.0, 0.0), rings=True), 128).u
    around = [rings[64 + dy, 64 + dx] for dx, dy in ((20, 0), (-20, 0), (0, 20), (0, -20))]
    assert np.ptp(around) < 0.05
    top, foot = usual_axis(sculpt).start, usual_axis(sculpt).end
    assert top == pytest.approx((0, 0.79), abs=0.03)
    assert foot == pytest.approx((0, -0.79), abs=0.03)


def test_nothing_in_view_is_no_view() -> None:
    with pytest.raises(SculptError, match="bring it into the frame"):
        kept_view("away", np.full((64, 64), -np.inf), 10.0)


def spoiled(**what: object) -> Plan:
    sculpt = view_of_a_ball()
    return set_sculpt(small_plan(), 0, replace(sculpt, **what), Axis())


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        (lambda: spoiled(name="orb"), "that of a form"),
        (lambda: spoiled(side=100_000), "'side' is 100000"),
        (lambda: spoiled(step=float("nan")), "'step' is nan"),
        (lambda: spoiled(half_width_mm=0.0), "'half_width_mm' is 0"),
        (lambda: spoiled(heights=b""), "heights are damaged"),
        (lambda: replace(spoiled(), sculpts=()), "the form 'ball' is not known"),
        (lambda: replace(spoiled(), sculpts=spoiled().sculpts * 2), "Two sculpts"),
    ],
)
def test_plans_with_impossible_sculpts_are_refused(plan: object, words: str) -> None:
    with pytest.raises(InputError, match=words):
        check_plan(plan())  # type: ignore[operator]


def test_heights_that_do_not_unpack_say_so() -> None:
    for raw in (b"x" * 100, zlib.compress(bytes(10)), zlib.compress(bytes(2 * 128 * 128 + 2))):
        plan = spoiled(heights=raw)
        with pytest.raises(SculptError, match="damaged; take its view again"):
            form(shape_of(plan, plan.passages[0]), 64)
    with pytest.raises(PlanFileError):
        parse(dump(spoiled()).replace(b'"heights": "', b'"heights": "%'))


def test_the_way_surfaces_face_needs_no_relief(monkeypatch: pytest.MonkeyPatch) -> None:
    """The window asks for it while the painter waits; relief, and blurring it all, take 0.3 s."""
    sculpt = view_of_a_ball()
    whole = form(Shape("ball", sculpt, Axis()), 40)
    for slow in ("relief", "blurred"):
        monkeypatch.setattr(f"zesty_veil.predict.forms.sculpted.{slow}", None)
    same = replace(sculpt, name="the same, not seen yet")
    facing = form(Shape("same", same, Axis()), 40, rough=False)
    inside = whole.mask & facing.mask
    assert inside.sum() > 0.99 * max(whole.mask.sum(), facing.mask.sum())
    np.testing.assert_allclose(facing.u[inside], whole.u[inside], atol=0.02)
    # Where the ball turns away, a pixel holds many ways of facing.
    front = inside & (whole.normal[..., 2] > 0.5)
    cosine = (facing.normal[front] * whole.normal[front]).sum(axis=-1)
    assert cosine.min() > np.cos(np.radians(5))
    assert not facing.relief.any()
    # At 40 pixels the first of its places holds a few of them.
    assert tilt(facing, 30.0) == pytest.approx(tilt(whole, 30.0), abs=5)
