"""STL and OBJ files as meshes; the parsing is trimesh's, the suspicion is ours.

What a file says of itself is not believed: counts are held against its size before anything is
read, and what is read is held against what can be drawn.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np

from zesty_veil.errors import FileError, SculptError
from zesty_veil.files import read_limited
from zesty_veil.predict.forms.mesh import Mesh
from zesty_veil.tr import counted, tr

SUFFIXES = (".stl", ".obj")
MOST_MESH_BYTES = 600_000_000
MOST_TRIANGLES = 2_000_000
# Farther out than this is no figure in mm but a number gone wrong.
_MOST_MM = 1e6
_HEAD, _EACH = 84, 50  # bytes of a binary STL's head, and of each of its triangles

_Tell = Callable[[str], None]


def read_mesh(path: Path, tell: _Tell = lambda doing: None) -> tuple[Mesh, tuple[str, ...]]:
    """Return the mesh in a file, and sentences about what is wrong with it but does not matter.

    Parameters
    ----------
    path
        Of a binary or text STL, or an OBJ of which only the shape is taken.
    tell
        Called with what is being done.

    Raises
    ------
    SculptError
        With one sentence, if nothing can be drawn from it.
    """
    kind = path.suffix.lower()
    if kind not in SUFFIXES:
        raise SculptError(
            tr("{0} is neither an STL nor an OBJ file; open one that is.").format(path.name)
        )
    tell("reading")
    raw = _bytes(path)
    raw = _stl(raw, path.name) if kind == ".stl" else _obj(raw, path.name)
    vertices, faces = _parsed(raw, kind, path.name)
    tell("joining its corners")
    return _sound(vertices, faces, path.name)


def _bytes(path: Path) -> bytes:
    try:
        raw = read_limited(path, MOST_MESH_BYTES, "sculpt")
    except FileError as error:
        raise SculptError(str(error)) from None
    if not raw.strip(b"\0 \t\r\n"):
        raise SculptError(tr("{0} is empty; export it again.").format(path.name))
    return raw


def _stl(raw: bytes, name: str) -> bytes:
    """Return an STL file that is what it says, or refuse it."""
    head = raw[:2048].lstrip().lower()
    says = int.from_bytes(raw[80:84], "little") if len(raw) >= _HEAD else 0
    if _HEAD + says * _EACH != len(raw) and head.startswith(b"solid") and b"\0" not in head:
        if b"facet" not in raw:
            raise SculptError(tr("{0} has no triangles; export the figure again.").format(name))
        _few_enough(len(re.findall(rb"endfacet", raw, re.IGNORECASE)), name)
        return raw
    if len(raw) < _HEAD:
        raise SculptError(tr("{0} is no STL file: it is too short; export it again.").format(name))
    if _HEAD + says * _EACH > len(raw):
        room = (len(raw) - _HEAD) // _EACH
        raise SculptError(
            tr(
                "{0} says that it has {1:,} triangles but ends after {2:,}: it was cut short "
                "or is no STL file; export it again."
            ).format(name, says, room)
        )
    _few_enough(says, name)
    if says == 0:
        raise SculptError(tr("{0} has no triangles; export the figure again.").format(name))
    # Some programs write something of their own behind the triangles. A head that begins with
    # "solid" would have the parser take it for text.
    return bytes(80) + raw[80 : _HEAD + says * _EACH]


def _obj(raw: bytes, name: str) -> bytes:
    if b"\0" in raw[:4096]:
        raise SculptError(tr("{0} is no OBJ file, which is text; open another file.").format(name))
    faces = len(re.findall(rb"^[ \t]*f[ \t]", raw, re.MULTILINE))
    if faces == 0:
        raise SculptError(tr("{0} has no faces; export the figure as a mesh.").format(name))
    _few_enough(faces, name)
    # Materials and pictures belong to other files, which are left alone.
    return re.sub(rb"^[ \t]*(mtllib|usemtl)[^\n]*", b"", raw, flags=re.MULTILINE)


def _few_enough(count: int, name: str) -> None:
    if count > MOST_TRIANGLES:
        raise SculptError(
            tr(
                "{0} has {1:,} triangles, and up to {2:,} can be drawn; reduce it where it was "
                "sculpted."
            ).format(name, count, MOST_TRIANGLES)
        )


def _parsed(raw: bytes, kind: str, name: str) -> tuple[Any, Any]:
    import trimesh  # noqa: PLC0415 (takes a second, and only sculpts need it)

    try:
        mesh: Any = trimesh.load(
            BytesIO(raw),
            file_type=kind[1:],
            force="mesh",
            process=False,
            skip_materials=True,
        )
        return np.asarray(mesh.vertices, dtype=np.float64), np.asarray(mesh.faces, dtype=np.int64)
    except MemoryError:
        raise SculptError(
            tr("{0} needs more memory than there is; reduce it.").format(name)
        ) from None
    except Exception as error:
        # A parser that is fed damaged files may raise anything at all.
        short = " ".join(str(error).split())[:80] or type(error).__name__
        raise SculptError(
            tr("{0} cannot be read as {1} ({2}); export it again.").format(
                name, kind[1:].upper(), short
            )
        ) from None


def _sound(vertices: Any, faces: Any, name: str) -> tuple[Mesh, tuple[str, ...]]:
    """Return what can be drawn of a mesh, its corners joined, and what was wrong with it."""
    notes = []
    if faces.ndim != 2 or faces.shape[1:] != (3,) or vertices.shape[1:] != (3,) or not len(faces):
        raise SculptError(tr("{0} has no triangles; export the figure again.").format(name))
    _few_enough(len(faces), name)
    there = ((faces >= 0) & (faces < len(vertices))).all(axis=1)
    fit = np.isfinite(vertices).all(axis=1) & (np.abs(vertices) < _MOST_MM).all(axis=1)
    good = there.copy()
    good[there] = fit[faces[there]].all(axis=1)
    if not good.any():
        raise SculptError(
            tr("{0} holds no triangle with three real corners; export it again.").format(name)
        )
    if not good.all():
        lost = int((~good).sum())
        notes.append(f"{_triangles(lost)} without real corners {_were(lost)} left out.")
    faces = faces[good]
    vertices = np.where(fit[:, None], vertices, 0.0)
    vertices, faces = _joined(vertices, faces)
    a, b, c = (vertices[faces[:, i]] for i in range(3))
    area = np.linalg.norm(np.cross(b - a, c - a), axis=1)
    faces = faces[area > 0]
    if not len(faces):
        raise SculptError(
            tr("All triangles of {0} are without area; export it again.").format(name)
        )
    notes += _holes(faces)
    return Mesh(vertices.astype(np.float32), faces.astype(np.int32)), tuple(notes)


def _joined(vertices: Any, faces: Any) -> tuple[Any, Any]:
    """Return a mesh whose corners at the same place are one corner; those without faces go."""
    places = (vertices.astype(np.float32) + 0.0).view(np.uint32).astype(np.uint64)  # no minus zero
    # Two numbers of 32 bits at a time, which sort far faster than rows do.
    _, plane = np.unique(places[:, 0] << 32 | places[:, 1], return_inverse=True)
    code = plane.astype(np.uint64) << 32 | places[:, 2]
    _, first, belongs = np.unique(code, return_index=True, return_inverse=True)
    faces = belongs[faces]
    used = np.zeros(len(first), dtype=bool)
    used[faces.ravel()] = True
    return vertices[first[used]], (np.cumsum(used) - 1)[faces]


def _holes(faces: Any) -> list[str]:
    """Return sentences about open edges and faces turned the wrong way round."""
    notes = []
    directed = np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]])
    code = directed.min(axis=1) * (int(faces.max()) + 1) + directed.max(axis=1)
    way = np.where(directed[:, 0] < directed[:, 1], 1, -1)
    _, belongs, count = np.unique(code, return_inverse=True, return_counts=True)
    open_edges = int((count == 1).sum())
    if open_edges:
        notes.append(
            counted(
                open_edges,
                "It has {0:,} open edge, so you can see inside it there.",
                "It has {0:,} open edges, so you can see inside it there.",
            )
        )
    sums = np.bincount(belongs, weights=way)
    if (np.abs(sums[count == 2]) > 0).any():
        notes.append(tr("Some of its faces are turned inside out. They are drawn all the same."))
    return notes


def _triangles(count: int) -> str:
    return f"{count:,} triangle{'' if count == 1 else 's'}"


def _were(count: int) -> str:
    return "was" if count == 1 else "were"
