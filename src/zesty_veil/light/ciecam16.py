"""How a colour appears in its surround: CIECAM16 lightness, colourfulness and hue.

References
----------
CIE 248:2022, The CIE 2016 Colour Appearance Model for Colour Management Systems: CIECAM16.
C. Li et al., "Comprehensive color solutions: CAM16, CAT16, and CAM16-UCS", Color Research and
Application 42 (2017), 703-718.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.light.grid import Array

_CAT16 = np.array(
    [
        [0.401288, 0.650173, -0.051461],
        [-0.250268, 1.204414, 0.045854],
        [-0.002079, 0.048952, 0.953127],
    ]
)


@dataclass(frozen=True)
class Viewing:
    """Where a colour is looked at: an average surround with the eye adapted to the light.

    `background` is Y_b, the luminous reflectance of what lies round the colour (1 = white).
    `adapting` is L_A in cd/m2; the default is a bright desk (1000 lux, a fifth of the white).
    """

    background: float = 0.2
    adapting: float = 64.0


# How much of the colour that lies beside shifts the eye's white, from 0 to 1; from memory.
_INDUCTION = 0.4


def induced_white(beside: Array, white: Array) -> Array:
    """Return the white that an eye refers to where a colour lies beside what it looks at.

    Each response leans towards what lies beside, so that what is looked at leans away from it: blue
    makes an orange look more orange.

    Parameters
    ----------
    beside, white : (3,) float64
        XYZ of what lies beside, and of the light's white; Y = 1 for a perfect diffuser.

    References
    ----------
    R. W. G. Hunt, "Revised colour-appearance model for related and unrelated colours", Color
    Research and Application 16 (1991), 146-165: the reference white for simultaneous contrast, here
    in the responses of CAT16 and by hue alone, as CIECAM16 takes lightness from Y_b.

    >>> import numpy as np
    >>> white, grey = np.array([0.95, 1.0, 1.09]), np.array([0.19, 0.2, 0.218])
    >>> induced_white(grey, white).round(6).tolist()
    [0.95, 1.0, 1.09]
    """
    own, near = white @ _CAT16.T, np.maximum(beside, 1e-4) @ _CAT16.T
    # Only how the three stand to each other counts; a grey of any lightness changes nothing.
    ratio = np.maximum(near / own, 1e-3) / (beside[1] / white[1])
    p = -_INDUCTION
    shift = ((1 - p) * ratio + (1 + p) / ratio) / ((1 + p) * ratio + (1 - p) / ratio)
    moved = own * np.sqrt(shift)
    out = np.linalg.solve(_CAT16, moved)
    return np.asarray(out * white[1] / out[1])


def ciecam16(
    tristimulus: Array, white: Array, viewing: Viewing, beside: Array | None = None
) -> Array:
    """Return the appearance of colours.

    Parameters
    ----------
    tristimulus : (..., 3) float64
        XYZ with Y = 1 for a perfect diffuser.
    white : (3,) float64
        Of the light in use.
    viewing
        Background and adapting luminance; the surround is average (F 1, c 0.69, N_c 1).
    beside
        (3,) XYZ of what lies round the colour, whose hue counts too then; none for the model alone.

    Returns
    -------
    (..., 3) float64
        J (lightness, 0-100, 100 for white), M (colourfulness, from 0) and h (hue, 0-360).

    Notes
    -----
    This is the form of Li et al. (2017), responses compressed over their whole range. CIE 248 goes
    on in straight lines below 0.26 and above 150 of them, which only colours reach that are
    nearly black or purer than any paint; for others both give the same (from memory).

    The background counts only by its luminance Y_b. So a black surround raises J of every colour,
    but a blue one acts just as a grey of the same luminance does. That a complementary surround
    makes a colour look stronger is outside the model; `beside` adds it (`induced_white`).

    >>> import numpy as np
    >>> grey, white = np.array([0.1901, 0.2, 0.2178]), np.array([0.9505, 1.0, 1.0888])
    >>> J, M, h = ciecam16(grey, white, Viewing(0.2, 318.31))
    >>> float(J.round(2))
    41.73
    """
    if beside is not None:
        # Colours shift as if the eye had taken another white for white.
        moved = induced_white(beside, white)
        own, other = white @ _CAT16.T, moved @ _CAT16.T
        tristimulus = (tristimulus @ _CAT16.T * own / other) @ np.linalg.inv(_CAT16).T
    F, c, N_c = 1.0, 0.69, 1.0
    xyz, xyz_w = 100 * np.asarray(tristimulus), 100 * white
    Y_b = max(100 * viewing.background, 1e-3)
    L_A = viewing.adapting
    D = np.clip(F * (1 - np.exp((-L_A - 42) / 92) / 3.6), 0, 1)
    rgb_w = xyz_w @ _CAT16.T
    adapt = D * xyz_w[1] / rgb_w + 1 - D
    k = 1 / (5 * L_A + 1)
    F_L = k**4 * L_A + 0.1 * (1 - k**4) ** 2 * np.cbrt(5 * L_A)
    n = Y_b / xyz_w[1]
    z = 1.48 + np.sqrt(n)
    N_bb = 0.725 * n**-0.2

    def responses(rgb: Array) -> Array:
        x = (F_L * np.abs(rgb) / 100) ** 0.42
        return np.asarray(np.sign(rgb) * 400 * x / (x + 27.13) + 0.1)

    r_w = responses(rgb_w * adapt)
    A_w = (2 * r_w[0] + r_w[1] + r_w[2] / 20 - 0.305) * N_bb
    r = responses((xyz @ _CAT16.T) * adapt)
    R, G, B = r[..., 0], r[..., 1], r[..., 2]
    a = R - 12 * G / 11 + B / 11
    b = (R + G - 2 * B) / 9
    h = np.degrees(np.arctan2(b, a)) % 360
    e = (np.cos(np.radians(h) + 2) + 3.8) / 4
    A = (2 * R + G + B / 20 - 0.305) * N_bb
    J = 100 * (np.maximum(A, 0.0) / A_w) ** (c * z)
    t = 50000 / 13 * N_c * N_bb * e * np.hypot(a, b) / (R + G + 1.05 * B)
    C = t**0.9 * np.sqrt(J / 100) * (1.64 - 0.29**n) ** 0.73
    return np.stack([J, C * F_L**0.25, h], axis=-1)
