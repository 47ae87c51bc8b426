"""A painted card to try the simulated meter on: another pot of a paint, another hand's films."""

from __future__ import annotations

import numpy as np

from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.log.card import Backing, Card, Patch
from zesty_veil.log.drawdown import CARD_BLACK, CARD_WHITE, drawdown, reflectance
from zesty_veil.paint.paint import Paint

_LOT, _TILT, _HAND = 0.15, 0.15, 0.12


class SimulatedCard:
    """A card that nobody painted: `reflectance` tells what a meter on one of its patches sees.

    Parameters
    ----------
    paint
        What it is painted with; its strength and hue differ a little, as one lot does from another.
    card
        How it was laid; its patches do not count.
    """

    def __init__(self, paint: Paint, card: Card) -> None:
        rng = np.random.default_rng([7, *paint.name.encode()])
        tilt = (wavelengths() - 555) / 175
        off = rng.normal(0, _LOT, 2)[:, None] + rng.normal(0, _TILT, 2)[:, None] * tilt
        spectra = np.log(np.maximum([paint.mu_a, paint.mu_s], 1e-4))
        self._theta = np.concatenate(spectra + off)
        self._k_f, self._card = paint.finish, card
        self._films = rng.normal(0, _HAND, 100)

    def reflectance(self, backing: Backing, passes: int) -> Array:
        """Return what is seen of a patch, (36,)."""
        if passes == 0:
            bare = CARD_WHITE if backing == "white" else CARD_BLACK
            return np.full(BANDS, bare)
        patch = Patch(backing, passes, (50.0, 0.0, 0.0))
        card = Card(self._card.paint, self._card.kind, (patch,), thinner=self._card.thinner,
                    thinning=self._card.thinning, tool=self._card.tool)  # fmt: skip
        films = np.array([self._films[passes % 100]])
        return np.asarray(reflectance(drawdown([card]), self._theta, films, self._k_f)[0])
