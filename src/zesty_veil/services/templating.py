"""Plans made of a few answers, away from the interface thread. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.templates.every import template
from zesty_veil.light.grid import Array
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import SITE_RELIEF, axis, predict
from zesty_veil.predict.forms.onform import FormConditions
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.formpicture import form_layers, form_picture

_PLACES, _SIDE = 96, 256


@dataclass(frozen=True)
class TemplateRequest:
    """A template, what was answered, and the paints at hand."""

    template: str
    said: tuple[tuple[str, str], ...]
    paints: tuple[Paint, ...]


@dataclass(frozen=True, eq=False)
class TemplateShown:
    """A plan as it comes.

    share : how much is done, 0-1. plan : when it is. assumed : what was taken for granted.
    ribbons : of each passage, (n, 3) sRGB on the flat. picture : the first on its form, RGBA.
    """

    asked: TemplateRequest
    share: float
    plan: Plan | None = None
    assumed: tuple[str, ...] = ()
    ribbons: tuple[Array, ...] = ()
    picture: npt.NDArray[np.uint8] | None = None


def templating(
    asked: TemplateRequest, should_continue: Callable[[], bool]
) -> Iterator[TemplateShown]:
    """Yield how far a plan is, and then the plan.

    Raises
    ------
    InputError
        If an answer is none, or the paints do not come near, with one that is wanting.
    """
    chosen = template(asked.template)
    answers = chosen.answered(dict(asked.said), parse_colour, asked.paints)
    for made in chosen.build(answers, should_continue):
        if made.plan is None:
            yield TemplateShown(asked, made.share)
            continue
        plan, look = made.plan, ViewingConditions(made.plan.light)
        ribbons = tuple(
            predict(p, plan.rack(), axis(_PLACES), SITE_RELIEF, look).rgb[:, 1]
            for p in plan.passages
        )
        layers = form_layers(plan, 0, plan.passages[0], plan.paints)
        picture = form_picture(layers, _SIDE, look, FormConditions())
        yield TemplateShown(asked, 1.0, plan, made.assumed, ribbons, picture)
