"""A ladder between pots: steps mixed beforehand in whole drops, evenly spaced to the eye.

Painters mix the steps between two pots before they lay them (70:30, 40:60, then the pot itself), or
go A, A+B, B, B+C, C; each step covers less than the one before. They look at the colour in the
middle before they choose the pair: some pairs go through mud. All of it is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal, get_args

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.drops import SOLID, distances, even_steps, solid_on
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.value import value
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.words import describe
from zesty_veil.thresholds import MUDDY_MIDDLE
from zesty_veil.tr import tr

LadderStyle = Literal["even", "pairs"]
LADDER_STYLES: tuple[LadderStyle, ...] = get_args(LadderStyle)
LadderEnd = Literal["far", "light", "both"]
LADDER_ENDS: tuple[LadderEnd, ...] = get_args(LadderEnd)
LEAST_POTS, MOST_POTS = 2, 4
LEAST_RUNGS, MOST_RUNGS = 2, 9
_FINE = 24  # places looked at between two pots
_LAYER = 1.0
# A rung has taken over from the one below when it is this near to its own colour; and more passes
# than this nobody lays on one step.
_TAKEN_OVER, _MOST_PASSES = 3.0, 4
_FEATHER = 0.6  # of a step


@dataclass(frozen=True)
class Rung:
    """One step of a ladder.

    parts : whole drops. lab : (3,), what it looks like solid on the passage. step : dE00 from the
    rung before; 0 for the first. share : where it stands between the first pot and the last, by
    dE00, 0-1. passes : how often it is laid over the rung before until that hardly shows.
    """

    parts: tuple[Part, ...]
    lab: Array
    step: float
    share: float
    passes: int = 1


@dataclass(frozen=True)
class PotLadder:
    """Rungs between pots, and the colours all the way between, (n, 3) CIELAB.

    mud : what it goes through in the middle, in words; '' if it stays clean.
    """

    rungs: tuple[Rung, ...]
    between: Array
    mud: str = ""


def ladder(
    pots: Sequence[Paint],
    count: int,
    passage: Passage,
    paints: Sequence[Paint],
    look: ViewingConditions,
    style: LadderStyle = "even",
) -> PotLadder:
    """Return a ladder between pots, as it looks on a passage.

    Parameters
    ----------
    pots
        From `LEAST_POTS` to `MOST_POTS`, in order, none beside itself.
    count
        How many rungs there are, the pots among them; for `even`.
    passage, paints
        What it is laid on, with the coats that are there, and the paints of those.
    look
        How it is looked at.
    style
        even: spaced evenly in dE00. pairs: A, A+B, B, B+C, C.

    Raises
    ------
    InputError
        If there can be no such ladder.
    """
    _check(pots, count, style)
    every = [parts for pair in pairwise(pots) for parts in _mixtures(*pair)]
    labs = solid_on([*every, (Part(pots[-1].name),)], pots, passage, paints, look)
    if style == "pairs":
        chosen = _pairs(pots)
    else:
        chosen = even_steps(
            pots, count, [distances(pair, passage, paints, look) for pair in pairwise(pots)]
        )
    looks = solid_on(chosen, pots, passage, paints, look)
    named = {paint.name: paint for paint in (*paints, *pots)}
    steps = [0.0, *(float(v) for v in ciede2000(looks[:-1], looks[1:]))]
    whole = max(sum(steps), 1e-9)
    shares = np.cumsum(steps) / whole
    rungs = tuple(
        Rung(parts, lab, step, float(share), count)
        for parts, lab, step, share, count in zip(
            chosen, looks, steps, shares, _passes(chosen, looks, passage, named, look), strict=True
        )
    )
    return PotLadder(rungs, labs, _mud(labs, len(pots)))


def pairs_from(
    pot: Paint,
    others: Sequence[Paint],
    passage: Passage,
    paints: Sequence[Paint],
    look: ViewingConditions,
    places: int = 9,
) -> Iterator[tuple[Paint, Array, str]]:
    """Yield each paint that a pot can be mixed with, the colours between, and what mud there is.

    Colours are (places, 3) CIELAB, from the pot to the other.
    """
    at = np.linspace(0, 1, places)[1:-1]
    for other in others:
        if other.name == pot.name or other.kind in CLEAR:
            continue
        mixed = [
            (Part(pot.name, round(1 - t, 4)), Part(other.name, round(float(t), 4))) for t in at
        ]
        every = [(Part(pot.name),), *mixed, (Part(other.name),)]
        labs = solid_on(every, (pot, other), passage, paints, look)
        yield other, labs, _mud(labs, 2)


def ladder_coats(
    rungs: Sequence[Rung],
    end: LadderEnd = "far",
    sites: tuple[Site, ...] = SITES,
    share: float = 1.0,
    based: bool = False,
) -> tuple[Coat, ...]:
    """Return the coats of a ladder: the first rung over all, the others less and less far.

    Parameters
    ----------
    end
        That they draw back to; both: light edges at both ends, as on a panel.
    sites
        That all rungs but the first reach: ridges alone for highlights, recesses for shades.
    share
        How much of the axis the rungs after the first take; the rest stays the base's.
    based
        Whether the first rung lies there already: then it is not laid again, and buries nothing.
    """
    thinning, passes = SOLID
    base = Coat(Mixture(rungs[0].parts, "water", thinning), "loaded", passes)
    out = [] if based else [base]
    zone = share / len(rungs)
    for k, rung in enumerate(rungs[1:], 1):
        coat = Coat(Mixture(rung.parts, "water", _LAYER), "loaded", rung.passes, sites=sites)
        reach = (share - (k if share == 1.0 else k - 0.5) * zone) * (0.5 if end == "both" else 1.0)
        soft = _FEATHER * zone * (0.5 if end == "both" else 1.0)
        if end in ("light", "both"):
            out.append(with_feather(with_span(coat, 0.0, round(reach, 4)), 0.0, round(soft, 4)))
        if end in ("far", "both"):
            start = round(1.0 - reach, 4)
            out.append(with_feather(with_span(coat, start, 1.0), round(soft, 4), 0.0))
    return tuple(out)


def lies_there(passage: Passage, parts: tuple[Part, ...]) -> bool:
    """Tell whether a mixture lies over all of a passage, with nothing over all of it since."""
    for coat in reversed(passage.coats):
        if coat.span == (0.0, 1.0) and coat.sites == SITES:
            return coat.mixture.parts == parts
    return False


def _passes(
    mixtures: Sequence[tuple[Part, ...]],
    looks: Array,
    passage: Passage,
    paints: Mapping[str, Paint],
    look: ViewingConditions,
) -> list[int]:
    """Return for each rung how often it is laid over the one before until that hardly shows."""
    thinning, passes = SOLID
    out = [passes]
    for below, parts, lab in zip(mixtures, mixtures[1:], looks[1:], strict=False):
        coats = (*passage.coats, Coat(Mixture(below, "water", thinning), "loaded", passes))
        for count in range(1, _MOST_PASSES + 1):
            coat = Coat(Mixture(parts, "water", _LAYER), "loaded", count)
            tried = replace(passage, coats=(*coats, coat))
            seen = predict(tried, paints, np.array([0.5]), np.zeros(1), look).lab[0, 0]
            if float(ciede2000(seen, lab)) < _TAKEN_OVER:
                break
        out.append(count)
    return out


def _check(pots: Sequence[Paint], count: int, style: LadderStyle) -> None:
    if not LEAST_POTS <= len(pots) <= MOST_POTS:
        raise InputError(
            tr("A ladder goes between {0} to {1} pots; these are {2}.").format(
                LEAST_POTS, MOST_POTS, len(pots)
            )
        )
    clear = next((pot.name for pot in pots if pot.kind in CLEAR), None)
    if clear is not None:
        raise InputError(tr("{0} has no colour of its own; take another pot.").format(clear))
    for one, other in pairwise(pots):
        if one.name == other.name:
            raise InputError(
                tr("{0} stands beside itself; name two different pots.").format(one.name)
            )
    if style not in LADDER_STYLES:
        raise InputError(
            tr("There is no ladder '{0}'; use one of {1}.").format(style, ", ".join(LADDER_STYLES))
        )
    if style == "even" and not max(LEAST_RUNGS, len(pots)) <= count <= MOST_RUNGS:
        raise InputError(
            tr("A ladder of {0} steps between {1} pots: it must have from {1} to {2}.").format(
                count, len(pots), MOST_RUNGS
            )
        )


def _mixtures(one: Paint, other: Paint) -> Iterator[tuple[Part, ...]]:
    """Yield mixtures from one pot to just before another."""
    yield (Part(one.name),)
    for k in range(1, _FINE):
        t = k / _FINE
        yield (Part(one.name, round(1 - t, 4)), Part(other.name, round(t, 4)))


def _pairs(pots: Sequence[Paint]) -> list[tuple[Part, ...]]:
    out: list[tuple[Part, ...]] = [(Part(pots[0].name),)]
    for one, other in pairwise(pots):
        out += [(Part(one.name), Part(other.name)), (Part(other.name),)]
    return out


def _mud(labs: Array, pots: int) -> str:
    """Return in words what a way between pots goes through, if it loses its colour on the way."""
    looks = lch(labs)
    segments = np.array_split(np.arange(len(labs)), pots - 1)
    for each in segments:
        ends = min(float(looks[each[0], 1]), float(looks[min(each[-1] + 1, len(labs) - 1), 1]))
        lowest = int(each[int(np.argmin(looks[each, 1]))])
        if ends > 20 and float(looks[lowest, 1]) < MUDDY_MIDDLE * ends:
            seen = float(value(luminous(np.array(looks[lowest, 0]))))
            return describe(looks[lowest], seen)
    return ""
