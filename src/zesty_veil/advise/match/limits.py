"""What a painter can and will do: the limits that no answer may break."""

from __future__ import annotations

from dataclasses import dataclass

from zesty_veil.errors import InputError
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import MOST_PASSES
from zesty_veil.tr import tr

# What lies on most benches; sponge, stipple and sprays must be asked for.
USUAL_TOOLS = ("loaded", "glaze", "wash", "contrast")
# Deeper searches take longer than anybody waits, and no painter lays that many for one colour.
MOST_COATS_IN_WAY = 10


@dataclass(frozen=True)
class Limits:
    """Limits on an answer.

    coats, passes : at most so many coats, and passes of all coats together.
    minutes : at most so many, drying included; none for as long as it takes.
    mixes : at most so many pots that are mixed of two paints.
    tools : at hand, by their short names.
    again : coats of one mixture count as one, as more of its passes, further in. A new mixture
    then has to earn its place.
    """

    coats: int = 4
    passes: int = 24
    minutes: float | None = None
    mixes: int = 2
    tools: tuple[str, ...] = USUAL_TOOLS
    again: bool = False

    def __post_init__(self) -> None:
        """Refuse limits that allow nothing or too much.

        Raises
        ------
        InputError
            With one sentence that says which, and what it should be.
        """
        if not 1 <= self.coats <= MOST_COATS_IN_WAY:
            raise InputError(
                tr("At most {0} coats: it must be from 1 to {1}.").format(
                    self.coats, MOST_COATS_IN_WAY
                )
            )
        if not 1 <= self.passes <= MOST_PASSES * MOST_COATS_IN_WAY:
            raise InputError(tr("At most {0} passes: it must be 1 or more.").format(self.passes))
        if self.minutes is not None and not self.minutes > 0:
            raise InputError(
                tr("At most {0:g} minutes: it must be more than 0.").format(self.minutes)
            )
        if self.mixes < 0:
            raise InputError(tr("At most {0} mixes: it must be 0 or more.").format(self.mixes))
        unknown = [tool for tool in self.tools if tool not in tools()]
        if unknown or not self.tools:
            what = f"'{unknown[0]}' is no tool" if unknown else "No tool is at hand"
            raise InputError(tr("{0}; use some of {1}.").format(what, ", ".join(tools())))
