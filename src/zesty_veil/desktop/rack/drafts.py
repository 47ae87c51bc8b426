"""Cards that were left before their paint was kept, to be gone on with. No Qt here but pictures."""

from __future__ import annotations

from typing import NamedTuple

from zesty_veil.desktop.kit.photos import Picture
from zesty_veil.log.card import Card, Patch

_MOST = 8  # a photograph among them may take some tens of megabytes


class Draft(NamedTuple):
    """A card as it was left, and its photograph."""

    card: Card
    picture: Picture | None


class Drafts:
    """Drafts by the name of their paint, "" for a new one; the oldest go."""

    def __init__(self) -> None:
        self._drafts: dict[str, Draft] = {}
        self._begun_with: frozenset[Patch] = frozenset()

    def taken_up(self, paint: str, card: Card | None) -> Draft | None:
        """Return the draft of a paint, if there is one; `card` is what its rack has of it."""
        self._begun_with = frozenset(card.patches) if card is not None else frozenset()
        return self._drafts.pop(paint, None)

    def put_down(self, paint: str, draft: Draft) -> None:
        """Keep a draft, if it is other than what the rack has."""
        if frozenset(draft.card.patches) == self._begun_with:
            return
        self._drafts[paint] = draft
        while len(self._drafts) > _MOST:
            del self._drafts[next(iter(self._drafts))]
