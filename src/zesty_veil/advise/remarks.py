"""The remarks on a passage: what painters find out too late.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import partial

import numpy as np

from zesty_veil.advise import films, lights, remedies, waste
from zesty_veil.advise.remark import Remark
from zesty_veil.light.cielab import lch
from zesty_veil.paint.mixture import MOST_WATER
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import SITE_RELIEF, axis, field_of, predict
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.harsh import harsh_places, step_sizes
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.recalled import alone, flat_field
from zesty_veil.predict.targets import missed
from zesty_veil.thresholds import (
    BLACK_VALUE,
    CHALKED_CHROMA,
    CLEAN_ABOVE,
    DARK_SHARE,
    HIDDEN_DE00,
    MET_DE00,
    OUTSHONE_VALUES,
    TIPS_SHARE,
)
from zesty_veil.tr import tr

REMARK_PLACES = 128
_FLAT = np.zeros(1)


def remarks(plan: Plan, index: int, rack: Sequence[Paint]) -> tuple[Remark, ...]:
    """Return the remarks on one passage of a plan, the gravest kinds first.

    Parameters
    ----------
    plan
        The plan.
    index
        Which passage.
    rack
        Paints that a remedy may use.
    """
    passage, paints, look = plan.passages[index], plan.rack(), ViewingConditions(plan.light)
    if not passage.coats:
        return ()
    u = axis(REMARK_PLACES)
    below = [ground(passage, paints, u, _FLAT)]
    for coat in prepare(passage.coats, paints, passage, u, _FLAT):
        below.append(fold_coats(below[-1], [coat]))
    value = field_of(below[-1], u, _FLAT, look).value
    found = (
        _dark_below(passage, index, paints, below, look, rack),
        _hidden(passage, index, paints, look),
        _outshone(passage, index, below[-1], look, rack),
        _harsh(passage, index, paints, look),
        # What is lit by another passage is dark on its far side on purpose.
        () if passage.lit_by else _tips(passage, index, below[-1], look),
        _drift(passage, index, paints, rack),
        _starved(passage, index),
        _chalked(passage, index, below[-1], look, rack),
        films.mud(passage, index, paints, below, look),
        films.dimmed(passage, index, paints, below, look),
        films.alike(plan, index, float(value.mean()), look, rack),
        films.many_passes(passage, index, paints, look),
        waste.wasted_below(passage, index, paints, look),
        waste.many_mixes(passage, index, paints, look),
        waste.metameric(plan, index, look),
        lights.lights(plan, index, look, rack),
    )
    return tuple(remark for kind in found for remark in kind)


def _hidden(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    for i, adds in enumerate(contributions(passage, paints, look)):
        if adds.most < HIDDEN_DE00:
            name = coat_name(passage.coats[i])
            yield Remark(
                "hidden", index, adds.most,
                tr(
                    "Nothing of {0} shows in the end (dE {1:.1f}): work for nothing."
                ).format(name, adds.most),
                i, None, tr("take it away"), partial(remedies.take_away, passage=index, coat=i),
            )  # fmt: skip


def _dark_below(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    for i, coat in enumerate(passage.coats):
        need = _clean_above(coat, paints)
        # Where it feathers out it lies too: a red may well begin on orange and end in the dark.
        start, end = coat.span[0] - coat.feather[0], coat.span[1] + coat.feather[1]
        inside = (axis(REMARK_PLACES) >= start) & (axis(REMARK_PLACES) <= end)
        if need is None or not inside.any() or below[i].mirror is not None:
            continue  # metal shines through whatever its value in the shade
        value = field_of(below[i], axis(REMARK_PLACES), _FLAT, look).value[:, 0][inside]
        dark = float((value < need).mean())
        if dark > DARK_SHARE and not _as_wanted(passage, paints, look, start, end):
            passes = remedies.white_needed(passage, i, need, paints, rack, look)
            white = f"{passes} pass{'' if passes == 1 else 'es'} of white below it"
            yield Remark(
                "dark below", index, float(value.mean()),
                tr(
                    "{0} lies on value {1:.1f} and stays dull; it wants value {2:g} or "
                    "more below it, which takes {3}."
                ).format(coat_name(coat), value.mean(), need, white[:-9]),
                i, float(np.mean(coat.span)), white,
                partial(remedies.white_below, passage=index, coat=i, passes=passes, rack=rack),
            )  # fmt: skip


def _as_wanted(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions, start: float, end: float
) -> bool:
    """Tell whether all that is wanted on a part of the axis comes: then its dark is wanted too."""
    there = [i for i, target in enumerate(passage.targets) if start <= target.place <= end]
    if not there:
        return False
    told = missed(passage, predict(passage, paints, axis(REMARK_PLACES), SITE_RELIEF, look))
    return told is not None and all(told.by[i] <= MET_DE00 for i in there)


def _clean_above(coat: Coat, paints: Mapping[str, Paint]) -> float | None:
    """Return the value that a coat wants below it, or none if it hides or does not mind."""
    if any(paints[part.paint].kind not in {"transparent", "ink"} for part in coat.mixture.parts):
        return None
    _, chroma, hue = alone(coat, paints, "white")
    if chroma < 40:
        return None
    for upper, lower, need in CLEAN_ABOVE:
        if lower <= hue < upper:
            return need
    return None


def _outshone(
    passage: Passage, index: int, state: StackOptics, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    u = axis(REMARK_PLACES)
    value = field_of(state, u, _FLAT, look).value[:, 0]
    light, rest = float(value[u <= 0.06].max()), value * (u > 0.15)
    place = int(np.argmax(rest))
    more = float(rest[place]) - light
    if more > OUTSHONE_VALUES:
        yield Remark(
            "outshone", index, more,
            tr(
                "At {0:.1f} mm it is {1:.1f} values lighter than at the light itself; "
                "nothing may outshine the source."
            ).format(u[place] * passage.length_mm, more),
            None, float(u[place]), tr("white at the light"),
            partial(remedies.white_at_light, passage=index, rack=rack),
        )  # fmt: skip


def _harsh(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    u = axis(256)
    field = flat_field(passage, paints, u.size, look)
    for place in harsh_places(field.lab, u, passage.length_mm):
        sizes = step_sizes(field.lab[:, 0], u, passage.length_mm)
        size = float(sizes[int(np.abs(u - place).argmin())])
        coat = remedies.edge_near(passage, place)
        mend = None
        if coat is not None:
            mend = partial(remedies.smooth, passage=index, coat=coat, look=look)
        yield Remark(
            "harsh step", index, size,
            tr(
                "At {0:.1f} mm the step is harsh: dE {1:.0f} over half a millimetre."
            ).format(place * passage.length_mm, size),
            coat, place, tr("longer feather, passes spaced evenly") if mend else "", mend,
        )  # fmt: skip


def _tips(
    passage: Passage, index: int, state: StackOptics, look: ViewingConditions
) -> Iterator[Remark]:
    field = field_of(state, axis(REMARK_PLACES), _FLAT, look)
    value = field.value[:, 0]
    share = float(remedies.black(field).mean())
    if value[0] > 6 and value[-1] < BLACK_VALUE and share > TIPS_SHARE:
        yield Remark(
            "large tips", index, share,
            tr(
                "Black takes {0:.0f} % of the length; kept under 15 % it makes the "
                "rest glow, larger it only looks black."
            ).format(100 * share),
            None, 1 - share / 2, tr("draw the darkest coats back to the tips"),
            partial(remedies.shorter_tips, passage=index, look=look),
        )  # fmt: skip


def _drift(
    passage: Passage, index: int, paints: Mapping[str, Paint], rack: Sequence[Paint]
) -> Iterator[Remark]:
    for i, coat in enumerate(passage.coats):
        codes = {code for part in coat.mixture.parts for code in paints[part.paint].pigments}
        total = sum(part.parts for part in coat.mixture.parts)
        white = sum(p.parts for p in coat.mixture.parts if paints[p.paint].pigments == ("PW6",))
        if not 0.2 <= white / total < 1:
            continue
        if "PG7" in codes and not codes & {"PY74", "PY42"}:
            yield Remark(
                "minty", index, white / total,
                tr("{0} goes minty: green lightened with white alone.").format(coat_name(coat)),
                i, None, tr("a part of yellow into it"),
                partial(remedies.add_part, passage=index, coat=i, pigment="PY74", rack=rack),
            )  # fmt: skip
        elif codes & {"PV23"} and not codes & {"PR122"}:
            yield Remark(
                "chalky", index, white / total,
                tr("{0} goes chalky: violet lightened with white alone.").format(coat_name(coat)),
                i, None, tr("pink in place of half the white"),
                partial(remedies.pink_for_white, passage=index, coat=i, rack=rack),
            )  # fmt: skip


def _starved(passage: Passage, index: int) -> Iterator[Remark]:
    for i, coat in enumerate(passage.coats):
        if coat.mixture.thinner == "water" and coat.mixture.thinning > MOST_WATER:
            yield Remark(
                "starved", index, coat.mixture.thinning,
                tr(
                    "{0} is thinned {1:g}:1 with water: too little binder is left, and "
                    "it dries dull and weak."
                ).format(coat_name(coat), coat.mixture.thinning),
                i, None, tr("medium in place of water"), partial(
                    remedies.medium_for_water, passage=index, coat=i
                ),
            )  # fmt: skip


def _chalked(
    passage: Passage, index: int, state: StackOptics, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    now, satin = (
        lch(colours(state, replace_finish(look, finish))[0])[:, 0]
        for finish in ("as painted", "satin")
    )
    lost = (satin[:, 1] - now[:, 1]) * (satin[:, 0] < 35)
    place = int(np.argmax(lost))
    if float(lost[place]) > CHALKED_CHROMA:
        yield Remark(
            "chalked by matt", index, float(lost[place]),
            tr(
                "The matt surface takes {0:.0f} of chroma from the deep colour at "
                "{1:.1f} mm."
            ).format(lost[place], axis(REMARK_PLACES)[place] * passage.length_mm),
            None, float(axis(REMARK_PLACES)[place]), tr("satin varnish over it"),
            partial(remedies.satin_varnish, passage=index, rack=rack),
        )  # fmt: skip


def replace_finish(look: ViewingConditions, finish: str) -> ViewingConditions:
    """Return a look with another finish."""
    return ViewingConditions(look.light, look.observer, finish, look.angle)  # type: ignore[arg-type]
