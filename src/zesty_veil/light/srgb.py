"""From CIELAB to the screen: sRGB, and the nearest of one hue where it cannot show a colour.

References
----------
IEC 61966-2-1:1999.
"""

from __future__ import annotations

import re

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab, lch, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.screen import gamut
from zesty_veil.light.shapes import ending_in

# XYZ (D65, Y = 1) to linear sRGB; IEC 61966-2-1, equation 7.
_MATRIX = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
# The white of the standard: what the matrix above sends to 1, 1, 1 within its four decimals.
_WHITE = np.array([0.9505, 1.0, 1.0890])
# The rounding of a four-decimal matrix alone goes this far outside [0, 1].
_UNSEEN = 2.0  # L* of a shift that is not seen beside a loss of chroma; common practice
_SLACK = 1e-4


def encode(linear: Array) -> Array:
    """Apply the transfer curve of IEC 61966-2-1 to linear values in 0-1; same shape.

    >>> import numpy as np
    >>> encode(np.array([0.0, 0.2140, 1.0])).round(3).tolist()
    [0.0, 0.5, 1.0]
    """
    v = np.clip(linear, 0.0, 1.0)
    return np.where(v <= 0.0031308, 12.92 * v, 1.055 * v ** (1 / 2.4) - 0.055)


def decode(encoded: Array) -> Array:
    """Return linear sRGB of encoded, both 0-1 and of any shape (IEC 61966-2-1).

    >>> import numpy as np
    >>> decode(np.array([0.0, 0.5, 1.0])).round(3).tolist()
    [0.0, 0.214, 1.0]
    """
    low, high = encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4
    return np.where(encoded <= 0.04045, low, high)


def srgb(colour: Array) -> tuple[Array, np.ndarray[tuple[int, ...], np.dtype[np.bool_]]]:
    """Return the screen colour of CIELAB values.

    Lab is relative to the white of the light in use, so the screen's white stands for that white:
    the eye is taken as adapted to the light.

    Parameters
    ----------
    colour : (..., 3) float64
        L, a, b.

    Returns
    -------
    rgb : (..., 3) float64
        Encoded sRGB in 0-1. Where the screen cannot show a colour, the nearest of its hue, for
        which lightness gives way before chroma does (light.screen).
    in_gamut : (...) bool
        False where that was needed.

    >>> import numpy as np
    >>> rgb, inside = srgb(np.array([53.24, 80.09, 67.20]))
    >>> rgb.round(2).tolist(), bool(inside)
    ([1.0, 0.0, 0.0], True)
    """
    ending_in(3, "CIELAB", colour)
    linear = _linear(colour)
    inside = _inside(linear)
    if not inside.all():
        linear = linear.copy()
        linear[~inside] = _linear(gamut(has).nearest(colour[~inside]))
    return encode(linear), np.asarray(inside)


def has(colour: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Tell which of some CIELAB colours (..., 3) the screen has; bool (...).

    >>> import numpy as np
    >>> has(np.array([[50.0, 0.0, 0.0], [50.0, 120.0, -120.0]])).tolist()
    [True, False]
    """
    return _inside(_linear(colour))


def given_up(colour: Array, rgb: Array) -> str:
    """Return in words what the screen gives up of a colour that it does not have.

    colour : (3,) CIELAB by daylight. rgb : (3,) encoded, what is shown in its place.

    >>> import numpy as np
    >>> given_up(np.array([50.0, 90.0, 60.0]), srgb(np.array([50.0, 90.0, 60.0]))[0])
    'shown 15 paler'
    """
    true, shown = (lch(np.asarray(one)) for one in (colour, lab_of(rgb)))
    dL, dC = float(true[0] - shown[0]), float(true[1] - shown[1])
    words = [f"{dC:.0f} paler"] if dC >= 0.5 else []
    # Of two that are given up, what nobody sees beside the other is not told.
    if abs(dL) >= (_UNSEEN if words else 0.5):
        words.append(f"{abs(dL):.0f} {'darker' if dL > 0 else 'lighter'}")
    return f"shown {', '.join(words)}" if words else "clipped"


def lab_of(rgb: Array) -> Array:
    """Return CIELAB (..., 3) of encoded sRGB (..., 3) in 0-1, the inverse of `srgb`.

    >>> import numpy as np
    >>> lab_of(np.array([1.0, 0.0, 0.0])).round(0).tolist()
    [53.0, 80.0, 67.0]
    """
    ending_in(3, "sRGB", rgb)
    return lab(xyz_of(decode(rgb)), _WHITE)


def xyz_of(linear: Array) -> Array:
    """Return XYZ (..., 3) of linear sRGB (..., 3), Y = 1 for white; D65.

    >>> import numpy as np
    >>> xyz_of(np.ones(3)).round(3).tolist()
    [0.95, 1.0, 1.089]
    """
    out: Array = linear @ np.linalg.inv(_MATRIX).T
    return out


def linear_of(tristimulus: Array) -> Array:
    """Return linear sRGB (..., 3) of XYZ (..., 3), the inverse of `xyz_of`; not clipped.

    >>> import numpy as np
    >>> linear_of(xyz_of(np.array([0.2, 0.4, 0.6]))).round(6).tolist()
    [0.2, 0.4, 0.6]
    """
    out: Array = tristimulus @ _MATRIX.T
    return out


def parsed(text: str) -> Array:
    """Return the encoded sRGB, (3,) in 0-1, of a colour written as #rrggbb.

    Raises
    ------
    InputError
        If it is written otherwise.

    >>> parsed('#ff8000').round(3).tolist()
    [1.0, 0.502, 0.0]
    """
    found = re.fullmatch(r"#?([0-9a-fA-F]{6})", text.strip())
    if found is None:
        raise InputError(f"'{text}' is no colour; write it as #rrggbb, for example #ff8a1e.")
    return np.array(list(bytes.fromhex(found[1]))) / 255


def hexadecimal(rgb: Array) -> str:
    """Return one encoded sRGB colour, (3,) in 0-1, as #rrggbb.

    >>> import numpy as np
    >>> hexadecimal(np.array([1.0, 0.5, 0.0]))
    '#ff8000'
    """
    r, g, b = (round(float(v) * 255) for v in rgb)
    return f"#{r:02x}{g:02x}{b:02x}"


def _linear(colour: Array) -> Array:
    out: Array = xyz_from_lab(colour, _WHITE) @ _MATRIX.T
    return out


def _inside(linear: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    return np.asarray(((linear >= -_SLACK) & (linear <= 1 + _SLACK)).all(axis=-1))
