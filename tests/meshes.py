"""Small sculpts and damaged ones, as files."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import trimesh

from zesty_veil.light.grid import Array


def stl(triangles: Array) -> bytes:
    """Return triangles (n, 3, 3) as a binary STL file, written after the format's own rule."""
    record = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])
    rows = np.zeros(len(triangles), dtype=record)
    rows["corners"] = triangles
    return bytes(80) + len(rows).to_bytes(4, "little") + rows.tobytes()


def ball(fine: int, radius: float = 10.0) -> trimesh.Trimesh:
    """Return a ball of 20 * 4 ** fine triangles."""
    return trimesh.creation.icosphere(subdivisions=fine, radius=radius)


def box() -> Array:
    """Return the 12 triangles of a cube with edges of 2, (12, 3, 3)."""
    return np.array(trimesh.creation.box((2.0, 2.0, 2.0)).triangles)


def written(path: Path, raw: bytes) -> Path:
    path.write_bytes(raw)
    return path
