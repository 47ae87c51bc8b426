"""Photons followed one by one through a film under a surface, for tests: slow and simple.

L. Wang, S. L. Jacques, L. Zheng, "MCML: Monte Carlo modeling of light transport in multi-layered
tissues", Comput. Methods Programs Biomed. 47 (1995), 131-146. Every photon comes in at 45 degrees;
wherever it scatters or leaves the ground, what of it would leave straight upward is counted.
"""

from __future__ import annotations

import numpy as np


def fresnel(mu: np.ndarray, n: float) -> np.ndarray:
    """Return what is sent back at a cosine within; 1 beyond the critical angle."""
    out = np.sqrt(np.maximum(1 - n**2 * (1 - mu**2), 0.0))
    s, p = (n * mu - out) / (n * mu + out), (mu - n * out) / (mu + n * out)
    return np.where(out > 0, (s**2 + p**2) / 2, 1.0)


def turned(d: np.ndarray, g: float, rng: np.random.Generator) -> np.ndarray:
    """Return directions (k, 3) after scattering by Henyey and Greenstein's law."""
    x = rng.random(len(d))
    c = (1 + g * g - ((1 - g * g) / (1 - g + 2 * g * x)) ** 2) / (2 * g)
    s, around = np.sqrt(np.maximum(1 - c * c, 0.0)), 2 * np.pi * rng.random(len(d))
    ux, uy, uz = d.T
    flat = np.sqrt(np.maximum(1 - uz * uz, 1e-12))
    x = s * (ux * uz * np.cos(around) - uy * np.sin(around)) / flat + ux * c
    y = s * (uy * uz * np.cos(around) + ux * np.sin(around)) / flat + uy * c
    new = np.stack([x, y, -s * np.cos(around) * flat + uz * c], axis=1)
    return new / np.linalg.norm(new, axis=1)[:, None]


def seen(
    mu_a: float, mu_s: float, g: float, mm: float, n: float, ground: float, count: int
) -> tuple[float, float]:
    """Return the reflectance factor at 45/0 over a diffuse ground, and its standard error."""
    rng = np.random.default_rng(5)
    total, leaves = mu_a + mu_s, (1 - fresnel(np.array(1.0), n)) / n**2
    start = np.sqrt(1 - 0.5 / n**2)
    weight = np.full(count, 1 - float(fresnel(np.array(start), n)))
    depth, told = np.zeros(count), np.zeros(count)
    way = np.tile([np.sqrt(1 - start**2), 0.0, start], (count, 1))
    there = np.arange(count)
    while there.size:
        at = depth[there] - np.log(rng.random(there.size)) / total * way[there, 2]
        inside, below, above = (at >= 0) & (at <= mm), at > mm, at < 0
        k = there[inside]
        depth[k], weight[k] = at[inside], weight[k] * mu_s / total
        phase = (1 - g * g) / (1 + g * g + 2 * g * way[k, 2]) ** 1.5 / (4 * np.pi)
        told[k] += weight[k] * phase * np.exp(-total * depth[k]) * leaves
        way[k] = turned(way[k], g, rng)
        k = there[below]
        depth[k], weight[k] = mm, weight[k] * ground
        told[k] += weight[k] / np.pi * np.exp(-total * mm) * leaves
        up, around = np.sqrt(rng.random(k.size)), 2 * np.pi * rng.random(k.size)
        flat = np.sqrt(1 - up * up)
        way[k] = np.stack([flat * np.cos(around), flat * np.sin(around), -up], axis=1)
        k = there[above]
        depth[k], weight[k] = 0.0, weight[k] * fresnel(-way[k, 2], n)
        way[k, 2] *= -1
        # Of photons worth little most are let go, and the rest stand for them.
        faint = weight[there] < 1e-3
        kept = ~faint | (rng.random(there.size) < 0.1)
        weight[there[faint]] *= 10
        there = there[kept]
    return float(np.pi * told.mean()), float(np.pi * told.std() / np.sqrt(count))
