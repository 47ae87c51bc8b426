"""Remarks on what is mixed, and with what it is thinned for a tool.

Every border between fine and not is common practice; none is from a published source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial

import numpy as np

from zesty_veil.advise import remedies
from zesty_veil.advise.match.blending import DABBED
from zesty_veil.advise.match.drift import (
    BLACK_ALONE,
    WHITE_ALONE,
    Drift,
    drift_of,
    pink_wanted,
    share_of,
)
from zesty_veil.advise.remark import Remark, RemarkKind
from zesty_veil.errors import PaintError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Passage, Plan, coat_name
from zesty_veil.thresholds import RUNNY
from zesty_veil.tr import tr

# What is said of each drift, and of its remedy.
_SAID: dict[Drift, tuple[str, str]] = {
    Drift.SICKLY: (
        "{0} goes a sickly green: yellow shaded with black. Pink, orange-red or brown shade it "
        "warm.",
        "brown in place of the black",
    ),
    Drift.MINTY: ("{0} goes minty: green lightened with white alone.", "a part of yellow into it"),
    Drift.CHALKY: (
        "{0} goes chalky: violet lightened with white alone.", "pink in place of half the white",
    ),
    Drift.PINKED: (
        "{0} is pink and no lighter red: red is not lightened with white, it is laid over white "
        "and shaded downward.",
        "orange in place of the white",
    ),
}  # fmt: skip
_KINDS: dict[Drift, RemarkKind] = {
    Drift.SICKLY: "sickly", Drift.MINTY: "minty", Drift.CHALKY: "chalky", Drift.PINKED: "pinked",
}  # fmt: skip


def drift(
    passage: Passage, index: int, paints: Mapping[str, Paint], rack: Sequence[Paint]
) -> Iterator[Remark]:
    """Yield a remark for each mixture whose hue goes where painters do not want it."""
    mends: dict[Drift, Callable[..., Plan]] = {
        Drift.SICKLY: brown_for_black,
        Drift.MINTY: partial(remedies.add_part, pigment="PY74"),
        Drift.CHALKY: remedies.pink_for_white,
        Drift.PINKED: orange_for_white,
    }
    for i, coat in enumerate(passage.coats):
        parts = coat.mixture.parts
        kind = drift_of(parts, paints)
        if kind is Drift.PINKED and any(pink_wanted(np.array(t.lab)) for t in passage.targets):
            continue  # that is what a pink and a skin are stirred of
        if kind is not None:
            words, remedy = _SAID[kind]
            share = share_of(parts, paints, BLACK_ALONE if kind is Drift.SICKLY else WHITE_ALONE)
            yield Remark(
                _KINDS[kind], index, share, tr(words).format(coat_name(coat)), i, None,
                tr(remedy), partial(mends[kind], passage=index, coat=i, rack=rack),
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
            return _swapped(plan, passage, coat, BLACK_ALONE, found[0], 1.0)
    raise PaintError(tr("The rack has no brown, rust, pink or orange; add one."))


def orange_for_white(plan: Plan, passage: int, coat: int, rack: Sequence[Paint]) -> Plan:
    """Return the plan with orange for the white of a coat."""
    orange = remedies.with_pigment("PO73", rack)
    return _swapped(plan, passage, coat, WHITE_ALONE, orange, 0.5)


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
