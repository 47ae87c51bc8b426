"""Paints as they truly are, for tests: films and stacks by adding-doubling under a real surface.

Light comes in at 45 degrees through a Fresnel surface, goes through films along many angles, and
is read straight from above (45/0), as an instrument or a camera with a lamp aside does it.

S. A. Prahl, M. J. C. van Gemert, A. J. Welch, "Determining the optical properties of turbid media
by using the adding-doubling method", Applied Optics 32 (1993), 559-568; the redistribution of
Henyey and Greenstein with the delta-M cut of W. J. Wiscombe (1977). All 36 bands at once; checked
against the package iadpython and against photons followed one by one in test_truepaint.py. It
shares no code with the model under test.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.polynomial.legendre import leggauss

POINTS = 6  # angles on each side of the critical angle
MOMENTS = 2 * POINTS
_NONE = 1e-10  # the weight of an angle that is only looked along


@cache
def quadrature(n: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Return cosines of angles in a medium of index n, and their weights on (0, 1).

    They part at the critical angle. The last two weigh next to nothing: the refracted beam that
    came at 45 degrees, and the normal.
    """
    x, w = leggauss(POINTS)
    critical = np.sqrt(1 - 1 / n**2)
    parts = [(0.0, critical), (critical, 1.0)] if n > 1 else [(0.0, 1.0)]
    mu = [a + (b - a) * (x + 1) / 2 for a, b in parts]
    weight = [(b - a) * w / 2 for a, b in parts]
    return (
        np.concatenate([*mu, [np.sqrt(1 - 0.5 / n**2), 1.0]]),
        np.concatenate([*weight, [_NONE, _NONE]]),
    )


def fresnel(mu: np.ndarray, n: float) -> np.ndarray:
    """Return what a surface of index n sends back of light that meets it from within at mu."""
    mu = np.asarray(mu, dtype=float)
    out = np.sqrt(np.maximum(1 - n**2 * (1 - mu**2), 0.0))
    s = (n * mu - out) / (n * mu + out)
    p = (mu - n * out) / (mu + n * out)
    return np.where(out > 0, (s**2 + p**2) / 2, 1.0)


@cache
def _redistribution(g: float, n: float) -> tuple[np.ndarray, np.ndarray]:
    """Return the averaged phase function between angles, forward and back; 2-flux sum is 2."""
    mu, w = quadrature(n)
    cut = g**MOMENTS
    forward, back = np.zeros((mu.size, mu.size)), np.zeros((mu.size, mu.size))
    for k in range(MOMENTS):
        moment = (g**k - cut) / (1 - cut)
        p = np.polynomial.legendre.Legendre.basis(k)(mu)
        forward += (2 * k + 1) * moment * np.outer(p, p)
        back += (2 * k + 1) * moment * (-1) ** k * np.outer(p, p)
    # Nothing may get lost or be won on the way from one angle to all others.
    total = (forward + back) @ w
    scale = np.sqrt(2 / total)
    for _ in range(50):
        scale = np.sqrt(scale * 2 / ((forward + back) @ (w * scale)))
    return forward * np.outer(scale, scale), back * np.outer(scale, scale)


def layer(mu_a: np.ndarray, mu_s: np.ndarray, g: float, mm: float, n: float = 1.0):
    """Return the layer matrices (36, n, n) of a slab; they act on radiance per direction."""
    return mixed_layer(mu_a, [(mu_s, g)], mm, n)


def mixed_layer(mu_a: np.ndarray, scattering, mm: float, n: float = 1.0):
    """Return the same where several pigments scatter, each (mu_s, g)."""
    mu, w = quadrature(n)
    forward = back = np.zeros((1, mu.size, mu.size))
    total = np.zeros_like(mu_a)
    for mu_s, g in scattering:
        real = mu_s * (1 - g**MOMENTS)
        there, here = _redistribution(g, n)
        forward = forward + real[:, None, None] * there
        back = back + real[:, None, None] * here
        total = total + real
    tau = (mu_a + total) * mm
    most = int(np.ceil(np.log2(max(float(tau.max()) / 0.002, 1.0))))
    thin = mm / 2.0**most
    eye = np.eye(mu.size)
    A = ((mu_a + total)[:, None, None] * eye - forward / 2 * w) / mu[:, None] * thin
    B = back / 2 * w / mu[:, None] * thin
    # Diamond initialisation (Wiscombe 1976).
    left, cross = eye + A / 2, B / 2
    G = np.linalg.inv(left - cross @ np.linalg.inv(left) @ cross)
    R, T = 2 * G @ cross @ np.linalg.inv(left), 2 * G - eye
    # A slab on one of its own kind: the same from both sides, so one system serves all.
    for _ in range(most):
        through = np.linalg.solve(eye - R @ R, T)
        R, T = R + T @ (R @ through), T @ through
    return R, T, R, T


def over(slab, R_below: np.ndarray) -> np.ndarray:
    """Return the reflection matrices of a slab on something of reflection matrices R_below."""
    R, T, Q, U = slab
    inner = np.linalg.inv(np.eye(R.shape[-1]) - R_below @ Q)
    return R + U @ inner @ R_below @ T


def lambertian(reflectance: np.ndarray, n: float = 1.0) -> np.ndarray:
    """Return the reflection matrices (36, n, n) of diffuse grounds (36,)."""
    mu, w = quadrature(n)
    # Radiance out = R x flux in / pi; in terms of radiances, 2 sum(mu w I).
    return reflectance[:, None, None] * np.broadcast_to(2 * mu * w, (mu.size, mu.size))


def diffuse(R: np.ndarray, n: float = 1.0) -> np.ndarray:
    """Return what is sent back of diffuse light, (36,)."""
    mu, w = quadrature(n)
    return np.einsum("i,bij->b", 2 * mu * w, R)


def seen(R: np.ndarray, k_f: np.ndarray | float, n: float) -> np.ndarray:
    """Return what is read at 45/0 above a surface of index n over reflection matrices R, (36,)."""
    mu, w = quadrature(n)
    rho = fresnel(mu, n)
    rough = (1 - fresnel(mu[-2:], n)) / n**2  # out of the last: what leaves along the normal
    beam = np.zeros(mu.size)
    beam[-2] = 1 - fresnel(mu[-2], n)  # the same from outside as from within, at those angles
    beam[-2] /= 2 * mu[-2] * w[-2]
    up = np.linalg.solve(np.eye(mu.size) - R * rho, (R @ beam)[..., None])[..., 0]
    return k_f + rough[-1] * up[:, -1]


@dataclass(frozen=True)
class TruePaint:
    """Neat wet paint by its transport: absorption and scattering in 1/mm (36,), g and index."""

    name: str
    kind: str
    pigments: tuple[str, ...]
    mu_a: np.ndarray
    mu_s: np.ndarray
    g: float
    k_f: float
    n: float = 1.5

    def slab(self, neat_mm: float, n: float | None = None):
        """Return the layer of some neat film, in a stack whose surface has the index n."""
        return layer(self.mu_a, self.mu_s, self.g, neat_mm, self.n if n is None else n)
