"""Remarks on what is mixed, and with what it is thinned for a tool.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import partial

from msgspec.structs import replace

from zesty_veil.advise import remedies
from zesty_veil.advise.match.blending import DABBED
from zesty_veil.advise.remark import Remark
from zesty_veil.errors import PaintError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage, Plan, coat_name
from zesty_veil.predict.recalled import alone
from zesty_veil.thresholds import RUNNY
from zesty_veil.tr import tr

_WHITE, _BLACK = ("PW6",), ("PBk7",)
# So much of white in it lightens a mixture; so much of black shades it.
_LIGHTENED, _SHADED = 0.2, 0.04
# From this hue over white a green is a turquoise, in degrees.
_TURQUOISE = 190.0
# Reds by their hue over white, and yellows, in degrees.
_RED, _YELLOW = (5.0, 48.0), (78.0, 110.0)


def drift(
    passage: Passage, index: int, paints: Mapping[str, Paint], rack: Sequence[Paint]
) -> Iterator[Remark]:
    """Yield a remark for each mixture whose hue goes where painters do not want it."""
    for i, coat in enumerate(passage.coats):
        codes = {code for part in coat.mixture.parts for code in paints[part.paint].pigments}
        white, black = (_share(coat, paints, code) for code in (_WHITE, _BLACK))
        if _LIGHTENED <= white < 1:
            yield from _lightened(coat, index, i, codes, white, paints, rack)
        if _SHADED <= black < 0.6 and _hue_of_rest(coat, paints, _BLACK, _YELLOW):
            yield Remark(
                "sickly", index, black,
                tr(
                    "{0} goes a sickly green: yellow shaded with black. Pink, orange-red or brown "
                    "shade it warm."
                ).format(coat_name(coat)),
                i, None, tr("brown in place of the black"),
                partial(brown_for_black, passage=index, coat=i, rack=rack),
            )  # fmt: skip


def _lightened(
    coat: Coat,
    index: int,
    i: int,
    codes: set[str],
    white: float,
    paints: Mapping[str, Paint],
    rack: Sequence[Paint],
) -> Iterator[Remark]:
    green = "PG7" in codes and not codes & {"PY74", "PY42", "PY184"}
    if green and alone(coat, paints, "white")[2] < _TURQUOISE:
        yield Remark(
            "minty", index, white,
            tr("{0} goes minty: green lightened with white alone.").format(coat_name(coat)),
            i, None, tr("a part of yellow into it"),
            partial(remedies.add_part, passage=index, coat=i, pigment="PY74", rack=rack),
        )  # fmt: skip
    elif codes & {"PV23"} and not codes & {"PR122"}:
        yield Remark(
            "chalky", index, white,
            tr("{0} goes chalky: violet lightened with white alone.").format(coat_name(coat)),
            i, None, tr("pink in place of half the white"),
            partial(remedies.pink_for_white, passage=index, coat=i, rack=rack),
        )  # fmt: skip
    elif codes & {"PR254"} and _hue_of_rest(coat, paints, _WHITE, _RED):
        yield Remark(
            "pinked", index, white,
            tr(
                "{0} is pink and no lighter red: red is not lightened with white, it is laid over "
                "white and shaded downward."
            ).format(coat_name(coat)),
            i, None, tr("orange in place of the white"),
            partial(orange_for_white, passage=index, coat=i, rack=rack),
        )  # fmt: skip


def runs(passage: Passage, index: int) -> Iterator[Remark]:
    """Yield a remark for each thin mix on a sponge: water runs, thick medium stays."""
    for i, coat in enumerate(passage.coats):
        thinned = coat.mixture.thinner == "water" and coat.mixture.thinning > RUNNY
        if coat.tool in DABBED and thinned:
            yield Remark(
                "runs", index, coat.mixture.thinning,
                tr(
                    "{0} is too wet for a sponge: so much water runs and leaves no speckle; thick "
                    "medium stays where it is put."
                ).format(coat_name(coat)),
                i, None, tr("thick medium in place of water"),
                partial(thick_for_water, passage=index, coat=i),
            )  # fmt: skip


def thinned_can(passage: Passage, index: int) -> Iterator[Remark]:
    """Yield a remark for each coat from a spray can that is said to be thinned."""
    for i, coat in enumerate(passage.coats):
        if coat.tool == "spray" and coat.mixture.thinning > 0:
            yield Remark(
                "thinned can", index, coat.mixture.thinning,
                tr("{0} is thinned, and a spray can holds its paint as it is.").format(
                    coat_name(coat)
                ),
                i, None, tr("neat, in fewer passes"),
                partial(neat_can, passage=index, coat=i),
            )  # fmt: skip


def neat_can(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan with a coat sprayed neat, as much paint in fewer passes."""
    old = plan.passages[passage].coats[coat]
    passes = max(round(old.passes / (1 + old.mixture.thinning)), 1)
    neat = edits.with_passes(edits.with_thinning(old, 0.0, "water"), passes)
    return edits.set_coat(plan, passage, coat, neat)


def _share(coat: Coat, paints: Mapping[str, Paint], pigments: tuple[str, ...]) -> float:
    """Return the share of a coat's drops that are of paints of some pigments alone."""
    total = sum(part.parts for part in coat.mixture.parts)
    own = sum(p.parts for p in coat.mixture.parts if paints[p.paint].pigments == pigments)
    return own / total


def _hue_of_rest(
    coat: Coat,
    paints: Mapping[str, Paint],
    without: tuple[str, ...],
    hues: tuple[float, float],
) -> bool:
    """Tell whether a mixture without some of its paints is of some hues over white."""
    rest = tuple(p for p in coat.mixture.parts if paints[p.paint].pigments != without)
    if not rest:
        return False
    _, chroma, hue = alone(
        replace(coat, mixture=replace(coat.mixture, parts=rest)), paints, "white"
    )
    return chroma > 30 and hues[0] <= hue < hues[1]


def thick_for_water(plan: Plan, passage: int, coat: int) -> Plan:
    """Return the plan with a coat thinned as much, but with thick medium."""
    old = plan.passages[passage].coats[coat]
    changed = edits.with_thinning(old, old.mixture.thinning, "thick medium")
    return edits.set_coat(plan, passage, coat, changed)


def brown_for_black(plan: Plan, passage: int, coat: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with brown, or what else shades a yellow warm, for the black of a coat."""
    for codes in (("PBr7", "PR101"), ("PR101",), ("PR122",), ("PO73",)):
        found = [paint for paint in rack if paint.pigments == codes]
        if found:
            return _swapped(plan, passage, coat, _BLACK, found[0], 1.0)
    raise PaintError(tr("The rack has no brown, rust, pink or orange; add one."))


def orange_for_white(plan: Plan, passage: int, coat: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with orange for the white of a coat."""
    orange = remedies.with_pigment("PO73", rack)
    return _swapped(plan, passage, coat, _WHITE, orange, 0.5)


def _swapped(
    plan: Plan, passage: int, coat: int, pigments: tuple[str, ...], paint: Paint, share: float
) -> Plan:
    """Return the plan with a paint for those of some pigments, in a share of their parts."""
    held = edits.hold(plan, paint)
    changed = held.passages[passage].coats[coat]
    for part in changed.mixture.parts:
        if held.rack()[part.paint].pigments == pigments:
            changed = edits.with_parts(changed, paint.name, max(round(part.parts * share), 1))
            changed = edits.with_parts(changed, part.paint, 0)
    return edits.set_coat(held, passage, coat, changed)
