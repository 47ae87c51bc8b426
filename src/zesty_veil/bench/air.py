"""How the air dries a film: minutes until the next one may go on, at a temperature and humidity.

References
----------
Water leaves a film as fast as the air lacks vapour (Dalton's law of evaporation, 1802). How much
it can hold follows the Magnus formula (WMO-No. 8, Guide to Instruments and Methods of Observation,
annex 4.B: 6.112 hPa, 17.62, 243.12 degrees). The minutes themselves, at 20 degrees and 50 %, and
all that is said of hairdryers, puddles and washes on top, are common practice.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.paint.laydown import pool
from zesty_veil.paint.tool import tools
from zesty_veil.plan.drying import Minutes, drying_minutes
from zesty_veil.plan.model import Coat
from zesty_veil.tr import tr

USUAL_C, USUAL_HUMIDITY = 20.0, 50.0
_COLDEST, _WARMEST, _DRIEST, _DAMPEST = 5.0, 40.0, 5.0, 95.0
# Paint from the pot is half water, about; a thinned one has so much more. From memory.
_WATER_IN_PAINT = 0.55
# What the usual minutes are for, in parts of thinner.
_USUAL_THINNING = {
    "loaded": 1.0,
    "glaze": 3.0,
    "wash": 0.0,
    "contrast": 0.0,
    "drybrush": 0.0,
    "airbrush": 2.0,
    "spray": 0.0,
}
# A film twice as thick takes nearly three times as long: its own skin is in the way. From memory.
_BY_FILM = 1.5
# Under a hairdryer held off it dries in so much of the time, but never at once.
_HAIRDRYER, _LEAST_MIN = 0.12, 0.25
# A flood of wash softens what is only just dry; it wants so many times as long.
_BEFORE_FLOOD = 3.0
# A drop of retarder keeps a film open about twice as long.
_RETARDER = 2.0
_HOT_AIR_TOOLS = frozenset({"spray"})


@dataclass(frozen=True)
class Air:
    """The air at the bench: degrees Celsius, relative humidity in %, and what else tells on drying.

    hairdryer : whether films are blown dry. retarder : whether a drop of it is in every mixture.
    """

    celsius: float = USUAL_C
    humidity: float = USUAL_HUMIDITY
    hairdryer: bool = False
    retarder: bool = False

    def __post_init__(self) -> None:
        """Refuse air that nobody paints in.

        Raises
        ------
        InputError
            With one sentence.
        """
        if not _COLDEST <= self.celsius <= _WARMEST:
            raise InputError(
                tr("At {0:g} degrees: it must be from {1:g} to {2:g}.").format(
                    self.celsius, _COLDEST, _WARMEST
                )
            )
        if not _DRIEST <= self.humidity <= _DAMPEST:
            raise InputError(
                tr("At {0:g} % humidity: it must be from {1:g} to {2:g}.").format(
                    self.humidity, _DRIEST, _DAMPEST
                )
            )


def vapour_pressure(celsius: float) -> float:
    """Return the pressure of water vapour that the air can hold, hPa (Magnus)."""
    return 6.112 * math.exp(17.62 * celsius / (243.12 + celsius))


def slower(air: Air) -> float:
    """Return how many times as long drying takes as at 20 degrees and 50 %, without a hairdryer."""
    usual = vapour_pressure(USUAL_C) * (1 - USUAL_HUMIDITY / 100)
    return usual / (vapour_pressure(air.celsius) * (1 - air.humidity / 100))


def recoat(coat: Coat, air: Air, film: float = 1.0) -> Minutes:
    """Return how long a pass of a coat must wait for the next film.

    Parameters
    ----------
    coat, air
        What dries, and where.
    film
        How thick the film is, as a share of what its tool usually leaves.
    """
    usual = _USUAL_THINNING.get(coat.tool, 1.0)
    wet = _water(coat.mixture.thinning) / _water(usual) * film**_BY_FILM * slower(air)
    if coat.wicked:
        # Its puddles are gone, so that the deepest film is no deeper than on a flat.
        wet *= float(1 / pool(tools()[coat.tool].pooling, np.array(-1.0))) ** _BY_FILM
    if air.hairdryer and coat.tool not in _HOT_AIR_TOOLS:
        wet *= _HAIRDRYER
    if air.retarder:
        wet *= _RETARDER
    least, most = (max(minutes * wet, _LEAST_MIN) for minutes in drying_minutes(coat))
    return Minutes(least, most)


def before_flood(coat: Coat, air: Air) -> Minutes:
    """Return how long a coat must wait before a wash or contrast paint may flood it."""
    least, most = recoat(coat, air)
    return Minutes(_BEFORE_FLOOD * least, _BEFORE_FLOOD * most)


def floods(coat: Coat) -> bool:
    """Tell whether a coat is flooded on, and softens what is only just dry."""
    return coat.tool in {"wash", "contrast"}


def _water(thinning: float) -> float:
    """Return the share of water in a wet film."""
    return (_WATER_IN_PAINT + thinning) / (1 + thinning)
