"""What can stand in the way of a colour, as kinds, and the sentences made of them."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from zesty_veil.paint.paint import Paint
from zesty_veil.tr import tr


class Reason(Enum):
    """What can stand in the way of a colour."""

    BRIGHTER_THAN_WHITE = auto()
    TOO_DARK = auto()
    TOO_LIGHT = auto()
    NOT_PURE = auto()
    NO_SUCH_HUE = auto()
    GROUND = auto()
    SHOWS_THROUGH = auto()
    NEIGHBOURS = auto()
    FLUORESCENT = auto()
    TOGETHER = auto()


@dataclass(frozen=True)
class Obstacle:
    """What stands in the way of a colour, and by how much: L, C, degrees or dE00 by its kind."""

    kind: Reason
    by: float = 0.0

    @property
    def words(self) -> str:
        """Return it as a sentence."""
        return _sentences()[self.kind].format(self.by)


def _sentences() -> dict[Reason, str]:
    return {
        Reason.BRIGHTER_THAN_WHITE: tr(
            "It is brighter than white; only a fluorescent paint can be that."
        ),
        Reason.TOO_DARK: tr("It stays too dark: L is {0:.0f} short."),
        Reason.TOO_LIGHT: tr("It stays too light: L is {0:.0f} over."),
        Reason.NOT_PURE: tr("No paint at hand is pure enough: chroma is {0:.0f} short."),
        Reason.NO_SUCH_HUE: tr("No paint at hand has that hue: it is {0:.0f} degrees off."),
        Reason.GROUND: tr(
            "The ground is in the way: on white primer it would come within dE {0:.1f}."
        ),
        Reason.SHOWS_THROUGH: tr("What lies below shows through."),
        Reason.NEIGHBOURS: tr(
            "By itself it would come within dE {0:.1f}; the coats that lead to its neighbours "
            "stand in the way. Allow more coats."
        ),
        Reason.FLUORESCENT: tr("Only a fluorescent paint is as bright as this."),
        Reason.TOGETHER: tr("In so few coats these paints do not make this colour."),
    }


@dataclass(frozen=True)
class WhyNot:
    """What stands in the way of a colour.

    delta_e : how far the nearest way is, in L, C (signed: below 0 it falls short) and h (degrees).
    paint : what added to the rack would help most, if anything, and how far off the best would
    then be.
    """

    delta_e: tuple[float, float, float]
    obstacles: tuple[Obstacle, ...]
    paint: Paint | None = None
    with_paint: float = 0.0

    @property
    def reasons(self) -> tuple[str, ...]:
        """Return the obstacles as sentences."""
        return tuple(each.words for each in self.obstacles)
