"""The paints at hand, with what is known of how they look."""

from __future__ import annotations

from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.paint.paint import Paint
from zesty_veil.services.forecast import Swatch

_MOST_LATELY = 5


class RackView:
    """What menus and cards show of the rack; `swatches` comes with each forecast."""

    def __init__(self, document: Document, user_store: UserStore) -> None:
        self._document, self.user_store = document, user_store
        self.swatches: dict[Paint, Swatch] = {}
        self.lately: tuple[str, ...] = ()  # names of paints taken, the last one first

    def paints(self) -> tuple[Paint, ...]:
        """Return the paints at hand in the order of the rack; the plan's own come last.

        Where the plan holds a paint under a name of the rack, the plan's is the one that counts.
        """
        held = self._document.plan.rack()
        racked = self.user_store.own_paints()
        names = {paint.name for paint in racked}
        own = (paint for paint in held.values() if paint.name not in names)
        return (*(held.get(paint.name, paint) for paint in racked), *own)

    def used(self) -> frozenset[str]:
        """Return the names of the paints that the open plan holds."""
        return frozenset(self._document.plan.rack())

    def took(self, paint: Paint) -> None:
        """Remember that a paint was taken, to offer it among the first."""
        others = tuple(name for name in self.lately if name != paint.name)
        self.lately = (paint.name, *others)[:_MOST_LATELY]

    def swatch(self, paint: Paint) -> Swatch | None:
        """Return how the usual coat of a paint looks, if that is computed already."""
        return self.swatches.get(paint)
