"""Whether a match between two stacks holds under another light."""

from __future__ import annotations

from typing import NamedTuple

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.thresholds import BROKEN_DE00, CLOSE_DE00


class Match(NamedTuple):
    """How far two stacks differ, dE00 under each light, and under which a match breaks."""

    under: dict[str, float]
    breaks: tuple[str, ...]


def match(
    one: StackOptics, other: StackOptics, chosen_under: str = "D65", observer: int = 2
) -> Match:
    """Return how two stacks of the same shape compare under every light.

    Parameters
    ----------
    one, other
        Two stacks; the greatest difference over their shape counts.
    chosen_under
        The light under which the match was made.
    observer
        2 or 10 degrees.
    """
    under = {}
    for light in LIGHTS:
        look = ViewingConditions(light, observer)
        seen = [colours(state, look)[0] for state in (one, other)]
        under[light] = float(ciede2000(seen[0], seen[1]).max())
    matched = under[chosen_under] <= CLOSE_DE00
    return Match(under, tuple(n for n, dE in under.items() if matched and dE > BROKEN_DE00))
