"""Paints as they truly are, for tests: films and stacks by adding-doubling, index-matched.

S. A. Prahl, M. J. C. van Gemert, A. J. Welch, "Determining the optical properties of turbid media
by using the adding-doubling method", Applied Optics 32 (1993), 559-568; the redistribution of
Henyey and Greenstein with the delta-M cut of W. J. Wiscombe (1977). All 36 bands at once; checked
against the package iadpython in test_truepaint.py. It shares no code with the model under test.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.polynomial.legendre import leggauss

POINTS = 6


@cache
def quadrature() -> tuple[np.ndarray, np.ndarray]:
    """Return cosines of the angles and their weights on (0, 1)."""
    x, w = leggauss(POINTS)
    return (x + 1) / 2, w / 2


@cache
def _redistribution(g: float) -> tuple[np.ndarray, np.ndarray]:
    """Return the averaged phase function between angles, forward and back; 2-flux sum is 2."""
    mu, _ = quadrature()
    m = 2 * POINTS
    cut = g**m
    forward, back = np.zeros((POINTS, POINTS)), np.zeros((POINTS, POINTS))
    for k in range(m):
        moment = (g**k - cut) / (1 - cut)
        p = np.polynomial.legendre.Legendre.basis(k)(mu)
        forward += (2 * k + 1) * moment * np.outer(p, p)
        back += (2 * k + 1) * moment * (-1) ** k * np.outer(p, p)
    return forward, back


def _add(one, other):
    """Add two layers (R, T each seen from above; R_ from below); weights are within."""
    R1, T1, Q1, U1 = one
    R2, T2, Q2, U2 = other
    eye = np.eye(POINTS)
    down = np.linalg.inv(eye - Q1 @ R2)
    up = np.linalg.inv(eye - R2 @ Q1)
    return (
        R1 + U1 @ R2 @ down @ T1,
        T2 @ down @ T1,
        Q2 + T2 @ Q1 @ up @ U2,
        U1 @ up @ U2,
    )


def layer(mu_a: np.ndarray, mu_s: np.ndarray, g: float, mm: float):
    """Return the layer matrices (36, n, n) of a slab; they act on flux per direction."""
    mu, w = quadrature()
    cut = g ** (2 * POINTS)
    mu_s = mu_s * (1 - cut)
    tau = (mu_a + mu_s) * mm
    albedo = mu_s / np.maximum(mu_a + mu_s, 1e-30)
    doublings = np.maximum(np.ceil(np.log2(np.maximum(tau / 0.02, 1.0))), 0).astype(int)
    most = int(doublings.max(initial=0))
    thin = (tau / 2.0**most)[:, None, None]
    forward, back = _redistribution(g)
    a = albedo[:, None, None]
    # Single and first-order expansion of the exponential; thin is below 0.02 everywhere.
    A = (np.eye(POINTS) - a / 2 * forward * w) / mu[:, None]
    B = a / 2 * back * w / mu[:, None]
    A, B = A * thin, B * thin
    eye = np.eye(POINTS)
    # Diamond initialisation (Wiscombe 1976).
    left, cross = eye + A / 2, B / 2
    G = np.linalg.inv(left - cross @ np.linalg.inv(left) @ cross)
    R = 2 * G @ cross @ np.linalg.inv(left)
    T = 2 * G - eye
    slab = (R, T, R, T)
    for _ in range(most):
        slab = _add(slab, slab)
    return slab


def over(slab, R_below: np.ndarray) -> np.ndarray:
    """Return the reflection matrices of a slab on something of reflection matrices R_below."""
    R, T, Q, U = slab
    inner = np.linalg.inv(np.eye(POINTS) - R_below @ Q)
    return R + U @ inner @ R_below @ T


def lambertian(reflectance: np.ndarray) -> np.ndarray:
    """Return the reflection matrices (36, n, n) of diffuse grounds (36,)."""
    mu, w = quadrature()
    # Radiance out = R x flux in / pi; in terms of radiances, 2 sum(mu w I).
    return reflectance[:, None, None] * np.broadcast_to(2 * mu * w, (POINTS, POINTS))


def diffuse(R: np.ndarray) -> np.ndarray:
    """Return what is sent back of diffuse light, (36,)."""
    mu, w = quadrature()
    return np.einsum("i,bij->b", 2 * mu * w, R)


@dataclass(frozen=True)
class TruePaint:
    """Neat wet paint by its transport: absorption and scattering in 1/mm (36,), and g."""

    name: str
    kind: str
    pigments: tuple[str, ...]
    mu_a: np.ndarray
    mu_s: np.ndarray
    g: float
    k_f: float

    def slab(self, neat_mm: float):
        """Return the layer of some neat film."""
        return layer(self.mu_a, self.mu_s, self.g, neat_mm)
