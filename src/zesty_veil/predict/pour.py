"""From a coat to its layers: the one place where that is worked out.

Prediction, the draws of its spread, drawdowns and the search all come through here, so that they
see the same film: `laid` says how much each pass leaves where, `poured` what it is made of, `heaps`
which passes make one film, and `layer` works a film out.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import covered, facing_share, pool, reach, wicked
from zesty_veil.paint.mixture import Blend, dry_share, latex_of, milky, pooling, strength
from zesty_veil.paint.tool import Tool, tools
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import Layer
from zesty_veil.predict.strokes import passes_along


class Laydown(NamedTuple):
    """What the passes of a coat lay down.

    Where pass p touches at place i and relief j, it leaves `along[p, i] * across[j]` mm of wet
    film; it touches the share `cover[j]` of the area.
    """

    along: Array  # (passes, n)
    across: Array  # (m,) mm
    cover: Array  # (m,) 0-1


class Poured(NamedTuple):
    """A coat ready to be laid.

    Draws that stray give `along` a shape (passes, draws, n), `neat` and `dry` (draws, 1, 1), and
    spectra and latex (draws, 1, 1, 36) or (draws, 1, 1, 1).
    """

    mix: Blend
    along: Array  # (passes, ..., n)
    across: Array  # (m,) mm of wet film
    cover: Array  # (m,) 0-1
    neat: Array | float  # share of neat paint in the wet film
    dry: Array | float  # share of it that stays when the water has left
    tool: Tool
    latex: Array | float | None = None  # 1/mm that the last pass scatters more, if it is wet still


class JoinedPasses(NamedTuple):
    """Passes that make one film."""

    mix: Blend
    along: Array  # (passes of the film, ..., n)


def laid(coat: Coat, passage: Passage, u: Array, relief: Array) -> Laydown:
    """Return what a coat lays down at places `u` (n,) and reliefs (m,) of a passage."""
    tool = tools()[coat.tool]
    p = pooling(tool.pooling, coat.mixture)
    factor = pool(p, relief)
    if coat.wicked:
        factor = wicked(factor, relief, p)
    along = passes_along(coat, u, passage.length_mm)
    if tool.directional and coat.nozzle is not None:
        turned = np.interp(u, np.linspace(0, 1, len(passage.tilt)), passage.tilt)
        along = along * facing_share(turned - coat.nozzle)
    return Laydown(
        along,
        tool.wet_film_um * passage.film(coat.tool) / 1000 * factor * reach(coat.sites, relief),
        covered(tool, relief, coat.cover),
    )


def in_full(coat: Coat) -> Coat:
    """Return a coat that lies everywhere along the axis as it does in full within its span."""
    return replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0), stagger=(), stroke="across")


def poured(coat: Coat, mix: Blend, down: Laydown, wet: bool = False) -> Poured:
    """Return a coat ready to be laid; with `wet` its last pass has not dried yet.

    mix : of its mixture. down : what it lays down.
    """
    return Poured(
        mix, *down, strength(coat.mixture), dry_share(coat.mixture), tools()[coat.tool],
        latex_of(coat.mixture) if wet else None,
    )  # fmt: skip


def joined_passes(coat: Poured) -> list[JoinedPasses]:
    """Return which passes of a coat make one film, the lowest first.

    Films of one paint add up exactly; passes that touch a part of the area in dabs stay single,
    and so does one that is still wet.
    """
    dried = len(coat.along) - (coat.latex is not None)
    together = coat.tool.dab_mm == 0 and dried > 0
    parts = [coat.along[:dried]] if together else [coat.along[[i]] for i in range(dried)]
    out = [JoinedPasses(coat.mix, along) for along in parts]
    if coat.latex is not None:
        out.append(JoinedPasses(milky(coat.mix, coat.latex), coat.along[-1:]))
    return out


def evened(texture: float, passes: Array) -> Array:
    """Return how uneven passes lie together, whose ridges know nothing of each other.

    texture : that of one pass. passes : (p, ...) thickness of each. Deviation over mean, (...).
    """
    total = passes.sum(axis=0)
    squares = np.sqrt((passes * passes).sum(axis=0))
    return np.asarray(texture * squares / np.where(total > 0, total, 1.0))


def amounts(coat: Poured, joined: JoinedPasses) -> tuple[Array, Array, Array]:
    """Return how thick a film lies as neat paint and when dry, in mm, and how uneven; (..., n, m).

    The last is of shape (..., n, 1).
    """
    wet = joined.along.sum(axis=0)[..., None] * coat.across
    return wet * coat.neat, wet * coat.dry, evened(coat.tool.texture, joined.along)[..., None]


def layer(coat: Poured, joined: JoinedPasses, straight: bool) -> Layer:
    """Return the film of a film; `straight` says that flakes lie below or above."""
    neat, dry, texture = amounts(coat, joined)
    return Layer.of(joined.mix, neat, dry, coat.cover, straight, coat.tool.dab_mm, texture)


def layers(coat: Poured, straight: bool) -> Sequence[Layer]:
    """Return all films of a coat, the lowest first."""
    return [layer(coat, joined, straight) for joined in joined_passes(coat)]
