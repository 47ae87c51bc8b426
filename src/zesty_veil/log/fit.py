"""Fitting the spectra of a paint to cards: the most likely ones, and how sure they are.

A Gauss-Newton search for the maximum of prior times likelihood, with Levenberg's damping; films
of each strip and the finish are found along with the spectra, as no hand lays what is nominal.
Patches that do not fit count less (Student's t), so that one bad field does not bend the rest.
The spread comes from the curvature at the maximum (Laplace).

References
----------
A. Tarantola, Inverse Problem Theory (SIAM, 2005), sections 3.2 and 3.4.
K. L. Lange, R. J. A. Little, J. M. G. Taylor, "Robust statistical modeling using the t
distribution", J. Am. Stat. Assoc. 84 (1989), 881-896.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz, xyz_from_lab
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.light.illuminant import weights
from zesty_veil.light.srgb import linear_of, xyz_of
from zesty_veil.log.card import DEEP, NOISE, Card
from zesty_veil.log.drawdown import Drawdown, drawdown, reflectance, slopes
from zesty_veil.log.prior import Prior, prior
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import KINDS

_ROUNDS = 80
_TIGHTEN = 0.7
_FREEDOM = 4.0  # of Student's t
# How far the model itself is off, as dE00 and as reflectance.
_MODEL_DE, _MODEL_R = 0.4, 0.004
_METER_R = 0.003  # and what a meter adds, as reflectance; it also errs in proportion
_METER_SHARE = 0.008
_BENDS_NM = 60.0  # how far along the spectrum an error of the model is alike
_DOUBT_DE = 4.0  # a patch with glare, or too deep for the photograph, tells little
# Light in a channel (white 1) that is at the camera's end, that is too little to be sure of, and
# how far each may be off: at the end the true light may even be negative, outside the gamut.
_END, _ENOUGH = 0.003, 0.03
_ENDED, _LITTLE, _LITTLE_SHARE = 0.2, 0.006, 0.6
_FILM_CV, _PATCH_CV, _RATIO_CV = 0.3, 0.08, 0.1
_FINISH_SD = 0.006


@dataclass(frozen=True, eq=False)
class Fit:
    """What cards tell of a paint.

    theta : (72,) log absorption and log reduced scattering; covariance : (72, 72).
    de : (p,) dE00 between each patch as read and as fitted; films : (p,) log of how much more lies
    there than nominal; film_sd : (p,) how far that was expected to stray; k_f : finish.
    strips : (s,) the same by strip, without what single patches stray; strips_sd : how sure.
    """

    theta: Array
    covariance: Array
    de: Array
    films: Array
    film_sd: Array
    k_f: float
    down: Drawdown
    prior: Prior
    strips: Array
    strips_sd: Array


class _Unknown(NamedTuple):
    """What is sought: spectra, films of strips and of patches, finish; with its prior."""

    mean: Array
    precision: Array


def fit(
    cards: Sequence[Card],
    before: Prior | None = None,
    k_f: float | None = None,
    hand_sd: float = 0.0,
) -> Fit:
    """Return the most likely spectra of the paint of some cards.

    Parameters
    ----------
    cards
        Of one paint; the first says what it is.
    before
        What is known of its spectra; by default what its kind and pigments say.
    k_f
        Its finish, by default that of its kind.
    hand_sd
        How far, as a log, the hand's mean film may lie from the tool's usual one. With 0 the usual
        film is taken for the mean, and strong paint cannot be told from a rich hand.

    Raises
    ------
    KeyError
        For kinds in `KINDS` that say why they are unfit, where `before` is not given.
    """
    first = cards[0]
    down = drawdown(cards)
    if before is None:
        before = prior(first.kind, first.pigments)
    if k_f is None:
        k_f = FINISHES[first.finish or KINDS[first.kind].finish]
    unknown, film_sd = _unknown(down, cards, before, k_f, hand_sd)
    observed = _Observed(down, cards)
    x = unknown.mean.copy()
    root = np.linalg.cholesky(np.linalg.inv(unknown.precision))
    damp, weight = 1e-2, np.ones(len(down.patches))
    cost, residual, J = observed.cost(x, weight, unknown)
    # Not scipy's least_squares: its robust losses weigh single residuals, not whole patches, and
    # with new weights for each of its solutions it takes eight times as long (./veil bench).
    # From far off everything looks like a bad patch: what is bad is told apart little by little.
    loose = max(1.0, float(np.sqrt(np.mean(residual**2))))
    for _ in range(_ROUNDS):
        weight = _student(residual / loose, observed.count)
        rough, loose = loose > 1, max(1.0, loose * _TIGHTEN)
        cost, residual, J = observed.cost(x, weight, unknown)
        row = np.repeat(weight, observed.count)
        # In units of the prior's own spread every direction is alike to the damping.
        Jw = J @ root
        H = Jw.T @ (row[:, None] * Jw) + np.eye(x.size)
        g = Jw.T @ (row * residual) + root.T @ (unknown.precision @ (x - unknown.mean))
        step = root @ np.linalg.solve(H + damp * np.eye(x.size), -g)
        step *= min(1.0, 1.0 / max(float(np.abs(step).max()), 1e-12))
        tried, again, J2 = observed.cost(x + step, weight, unknown)
        if tried < cost:
            x, damp = x + step, max(damp / 4, 1e-7)
            residual, J = again, J2
            if cost - tried < 1e-5 * (1 + cost) and not rough:
                break
        else:
            damp *= 8
            if damp > 1e6:
                break
    weight = _student(residual, observed.count)
    row = np.repeat(weight, observed.count)
    covariance = np.asarray(
        np.linalg.inv(J.T @ (row[:, None] * J) + unknown.precision), dtype=np.float64
    )
    # A fit that is worse than its noise says that the noise is larger.
    worse = float(np.median(np.abs(residual)) / 0.6745)
    covariance = covariance * np.float64(max(1.0, worse) ** 2)
    theta, films, k_f = split(x, down)
    shown = fitted_lab(reflectance(down, theta, films, k_f))
    de = ciede2000(shown, np.array([patch.colour for patch in down.patches]))
    at, end = 2 * BANDS, 2 * BANDS + down.passes.size
    return Fit(
        theta, covariance[:at, :at], de, films, film_sd, k_f, down, before,
        x[at:end], np.sqrt(np.diag(covariance)[at:end]),
    )  # fmt: skip


def fitted_lab(R: Array) -> Array:
    """Return CIELAB in daylight of reflectances (..., 36)."""
    eye = weights()
    return lab(xyz(R, eye), eye.sum(axis=0))


def split(x: Array, down: Drawdown) -> tuple[Array, Array, float]:
    """Return spectra (72,), films of patches (p,) and finish out of what is sought."""
    strips = down.passes.size
    theta = x[: 2 * BANDS]
    by_strip = x[2 * BANDS : 2 * BANDS + strips]
    by_patch = x[2 * BANDS + strips : -1]
    return theta, by_strip[down.strip] + by_patch, float(np.clip(x[-1], 0.0, 0.04))


def _unknown(
    down: Drawdown, cards: Sequence[Card], before: Prior, k_f: float, hand_sd: float
) -> tuple[_Unknown, Array]:
    per_strip = np.log1p(_FILM_CV**2 / down.passes)
    ratio = np.array([_RATIO_CV * c.thinning / (1 + c.thinning) for c in cards])[down.strip_card]
    same = down.strip_card[:, None] == down.strip_card
    strips = np.diag(per_strip) + same * np.outer(ratio, ratio) + hand_sd**2
    per_patch = np.log1p(_PATCH_CV**2 / down.passes)[down.strip]
    at, size = 2 * BANDS, 2 * BANDS + down.passes.size + len(down.patches) + 1
    precision = np.zeros((size, size))
    precision[:at, :at] = np.linalg.inv(before.covariance)
    end = at + down.passes.size
    precision[at:end, at:end] = np.linalg.inv(strips)
    precision[np.arange(end, size - 1), np.arange(end, size - 1)] = 1 / per_patch
    precision[-1, -1] = 1 / _FINISH_SD**2
    mean = np.zeros(size)
    mean[:at], mean[-1] = before.mean, k_f
    return _Unknown(mean, precision), np.sqrt(np.diag(strips)[down.strip] + per_patch)


class _Observed:
    """The patches as they were read, and how far a guess is from them in units of their noise."""

    def __init__(self, down: Drawdown, cards: Sequence[Card]) -> None:
        self._down = down
        self._eye = weights()
        white = self._eye.sum(axis=0)
        self._rows = []
        for patch, number in zip(down.patches, down.card, strict=True):
            if patch.spectrum is not None:
                R = np.array(patch.spectrum)
                self._rows.append((R, np.linalg.inv(np.linalg.cholesky(_noise(R))), True))
            else:
                sd = float(np.hypot(NOISE[cards[number].source], _MODEL_DE))
                if patch.doubt == DEEP:
                    scale = _deep(patch.colour, sd)
                else:
                    sd = float(np.hypot(sd, _DOUBT_DE)) if patch.doubt else sd
                    scale = metric(patch.colour) / sd
                self._rows.append((patch.colour, scale, False))
        self._white = white
        self.count = np.array([scale.shape[0] for _, scale, _ in self._rows])

    def cost(self, x: Array, weight: Array, unknown: _Unknown) -> tuple[float, Array, Array]:
        """Return half the weighted sum of squares with the prior's, the residuals, and J."""
        down = self._down
        theta, films, k_f = split(x, down)
        R = reflectance(down, theta, films, k_f)
        d = slopes(down, theta, films, k_f, R)
        residuals, rows = [], []
        strips = down.passes.size
        for p, (read, scale, spectral) in enumerate(self._rows):
            by = np.zeros((BANDS, x.size))
            band = np.arange(BANDS)
            by[band, band], by[band, BANDS + band] = d.mu_a[p], d.mu_s[p]
            by[:, 2 * BANDS + down.strip[p]] = d.film[p]
            by[:, 2 * BANDS + strips + p] = d.film[p]
            by[:, -1] = d.k_f[p]
            if spectral:
                residuals.append(scale @ (R[p] - read))
                rows.append(scale @ by)
                continue
            light = R[p] @ self._eye
            residuals.append(scale @ (lab(light, self._white) - read))
            rows.append(scale @ (lab_slope(light, self._white) @ (self._eye.T @ by)))
        residual, J = np.concatenate(residuals), np.vstack(rows)
        off = x - unknown.mean
        every = np.repeat(weight, self.count)
        return float(0.5 * (every @ residual**2 + off @ unknown.precision @ off)), residual, J


def _noise(R: Array) -> Array:
    """Return the covariance of a measured spectrum: the meter's noise, and what bends all bands.

    Where the model errs, it errs alike in neighbouring bands.
    """
    bends = np.hypot(_MODEL_R, _METER_SHARE * R)
    nm = wavelengths()
    alike = np.exp(-0.5 * ((nm[:, None] - nm) / _BENDS_NM) ** 2)
    return np.asarray(np.diag(np.full(BANDS, _METER_R**2)) + np.outer(bends, bends) * alike)


def _deep(colour: Array, sd: float) -> Array:
    """Return what turns Lab differences into noise where a camera's channel had too little light.

    A channel at its end tells only that there is no more light in it; the others are as good as
    ever. (3, 3).
    """
    white = weights().sum(axis=0)
    light = xyz_from_lab(colour, white)
    own = metric(colour)
    covariance = sd**2 * np.eye(3)
    slope = own @ lab_slope(light, white)
    for channel, value in enumerate(linear_of(light)):
        off = _ENDED if value < _END else _LITTLE + _LITTLE_SHARE * float(value)
        if value < _ENOUGH:
            moved = slope @ xyz_of(np.eye(3)[channel]) * off
            covariance += np.outer(moved, moved)
    return np.asarray(np.linalg.inv(np.linalg.cholesky(covariance)) @ own)


def metric(colour: Array) -> Array:
    """Return what turns small Lab differences at a colour into parts of dE00, (3, 3).

    Lightness, chroma and hue by the S_L, S_C and S_H of CIEDE2000 without its rotation term.
    """
    L, a, b = (float(v) for v in colour)
    C = max(float(np.hypot(a, b)), 1e-6)
    out = np.diag([1 / (1 + 0.015 * (L - 50) ** 2 / np.sqrt(20 + (L - 50) ** 2)), 0.0, 0.0])
    radial = np.array([0.0, a / C, b / C])
    around = np.array([0.0, -b / C, a / C])
    out[1] = radial / (1 + 0.045 * C)
    out[2] = around / (1 + 0.015 * C)
    return out


def lab_slope(light: Array, white: Array) -> Array:
    """Return the derivative of CIELAB by XYZ (3,), as (3, 3)."""
    t = light / white
    slope = np.where(t > (6 / 29) ** 3, 1 / (3 * np.cbrt(np.maximum(t, 1e-9)) ** 2), 841 / 108)
    x, y, z = slope / white
    return np.array([[0, 116 * y, 0], [500 * x, -500 * y, 0], [0, 200 * y, -200 * z]])


def _student(residual: Array, count: Array) -> Array:
    """Return the weight of each patch: Student's t with few degrees of freedom."""
    ends = np.cumsum(count)
    square = np.add.reduceat(residual**2, np.r_[0, ends[:-1]])
    return np.asarray((_FREEDOM + count) / (_FREEDOM + square))
