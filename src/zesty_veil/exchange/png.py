"""Pictures as PNG that say in which colours they are, so that every program shows them alike.

References
----------
W3C, Portable Network Graphics (PNG) Specification, third edition: chunks IHDR, sRGB, cICP, iCCP,
IDAT, IEND. ITU-T H.273: code points of primaries (12, Display P3) and transfer (13, sRGB).
"""

from __future__ import annotations

import struct
import zlib

import numpy as np
import numpy.typing as npt

from zesty_veil.exchange.icc import profile
from zesty_veil.light.adapt import by_day
from zesty_veil.light.grid import Array
from zesty_veil.light.wide import WHITE, display_p3, to_xyz, xyz_of_xy
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions

_SIGNATURE = b"\x89PNG\r\n\x1a\n"
_PERCEPTUAL, _RGB8 = 0, (8, 2, 0, 0, 0)
_P3_CODES = bytes([12, 13, 0, 1])  # primaries, transfer, RGB, full range
# A ribbon of three sites in pixels, and the grey between passages.
_WIDTH, _ROW, _GAP, _GREY = 1200, 40, 16, 0x80


def write_png(pixels: npt.NDArray[np.uint8], wide: bool = False) -> bytes:
    """Return a picture, (height, width, 3), as the bytes of a PNG file.

    Its numbers are encoded sRGB, or with `wide` Display P3, whose profile is put in.
    """
    space: tuple[tuple[bytes, bytes], ...] = ((b"sRGB", bytes([_PERCEPTUAL])),)
    if wide:
        icc = zlib.compress(profile("Display P3", to_xyz(), xyz_of_xy(WHITE)), 9)
        space = ((b"cICP", _P3_CODES), (b"iCCP", b"Display P3\0\0" + icc))
    height, width, _ = pixels.shape
    head = struct.pack(">IIBBBBB", width, height, *_RGB8)
    rows = np.concatenate([np.zeros((height, 1), np.uint8), pixels.reshape(height, -1)], axis=1)
    chunks = (
        (b"IHDR", head),
        *space,
        (b"IDAT", zlib.compress(rows.tobytes(), 9)),
        (b"IEND", b""),
    )
    return _SIGNATURE + b"".join(
        struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
        for name, data in chunks
    )


def ribbons(plan: Plan, wide: bool = False) -> npt.NDArray[np.uint8]:
    """Return every passage's ribbons, ridge, flat and recess, below each other, (h, w, 3).

    Encoded sRGB, or with `wide` Display P3.
    """
    rack, look = plan.rack(), ViewingConditions(plan.light)
    reliefs, u = np.array([1.0, 0.0, -1.0]), axis(241)
    places = np.linspace(0, 1, _WIDTH)
    gap = np.full((_GAP, _WIDTH, 3), _GREY, np.uint8)
    out = [gap]
    for passage in plan.passages:
        field = predict(passage, rack, u, reliefs, look)
        rgb = field.rgb
        if wide:
            rgb, _ = display_p3(by_day(field.lab, look.light, look.observer))
        for k in range(reliefs.size):
            row: Array = np.stack([np.interp(places, u, rgb[:, k, i]) for i in range(3)], axis=-1)
            out.append(np.repeat((row[None] * 255).round().astype(np.uint8), _ROW, axis=0))
        out.append(gap)
    return np.concatenate(out)
