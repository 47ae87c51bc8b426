"""The painter's own hand, from strips of a paint that is known: film per pass, and how it strays.

Strength and film cannot be told apart from one paint: a rich hand with a weak paint leaves the
same as a poor hand with a strong one. So strips tell of the hand only where the paint was measured
before, with another tool or by somebody else; how far passes stray shows with any paint.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.grid import BANDS
from zesty_veil.log.card import Card, check_card
from zesty_veil.log.fit import fit
from zesty_veil.log.prior import Prior
from zesty_veil.log.trust import validate_cards
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import OwnTool
from zesty_veil.tr import tr

_HAND_SD = 0.5
_USUAL_CV, _AS_GOOD_AS = 0.3, 4.0  # what is known of any hand, worth so many strips
_SURE_SD = 0.25  # of a strip's log film: worse ones hide what lies on them
LEAST_STRIPS = 2


class HandFound(NamedTuple):
    """What strips tell: the tool as this hand leads it, and how many strips could be read."""

    own: OwnTool
    strips: int
    worst_de: float


def hand_from(cards: Sequence[Card], paint: Paint) -> HandFound:
    """Return how a hand leads one tool, from strips of a known paint.

    Raises
    ------
    InputError
        If the cards are of several tools or another paint, or no strip shows how thick it lies.
    """
    for card in cards:
        check_card(card)
    validate_cards(cards)
    if len({card.tool for card in cards}) > 1:
        raise InputError(tr("The strips are laid with several tools; read those of one at a time."))
    if not paint.spread:
        raise InputError(
            tr(
                "{0} was not measured, so thick films cannot be told from strong paint; "
                "measure it first, then lay strips of it."
            ).format(paint.name)
        )
    modes = np.array(paint.spread)
    spectra = np.log(np.maximum([*paint.mu_a, *paint.mu_s], 1e-4))
    before = Prior(spectra, modes.T @ modes + 1e-4 * np.eye(2 * BANDS))
    found = fit(cards, before, paint.finish, _HAND_SD)
    sure = found.strips_sd < _SURE_SD
    if int(sure.sum()) < LEAST_STRIPS:
        raise InputError(
            tr(
                "{0} hides too soon to show how thick it lies; lay strips of a transparent "
                "paint, or thin it more."
            ).format(paint.name)
        )
    passes = found.down.passes[sure]
    laid = passes * np.exp(found.strips[sure])
    film = float(laid.sum() / passes.sum())
    # A strip of n passes strays by cv / sqrt(n); what the reading itself is off is taken away.
    off = (laid / passes / film - 1) ** 2 * passes
    read = found.strips_sd[sure] ** 2 * passes
    spread = np.maximum(off - np.minimum(read, 0.5 * off), 0.0)
    cv2 = (_AS_GOOD_AS * _USUAL_CV**2 + float(spread.sum())) / (_AS_GOOD_AS + passes.size - 1)
    own = OwnTool(cards[0].tool, round(film, 3), round(float(np.sqrt(cv2)), 3))
    return HandFound(own, int(sure.sum()), float(found.de.max()))
