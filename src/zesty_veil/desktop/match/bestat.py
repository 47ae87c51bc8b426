"""What each way is best at, among those beside it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from zesty_veil.advise.match.pareto import closer_but_more
from zesty_veil.services.finding import ShownWay
from zesty_veil.tr import tr

# Ways that differ by less than this, or by less than this share, are alike in it.
_ALIKE = 0.05


def best_at(ways: Sequence[ShownWay]) -> list[str]:
    """Return in words what each way is best at: 'nearest, fewest passes'; nothing for others.

    The first that was found is the plainest; of those that come closer it is said that they are
    more work.
    """
    kinds: tuple[tuple[str, Callable[[ShownWay], float]], ...] = (
        (tr("nearest"), lambda way: way.mean),
        (tr("fewest passes"), lambda way: sum(coat.passes for coat in way.coats)),
        (tr("soonest"), lambda way: way.answer.minutes),
        (tr("fewest pots"), lambda way: way.answer.pots),
        (tr("steadiest"), lambda way: way.answer.sensitivity),
    )
    out: list[list[str]] = [[] for _ in ways]
    if len(ways) < 2:
        return ["" for _ in ways]
    found = [i for i, way in enumerate(ways) if not way.kept]
    more = closer_but_more([ways[i].answer for i in found])
    for i, closer in zip(found, more, strict=True):
        if closer:
            out[i].append(tr("closer, but more work"))
    for words, cost in kinds:
        costs = [cost(way) for way in ways]
        first = min(costs)
        among = [
            i for i, one in enumerate(costs) if one <= max(first * (1 + _ALIKE), first + _ALIKE)
        ]
        if len(among) < len(ways):  # where all are alike, none is better
            for i in among:
                out[i].append(words)
    return [", ".join(each) for each in out]
