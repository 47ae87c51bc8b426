"""Tuning a stack: coats swapped for others, then thinnings and passes of two coats at once.

A painter's numbers are few: drops are whole, passes are whole, nobody thins to 2.37 parts. So what
is tuned over is those numbers themselves, all of them for each two coats at once, and what comes
out needs no rounding that would spoil it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.bank import Bank, bank, reshaped
from zesty_veil.advise.match.choices import tuned
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.limits import Limits
from zesty_veil.light.grid import Array
from zesty_veil.optics.bispectral import concatenated
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.sure import FILM_CV

# A minute of work weighs as much as this much dE: of two ways as near, the shorter is taken.
MINUTE_DE00 = 0.002
# Where one mixture may be laid again and again, a new one must better the sum of squares by this.
_NEW_MIXTURE = 2.0
_SWEEPS = 2
ANYWHERE = Passage("matched")


class MatchContext:
    """What a stack is tuned on; it keeps the layers that it has worked out.

    Parameters
    ----------
    ground
        Of leading shape (1, 1).
    paints, limits, look
        What is at hand, what may be done, how it is looked at.
    relief
        Of the place that is matched.
    passage
        Tells how long a coat takes.
    """

    def __init__(
        self,
        ground: StackOptics,
        paints: Sequence[Paint],
        limits: Limits,
        look: ViewingConditions,
        relief: float = 0.0,
        passage: Passage = ANYWHERE,
    ) -> None:
        self.ground, self.limits, self.look = ground, limits, look
        self.relief, self.passage = relief, passage
        self.paints = {paint.name: paint for paint in paints}
        self._tuned: dict[Coat, Bank] = {}
        self._alone: dict[Coat, Bank] = {}
        # Where a coat has been worked out together with others.
        self._among: dict[Coat, tuple[Bank, int]] = {}
        self._minutes: dict[Coat, float] = {}

    def with_paint(self, paint: Paint) -> MatchContext:
        """Return a bench like this one with one paint more."""
        paints = (*self.paints.values(), paint)
        return MatchContext(self.ground, paints, self.limits, self.look, self.relief, self.passage)

    def bank(self, coats: Sequence[Coat]) -> Bank:
        """Return coats worked out for this bench."""
        metal = self.ground.mirror is not None
        made = bank(coats, self.paints, self.relief, self.passage, metal)
        self._among.update((coat, (made, number)) for number, coat in enumerate(coats))
        return made

    def tuned(self, coat: Coat) -> Bank:
        """Return a coat over all thinnings and passes."""
        plain = Coat(Mixture(coat.mixture.parts), coat.tool)
        if plain not in self._tuned:
            self._tuned[plain] = self.bank(tuned(plain))
        return self._tuned[plain]

    def alone(self, coat: Coat) -> Bank:
        """Return a bank of one coat."""
        if coat not in self._alone:
            if coat not in self._among:
                self.bank((coat,))
            among, number = self._among[coat]
            self._alone[coat] = among.only(number)
        return self._alone[coat]

    def on(self, coats: tuple[Coat, ...], state: StackOptics) -> StackOptics:
        """Return stacks of leading shape (n, k) with some coats on all of them."""
        for coat in coats:
            state = self.alone(coat).one_on(state, 0) if _flat(state) else self._each(coat, state)
        return state

    def _each(self, coat: Coat, state: StackOptics) -> StackOptics:
        n, k = state.finish.shape
        return reshaped(self.alone(coat).one_on(reshaped(state, n * k, 1), 0), n, k)

    def each(self, coats: tuple[Coat, ...]) -> list[Bank]:
        """Return coats as banks of one each."""
        return [self.alone(coat) for coat in coats]

    def labs(self, options: Bank, state: StackOptics, over: tuple[Coat, ...]) -> Array:
        """Return CIELAB of options on stacks (n, 1), under more coats, (n, options, 3)."""
        out = np.empty((state.finish.shape[0], len(options.coats), 3))
        for numbers, labs in options.labs_on(state, self.look, self.each(over)):
            out[:, numbers] = labs
        return out

    def fits(self, coats: tuple[Coat, ...]) -> bool:
        """Tell whether coats keep to the limits."""
        limits = self.limits
        laid = once_each(coats) if limits.again else coats
        return (
            len(laid) <= limits.coats
            and sum(coat.passes for coat in coats) <= limits.passes
            and len({c.mixture.parts for c in laid if len(c.mixture.parts) > 1}) <= limits.mixes
            and (limits.minutes is None or self.minutes(coats) <= limits.minutes)
        )

    def effort(self, coats: tuple[Coat, ...]) -> float:
        """Return what coats cost, in the squares of dE00: minutes, and new mixtures."""
        mixtures = len(once_each(coats)) if self.limits.again else 0
        return MINUTE_DE00 * self.minutes(coats) + _NEW_MIXTURE * mixtures

    def added(self, coats: tuple[Coat, ...], options: Bank) -> Array:
        """Return what each of some options costs as the next coat, (options,), as `effort` does."""
        effort = MINUTE_DE00 * options.cost.minutes
        if not self.limits.again:
            return effort
        known = {coat.mixture for coat in coats}
        new = [coat.mixture not in known for coat in options.coats]
        return np.asarray(effort + _NEW_MIXTURE * np.array(new))

    def sensitivity(self, coats: tuple[Coat, ...], ground: StackOptics) -> float:
        """Return how far one usual deviation of each coat's film leads, all together, dE00.

        `ground` is of leading shape (1, 1).
        """
        lab = colours(self.on(coats, ground), self.look)[0][0, 0]
        total = 0.0
        for i, coat in enumerate(coats):
            changed = self.on((*coats[:i], strayed(coat), *coats[i + 1 :]), ground)
            total += float(delta_e(colours(changed, self.look)[0][0, 0], lab)) ** 2
        return float(np.sqrt(total))

    def minutes(self, coats: tuple[Coat, ...]) -> float:
        """Return the minutes of coats, drying included."""
        total = 0.0
        for coat in coats:
            if coat not in self._minutes:
                self._minutes[coat] = whole(coat, self.passage)
            total += self._minutes[coat]
        return total


def once_each(coats: tuple[Coat, ...]) -> tuple[Coat, ...]:
    """Return coats without those that lay a mixture again."""
    return tuple({coat.mixture: coat for coat in reversed(coats)}.values())


def strayed(coat: Coat) -> Coat:
    """Return a coat with a usual deviation more paint in it; a neat one with as much less."""
    # Passes stray each by itself, so that many stray less than one.
    more = FILM_CV["ordinary"] / coat.passes**0.5
    thinning = (1 + coat.mixture.thinning) / (1 + more) - 1
    if thinning < 0:
        thinning = (1 + coat.mixture.thinning) * (1 + more) - 1
    return replace(coat, mixture=replace(coat.mixture, thinning=thinning))


Aim = Callable[[Array], Array]


def near(wanted: Array) -> Aim:
    """Return what tells how far colours (..., 3) are from a wanted one, dE00 (...)."""
    return lambda lab: delta_e(lab, wanted)


def polished(
    coats: tuple[Coat, ...],
    bench: MatchContext,
    aim: Aim,
    swaps: Bank | None,
    should_continue: Callable[[], bool],
) -> tuple[Coat, ...]:
    """Return coats tuned until nothing small makes them better, within the limits.

    Parameters
    ----------
    coats
        From the ground up.
    bench, aim
        What they are tuned on, and for.
    swaps
        Coats that one of them may be swapped for; none to keep the paints.
    should_continue
        Asked between the steps; when it says no, what there is by then is returned.
    """
    for _ in range(_SWEEPS):
        before = coats
        for i in range(len(coats)):
            if swaps is not None:
                coats = _swapped(coats, i, bench, aim, swaps, should_continue)
        pairs = [(i, j) for j in range(len(coats)) for i in range(j)] or [(0, 0)]
        for i, j in reversed(pairs):
            if should_continue():
                coats = _pair(coats, i, j, bench, aim)
        if coats == before:
            break
    return coats


def score(coats: tuple[Coat, ...], bench: MatchContext, aim: Aim) -> float:
    """Return what is made small: dE00, and a little for every minute."""
    lab = colours(bench.on(coats, bench.ground), bench.look)[0]
    return float(aim(lab).max()) + MINUTE_DE00 * bench.minutes(coats)


def _swapped(
    coats: tuple[Coat, ...],
    at: int,
    bench: MatchContext,
    aim: Aim,
    swaps: Bank,
    should_continue: Callable[[], bool],
) -> tuple[Coat, ...]:
    """Return coats with one swapped for whatever of a bank does best in its place."""
    below = bench.on(coats[:at], bench.ground)
    best, now = coats, score(coats, bench, aim)
    for numbers, labs in swaps.labs_on(below, bench.look, bench.each(coats[at + 1 :])):
        if not should_continue():
            break
        off = aim(labs)[0]
        cost = MINUTE_DE00 * (swaps.cost.minutes[numbers] - bench.minutes(coats[at : at + 1]))
        for k in np.argsort(off + cost, kind="stable")[:4]:
            tried = (*coats[:at], swaps.coats[numbers[k]], *coats[at + 1 :])
            if bench.fits(tried):
                found = score(tried, bench, aim)
                if found < now - 1e-9:
                    best, now = tried, found
                break
    return best


def _pair(
    coats: tuple[Coat, ...], i: int, j: int, bench: MatchContext, aim: Aim
) -> tuple[Coat, ...]:
    """Return coats with thinnings and passes of two of them the best that there are together."""
    lower = bench.tuned(coats[i])
    below = bench.on(coats[:i], bench.ground)
    if i == j:
        labs = bench.labs(lower, below, coats[j + 1 :])[0][:, None]
        upper = None
    else:
        upper = bench.tuned(coats[j])
        first = _joined(list(lower.all_on(below)), len(lower.coats))
        between = bench.on(coats[i + 1 : j], first)
        labs = bench.labs(upper, reshaped(between, len(lower.coats), 1), coats[j + 1 :])
    minutes = lower.cost.minutes[:, None] + (0 if upper is None else upper.cost.minutes)
    total = aim(labs) + MINUTE_DE00 * minutes
    best, now = coats, score(coats, bench, aim)
    order = np.argsort(total, axis=None, kind="stable")
    for flat in order[:200]:
        a, b = divmod(int(flat), labs.shape[1])
        tried = list(coats)
        tried[i] = lower.coats[a]
        if upper is not None:
            tried[j] = upper.coats[b]
        if bench.fits(tuple(tried)):
            found = score(tuple(tried), bench, aim)
            return tuple(tried) if found < now - 1e-9 else best
    return best


def _joined(parts: list[tuple[np.ndarray, StackOptics]], count: int) -> StackOptics:
    """Return the answers of a bank as one state (n, count), in the order of its coats."""
    if len(parts) == 1:
        return parts[0][1]
    order = np.argsort(np.concatenate([numbers for numbers, _ in parts]))
    states = [state for _, state in parts]
    shape = (states[0].finish.shape[0], count)
    R = concatenated([s.R for s in states], axis=1).some((slice(None), order))
    finish = np.concatenate([np.broadcast_to(s.finish, s.R.d.shape[:2]) for s in states], axis=1)[
        :, order
    ]
    mirrors = [s.mirror for s in states]
    mirror = None
    if mirrors[0] is not None:
        mirror = np.concatenate([m for m in mirrors if m is not None], axis=1)[:, order]
    assert finish.shape == shape
    return StackOptics(R, finish, mirror)


def _flat(state: StackOptics) -> bool:
    return int(state.finish.shape[1]) == 1
