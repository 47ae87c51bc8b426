"""Fitting a paint to its cards, without Qt and away from its thread."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from zesty_veil.errors import VeilError
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.log.card import Card
from zesty_veil.log.drawdown import reflectance
from zesty_veil.log.drawn import DrawdownMix, paint_drawdown
from zesty_veil.log.fit import fitted_lab
from zesty_veil.log.measured import Measured, measured
from zesty_veil.paint.paint import Paint


@dataclass(frozen=True)
class Fitting:
    """Cards of one paint, and the paint as it was, if it was known."""

    cards: tuple[Card, ...]
    before: Paint | None = None


@dataclass(frozen=True, eq=False)
class Fitted:
    """What came of a fit: the paint, or why not; and how all of it looks.

    fitted : (p, 3) encoded sRGB of the painted patches as the fit has them; before, after :
    (2, 5, 3) drawdowns, neat.
    """

    asked: Fitting
    found: Measured | None
    refused: str = ""
    fitted: Array | None = None
    before: Array | None = None
    after: Array | None = None


def fittings(asked: Fitting, should_continue: Callable[[], bool]) -> Iterator[Fitted]:
    """Yield what cards tell of a paint."""
    before = (
        None if asked.before is None else srgb(paint_drawdown(asked.before, DrawdownMix()).lab)[0]
    )
    try:
        found = measured(asked.cards)
    except VeilError as error:
        yield Fitted(asked, None, str(error), before=before)
        return
    fit = found.fit
    colours = fitted_lab(reflectance(fit.down, fit.theta, fit.films, fit.k_f))
    after = srgb(paint_drawdown(found.paint, DrawdownMix()).lab)[0]
    yield Fitted(asked, found, "", np.asarray(srgb(colours)[0]), before, after)
