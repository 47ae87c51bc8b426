"""What the start page shows: plans as ribbons, and one glaze over a ground without a plan."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt

from zesty_veil.errors import PlanFileError
from zesty_veil.light.grid import Array
from zesty_veil.paint.mixture import Mixture, Part, Thinner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import add_coat, usual_coat, with_passes
from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.forms.onform import FormConditions
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.formpicture import form_layers, form_picture
from zesty_veil.tr import counted, tr

DEMOS = ("glasswright", "diver")
TRIAL_PASSES = (1, 2, 3, 4, 5, 6)
_PLACES = 48
_FORM_SIDE = 192  # pixels; the card draws it at half of that, sharp on any screen


@dataclass(frozen=True)
class Shelf:
    """Which plans are to be shown: demo plans by name, and files."""

    demos: tuple[str, ...] = DEMOS
    files: tuple[Path, ...] = ()


@dataclass(frozen=True)
class PlanCard:
    """A plan as a card shows it.

    ribbons : of its first passage, from ridge to recess, (3, n, 3) encoded sRGB; none if it has no
    passage. picture : that passage on its form, (m, m, 4) RGBA. demo, file : where it is from.
    """

    title: str
    words: str
    ribbons: Array | None
    picture: npt.NDArray[np.uint8] | None = None
    demo: str | None = None
    file: Path | None = None


@dataclass(frozen=True)
class GlazeTrial:
    """One paint over a primer, thinned in some way."""

    paint: Paint
    primer: Primer
    thinning: float
    thinner: Thinner = "water"

    @property
    def coat(self) -> Coat:
        """One pass of it, laid as its kind usually is."""
        usual = usual_coat(self.paint)
        mixture = Mixture((Part(self.paint.name),), self.thinner, self.thinning)
        return Coat(mixture, usual.tool)


@dataclass(frozen=True)
class GlazeShown:
    """A trial: (3, 7, 3) encoded sRGB from ridge to recess, the ground and one to six passes."""

    asked: GlazeTrial
    rgb: Array


def shelved(asked: Shelf, should_continue: Callable[[], bool]) -> Iterator[PlanCard]:
    """Yield the plans that can be read, one by one; what cannot be is left out."""
    for name in asked.demos:
        if not should_continue():
            return
        yield _card(sample(name), demo=name)
    for path in asked.files:
        if not should_continue():
            return
        try:
            plan = load(path)
        except PlanFileError:
            continue  # whoever opens it is told why
        yield _card(plan, file=path)


def tried(asked: GlazeTrial, should_continue: Callable[[], bool]) -> Iterator[GlazeShown]:
    """Yield a glaze over its ground, after none to six passes."""
    paints = {asked.paint.name: asked.paint}
    columns = []
    for passes in (0, *TRIAL_PASSES):
        if not should_continue():
            return
        coats = (with_passes(asked.coat, passes),) if passes else ()
        passage = Passage("trial", ground=Ground(asked.primer), coats=coats)
        columns.append(predict(passage, paints, axis(1), SITE_RELIEF).rgb[0])
    yield GlazeShown(asked, np.stack(columns, axis=1)[::-1])


def plan_of(trial: GlazeTrial) -> Plan:
    """Return a plan that begins with what was tried, in two passes."""
    passage = Passage(tr("new passage"), ground=Ground(trial.primer))
    plan = Plan(tr("New plan"), (passage,), (trial.paint,))
    return add_coat(plan, 0, with_passes(trial.coat, 2))


def _card(plan: Plan, demo: str | None = None, file: Path | None = None) -> PlanCard:
    count, coats = len(plan.passages), sum(len(p.coats) for p in plan.passages)
    words = tr("{0}, {1}").format(
        counted(count, "{0} passage", "{0} passages"), counted(coats, "{0} coat", "{0} coats")
    )
    ribbons = picture = None
    if plan.passages:
        field = predict(plan.passages[0], plan.rack(), axis(_PLACES), SITE_RELIEF)
        ribbons = np.swapaxes(field.rgb, 0, 1)[::-1]
        layers = form_layers(plan, 0, plan.passages[0], plan.paints)
        look = ViewingConditions(plan.light)
        picture = form_picture(layers, _FORM_SIDE, look, FormConditions())
    return PlanCard(plan.title, words, ribbons, picture, demo, file)
