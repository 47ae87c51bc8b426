"""An invented figure as an STL file, to try a sculpt by: a robed one with a lantern.

Run `.venv/bin/python tools/figure.py FILE.stl [STEPS]`; more steps make more triangles.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from zesty_veil.light.grid import Array


def lathe(radius: Array, z: Array, x: float = 0.0, y: float = 0.0, around: int = 64) -> Array:
    """Return triangles (n, 3, 3) of a body of revolution; radius (rows, around) or (rows,)."""
    angle = np.linspace(0, 2 * np.pi, around, endpoint=False)
    r = radius if radius.ndim == 2 else np.repeat(radius[:, None], around, axis=1)
    points = np.stack(
        [x + r * np.sin(angle), y - r * np.cos(angle), np.repeat(z[:, None], around, axis=1)],
        axis=-1,
    )
    following = np.roll(points, -1, axis=1)
    a, b, c, d = points[:-1], following[:-1], following[1:], points[1:]
    return np.concatenate(
        [
            np.stack([a, b, c], axis=2).reshape(-1, 3, 3),
            np.stack([a, c, d], axis=2).reshape(-1, 3, 3),
        ]
    )


def figure(steps: int = 64) -> Array:
    """Return the triangles of the figure, about 32 mm high, (n, 3, 3)."""
    around = 2 * steps
    angle = np.linspace(0, 2 * np.pi, around, endpoint=False)
    z = np.linspace(0, 22, steps)
    robe = np.interp(z, [0, 4, 12, 17, 20, 22], [9.0, 7.6, 5.2, 5.6, 4.4, 2.0])
    folds = 1 + np.outer(np.clip(1 - z / 20, 0, 1) * 0.13, np.cos(9 * angle + 0.4))
    parts = [lathe(robe[:, None] * folds, z, around=around)]
    t = np.linspace(0, np.pi, steps)
    parts.append(lathe(3.6 * np.sin(t) + 1e-3, 25.5 - 4.4 * np.cos(t), around=around))
    parts.append(lathe(0.9 * np.sin(t) + 1e-3, 25.2 - 1.5 * np.cos(t), y=-3.5, around=around))
    lantern = 1.9 * np.sin(t) ** 0.6 + 1e-3
    parts.append(lathe(lantern, 13 - 2.6 * np.cos(t), 7.5, -4.0, around))
    arm = np.linspace(0, 1, steps)
    sleeve = lathe(np.interp(arm, [0, 1], [2.2, 1.2]), arm * 9, around=around)
    lean = np.array([[0.5, 0, 0.85], [0, 1, 0], [-0.85, 0, 0.5]])
    parts.append(sleeve @ lean.T + np.array([1.5, -3.0, 19.0]))
    return np.concatenate(parts)


def save_stl(triangles: Array, path: Path) -> None:
    """Write triangles (n, 3, 3) as a binary STL file."""
    record = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])
    rows = np.zeros(len(triangles), dtype=record)
    rows["corners"] = triangles
    path.write_bytes(bytes(80) + len(rows).to_bytes(4, "little") + rows.tobytes())


if __name__ == "__main__":
    save_stl(figure(int(sys.argv[2]) if len(sys.argv) > 2 else 64), Path(sys.argv[1]))
