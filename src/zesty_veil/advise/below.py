"""Remarks on what lies below a coat, and on what a coat covers that should stay bright.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import partial

import numpy as np
import numpy.typing as npt

from zesty_veil.advise import remedies
from zesty_veil.advise.direct import both_routes
from zesty_veil.advise.remark import Remark
from zesty_veil.light.cielab import lch
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name
from zesty_veil.predict.field import axis, field_of, predict
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.recalled import alone
from zesty_veil.thresholds import (
    CLEAN_ABOVE,
    COVERED_VALUES,
    DARK_SHARE,
    FACING_HUES,
    GLOWS_ON_VALUE,
    GRADED_VALUES,
    GREYED_SHARE,
    GREYISH_CHROMA,
    MET_DE00,
    STRONG_CHROMA,
)
from zesty_veil.tr import counted, tr

_FLAT = np.zeros(1)
# Hues of reds and oranges over white, in degrees, and the chroma from which on one has a colour.
_REDS, _COLOURED = (18.0, 75.0), 40.0
_BRUSHED = frozenset({"loaded", "glaze", "wash", "contrast", "drybrush", "stipple"})
_SPOT, _SOFT = (0.0, 0.06), 0.2
# A film that takes more than this from what it lies on is a coat of its own colour.
_FILM_VALUES = 2.0


def dark_below(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    """Yield a remark for each clear warm coat on a ground too dark for it, or on grey.

    `below` is the stack under each coat and over the last, along the axis.
    """
    u = axis(below[0].R.d.shape[0])
    for i, coat in enumerate(passage.coats):
        need = clean_above(coat, paints)
        # Where it feathers out it lies too: a red may well begin on orange and end in the dark.
        start, end = coat.span[0] - coat.feather[0], coat.span[1] + coat.feather[1]
        inside = (u >= start) & (u <= end)
        if need is None or not inside.any() or below[i].mirror is not None:
            continue  # metal shines through whatever its value in the shade
        field = field_of(below[i], u, _FLAT, look)
        value, under = field.value[:, 0][inside], field.lch[:, 0][inside]
        if _opposite(coat, under, paints):
            continue
        spoilt = ~_wanted_dark(passage, paints, look, u)[inside]
        if not spoilt.any():
            continue
        dark = float(((value < need) & spoilt).mean())
        if dark > DARK_SHARE:
            yield _too_dark(passage, index, i, need, float(value.mean()), paints, look, rack)
        elif _greyed(coat, under, lch(colours(below[i + 1], look)[0])[:, 0][inside], paints):
            passes = remedies.white_needed(passage, i, _WHITE, paints, rack, look)
            yield Remark(
                "greyed", index, float(under[:, 0].mean()),
                tr(
                    "{0} lies on grey, which takes its warmth; on white it is as clean as it "
                    "can be."
                ).format(coat_name(coat)),
                i, float(np.mean(coat.span)), _white_words(passes),
                partial(remedies.white_below, passage=index, coat=i, passes=passes, rack=rack),
            )  # fmt: skip


# The value of white paint that hides a grey.
_WHITE = 8.8


def _too_dark(
    passage: Passage,
    index: int,
    coat: int,
    need: float,
    value: float,
    paints: Mapping[str, Paint],
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Remark:
    laid = passage.coats[coat]
    passes = remedies.white_needed(passage, coat, need, paints, rack, look)
    under = edits.with_coats(passage, passage.coats[:coat])
    both = both_routes(laid, under, paints, rack, look, float(np.mean(laid.span)))
    straight = counted(both.direct.passes, "{0} pass", "{0} passes")
    words = tr(
        "{0} lies on value {1:.1f}, which shows through: laid straight on it, {2} come within dE "
        "{3:.0f} of its own colour."
    ).format(coat_name(laid), value, straight, both.direct.off)
    if both.white is not None:
        words += " " + tr("With white below first, {0} in all come within dE {1:.0f}.").format(
            counted(both.white.passes, "{0} pass", "{0} passes"), both.white.off
        )
    return Remark(
        "dark below", index, value, words, coat, float(np.mean(laid.span)), _white_words(passes),
        partial(remedies.white_below, passage=index, coat=coat, passes=passes, rack=rack),
    )  # fmt: skip


def _white_words(passes: int) -> str:
    return counted(passes, "{0} pass of white below it", "{0} passes of white below it")


def clean_above(coat: Coat, paints: Mapping[str, Paint]) -> float | None:
    """Return the value that a coat wants below it, or none if it hides or does not mind."""
    if any(paints[part.paint].kind not in {"transparent", "ink"} for part in coat.mixture.parts):
        return None
    _, chroma, hue = alone(coat, paints, "white")
    if chroma < _COLOURED:
        return None
    for upper, lower, need in CLEAN_ABOVE:
        if lower <= hue < upper:
            return need
    return None


def _opposite(coat: Coat, under: Array, paints: Mapping[str, Paint]) -> bool:
    """Tell whether a coat lies on its complement: then it is meant to dull, or makes mud."""
    hue = alone(coat, paints, "white")[2]
    apart = np.abs((under[:, 2] - hue + 180) % 360 - 180)
    return bool(((apart > FACING_HUES) & (under[:, 1] > STRONG_CHROMA)).mean() > DARK_SHARE)


def _greyed(coat: Coat, under: Array, over: Array, paints: Mapping[str, Paint]) -> bool:
    """Tell whether a red or orange loses much of its chroma to a grey that it lies on."""
    _, clean, hue = alone(coat, paints, "white")
    if not _REDS[0] <= hue < _REDS[1]:
        return False
    grey = (under[:, 1] < GREYISH_CHROMA) & (under[:, 0] < 90)
    lost = 1 - over[:, 1] / max(clean, 1.0)
    return bool((grey & (lost > GREYED_SHARE)).mean() > DARK_SHARE)


def _wanted_dark(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions, u: Array
) -> npt.NDArray[np.bool_]:
    """Tell where it comes no darker than its targets want it, (n,): the dark is wanted there."""
    if not passage.targets:
        return np.zeros(u.size, dtype=bool)
    places, L = zip(*sorted((t.place, t.lab[0]) for t in passage.targets), strict=True)
    seen = predict(passage, paints, u, _FLAT, look).lab[:, 0, 0]
    return np.asarray(seen >= np.interp(u, places, L) - 2 * MET_DE00)


def weak_glow(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    """Yield a remark for each fluorescent coat by brush on what is neither white nor yellow."""
    u = axis(below[0].R.d.shape[0])
    for i, coat in enumerate(passage.coats):
        # What hides in the same pot has its own colour whatever lies below.
        glows = any(paints[part.paint].glow is not None for part in coat.mixture.parts)
        glows &= all(paints[part.paint].kind != "opaque" for part in coat.mixture.parts)
        inside = (u >= coat.span[0]) & (u <= coat.span[1])
        if not glows or coat.tool not in _BRUSHED or not inside.any():
            continue
        value = field_of(below[i], u, _FLAT, look).value[:, 0][inside]
        if float((value < GLOWS_ON_VALUE).mean()) <= DARK_SHARE:
            continue
        passes = remedies.white_needed(passage, i, GLOWS_ON_VALUE, paints, rack, look)
        yield Remark(
            "weak glow", index, float(value.mean()),
            tr(
                "{0} lies on value {1:.1f} by brush, where it hardly glows; over white or yellow "
                "it does. Keep what lies beside it clean."
            ).format(coat_name(coat), value.mean()),
            i, float(np.mean(coat.span)), _white_words(passes),
            partial(remedies.white_below, passage=index, coat=i, passes=passes, rack=rack),
        )  # fmt: skip


def covered_light(
    passage: Passage,
    index: int,
    paints: Mapping[str, Paint],
    below: Sequence[StackOptics],
    look: ViewingConditions,
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    """Yield a remark for each film over all that dims the brightest spot, unless it is put back."""
    u = axis(below[0].R.d.shape[0])
    at = u <= _SPOT[1]
    for i, coat in enumerate(passage.coats):
        kinds = {paints[part.paint].kind for part in coat.mixture.parts}
        over_all = coat.span[0] == 0.0 and coat.span[1] - coat.feather[1] > 0.9
        bright = _lightest_below(passage, i, paints)
        if not over_all or kinds - {"transparent", "ink"}:
            continue
        before, after, end = (
            field_of(below[k], u, _FLAT, look).value[:, 0] for k in (i, i + 1, len(passage.coats))
        )
        graded = float(before[at].mean() - before[u > 0.8].mean()) > GRADED_VALUES
        lost = float((before - after)[at].mean())
        put_back = float(end[at].max()) > float(before[at].max()) - COVERED_VALUES
        film = COVERED_VALUES < lost < _FILM_VALUES and i > 0
        if graded and film and not put_back:
            yield Remark(
                "covered light", index, lost,
                tr(
                    "{0} lies over the brightest spot and takes {1:.1f} values from it; painters "
                    "put the brightest points back after a film over all."
                ).format(coat_name(coat), lost),
                i, 0.0, tr("lay the light again, on top"),
                partial(_light_again, passage=index, coat=bright, rack=rack),
            )  # fmt: skip


def _lightest_below(passage: Passage, coat: int, paints: Mapping[str, Paint]) -> int | None:
    """Return the lightest coat at the light below one, by its own colour over white."""
    there = [
        (alone(each, paints, "white")[0], k)
        for k, each in enumerate(passage.coats[:coat])
        if each.span[0] == 0.0
        and all(paints[part.paint].kind not in CLEAR for part in each.mixture.parts)
    ]
    return max(there)[1] if there else None


def _light_again(plan: Plan, passage: int, coat: int | None, rack: Sequence[Paint]) -> Plan:
    """Return the plan with a coat laid again on top, on the brightest spot alone.

    Where the primer is the light, it is white.
    """
    if coat is None:
        lit = remedies.white_at_light(plan, passage, rack)
        last = len(lit.passages[passage].coats) - 1
        laid = edits.with_feather(lit.passages[passage].coats[last], 0.0, _SOFT)
        return edits.set_coat(lit, passage, last, laid)
    again = plan.passages[passage].coats[coat]
    spot = edits.with_feather(edits.with_span(again, *_SPOT), 0.0, _SOFT)
    return edits.add_coat(plan, passage, edits.with_passes(spot, min(again.passes, 3)))
