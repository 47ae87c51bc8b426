"""Templates of colour over a prepared ground: contrast-type over zenithal, violet over what glows.

White sprayed from above, one flooded coat, edges last; a fluorescent on white, violet sponged over
it in steps, each further out: common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.templates.laying import alone_over_white, nearest_paint, white_of, with_edges
from zesty_veil.advise.templates.model import (
    FIGURES,
    LARGE,
    PRIMER,
    Answered,
    Asks,
    Template,
    TemplateMade,
    plan_with,
)
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.plan import edits
from zesty_veil.plan.grounds import zenithal
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.tr import tr

_VIOLET, _NEAR = 312.0, 50.0
# Where each step of violet begins, its feather, thick medium, and passes.
_SPONGED = ((0.3, 0.2, 1.0, 1), (0.55, 0.2, 0.5, 2), (0.8, 0.2, 0.5, 3))


def _contrast(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    hue = float(lch(np.array(answers.lab("colour")))[2])
    what = tr("a contrast-type paint or a wash of that colour")
    kinds = ("contrast",) if _has(answers, "contrast", hue) else ("wash",)
    flood = nearest_paint(answers, hue, kinds, what, _NEAR)
    bare = Passage(tr("sculpted area"), length, area, answers.ground(), form="hood")
    white = white_of(answers)
    sprayed = zenithal(Plan("", (bare,)), 0, white).passages[0]
    tool = "contrast" if flood.kind == "contrast" else "wash"
    coat = Coat(Mixture((Part(flood.name),)), tool)
    done = with_edges(replace(sprayed, coats=(coat,)), answers, 0.6)
    if go():
        yield TemplateMade(
            1.0, plan_with(tr("Contrast over zenithal"), answers, (done,)),
            (
                tr("White is sprayed from straight above; what faces down stays dark."),
                tr("One flooded coat does the shading: it runs off what stands out."),
            ),
        )  # fmt: skip


def _has(answers: Answered, kind: str, hue: float) -> bool:
    """Tell whether a paint of a kind is near a hue."""
    own = [alone_over_white(p)[2] for p in answers.paints if p.kind == kind]
    return any(abs((h - hue + 180) % 360 - 180) < _NEAR for h in own)


def _sponged(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    glows = [p for p in answers.paints if p.kind == "fluorescent"]
    if not glows:
        raise InputError(tr("What is wanting is a fluorescent paint; add one to the rack."))
    hue = float(lch(np.array(answers.lab("colour")))[2])
    glow = min(glows, key=lambda p: abs((alone_over_white(p)[2] - hue + 180) % 360 - 180))
    violet = nearest_paint(
        answers, _VIOLET, ("ink", "transparent"), tr("a clear violet to sponge over it"), 40.0
    )
    white = white_of(answers)
    coats = []
    if answers["primer"] != "white":
        coats.append(Coat(Mixture((Part(white.name),), "water", 1.0), "loaded", 2))
    # What glows is covered outward on purpose.
    coats.append(Coat(Mixture((Part(glow.name),), "water", 0.5), "loaded", 2, meant="base"))
    for start, soft, thick, passes in _SPONGED:
        mixture = Mixture((Part(violet.name),), "thick medium", thick)
        laid = edits.with_span(Coat(mixture, "sponge", passes), start, 1.0)
        coats.append(edits.with_feather(laid, soft, 0.0))
    passage = Passage(
        tr("glow under violet"), length, area, answers.ground(), tuple(coats), form="orb"
    )
    if go():
        yield TemplateMade(
            1.0, plan_with(tr("Violet over a glow"), answers, (passage,)),
            (
                tr("A fluorescent glows over white alone, and nothing covers its heart."),
                tr("Violet is sponged on in thick medium, denser with each step outward."),
            ),
        )  # fmt: skip


CONTRAST = Template(
    "contrast", "Contrast over zenithal", "one flooded coat over white from above", (
        Asks("colour", "Which colour?", "turquoise", colour=True), LARGE, PRIMER, FIGURES,
    ), _contrast,
)  # fmt: skip
SPONGED = Template(
    "sponged", "Violet over a glow", "sponged over a fluorescent", (
        Asks("colour", "Which colour glows?", "orange", colour=True), LARGE, PRIMER, FIGURES,
    ), _sponged,
)  # fmt: skip
