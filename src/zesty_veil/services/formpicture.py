"""The passage in view on its form as a picture: split by light, squinted at. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.forms.onform import FormConditions, kept_table, scene
from zesty_veil.predict.forms.shapes import Shape, shape_of
from zesty_veil.predict.forms.speckle import all_dabs, bare_of_dabs, touched, with_speckle
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.squint import over_form

FormLayer = tuple[Shape, Passage, tuple[Paint, ...]]


def form_layers(
    plan: Plan, index: int, front: Passage, paints: tuple[Paint, ...]
) -> list[FormLayer]:
    """Return what stands on the form: the passage that surrounds the one in view, then `front`.

    `front` is that passage as it is shown, of some `paints`; it may lack coats.
    """
    passage = plan.passages[index]
    behind = [p for p in plan.passages if p.name == passage.surround and p is not passage]
    out = [(shape_of(plan, p), p, plan.paints) for p in behind]
    return [*out, (shape_of(plan, passage), front, paints)]


def form_picture(
    shown: Sequence[FormLayer],
    size: int,
    look: ViewingConditions,
    how: FormConditions,
    grey: bool = False,
    split: str | None = None,
    squint_mm: float = 0.0,
    surround: float = 0.5,
) -> npt.NDArray[np.uint8]:
    """Return RGBA pixels (size, size, 4) of passages on their forms.

    Parameters
    ----------
    shown
        From the one furthest back.
    size
        In pixels.
    look, how
        How colours and form are looked at.
    grey
        As in a grey photograph.
    split
        The light that the right half is seen under instead, if any.
    squint_mm
        From how far a squinting eye looks, in mm; 0 for an open one.
    surround
        Encoded grey of the field round the form, 0-1.
    """

    def under(seen: ViewingConditions) -> npt.NDArray[np.uint8]:
        where = touched(shown[-1][0], shown[-1][1], size)
        if where is None:
            return drawn(seen, lambda passage: passage)
        return with_speckle([drawn(seen, bare_of_dabs), drawn(seen, all_dabs)], where)

    def drawn(seen: ViewingConditions, only: Callable[[Passage], Passage]) -> npt.NDArray[np.uint8]:
        front = len(shown) - 1
        tables = [
            (shape, kept_table(only(p) if i == front else p, paints, seen, grey))
            for i, (shape, p, paints) in enumerate(shown)
        ]
        return scene(tables, size, how)

    pixels = under(look)
    if split is not None:
        half = size // 2
        pixels[:, half:] = under(replace(look, light=split))[:, half:]
    if squint_mm > 0:
        pixels = over_form(pixels, shown[-1][1].length_mm, surround, squint_mm)
    return pixels
