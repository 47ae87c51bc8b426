"""One coat after the other on a passage: what it lays down, and the stack it makes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.kept import kept_within
from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import plain
from zesty_veil.optics.streams import lambertian
from zesty_veil.paint.mixture import blend, dry_share, strength
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.primer import PRIMER_FINISH, primer
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.folding import Below, Prepared, fold_coats
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.measuredground import measured_ground
from zesty_veil.predict.pour import joined_passes, laid, layer, poured

_KEPT_MB = 40.0
# Fewer numbers than this are worked out sooner than looked for.
_WORTH_KEEPING = 256
_below = Below()


class Thickness(NamedTuple):
    """How thick a coat lies on average, (n, m) float64 in mm."""

    neat: Array  # counted as neat paint, which is what colours
    dry: Array  # after the water has left, which is what is drawn


def bare(passage: Passage, u: Array, relief: Array) -> StackOptics:
    """Return the primer of a passage, or the measured colour in its place."""
    R, finish = primer(passage.ground.primer), PRIMER_FINISH
    if passage.ground.measured is not None:
        R, finish = measured_ground(passage.ground.measured)
    one = StackOptics(plain(lambertian(R)), np.array(finish), None)
    shape = (u.size, relief.size)
    return StackOptics(one.R.spread(shape), np.broadcast_to(one.finish, shape), None)


def thickness(coat: Coat, passage: Passage, u: Array, relief: Array) -> Thickness:
    """Return how thick a coat lies on average at places `u` (n,) and reliefs (m,)."""
    down = laid(coat, passage, u, relief)
    wet = down.along.sum(axis=0)[:, None] * (down.across * down.cover)
    return Thickness(wet * strength(coat.mixture), wet * dry_share(coat.mixture))


def prepare(
    coats: Sequence[Coat],
    paints: Mapping[str, Paint],
    passage: Passage,
    u: Array,
    relief: Array,
    wet: bool = False,
    rough: bool = False,
) -> tuple[Prepared, ...]:
    """Work coats out for places `u` (n,) and reliefs (m,) of a passage, before any is laid.

    Passes that cover everything are one thicker film (films of one paint add up exactly); passes
    that touch part of the area stay single. With `wet` the last pass of the last coat has not
    dried yet; with `rough` films are in single precision.

    Raises
    ------
    PaintError, InputError
        As `paint.mixture.blend`.
    """
    used = (p.paint for c in (*passage.ground.coats, *coats) for p in c.mixture.parts)
    straight = any(paints[name].flakes is not None for name in used if name in paints)
    # Of the passage only this decides how a coat lies on it.
    like = Passage("", passage.length_mm, tilt=passage.tilt, own_hand=passage.own_hand)
    where = u.tobytes(), relief.tobytes()
    out = []
    for number, coat in enumerate(coats):
        own = tuple(paints[part.paint] for part in coat.mixture.parts if part.paint in paints)
        fresh = wet and number == len(coats) - 1
        out.append(_prepared(coat, own, like, *where, straight, fresh, rough))
    return tuple(out)


@kept_within(_KEPT_MB)
def _prepared(
    coat: Coat,
    paints: tuple[Paint, ...],
    passage: Passage,
    u: bytes,
    relief: bytes,
    straight: bool,
    wet: bool,
    rough: bool,
) -> Prepared:
    """Work one coat out; while one is changed all the others stay as they are."""
    mix = blend(coat.mixture, {paint.name: paint for paint in paints})
    down = laid(coat, passage, np.frombuffer(u), np.frombuffer(relief))
    pour = poured(coat, mix, down, wet)
    passes = []
    for joined in joined_passes(pour):
        # Most of a coat lies in full or not at all: each thickness is worked out once.
        _, first, place = np.unique(
            joined.along.sum(axis=0), return_index=True, return_inverse=True
        )
        one = layer(pour, joined._replace(along=joined.along[:, first]), straight)
        passes.append((one.rough() if rough else one, place))
    return Prepared(tuple(passes))


def prefixes(
    passage: Passage, paints: Mapping[str, Paint], u: Array, relief: Array
) -> tuple[tuple[Prepared, ...], list[StackOptics]]:
    """Return a passage's coats worked out, and the stack below each of them and above the last."""
    coats = prepare(passage.coats, paints, passage, u, relief)
    below = [ground(passage, paints, u, relief)]
    for coat in coats:
        below.append(fold_coats(below[-1], [coat]))
    return coats, below


def ground(passage: Passage, paints: Mapping[str, Paint], u: Array, relief: Array) -> StackOptics:
    """Return the ground of a passage: its primer with the coats that count as ground."""
    coats = prepare(passage.ground.coats, paints, passage, u, relief)
    return fold_coats(bare(passage, u, relief), coats)


def laid_up(
    passage: Passage,
    coats: Sequence[Coat],
    paints: Mapping[str, Paint],
    u: Array,
    relief: Array,
    wet: bool = False,
    rough: bool = False,
) -> StackOptics:
    """Return the stack of some coats over the ground of a passage; all as `prepare`."""
    prepared = prepare(coats, paints, passage, u, relief, wet, rough)
    below = ground(passage, paints, u, relief)
    below = below.rough() if rough else below
    if u.size * relief.size < _WORTH_KEEPING:
        return fold_coats(below, prepared)
    own = tuple(paints[name] for name in sorted({p.paint for c in coats for p in c.mixture.parts}))
    grounds = tuple(
        paints[part.paint] for coat in passage.ground.coats for part in coat.mixture.parts
    )
    like = Passage("", passage.length_mm, ground=passage.ground, tilt=passage.tilt,
                   own_hand=passage.own_hand)  # fmt: skip
    where = u.tobytes(), relief.tobytes()
    fresh = [wet and number == len(coats) - 1 for number in range(len(coats))]
    keys = tuple(zip(coats, fresh, strict=True))
    return _below.lay((like, own, grounds, *where, rough), below, keys, prepared)
