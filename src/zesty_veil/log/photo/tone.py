"""Light and tone of a photograph, from what is white on the card and from its grey scale.

A camera turns light into a code by a curve that nobody tells; the light falls off across the card.
Both are found together. With phi the unknown log of light by code and q the unknown log of the
illumination, each white or grey spot says phi(code) - q(x, y) = log(reflectance): a linear system
in the values of phi at some knots and the coefficients of a quadratic q, solved by least squares
with a smooth phi. Spots that do not fit (glare, hard shadow) count less.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.light.grid import Array

_KNOTS = np.log(np.array([0.012, 0.03, 0.06, 0.1, 0.16, 0.25, 0.37, 0.5, 0.65, 0.82, 1.0]))
_STIFF = 0.06
_ROUNDS = 12
_HUBER = 0.03
_DARKEST = 0.004


@dataclass(frozen=True, eq=False)
class Tone:
    """Turns codes into light: `knots` (k, 3) values of log light, `light` (5, 3) of the field."""

    knots: Array
    light: Array
    size: Array  # (2,) of the card, mm

    def linear(self, code: Array, place: Array) -> Array:
        """Return light relative to the card's white.

        code : (..., 3) encoded, 0-1; place : (..., 2) in mm; returns (..., 3).
        """
        out = np.empty_like(code)
        field = _field(place, self.size) @ self.light
        for channel in range(3):
            out[..., channel] = np.exp(
                _basis(code[..., channel]) @ self.knots[:, channel] - field[..., channel]
            )
        return out


def fitted_tone(code: Array, place: Array, reflectance: Array, size: Array) -> tuple[Tone, Array]:
    """Return the tone of a photograph, and how far each spot is from it.

    Parameters
    ----------
    code : (n, 3) float64
        What the camera made of white and grey spots, 0-1.
    place : (n, 2) float64
        Where they lie on the card, mm.
    reflectance : (n,) float64
        Relative to the card's white.
    size : (2,)
        Of the card, mm.

    Returns
    -------
    tone
        The curve and the light.
    off : (n, 3)
        Log of how much more light comes from a spot than the tone expects.
    """
    knots, light, offs = [], [], []
    field, wanted = _field(place, size), np.log(reflectance)
    count = _KNOTS.size
    bend = _bends() * _STIFF
    for channel in range(3):
        basis = _basis(code[:, channel])
        system = np.hstack([basis, -field])
        # A step of the code is a larger part of a dark code; dark spots tell less.
        sure = 1 / np.hypot(0.01, 0.006 / np.maximum(code[:, channel], 0.02))
        weight = sure.copy()
        for _ in range(_ROUNDS):
            rows = np.vstack(
                [weight[:, None] * system, np.hstack([bend, np.zeros((bend.shape[0], 5))]) / 0.01]
            )
            right = np.concatenate([weight * wanted, np.zeros(bend.shape[0])])
            found = np.linalg.lstsq(rows, right, rcond=None)[0]
            off = system @ found - wanted
            weight = sure * np.sqrt(_HUBER / np.maximum(np.abs(off), _HUBER))
        knots.append(found[:count])
        light.append(found[count:])
        offs.append(off)
    return Tone(np.stack(knots, 1), np.stack(light, 1), size), np.stack(offs, 1)


def _field(place: Array, size: Array) -> Array:
    """Return the terms of a quadratic without its constant, (..., 5); 0 in the middle."""
    x, y = np.moveaxis(place / size * 2 - 1, -1, 0)
    return np.stack([x, y, x * x, x * y, y * y], axis=-1)


def _basis(code: Array) -> Array:
    """Return the weights of the knots at codes (...), (..., k): linear in the log of the code."""
    t = np.log(np.maximum(code, _DARKEST))
    i = np.clip(np.searchsorted(_KNOTS, t) - 1, 0, _KNOTS.size - 2)
    share = (t - _KNOTS[i]) / (_KNOTS[i + 1] - _KNOTS[i])  # goes on straight beyond the ends
    out = np.zeros((*t.shape, _KNOTS.size))
    np.put_along_axis(out, i[..., None], (1 - share)[..., None], -1)
    np.put_along_axis(out, (i + 1)[..., None], share[..., None], -1)
    return out


def _bends() -> Array:
    """Return the change of slope at the inner knots, (k - 2, k)."""
    gap = np.diff(_KNOTS)
    out = np.zeros((_KNOTS.size - 2, _KNOTS.size))
    for i in range(_KNOTS.size - 2):
        out[i, i : i + 3] = (1 / gap[i], -1 / gap[i] - 1 / gap[i + 1], 1 / gap[i + 1])
    return out
