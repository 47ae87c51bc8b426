"""What is likely of the spectra of a paint before it is measured, and how far they may be off.

Spectra of pigments are smooth, so neighbouring bands move together: a Gaussian process in
wavelength (Rasmussen & Williams, Gaussian Processes for Machine Learning, 2006, chapter 2) round
what the pigment codes say, or round what paints of the kind have on average. The amplitudes are
from memory and the trade: the same pigment from two makers differs in strength by half, in the
place of its bands by some nanometres.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.paint.kinds import KINDS, CardPrior, Kind
from zesty_veil.paint.pigment import NEAT_COAT_MM, pigments

# A pigment that scatters so much per neat coat hides by itself.
_HIDING = 1.5
# Absorption of the binder itself and the least scattering of any paint, 1/mm.
_BINDER, _LEAST_S = 0.02, 0.15


class Prior(NamedTuple):
    """Mean (72,) of log absorption then log scattering in 1/mm, and its covariance (72, 72)."""

    mean: Array
    covariance: Array


def prior(kind: Kind, codes: tuple[str, ...]) -> Prior:
    """Return what is likely of a paint of a kind with some pigments (unknown codes count as none).

    Raises
    ------
    KeyError
        If paints of the kind cannot be fitted; see `KINDS`.
    """
    usual = KINDS[kind].prior
    if usual is None:
        raise KeyError(kind)
    known = [code for code in codes if code in pigments()]
    if known and len(known) == len(codes):
        return _by_pigments(usual, known)
    nm = wavelengths()
    mu_a = np.full(BANDS, usual.absorbs / NEAT_COAT_MM)
    mean = _log(mu_a, usual.scatters / NEAT_COAT_MM * (nm / 550) ** -1.0)
    covariance = _blocks(
        1.0 + _smooth(1.6, 42.0),
        0.8 + _smooth(0.5, 120.0) + _slope(1.0),
    )
    return Prior(mean, covariance)


def _by_pigments(usual: CardPrior, codes: list[str]) -> Prior:
    table = pigments()
    share = 1 / len(codes)
    parts = [(share * usual.strength, table[code]) for code in codes]
    if usual.white and "PW6" not in codes and len(codes) == 1 and not _hides(codes[0]):
        parts.append((usual.white, table["PW6"]))
    absorbs = np.array([amount * pigment.mu_a() for amount, pigment in parts])
    scatters = np.array([amount * pigment.mu_s() * usual.scatter for amount, pigment in parts])
    mu_a, mu_s = absorbs.sum(axis=0) + _BINDER, scatters.sum(axis=0) + _LEAST_S
    # How the amounts stand to each other is not known: each may be double or half.
    k, s = absorbs / mu_a, scatters / mu_s
    ratio = 0.5 * len(parts) * (len(parts) > 1)
    covariance = _blocks(
        0.25 + ratio * (k.T @ k) + _smooth(0.35, 30.0),
        0.5 + ratio * (s.T @ s) + _smooth(0.2, 120.0) + _slope(0.6),
    )
    return Prior(_log(mu_a, mu_s), covariance)


def _log(mu_a: Array, mu_s: Array) -> Array:
    """Return log spectra, (72,)."""
    return np.asarray(np.log(np.concatenate([mu_a, mu_s])))


def _hides(code: str) -> bool:
    return bool(pigments()[code].scatters >= _HIDING)


def _smooth(sd: float, length_nm: float) -> Array:
    """Return the covariance of smooth deviations, (36, 36): squared exponential."""
    nm = wavelengths()
    return np.asarray(sd * sd * np.exp(-0.5 * ((nm[:, None] - nm) / length_nm) ** 2))


def _slope(sd: float) -> Array:
    """Return the covariance of an unknown exponent of wavelength, (36, 36)."""
    t = np.log(wavelengths() / 550)
    return np.asarray(sd * sd * t[:, None] * t)


def _blocks(K: Array, S: Array) -> Array:
    out = np.zeros((2 * BANDS, 2 * BANDS))
    out[:BANDS, :BANDS], out[BANDS:, BANDS:] = K, S
    # A little of its own for every band keeps the matrix invertible.
    out[np.diag_indices(2 * BANDS)] += 1e-4
    return out
