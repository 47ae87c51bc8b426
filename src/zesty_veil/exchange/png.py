"""Pictures as PNG that say that they are sRGB, so that every program shows them alike.

References
----------
W3C, Portable Network Graphics (PNG) Specification, third edition: chunks IHDR, sRGB, IDAT, IEND.
"""

from __future__ import annotations

import struct
import zlib

import numpy as np
import numpy.typing as npt

from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import Look

_SIGNATURE = b"\x89PNG\r\n\x1a\n"
_PERCEPTUAL, _RGB8 = 0, (8, 2, 0, 0, 0)
# A ribbon of three sites in pixels, and the grey between passages.
_WIDTH, _ROW, _GAP, _GREY = 1200, 40, 16, 0x80


def write_png(pixels: npt.NDArray[np.uint8]) -> bytes:
    """Return an encoded sRGB picture, (height, width, 3), as the bytes of a PNG file."""
    height, width, _ = pixels.shape
    head = struct.pack(">IIBBBBB", width, height, *_RGB8)
    rows = np.concatenate([np.zeros((height, 1), np.uint8), pixels.reshape(height, -1)], axis=1)
    chunks = (
        (b"IHDR", head),
        (b"sRGB", bytes([_PERCEPTUAL])),
        (b"IDAT", zlib.compress(rows.tobytes(), 9)),
        (b"IEND", b""),
    )
    return _SIGNATURE + b"".join(
        struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
        for name, data in chunks
    )


def ribbons(plan: Plan) -> npt.NDArray[np.uint8]:
    """Return every passage's ribbons, ridge, flat and recess, below each other, (h, w, 3)."""
    rack, look = plan.rack(), Look(plan.light)
    reliefs, u = np.array([1.0, 0.0, -1.0]), axis(241)
    places = np.linspace(0, 1, _WIDTH)
    gap = np.full((_GAP, _WIDTH, 3), _GREY, np.uint8)
    out = [gap]
    for passage in plan.passages:
        rgb = predict(passage, rack, u, reliefs, look).rgb
        for k in range(reliefs.size):
            row: Array = np.stack([np.interp(places, u, rgb[:, k, i]) for i in range(3)], axis=-1)
            out.append(np.repeat((row[None] * 255).round().astype(np.uint8), _ROW, axis=0))
        out.append(gap)
    return np.concatenate(out)
