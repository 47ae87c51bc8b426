"""What came out wrong on the bench, and the way back to what the plan had foretold. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Ground, Lab, Passage, Plan, Target, mixture_words
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.finding import WaySearch
from zesty_veil.thresholds import CLOSE_DE00, DIFFER_DE00, MET_DE00
from zesty_veil.tr import tr

_FLAT = np.zeros(1)
_PLACES = 41
# At so many places what was foretold is wanted again; on an even passage at one.
_WANTED = 5
# What a scale's words mean: in L, in shares of the chroma, in degrees of hue (and which way).
LIGHTNESS: dict[str, float] = {
    "as planned": 0.0, "a little darker": -5.0, "darker": -11.0, "much darker": -20.0,
    "a little lighter": 5.0, "lighter": 11.0, "much lighter": 20.0,
}  # fmt: skip
STRENGTH: dict[str, float] = {
    "as planned": 1.0, "a little duller": 0.8, "much duller": 0.5,
    "a little stronger": 1.25, "much stronger": 1.6,
}  # fmt: skip
# Hues in degrees that a colour may have turned to, and how far.
HUE: dict[str, tuple[float, float]] = {
    "as planned": (0.0, 0.0), "redder": (30.0, 15.0), "yellower": (90.0, 15.0),
    "greener": (160.0, 15.0), "bluer": (270.0, 15.0),
}  # fmt: skip
_GREY, _TINGE = 8.0, 8.0
_ROUGH_DE00, _STRONG = 5.0, 10.0
# How much more or less paint may have come to lie than was meant.
_MORE = np.geomspace(0.25, 4.0, 33)


@dataclass(frozen=True)
class CameOut:
    """A passage as it lies on the bench.

    laid : how many of its coats lie there. lightness, strength, hue : by the words of the scales,
    beside what was foretold. seen : the colour that it is now, where that was said instead.
    """

    plan: Plan
    passage: int
    laid: int
    lightness: str = "as planned"
    strength: str = "as planned"
    hue: str = "as planned"
    seen: Lab | None = None

    @property
    def meant(self) -> Passage:
        """The passage with the coats that lie there, as they were meant."""
        passage = self.plan.passages[self.passage]
        return replace(passage, coats=passage.coats[: self.laid])


def as_planned(out: CameOut, look: ViewingConditions) -> Array:
    """Return what the plan foretold along the axis, on the flat, (n, 3) CIELAB."""
    paints = out.plan.rack()
    return np.asarray(predict(out.meant, paints, axis(_PLACES), _FLAT, look).lab[:, 0])


def as_it_is(out: CameOut, before: Array) -> Array:
    """Return what is there now along the axis, (n, 3) CIELAB, from what was foretold."""
    if out.seen is not None:
        # One colour is seen on all of it, or in its middle where it runs from one to another.
        return np.asarray(before + (np.array(out.seen) - before[len(before) // 2]))
    L, C, h = lch(before).T
    towards, most = HUE[out.hue]
    turn = np.clip((towards - h + 180) % 360 - 180, -most, most)
    grey = (C < _GREY) & (most > 0)
    C = np.where(grey, _TINGE, C * STRENGTH[out.strength])
    h = np.where(grey, towards, h + turn)
    L = np.clip(L + LIGHTNESS[out.lightness], 4.0, 97.0)
    return np.asarray(lab_from_lch(np.stack([L, C, h], axis=-1)))


@dataclass(frozen=True)
class Wrong:
    """What came out, and what a way back may be laid from."""

    out: CameOut
    look: ViewingConditions
    paints: tuple[Paint, ...] = ()
    back: bool = False  # whether the way back is wanted, or only a look at it


@dataclass(frozen=True, eq=False)
class WrongSeen:
    """What was foretold and what is there, (n, 3) encoded sRGB each, and a sentence on both.

    search : what is to be found, where that was asked.
    """

    asked: Wrong
    before: Array
    now: Array
    words: str
    search: WaySearch | None = None


def seen_wrong(asked: Wrong, should_continue: Callable[[], bool]) -> Iterator[WrongSeen]:
    """Yield how a passage came out beside what was foretold, and the search for the way back."""
    out, look = asked.out, asked.look
    before = as_planned(out, look)
    now = as_it_is(out, before)
    if should_continue():
        search = way_back(out, asked.paints, Limits(), look) if asked.back else None
        yield WrongSeen(asked, srgb(before)[0], srgb(now)[0], how_wrong(out, look), search)


def way_back(
    out: CameOut, paints: tuple[Paint, ...], limits: Limits, look: ViewingConditions
) -> WaySearch:
    """Return what is to be found: from what is there now to what was foretold.

    What came out is put down to more or less paint of the coat laid last, if that explains it;
    else to a colour of unknown layers.
    """
    before = as_planned(out, look)
    now = as_it_is(out, before)
    start = _started(out, now, out.plan.rack(), look)
    places = np.linspace(0, 1, _WANTED) if _uneven(before) else np.array([0.5])
    wanted = []
    for place in places:
        wanted.append(Target(round(float(place), 4), _at(before, float(place))))
    passage = out.plan.passages[out.passage]
    return WaySearch(
        out.plan, out.passage, (start,), paints, limits, look, rescue=True,
        wanted=tuple(wanted), rest=passage.coats[out.laid :],
        now=() if start != out.meant else tuple(_at(now, place) for place in places),
    )  # fmt: skip


def _at(labs: Array, place: float) -> Lab:
    L, a, b = (round(float(np.interp(place, axis(_PLACES), labs[:, i])), 2) for i in range(3))
    return L, a, b


def _uneven(labs: Array) -> bool:
    return float(ciede2000(labs, labs[len(labs) // 2]).max()) > CLOSE_DE00


def _started(
    out: CameOut, now: Array, paints: Mapping[str, Paint], look: ViewingConditions
) -> Passage:
    """Return the passage as it is now, of coats or of a measured colour."""
    meant = out.meant
    best: tuple[float, Passage] | None = None
    if meant.coats:
        last = meant.coats[-1]
        for more in _MORE:
            thinning = (1 + last.mixture.thinning) / float(more) - 1
            if thinning < 0:
                continue
            coat = edits.with_thinning(last, round(thinning, 2))
            tried = replace(meant, coats=(*meant.coats[:-1], coat))
            seen = predict(tried, paints, axis(_PLACES), _FLAT, look).lab[:, 0]
            off = float(ciede2000(seen, now).mean())
            if best is None or off < best[0]:
                best = off, tried
    # Words are rough; a colour that was read off the figure is not.
    near = _ROUGH_DE00 if out.seen is None else MET_DE00
    if best is not None and best[0] <= near:
        return best[1]
    if _uneven(now):
        return meant  # place by place it is a colour of unknown layers
    L, a, b = (round(float(v), 2) for v in now[len(now) // 2])
    return replace(meant, ground=Ground("white", measured=(L, a, b)), coats=())


def how_wrong(out: CameOut, look: ViewingConditions) -> str:
    """Return how far what is there now is from what was foretold, as a sentence."""
    before = as_planned(out, look)
    off = float(ciede2000(as_it_is(out, before), before).mean())
    last = out.meant.coats[-1] if out.meant.coats else None
    name = mixture_words(last.mixture) if last is not None else tr("the ground")
    if off < DIFFER_DE00:
        return tr("That is within dE {0:.1f} of what was planned; nobody will see it.").format(off)
    return tr("After {0} it is a {1} step (dE {2:.0f}) from what was planned.").format(
        name, tr("clear") if off < _STRONG else tr("strong"), off
    )
