"""From cards to a paint of the rack: the fit, its spread, and what the cards cannot tell."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zesty_veil.light.grid import BANDS, Array
from zesty_veil.log.card import Card, check_card
from zesty_veil.log.fit import Fit, fit
from zesty_veil.log.prior import prior
from zesty_veil.log.spread import modes_of, seen_slopes
from zesty_veil.log.trust import validate_cards, validate_fit
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import KINDS
from zesty_veil.paint.paint import Paint


@dataclass(frozen=True, eq=False)
class Measured:
    """A paint as cards tell it.

    `sure_de` is how far its drawdowns may be off, as the median of dE00 over thin, one and thick
    coats on white and on black; `unknown` are sentences on what the cards cannot tell.
    """

    paint: Paint
    fit: Fit
    sure_de: tuple[float, float]  # over white, over black
    unknown: tuple[str, ...]


def likely(card: Card) -> Paint:
    """Return what is likely of a paint of which only kind and pigments are known.

    Its patches are not read.

    Raises
    ------
    InputError
        If paints of its kind are not known by films alone.
    """
    validate_cards([card])
    before = prior(card.kind, card.pigments)
    modes = modes_of(before.mean, before.covariance)
    finish = FINISHES[card.finish or KINDS[card.kind].finish]
    return _paint(card, before.mean, modes, finish)


def measured(cards: Sequence[Card]) -> Measured:
    """Return the paint that some cards tell of.

    Raises
    ------
    InputError
        If a card, or what comes of it, cannot be trusted; with the reason.
    """
    for card in cards:
        check_card(card)
    validate_cards(cards)
    found = fit(cards)
    validate_fit(found, cards)
    first = cards[0]
    modes = modes_of(found.theta, found.covariance)
    paint = _paint(first, found.theta, modes, round(found.k_f, 4))
    white, black = _sure(found.theta, modes)
    return Measured(paint, found, (white, black), _unknown(cards, black))


def _paint(card: Card, theta: Array, modes: Array, finish: float) -> Paint:
    return Paint(
        name=card.paint,
        kind=card.kind,
        pigments=card.pigments,
        mu_a=_numbers(np.exp(theta[:BANDS])),
        mu_s=_numbers(np.exp(theta[BANDS:])),
        finish=finish,
        maker=card.maker,
        spread=tuple(_numbers(mode) for mode in modes),
    )


def _sure(theta: Array, modes: Array) -> tuple[float, float]:
    """Return how far Lab strays over white and over black, median of the reference coats."""
    moved = (seen_slopes(theta) @ modes.T).reshape(-1, 2, 3, len(modes))
    size = 0.8 * np.sqrt((moved**2).sum(axis=(2, 3)))  # the median of a length is below its sd
    return float(np.median(size[:, 0])), float(np.median(size[:, 1]))


def _unknown(cards: Sequence[Card], black: float) -> tuple[str, ...]:
    seen = {(patch.backing, patch.passes) for card in cards for patch in card.patches}
    out = []
    if not any(backing == "black" and passes for backing, passes in seen):
        out.append(
            "It was read over white only: how well it hides, and how it looks over dark, is a "
            f"guess from its kind (over black within dE {black:.0f}). Lay a pass over black too."
        )
    elif not any(backing == "white" and passes for backing, passes in seen):
        out.append(
            "It was read over black only: how deep its colour goes over light is a guess from its "
            "kind. Lay one pass over white as well."
        )
    if len({passes for _, passes in seen if passes}) == 1:
        out.append(
            "It was read at one number of passes only, so an uneven film passes for a strong or a "
            "weak paint. Lay a strip of 2 and one of 4 passes."
        )
    if not cards[0].pigments:
        out.append("No pigment code was given, so its spectrum is a guess; codes sharpen it.")
    return tuple(out)


def _numbers(values: Array, digits: int = 5) -> tuple[float, ...]:
    return tuple(float(f"{v:.{digits}g}") for v in values)
