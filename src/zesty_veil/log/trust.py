"""Whether a card can be trusted: what in it cannot be as it is said to be, and why.

The limits are chosen so that an uneven hand and a daylight photograph pass, and are checked with a
simulated painter; they are not from a publication.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.log.card import NOISE, Card, Patch
from zesty_veil.log.fit import Fit
from zesty_veil.paint.kinds import KINDS
from zesty_veil.tr import tr

_SWAPPED_L = 4.0  # how much darker white may be than black, by noise
_PATCH_DE = 6.0  # how far one patch may lie from the fit
_WHOLE_DE = 3.5  # how far half of the patches may
_STRAYS = 3.8  # how many standard deviations a strip's film may stray
_TOGETHER = 6.0  # and all of them, in standard deviations of their sum of squares


def validate_cards(cards: Sequence[Card]) -> None:
    """Refuse cards that cannot be fitted at all.

    Raises
    ------
    InputError
        With one sentence: what does not fit, and what to do.
    """
    first = cards[0]
    if KINDS[first.kind].unfit:
        raise InputError(
            tr(
                "{0} is {1}, and a card cannot measure it: {2}; keep it as the rack has it, or "
                "start from a paint like it."
            ).format(first.paint, first.kind, KINDS[first.kind].unfit)
        )
    for card in cards:
        if (card.paint, card.kind) != (first.paint, first.kind):
            raise InputError(
                tr("The cards are of {0} and of {1}; fit one paint at a time.").format(
                    first.paint, card.paint
                )
            )
        _halves(card)


def validate_fit(found: Fit, cards: Sequence[Card]) -> None:
    """Refuse a fit that cannot be trusted; raises InputError with the reason and what to do."""
    # What was in doubt from the start counted little, and may lie far off.
    sound = np.flatnonzero([not patch.doubt for patch in found.down.patches])
    de = found.de[sound]
    usual = max(NOISE[card.source] for card in cards)
    if de.size and float(np.median(de)) > max(_WHOLE_DE, 3 * usual):
        raise InputError(
            tr(
                "No paint looks like this card: half of its patches are more than dE {0:.1f} "
                "off. Check its thinning, its kind and the light, and read it again."
            ).format(np.median(de))
        )
    worst = int(np.argmax(de)) if de.size else 0
    rest = float(np.median(np.delete(de, worst))) if de.size > 1 else 0.0
    if de.size and de[worst] > max(_PATCH_DE, 3 * rest, 5 * usual):
        raise InputError(
            tr(
                "The patch {0} lies dE {1:.0f} from what the others say: glare, a hair or a "
                "skin of dried paint may lie there. Read or paint it again, or leave it out."
            ).format(_name(found.down.patches[sound[worst]]), de[worst])
        )
    _strips(found)


def _halves(card: Card) -> None:
    by_place: dict[tuple[str, int], list[Array]] = {}
    for patch in card.patches:
        by_place.setdefault((patch.backing, patch.passes), []).append(patch.colour)
    L = {place: float(np.mean([c[0] for c in colours])) for place, colours in by_place.items()}
    for backing, passes in L:
        if backing != "white" or ("black", passes) not in L:
            continue
        if L["white", passes] < L["black", passes] - _SWAPPED_L:
            raise InputError(
                tr(
                    "With {0} the white half is darker (L {1:.0f}) than the black half (L "
                    "{2:.0f}): the halves seem to be mixed up. Turn the card, or swap the two."
                ).format(_count(passes), L["white", passes], L["black", passes])
            )


def _strips(found: Fit) -> None:
    """Refuse strips that hold far more or less paint than their passes say."""
    strips = np.unique(found.down.strip)
    at = [int(np.flatnonzero(found.down.strip == s)[0]) for s in strips]
    # Strips are compared with each other: that all hold more is the paint's strength.
    z = found.films[at] / found.film_sd[at]
    worst = int(np.argmax(np.abs(z)))
    together = (float(z @ z) - z.size) / np.sqrt(2 * z.size)
    if abs(z[worst]) > _STRAYS or together > _TOGETHER:
        passes = int(found.down.passes[strips[worst]])
        more = float(np.exp(found.films[at[worst]]))
        raise InputError(
            tr(
                "The strip of {0} holds {1:.1f} times the paint that the others lead to "
                "expect: the strips seem to be in another order, or a pass was left out. Check "
                "which is which."
            ).format(_count(passes), more)
        )


def _name(patch: Patch) -> str:
    return f"over {patch.backing} with {_count(patch.passes)}"


def _count(passes: int) -> str:
    return "no pass" if not passes else f"{passes} pass{'es' if passes > 1 else ''}"
