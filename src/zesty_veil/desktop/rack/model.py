"""What the Rack shows, computed without Qt and away from its thread."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache

from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.log.drawn import Drawn, Laid, Near, Order, drawn, nearest, ordered
from zesty_veil.log.racks import Kept, Rack, Status
from zesty_veil.paint.paint import Paint

_FEW = 8  # paints between two answers


@dataclass(frozen=True)
class Asked:
    """A rack, how its paints are laid, and in which order they are wanted."""

    rack: Rack
    laid: Laid
    order: Order
    status: Status | None = None  # show only these
    words: str = ""  # and only paints with all of these


@dataclass(frozen=True, eq=False)
class Shown:
    """Drawdowns in order, with their screen colours (2, 5, 3) each."""

    asked: Asked
    kept: tuple[Kept, ...]
    drawn: tuple[Drawn, ...]
    rgb: tuple[Array, ...]
    whole: bool  # whether all that was asked for is here

    def near(self, name: str) -> tuple[Near, ...]:
        """Return the paints at hand that are most like one of those shown."""
        one = next((d for d in self.drawn if d.paint.name == name), None)
        if one is None:
            return ()
        own = {kept.paint for kept in self.asked.rack.paints if kept.status == "own"}
        others = [_drawn(paint, self.asked.laid) for paint in own]
        return nearest(one, others)


def showing(asked: Asked, wanted: Callable[[], bool]) -> Iterator[Shown]:
    """Yield the rack as drawdowns; a slow machine sees the first ones soon."""
    kept = tuple(k for k in asked.rack.paints if _wanted(k, asked))
    found: list[Drawn] = []
    for number, one in enumerate(kept):
        if not wanted():
            return
        found.append(_drawn(one.paint, asked.laid))
        if (number + 1) % _FEW == 0 and number + 1 < len(kept) and asked.order == "rack":
            yield _shown(asked, kept[: len(found)], found, False)
    # What comes nearest to a paint is asked of all that are at hand, shown or not.
    for one in asked.rack.paints:
        if not wanted():
            return
        if one.status == "own":
            _drawn(one.paint, asked.laid)
    yield _shown(asked, kept, found, True)


def _shown(asked: Asked, kept: tuple[Kept, ...], found: list[Drawn], whole: bool) -> Shown:
    places = ordered(found, asked.order)
    return Shown(
        asked,
        tuple(kept[i] for i in places),
        tuple(found[i] for i in places),
        tuple(srgb(found[i].lab)[0] for i in places),
        whole,
    )


def _wanted(kept: Kept, asked: Asked) -> bool:
    if asked.status is not None and kept.status != asked.status:
        return False
    paint = kept.paint
    text = " ".join([paint.name, paint.maker, paint.kind, *paint.pigments, kept.notes]).casefold()
    return all(word in text for word in asked.words.casefold().split())


@lru_cache(maxsize=4096)
def _drawn(paint: Paint, laid: Laid) -> Drawn:
    return drawn(paint, laid)
