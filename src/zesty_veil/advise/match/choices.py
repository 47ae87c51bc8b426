"""The coats that a search chooses from: paints and mixtures by tools, thinnings and passes."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.paint.kinds import KINDS
from zesty_veil.paint.mixture import MOST_WATER, Mixture, Part, Thinner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat

_ANYWHERE = ("airbrush", "sponge", "stipple")
# Thinnings (parts of water to one of paint) and passes that are tried first, by tool.
_FIRST = {
    "loaded": ((0.5, 1.0, 2.0), (1, 2, 4)),
    "glaze": ((1.0, 3.0, 5.0), (1, 2, 4)),
    "wash": ((0.0, 1.0, 3.0), (1, 2)),
    "contrast": ((0.0, 1.0), (1, 2)),
    "airbrush": ((1.0, 3.0), (2, 6)),
    "sponge": ((1.0, 2.0), (2, 6)),
    "stipple": ((0.5, 1.0), (2, 4)),
}
# Thinnings that a coat is tuned over; passes go from one up.
FINE_THINNINGS = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 7.0)
FINE_PASSES = (1, 2, 3, 4, 5, 6)


def first_coats(paints: Sequence[Paint], at_hand: Sequence[str]) -> list[Coat]:
    """Return the coats of single paints that a search starts from."""
    out = []
    for paint in paints:
        for tool in tools_for(paint, at_hand):
            thinnings, passes = _FIRST.get(tool, ((1.0,), (1, 2)))
            for thinning in thinnings:
                mixture = Mixture((Part(paint.name),), "water", thinning)
                out += [Coat(mixture, tool, count) for count in passes]
    return out


def tuned(coat: Coat) -> list[Coat]:
    """Return a coat over all thinnings and passes that it can be tuned over.

    It is thinned with water, and with medium where so much water would starve the film.
    """
    return [
        Coat(Mixture(coat.mixture.parts, thinner_of(thinning), thinning), coat.tool, passes)
        for thinning in FINE_THINNINGS
        for passes in FINE_PASSES
    ]


def thinner_of(thinning: float) -> Thinner:
    """Return what so thin a film is thinned with: medium where water would starve it."""
    return "medium" if thinning > MOST_WATER else "water"


def tools_for(paint: Paint, at_hand: Sequence[str]) -> tuple[str, ...]:
    """Return the tools at hand that a paint is laid with."""
    usual = KINDS[paint.kind].search
    extra = _ANYWHERE if usual else ()
    return tuple(tool for tool in (*usual, *extra) if tool in at_hand)
