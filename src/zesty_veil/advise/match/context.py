"""Where recipes are looked for: ground, paints, limits, look, and layers worked out so far."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.bank import Bank, bank, reshaped
from zesty_veil.advise.match.choices import tuned
from zesty_veil.advise.match.difference import delta_e
from zesty_veil.advise.match.limits import Limits
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.sure import FILM_CV

ANYWHERE = Passage("matched")


class MatchContext:
    """What coats are tried on; it keeps the layers that it has worked out.

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
        """Return a context like this one with one paint more."""
        paints = (*self.paints.values(), paint)
        return MatchContext(self.ground, paints, self.limits, self.look, self.relief, self.passage)

    def bank(self, coats: Sequence[Coat]) -> Bank:
        """Return coats worked out for this context."""
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


def _flat(state: StackOptics) -> bool:
    return int(state.finish.shape[1]) == 1
