"""What stands on a plan's printed sheet: its pots, and each passage with its steps. No Qt."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.bench.air import Air, recoat
from zesty_veil.bench.amounts import Pot, pots, totals
from zesty_veil.bench.steps import span_words
from zesty_veil.bench.tasks import SPRAYS, laid_on, waits
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.plan.drying import Minutes
from zesty_veil.plan.model import (
    Coat,
    Passage,
    Plan,
    coat_name,
    ground_words,
)
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.onform import FormConditions
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.formpicture import form_layers, form_picture
from zesty_veil.services.planstate import plan_words
from zesty_veil.services.sittingcard import strata_of, tool_words
from zesty_veil.tr import counted, tr

PLACES, VALUES = 97, 9
_FORM_SIDE = 420  # pixels, at what a printer shows in 34 mm
_LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
_WHITE = 1.0
_CAUTIONS = (
    "Do not point a brush with the lips: some pigments are harmful if swallowed.",
    "Keep a hairdryer away from water.",
    "Each product's label and safety data sheet, and local rules, come first.",
)
_SPRAY = (
    "Spray in a ventilated place away from flames, with the respirator that the product's safety "
    "data sheet names."
)


@dataclass(frozen=True)
class SheetPot:
    """A mixture that is dripped out once: its letter, its drops by name, and who takes of it."""

    letter: str
    drops: tuple[tuple[str, int], ...]
    thinner: tuple[str, int] | None
    off: str
    serves: str


@dataclass(frozen=True)
class SheetStep:
    """A coat as a painter says it; a box is ticked for each of its passes."""

    number: int
    passes: int
    name: str
    pot: str
    words: tuple[str, ...]
    waits: str
    caution: str


@dataclass(frozen=True, eq=False)
class SheetPassage:
    """A passage: how it will look, what lies where, and its steps.

    ribbons : (3, n, 3) encoded sRGB of ridge, flat and recess. values : of the flat, at `VALUES`
    places. strata : (coats, n) square roots of micrometres. form : (m, m, 4) RGBA.
    """

    name: str
    words: str
    length_mm: float
    ribbons: Array
    values: tuple[float, ...]
    strata: Array
    form: npt.NDArray[np.uint8] | None
    steps: tuple[SheetStep, ...]


@dataclass(frozen=True, eq=False)
class Sheet:
    """All that is printed of a plan."""

    title: str
    words: str
    pots: tuple[SheetPot, ...]
    passages: tuple[SheetPassage, ...]
    amounts: str
    cautions: tuple[str, ...]


def sheet_of(plan: Plan, air: Air) -> Sheet:
    """Return what is printed of a plan.

    Raises
    ------
    PaintError, InputError
        If the plan cannot be predicted; see `predict.field.predict`.
    """
    found = pots(plan, plan.rack())
    letters = {pot.mixture: letter_of(number) for number, pot in enumerate(found)}
    sprays = any(coat.tool in SPRAYS for p in plan.passages for coat in laid_on(p))
    cautions = tuple(map(tr, (*((_SPRAY,) if sprays else ()), *_CAUTIONS)))
    words = tr("{0}; {1}. Seen in {2}. Films dry at {3:g} °C and {4:g} % humidity{5}.").format(
        counted(plan.figures, "{0} figure", "{0} figures"), plan_words(plan),
        tr(LIGHTS[plan.light]), air.celsius, air.humidity,
        tr(", blown dry") if air.hairdryer else "",
    )  # fmt: skip
    return Sheet(
        plan.title,
        words,
        tuple(_pot(plan, pot, letters[pot.mixture]) for pot in found),
        tuple(
            _passage(plan, index, air, [letters[coat.mixture] for coat in laid_on(passage)])
            for index, passage in enumerate(plan.passages)
        ),
        "; ".join(tr("{0} {1:.0f} µl").format(name, ul) for name, ul, _ in totals(plan)),
        cautions,
    )


def letter_of(number: int) -> str:
    """Return the letter of a pot by its number from 0.

    >>> letter_of(0), letter_of(25), letter_of(26)
    ('A', 'Z', 'AA')
    """
    return (
        _LETTERS[number]
        if number < len(_LETTERS)
        else letter_of(number // 26 - 1) + letter_of(number % 26)
    )


def _pot(plan: Plan, pot: Pot, letter: str) -> SheetPot:
    serves: dict[str, list[str]] = {}
    for passage, coat in pot.where:
        serves.setdefault(plan.passages[passage].name, []).append(str(coat + 1))
    told = "; ".join(f"{name} {', '.join(numbers)}" for name, numbers in serves.items())
    drops = pot.drops
    thinner = (pot.mixture.thinner, drops.thinner) if drops.thinner else None
    off = tr("rounded: dE {0:.1f}").format(drops.de00) if drops.de00 > 1 else ""
    return SheetPot(letter, drops.paints, thinner, off, told)


def _passage(plan: Plan, index: int, air: Air, letters: list[str]) -> SheetPassage:
    passage, rack = plan.passages[index], plan.rack()
    look = ViewingConditions(plan.light)
    field = predict(passage, rack, axis(PLACES), np.array([1.0, 0.0, -1.0]), look)
    places = np.linspace(0, 1, VALUES)
    coats = laid_on(passage)
    words = tr("{0:g} mm from the light to the far end, {1:g} mm², over {2}.").format(
        passage.length_mm, passage.area_mm2, ground_words(passage.ground)
    )
    form = form_picture(
        form_layers(plan, index, passage, plan.paints), _FORM_SIDE, look, FormConditions(),
        surround=_WHITE,
    )  # fmt: skip
    steps = tuple(
        _step(plan, passage, number, air, letters[number]) for number in range(len(coats))
    )
    return SheetPassage(
        passage.name, words, passage.length_mm, np.swapaxes(field.rgb, 0, 1),
        tuple(float(v) for v in np.interp(places, field.u, field.value[:, 1])),
        strata_of(passage, len(coats), PLACES), form, steps,
    )  # fmt: skip


def _step(plan: Plan, passage: Passage, number: int, air: Air, letter: str) -> SheetStep:
    coat = laid_on(passage)[number]
    words = [
        f"{counted(coat.passes, '{0} pass', '{0} passes')}, {_low(tool_words(coat))}",
        _sentence(span_words(coat, passage)),
    ]
    if coat.passes > 1 and any(coat.feather):
        words.append(
            tr("Stop each pass a little earlier than the one before, so that the end thins out.")
        )
    sprayed = tr(_SPRAY) if coat.tool in SPRAYS else ""
    return SheetStep(
        number + 1, coat.passes, coat_name(coat), letter, tuple(words),
        _waits(coat, air, waits(passage, number, air, plan.rack())), sprayed,
    )  # fmt: skip


def _waits(coat: Coat, air: Air, last: Minutes) -> str:
    words = tr("dries {0:.0f}-{1:.0f} min").format(last.least, last.most)
    if coat.passes > 1:
        between = recoat(coat, air)
        again = tr("{0:.0f}-{1:.0f} min between").format(between.least, between.most)
        words = f"{again}; {words}"
    return words


def _low(words: str) -> str:
    return f"{words[:1].lower()}{words[1:]}"


def _sentence(words: str) -> str:
    return f"{words[:1].upper()}{words[1:]}."
