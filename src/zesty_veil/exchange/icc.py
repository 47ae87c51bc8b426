"""An ICC profile of a screen by its primaries, so that a picture says what its numbers mean.

References
----------
ICC.1:2010 (profile version 4.3): header, tag table, XYZType, parametricCurveType (function 3),
multiLocalizedUnicodeType, and the Bradford adaptation of Annex E to D50.
"""

from __future__ import annotations

import struct

import numpy as np

from zesty_veil.light.adapt import BRADFORD
from zesty_veil.light.grid import Array

# D50 as the connection space has it.
_D50 = np.array([0.9642, 1.0, 0.8249])
# The transfer curve of sRGB as g, a, b, c, d of (a X + b)^g above d, c X below.
_CURVE = (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)


def profile(name: str, to_xyz: Array, white: Array) -> bytes:
    """Return the profile of a screen with the transfer curve of sRGB.

    Parameters
    ----------
    name
        What it is called.
    to_xyz : (3, 3) float64
        From its linear red, green and blue to XYZ.
    white : (3,) float64
        XYZ of its white, Y = 1.
    """
    there, here = BRADFORD @ _D50, BRADFORD @ white
    adapt = np.linalg.inv(BRADFORD) @ np.diag(there / here) @ BRADFORD
    red, green, blue = (_xyz(column) for column in (adapt @ to_xyz).T)
    curve = b"para" + bytes(4) + struct.pack(">HH", 3, 0) + b"".join(map(_fixed, _CURVE))
    tags = {
        b"desc": _words(name),
        b"cprt": _words("No copyright, use freely"),
        b"wtpt": _xyz(_D50),
        b"chad": b"sf32" + bytes(4) + b"".join(_fixed(v) for v in adapt.ravel()),
        b"rXYZ": red, b"gXYZ": green, b"bXYZ": blue,
        b"rTRC": curve, b"gTRC": curve, b"bTRC": curve,
    }  # fmt: skip
    table, body, at = b"", b"", 128 + 4 + 12 * len(tags)
    placed: dict[bytes, int] = {}
    for tag, data in tags.items():
        if data not in placed:  # three alike curves are stored once
            placed[data] = at + len(body)
            body += data + bytes(-len(data) % 4)
        table += tag + struct.pack(">II", placed[data], len(data))
    size = at + len(body)
    head = struct.pack(">I4xI", size, 0x04300000) + b"mntrRGB XYZ "
    head += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(28)
    head += _xyz(_D50)[8:]
    head += bytes(128 - len(head))
    return head + struct.pack(">I", len(tags)) + table + body


def _fixed(value: float) -> bytes:
    return struct.pack(">i", round(value * 65536))


def _xyz(values: Array) -> bytes:
    return b"XYZ " + bytes(4) + b"".join(_fixed(float(v)) for v in values)


def _words(text: str) -> bytes:
    raw = text.encode("utf-16-be")
    return b"mluc" + bytes(4) + struct.pack(">II2s2sII", 1, 12, b"en", b"GB", len(raw), 28) + raw
