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

# XYZ (D65, Y = 1) to linear sRGB; IEC 61966-2-1, equation 7.
_MATRIX = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
# The white of the standard: what the matrix above sends to 1, 1, 1 within its four decimals.
_WHITE = np.array([0.9505, 1.0, 1.0890])
# The rounding of a four-decimal matrix alone goes this far outside [0, 1].
_SLACK = 1e-4


def encode(linear: Array) -> Array:
    """Apply the transfer curve of IEC 61966-2-1 to linear values in 0-1; same shape."""
    v = np.clip(linear, 0.0, 1.0)
    return np.where(v <= 0.0031308, 12.92 * v, 1.055 * v ** (1 / 2.4) - 0.055)


def decode(encoded: Array) -> Array:
    """Return linear sRGB of encoded, both 0-1 and of any shape (IEC 61966-2-1)."""
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
    """
    linear = _linear(colour)
    inside = _inside(linear)
    if not inside.all():
        linear = linear.copy()
        linear[~inside] = _linear(gamut(has).nearest(colour[~inside]))
    return encode(linear), np.asarray(inside)


def has(colour: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Tell which of some CIELAB colours (..., 3) the screen has; bool (...)."""
    return _inside(_linear(colour))


def given_up(colour: Array, rgb: Array) -> str:
    """Return in words what the screen gives up of a colour that it does not have.

    colour : (3,) CIELAB by daylight. rgb : (3,) encoded, what is shown in its place.
    """
    true, shown = (lch(np.asarray(one)) for one in (colour, lab_of(rgb)))
    dL, dC = float(true[0] - shown[0]), float(true[1] - shown[1])
    words = [f"{dC:.0f} paler"] if dC >= 0.5 else []
    if abs(dL) >= 0.5:
        words.append(f"{abs(dL):.0f} {'darker' if dL > 0 else 'lighter'}")
    return f"shown {', '.join(words)}" if words else "clipped"


def lab_of(rgb: Array) -> Array:
    """Return CIELAB (..., 3) of encoded sRGB (..., 3) in 0-1, the inverse of `srgb`."""
    return lab(xyz_of(decode(rgb)), _WHITE)


def xyz_of(linear: Array) -> Array:
    """Return XYZ (..., 3) of linear sRGB (..., 3), Y = 1 for white; D65."""
    out: Array = linear @ np.linalg.inv(_MATRIX).T
    return out


def linear_of(tristimulus: Array) -> Array:
    """Return linear sRGB (..., 3) of XYZ (..., 3), the inverse of `xyz_of`; not clipped."""
    out: Array = tristimulus @ _MATRIX.T
    return out


def parsed(text: str) -> Array:
    """Return the encoded sRGB, (3,) in 0-1, of a colour written as #rrggbb.

    Raises
    ------
    InputError
        If it is written otherwise.
    """
    found = re.fullmatch(r"#?([0-9a-fA-F]{6})", text.strip())
    if found is None:
        raise InputError(f"'{text}' is no colour; write it as #rrggbb, for example #ff8a1e.")
    return np.array(list(bytes.fromhex(found[1]))) / 255


def hexadecimal(rgb: Array) -> str:
    """Return one encoded sRGB colour, (3,) in 0-1, as #rrggbb."""
    r, g, b = (round(float(v) * 255) for v in rgb)
    return f"#{r:02x}{g:02x}{b:02x}"


def _linear(colour: Array) -> Array:
    out: Array = xyz_from_lab(colour, _WHITE) @ _MATRIX.T
    return out


def _inside(linear: Array) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    return np.asarray(((linear >= -_SLACK) & (linear <= 1 + _SLACK)).all(axis=-1))
