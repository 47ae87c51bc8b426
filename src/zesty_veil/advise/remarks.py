"""The remarks on a passage: what painters find out too late.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import partial

import numpy as np

from zesty_veil.advise import below as below_rules
from zesty_veil.advise import films, lights, mixing, remedies, waste
from zesty_veil.advise.match.blending import edge_near
from zesty_veil.advise.pressed import sure_remedies
from zesty_veil.advise.remark import Remark, RemarkKind
from zesty_veil.light.cielab import lch
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import MOST_WATER
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.drying import whole
from zesty_veil.plan.model import Coat, Meant, Passage, Plan, coat_name
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import axis, field_of
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.harsh import harsh_places, step_sizes
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.recalled import flat_field
from zesty_veil.thresholds import (
    BLACK_VALUE,
    CHALKED_CHROMA,
    CHALKED_GLINT,
    HIDDEN_DE00,
    OUTSHONE_VALUES,
    TIPS_SHARE,
)
from zesty_veil.tr import tr

REMARK_PLACES = 128
# Work that only its own coat was for; what only could be better; and what shares of it cost.
_FOR_NOTHING = frozenset({"hidden", "nearly hidden", "wasted below", "many passes"})
_BETTER = frozenset(
    {"no complement", "metameric", "refined", "many mixes", "alike", "many passes", "nearly hidden"}
)
_PART, _MINOR = 0.5, 0.2
# What is not told of a coat that is meant for it.
_SILENT: dict[Meant, frozenset[RemarkKind]] = {
    "": frozenset(),
    "base": frozenset(
        {"hidden", "nearly hidden", "dark below", "wasted below", "weak glow", "greyed", "dimmed"}
    ),
    "dull": frozenset({"mud", "greyed", "sickly", "dark below"}),
    "glow spot": frozenset({"harsh step", "weak glow", "starved"}),
    "edge": frozenset({"harsh step"}),
}
_FLAT = np.zeros(1)


def remarks(
    plan: Plan,
    index: int,
    rack: Sequence[Paint],
    should_continue: Callable[[], bool] = lambda: True,
) -> tuple[Remark, ...]:
    """Return the remarks on one passage of a plan, what costs the painter most first.

    A remedy that would raise a worse remark is not offered.

    Parameters
    ----------
    plan
        The plan.
    index
        Which passage.
    rack
        Paints that a remedy may use.
    should_continue
        Asked between the remedies that are tried; when it says no, the rest are not.
    """
    found = _judged(plan, index, rack)
    return sure_remedies(plan, found, lambda p: _judged(p, index, rack), should_continue)


def _judged(plan: Plan, index: int, rack: Sequence[Paint]) -> tuple[Remark, ...]:
    """Return the remarks on one passage, each with the remedy that its kind has."""
    passage, paints, look = plan.passages[index], plan.rack(), ViewingConditions(plan.light)
    if not passage.coats:
        return ()
    u = axis(REMARK_PLACES)
    below = [ground(passage, paints, u, _FLAT)]
    for coat in prepare(passage.coats, paints, passage, u, _FLAT):
        below.append(fold_coats(below[-1], [coat]))
    value = field_of(below[-1], u, _FLAT, look).value
    found = (
        below_rules.dark_below(passage, index, paints, below, look, rack),
        below_rules.weak_glow(passage, index, paints, below, look, rack),
        below_rules.covered_light(passage, index, paints, below, look, rack),
        _hidden(passage, index, paints, look),
        _outshone(plan, index, below[-1], look, rack),
        _harsh(passage, index, paints, look),
        # What is lit by another passage is dark on its far side on purpose.
        () if edits.is_lit(plan, index) else _tips(plan, index, below[-1], look),
        mixing.drift(passage, index, paints, rack),
        mixing.runs(passage, index),
        mixing.thinned_can(passage, index),
        _starved(passage, index),
        _chalked(passage, index, below[-1], look, rack),
        films.mud(passage, index, paints, below, look),
        films.dimmed(passage, index, paints, below, look),
        films.alike(plan, index, float(value.mean()), look, rack),
        films.many_passes(passage, index, paints, look),
        films.piled_up(passage, index, paints, look),
        waste.nearly_hidden(passage, index, paints, look),
        waste.wasted_below(passage, index, paints, look),
        waste.many_mixes(passage, index, paints, look),
        waste.metameric(plan, index, look),
        lights.lights(plan, index, look, rack),
    )
    told = tuple(remark for kind in found for remark in kind if not _meant(passage, remark))
    nothing = {remark.coat for remark in told if remark.kind == "hidden"}
    # Of a coat that nobody sees nothing else is worth saying.
    return by_cost(passage, tuple(r for r in told if r.kind == "hidden" or r.coat not in nothing))


def _meant(passage: Passage, remark: Remark) -> bool:
    """Tell whether a coat was said to be meant for just what is remarked."""
    if remark.coat is None:
        return False
    return remark.kind in _SILENT[passage.coats[remark.coat].meant]


def by_cost(passage: Passage, found: Sequence[Remark]) -> tuple[Remark, ...]:
    """Return remarks with what each costs, the dearest first.

    Who finds out too late does again what was laid from that coat on, or in the end a part of the
    passage; what only could be better costs a little of that.
    """
    minutes = [whole(coat, passage) for coat in passage.coats]
    told = []
    for remark in found:
        if remark.kind in _FOR_NOTHING and remark.coat is not None:
            cost = minutes[remark.coat]
        elif remark.coat is not None:
            cost = sum(minutes[remark.coat :])
        else:
            cost = _PART * sum(minutes)
        share = _MINOR if remark.kind in _BETTER else 1.0
        told.append(replace(remark, cost=round(share * cost, 1)))
    # Those that cost the same stay in their order, the gravest kinds first.
    return tuple(sorted(told, key=lambda remark: -remark.cost))


def _hidden(
    passage: Passage, index: int, paints: Mapping[str, Paint], look: ViewingConditions
) -> Iterator[Remark]:
    for i, adds in enumerate(contributions(passage, paints, look)):
        # A varnish guards what lies below it, whatever it does to the colour.
        if adds.most < HIDDEN_DE00 and not _clear(passage.coats[i], paints):
            name = coat_name(passage.coats[i])
            yield Remark(
                "hidden", index, adds.most,
                tr(
                    "Nothing of {0} shows in the end (dE {1:.1f}): work for nothing."
                ).format(name, adds.most),
                i, None, tr("take it away"), partial(remedies.take_away, passage=index, coat=i),
            )  # fmt: skip


def _clear(coat: Coat, paints: Mapping[str, Paint]) -> bool:
    return all(paints[part.paint].kind in CLEAR for part in coat.mixture.parts)


def _outshone(
    plan: Plan, index: int, state: StackOptics, look: ViewingConditions, rack: Sequence[Paint]
) -> Iterator[Remark]:
    passage = plan.passages[index]
    named = lights.is_source(plan, index) or edits.is_lit(plan, index)
    if not named and (plan.glow is None or plan.glow.source != passage.name):
        return  # nobody said that there is a light on it
    u = axis(REMARK_PLACES)
    value = lights.with_glint(state, u, look)
    light, rest = float(value[u <= 0.06].max()), value * (u > 0.15)
    if plan.glow is not None and plan.glow.second is not None:
        rest *= u < lights.gap_at(value, u)  # what lies beyond the gap is another light
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
        coat = edge_near(passage, place)
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


# Forms that end in no flame.
_NO_TIPS = frozenset({"folds", "plate", "hood", "facet", "blade"})


def _tips(plan: Plan, index: int, state: StackOptics, look: ViewingConditions) -> Iterator[Remark]:
    field = field_of(state, axis(REMARK_PLACES), _FLAT, look)
    value = field.value[:, 0]
    share = float(remedies.black(field).mean())
    passage = plan.passages[index]
    if any(c.meant == "edge" and c.sites == SITES for c in passage.coats):
        return  # what is dark beyond a hard edge is no tip
    if passage.form in _NO_TIPS:
        return  # its shadows may be as wide as they like
    if value[0] > 6 and value[-1] < BLACK_VALUE and share > TIPS_SHARE:
        mend = partial(remedies.shorter_tips, passage=index, look=look)
        # Where the primer is what is black, no coat can be drawn back.
        helps = mend(plan) != plan
        yield Remark(
            "large tips", index, share,
            tr(
                "Black takes {0:.0f} % of the length; kept under 15 % it makes the "
                "rest glow, larger it only looks black."
            ).format(100 * share),
            remedies.last_tip(plan.passages[index]), 1 - share / 2,
            tr("draw the darkest coats back to the tips") if helps else "",
            mend if helps else None,
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
    u = axis(REMARK_PLACES)
    now, satin = (
        lch(colours(state, replace_finish(look, finish))[0])[:, 0]
        for finish in ("as painted", "satin")
    )
    lost = (satin[:, 1] - now[:, 1]) * (satin[:, 0] < 35)
    place = int(np.argmax(lost))
    varnish = tr("satin varnish over it")
    mend = partial(remedies.satin_varnish, passage=index, rack=rack)
    if float(lost[place]) > CHALKED_CHROMA:
        yield Remark(
            "chalked by matt", index, float(lost[place]),
            tr(
                "The matt surface takes {0:.0f} of chroma from the deep colour at "
                "{1:.1f} mm."
            ).format(lost[place], u[place] * passage.length_mm),
            None, float(u[place]), varnish, mend,
        )  # fmt: skip
        return
    if state.mirror is None:
        return
    shines, would = (
        lights.with_glint(state, u, replace_finish(look, finish))
        for finish in ("as painted", "satin")
    )
    place = int(np.argmax(would - shines))
    if float((would - shines)[place]) > CHALKED_GLINT:
        yield Remark(
            "chalked by matt", index, float((would - shines)[place]),
            tr("The matt surface takes {0:.1f} values from the glint of the metal.").format(
                (would - shines)[place]
            ),
            None, float(u[place]), varnish, mend,
        )  # fmt: skip


def replace_finish(look: ViewingConditions, finish: str) -> ViewingConditions:
    """Return a look with another finish."""
    return ViewingConditions(look.light, look.observer, finish, look.angle)  # type: ignore[arg-type]
