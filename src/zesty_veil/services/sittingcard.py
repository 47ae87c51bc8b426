"""What the card of a sitting tells about a pass, away from the interface thread. No Qt."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from dataclasses import replace as replace_look

import numpy as np
from msgspec.structs import replace

from zesty_veil.bench.air import Air
from zesty_veil.bench.amounts import Pot, pots
from zesty_veil.bench.resume import resumed
from zesty_veil.bench.sitting import Sitting, Where, begun, work_at
from zesty_veil.bench.steps import span_words
from zesty_veil.bench.tasks import SPRAYS, Pass, laid_on
from zesty_veil.light.grid import Array
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, Passage, Plan, ground_words
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.lay import thickness
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.thresholds import MILKY_L
from zesty_veil.tr import tr

_PLACES, _FLAT = 49, np.zeros(1)
_BRUSH = "Do not point the brush with your lips. The paint's label and safety sheet come first."
_SPRAY = (
    "Mask what must stay clean. Ventilated place, no flame, the respirator that the product's "
    "safety sheet names; its label and local rules come first."
)


@dataclass(frozen=True)
class Beginning:
    """A sitting that is to begin, or to go on from what is laid in one before."""

    plan: Plan
    air: Air
    now: float
    evening: float | None = None
    before: Sitting | None = None


@dataclass(frozen=True)
class Begun:
    """A sitting; dropped : how many laid passes of the one before it has no place for."""

    asked: Beginning
    sitting: Sitting
    dropped: int = 0


def beginning(asked: Beginning, should_continue: Callable[[], bool]) -> Iterator[Begun]:
    """Yield the sitting in the order that is done soonest.

    Raises
    ------
    InputError
        If there is nothing to lay, or an evening is too short for anything.
    """
    plan, air, evening = asked.plan, asked.air, asked.evening
    if asked.before is None:
        made = begun(plan, air, asked.now, should_continue, evening)
        found = None if made is None else (made, 0)
    else:
        found = resumed(asked.before, plan, air, should_continue, evening)
    if found is not None:
        yield Begun(asked, *found)


@dataclass(frozen=True)
class Telling:
    """A pass of a sitting that is to be told of."""

    plan: Plan
    what: Pass


@dataclass(frozen=True, eq=False)
class Told:
    """What to take, how to lay it, and how it should look, as (n, 3) encoded sRGB along the axis.

    before, dry, wet : now, after this pass when it is dry, and while it is wet. film : the mixture
    by itself over white, (3,). strata : how thick each coat up to this one lies along the axis,
    (coats, n), as square roots of micrometres, so that glazes are seen beside base coats.
    """

    telling: Telling
    passage: Passage
    coat: Coat
    pot: Pot
    before: Array
    dry: Array
    wet: Array
    film: Array
    strata: Array
    words: tuple[str, ...]
    caution: str


def telling(asked: Telling, should_continue: Callable[[], bool]) -> Iterator[Told]:
    """Yield what there is to tell of a pass."""
    plan, what = asked.plan, asked.what
    passage = plan.passages[what.passage]
    coat = laid_on(passage)[what.coat]
    pot = next(p for p in pots(plan, plan.rack()) if p.mixture == coat.mixture)
    if not should_continue():
        return
    before, dry, wet, film, milky = _colours(plan, passage, what)
    strata = strata_of(passage, what.coat + 1, _PLACES)
    words: tuple[str, ...] = (tool_words(coat), f"{span_words(coat, passage)}.".capitalize())
    if milky > MILKY_L:
        words = (*words, tr("Looks milky while it is wet, and clears as it dries."))
    caution = tr(_SPRAY if coat.tool in SPRAYS else _BRUSH)
    yield Told(asked, passage, coat, pot, before, dry, wet, film, strata, words, caution)


def _colours(plan: Plan, passage: Passage, what: Pass) -> tuple[Array, Array, Array, Array, float]:
    coats = list(laid_on(passage)[: what.coat + 1])
    last = coats.pop()
    now = [*coats, replace(last, passes=what.number)] if what.number else coats
    then = [*coats, replace(last, passes=what.number + 1)]
    rack, u = plan.rack(), axis(_PLACES)
    ground = replace(passage.ground, coats=())

    def seen(laid: list[Coat], look: ViewingConditions) -> Field:
        bare = replace(passage, ground=ground, coats=tuple(laid))
        return predict(bare, rack, u, _FLAT, look)

    usual, wet = ViewingConditions(plan.light), ViewingConditions(plan.light, finish="wet")
    alone = Coat(Mixture(last.mixture.parts, last.mixture.thinner), "loaded", 2)
    white = replace(passage, ground=replace(ground, primer="white"), coats=(alone,))
    film = predict(white, rack, np.zeros(1), _FLAT, usual).rgb[0, 0]
    fresh, clear = seen(then, wet), seen(then, replace_look(usual, finish="gloss"))
    rgb = [np.asarray(field.rgb[:, 0]) for field in (seen(now, usual), seen(then, usual), fresh)]
    milky = float((fresh.lab - clear.lab)[..., 0].max())  # how much lighter the latex makes it
    return rgb[0], rgb[1], rgb[2], np.asarray(film), milky


def strata_of(passage: Passage, count: int, places: int) -> Array:
    """Return how thick the first coats of a passage lie, (count, places), as roots of micrometres.

    Roots, so that a glaze is seen beside a base coat.
    """
    u = axis(places)
    out = []
    for coat in laid_on(passage)[:count]:
        # A coat that touches ridges or recesses alone is drawn where it lies.
        relief = np.array([RELIEF[coat.sites[0] if "flat" not in coat.sites else "flat"]])
        out.append(np.sqrt(1000 * thickness(coat, passage, u, relief).dry[:, 0]))
    return np.array(out)


def tool_words(coat: Coat) -> str:
    """Return the tool of a coat and how it is led, as a sentence."""
    words = tools()[coat.tool].label
    if coat.tool == "glaze":
        words += ": damp, not wet"
    if coat.stroke != "across":
        end = "light" if coat.stroke == "to light" else "far end"
        words += f"; end each stroke towards the {end}"
    if coat.wicked:
        words += "; take up puddles at once"
    if coat.nozzle is not None:
        words += f"; nozzle {abs(coat.nozzle):g} degrees from straight above"
    if coat.cover is not None:
        words += f"; touch about {100 * coat.cover:.0f} % of the area"
    return words[:1].upper() + words[1:] + "."


def pass_of(sitting: Sitting, where: Where) -> Pass:
    """Return which pass a piece of work is."""
    what = work_at(sitting, where).what
    assert isinstance(what, Pass)
    return what


def ground_of(passage: Passage) -> str:
    """Return the primer that must be there before."""
    return ground_words(replace(passage.ground, coats=()))
