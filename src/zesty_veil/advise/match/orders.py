"""In which order a ramp may be laid: outward from a light ground, inward from a dark, or both."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace as changed

from zesty_veil.advise.match.candidate import PlacedCoat
from zesty_veil.advise.match.grounds import dark_grounds, light_grounds, sketches, white_ground
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.tuning import Allowed, WorkOrder
from zesty_veil.light.cielab import lch
from zesty_veil.paint.paint import Paint
from zesty_veil.thresholds import GREYISH_CHROMA, SKETCHED_L, WHITE_COVER_L

# A far end this near to what is wanted, dE00, needs no films.
_STAYS = 2.0


def orders_of_work(
    problem: Problem, paints: Sequence[Paint], only: WorkOrder | None
) -> list[Allowed]:
    """Return how a ramp may be laid: from either end, from a middle tone, or by an order of work.

    white : white under all of it, if what is there is not white, then outward. sketch : white
    further and further in, then darker outward. inward, spot : dark first, then lighter steps.
    over : steps to either end, over what is there, which stays. beyond : beyond the first place
    alone, with a dark in the middle if need be.
    """
    if only == "light":
        return [Allowed(("light",))]
    if only == "over":
        # Where the far end is wanted as it is, only lights are laid; nothing hides what is there.
        lights = Allowed(("light",), whole=False)
        stays = problem.state(()).off[problem.steps == problem.last].max() < _STAYS
        return [lights] if stays else [lights, changed(lights, towards=("far", "light"))]
    if only == "beyond":
        return [Allowed(("far",), whole=False, bands=True)]
    if only in ("inward", "spot"):
        # Spots lie on a dark, too: where it is not there yet, it is laid first.
        return [Allowed(("light",), tuple(dark_grounds(problem, paints)), not _bright(problem))]
    light = tuple(g for g in light_grounds(problem, paints) if not problem.breaches((g,), False))
    if only == "white":
        bare = _bright(problem) or not _glows(problem)
        return [Allowed(("far",), _whites(light, paints), bare, bands=True)]
    if only == "sketch":
        sketch, untouched = sketches(problem, paints)
        return [Allowed(("far",), sketch, not sketch, untouched, bands=True)]
    # No white need lie below what is to be dark, as the tips of a flame.
    short = _whites(light, paints) if _dark_end(problem) else ()
    light += tuple(changed(ground, last=problem.last - 1) for ground in short)
    far = Allowed(("far",), light, bands=problem.last > 1)
    if only == "far" or problem.last == 0:
        return [far]
    both = Allowed(("far", "light"), light, bands=True)
    return [changed(far, touches=True), Allowed(("light",), light), both]


def _whites(grounds: Sequence[PlacedCoat], paints: Sequence[Paint]) -> tuple[PlacedCoat, ...]:
    """Return the grounds that are white, and not only light."""
    named = {paint.name: paint for paint in paints}
    return tuple(g for g in grounds if white_ground(g.coat.mixture.parts, named))


def _glows(problem: Problem) -> bool:
    """Tell whether any colour is wanted for which white below pays: a light one, or a clear one."""
    L, C, _ = lch(problem.wanted).T
    return bool(((C > GREYISH_CHROMA) | (L > SKETCHED_L)).any())


def _dark_end(problem: Problem) -> bool:
    """Tell whether the far end of a ramp is to be so dark that white below it is for nothing."""
    far = problem.steps == problem.last
    return problem.last > 1 and bool(problem.wanted[far, 0].max() < SKETCHED_L)


def _bright(problem: Problem) -> bool:
    """Tell whether what is there is white, all along."""
    return bool((problem.state(()).labs[:, 0] > WHITE_COVER_L).all())
