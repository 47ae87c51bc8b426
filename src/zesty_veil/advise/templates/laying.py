"""How templates lay colours: by the same search as Match, from the paints at hand."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.painting import USUAL_LIMITS
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest, Recipe
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.match.tuning import WorkOrder
from zesty_veil.advise.templates.model import Answered, Colour, TemplateMade
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lch
from zesty_veil.paint.catalogue import catalogue
from zesty_veil.paint.mixture import Mixture, Part, Thinner
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Target
from zesty_veil.predict.contribution import contribution
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import alone
from zesty_veil.predict.words import hue_word
from zesty_veil.thresholds import HIDDEN_DE00
from zesty_veil.tr import tr

# Farther off than this, root of the mean square, no painter would call it that.
_OFF = 9.0
LIMITS = USUAL_LIMITS


def wanted_along(*colours: Colour, places: Sequence[float] | None = None) -> tuple[Target, ...]:
    """Return colours wanted from the light on, spread evenly unless places are named."""
    at = np.linspace(0, 1, len(colours)) if places is None else places
    return tuple(
        Target(round(float(u), 4), (round(L, 2), round(a, 2), round(b, 2)))
        for u, (L, a, b) in zip(at, colours, strict=True)
    )


def coated(
    passage: Passage,
    answers: Answered,
    go: Callable[[], bool],
    manner: WorkOrder | None = None,
    limits: Limits = LIMITS,
    part: tuple[float, float] = (0.0, 1.0),
    only: tuple[Paint, ...] = (),
) -> Generator[TemplateMade, None, Passage]:
    """Yield how far it is, and return a passage with coats for its targets.

    Dropped, it has no more than before. `part` is which part of all the work it is, `only` what it
    is laid from, if not from all paints at hand.

    Raises
    ------
    InputError
        If the paints at hand do not come near, with one that is wanting.
    """
    how = (only or answers.paints, limits, ViewingConditions())
    request = MatchRequest(
        (passage,),
        answers.paints,
        passage.targets,
        *how,
        towards=manner,
        reasons=False,
        plainest_only=True,
    )
    best: Recipe | None = None
    for found in solve(request, go):
        best = found.ways[0] if found.ways else None
        yield TemplateMade(0.98 * (part[0] + (part[1] - part[0]) * found.share))
    if best is None or not go():
        return passage
    off = float(np.sqrt(np.mean(np.square(best.delta_e))))
    if off > _OFF:
        raise InputError(wanting(passage, answers, best))
    return replace(passage, coats=(*passage.coats, *best.coats))


# An edge highlight: a hairline of what lies at the light, with white in it; common practice.
_EDGE_FROM, _EDGE_SOFT = 0.12, 0.25


def with_edges(passage: Passage, answers: Answered, reach: float = 0.75) -> Passage:
    """Return a passage with a hairline of white on its edges, last of all, as far as it shows."""
    white = white_of(answers)
    hairline = Coat(
        Mixture((Part(white.name),), "water", 1.0), "glaze", 2, sites=("ridge",), meant="edge"
    )
    paints = {paint.name: paint for paint in answers.paints}
    for start in (0.0, _EDGE_FROM):
        laid = edits.with_feather(edits.with_span(hairline, start, reach), start, _EDGE_SOFT)
        done = replace(passage, coats=(*passage.coats, laid))
        if contribution(done, paints, len(passage.coats)).most >= HIDDEN_DE00:
            return done
    return passage


def wanting(passage: Passage, answers: Answered, best: Recipe) -> str:
    """Return in one sentence which paint these paints lack for a passage."""
    worst = int(np.argmax(best.delta_e))
    target = passage.targets[worst]
    wanted = lch(np.array(target.lab))
    near = min(catalogue(), key=lambda paint: _apart(paint, wanted))
    said = hue_word(wanted)
    if float(wanted[0]) > 78 and float(wanted[1]) < 45:
        near = next((p for p in catalogue() if p.pigments == ("PW6",)), near)
        said = tr("white, to lighten with")
    return tr(
        "These paints do not come near what {0} wants at {1:.0f} % (dE {2:.0f}); what is wanting "
        "is {3}: something like {4} ({5})."
    ).format(
        passage.name, 100 * target.place, best.delta_e[worst], said, near.name,
        ", ".join(near.pigments),
    )  # fmt: skip


def alone_over_white(paint: Paint) -> tuple[float, float, float]:
    """Return L, C and h of a paint laid twice over white, a little thinned."""
    coat = Coat(Mixture((Part(paint.name),), "water", 0.5), "loaded", 2)
    return alone(coat, {paint.name: paint}, "white")


def _apart(paint: Paint, wanted: np.ndarray) -> float:
    L, C, h = alone_over_white(paint)
    turn = abs((h - float(wanted[2]) + 180) % 360 - 180)
    return abs(L - float(wanted[0])) + abs(C - float(wanted[1])) + 0.5 * turn


def nearest_paint(
    answers: Answered, hue: float, kinds: Sequence[str], what: str, within: float = 45.0
) -> Paint:
    """Return the paint of some kinds that is strongest near a hue over white.

    Raises
    ------
    InputError
        If there is none, with `what` is wanting.
    """
    best: tuple[float, Paint] | None = None
    for paint in answers.paints:
        if paint.kind not in kinds:
            continue
        _, C, h = alone_over_white(paint)
        turn = abs((h - hue + 180) % 360 - 180)
        if turn <= within and C > 15 and (best is None or turn - C / 4 < best[0]):
            best = turn - C / 4, paint
    if best is None:
        raise InputError(tr("What is wanting is {0}; add one to the rack.").format(what))
    return best[1]


def white_of(answers: Answered) -> Paint:
    """Return the whitest paint; raises InputError if nothing is white enough."""
    for paint in answers.paints:
        if paint.pigments == ("PW6",) and paint.kind == "opaque":
            return paint
    light = [p for p in answers.paints if p.kind == "opaque" and _light(p)]
    if light:
        return light[0]
    raise InputError(tr("What is wanting is an opaque white; add one to the rack."))


def _light(paint: Paint) -> bool:
    coat = Coat(Mixture((Part(paint.name),), "water", 0.5), "loaded", 3)
    return alone(coat, {paint.name: paint}, "black")[0] > 80


def with_films(passage: Passage, films: tuple[Coat, ...], answers: Answered) -> Passage:
    """Return a passage with films over it; what is wanted there is what they make of it."""
    paints = {paint.name: paint for paint in answers.paints}
    over = replace(passage, coats=(*passage.coats, *films))
    places = np.array([target.place for target in passage.targets])
    before, after = (predict(p, paints, places, np.zeros(1)).lab[:, 0] for p in (passage, over))
    moved = [
        replace(target, lab=tuple(round(float(v), 2) for v in np.array(target.lab) + shift))
        for target, shift in zip(passage.targets, after - before, strict=True)
    ]
    return replace(over, targets=tuple(moved))


def film_of(
    paint: Paint,
    thinner: Thinner,
    thinning: float,
    passes: int,
    tool: str = "glaze",
) -> Coat:
    """Return a coat of one paint."""
    return Coat(Mixture((Part(paint.name),), thinner, thinning), tool, passes)
