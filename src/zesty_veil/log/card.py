"""A painted test card as it was read: one paint over white and black, in strips of some passes.

The file is JSON with a schema number; what reads a card (a photograph, typed numbers, a meter)
ends here, and fitting begins here.
"""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

import msgspec
import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.limits import MOST_LETTERS, SPECTRUM, at_most, between, from_to, limit_faults
from zesty_veil.log.files import decoded, read_whole
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import Kind
from zesty_veil.paint.mixture import MOST_THINNING, Thinner
from zesty_veil.paint.paint import MOST_IN_POT, Code
from zesty_veil.paint.tool import tools
from zesty_veil.tr import counted, tr

CARD_FORMAT = "zesty-veil card"
CARD_SCHEMA = 1
_MOST_MB = 4
MOST_PATCHES = 200
MOST_STRIP = 60
MOST_WORDS = 2000

# What a photograph says of a patch whose light is too little in some of its three channels.
DEEP = "deeper than the photograph can show"

Backing = Literal["white", "black"]
Source = Literal["photograph", "typed", "instrument", "bench meter"]
# How far a colour of each source may be off, as dE00 (one standard deviation). Common practice
# for a daylight photograph beside a grey scale, for eyes with a fan of colours, and for a meter.
NOISE: dict[Source, float] = {
    "photograph": 1.0,
    "typed": 1.5,
    "instrument": 0.25,
    "bench meter": 0.25,
}


class Patch(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One painted or bare field of the card: its backing, the passes on it, and its colour.

    `lab` is CIELAB under daylight for 2 degrees; `spectrum` is the reflectance seen, 36 bands from
    380 to 730 nm. One of them must be there; where both are, the spectrum counts. `doubt` names
    what may be wrong with it (glare, shadow).
    """

    backing: Backing
    passes: Annotated[int, between(0, MOST_STRIP)]
    lab: (
        tuple[
            Annotated[float, between(0, 100, "L of its Lab")],
            Annotated[float, between(-200, 200, "a of its Lab")],
            Annotated[float, between(-200, 200, "b of its Lab")],
        ]
        | None
    ) = None
    spectrum: Annotated[tuple[Annotated[float, between(0, 1.5)], ...], SPECTRUM] | None = None
    doubt: Annotated[str, at_most(MOST_WORDS)] = ""

    @property
    def colour(self) -> Array:
        """CIELAB, (3,)."""
        if self.spectrum is not None:
            eye = weights()
            return lab(xyz(np.array(self.spectrum), eye), eye.sum(axis=0))
        return np.array(self.lab)


class Card(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One paint, thinned one way and laid with one tool, as it was read off a card."""

    paint: Annotated[str, at_most(MOST_LETTERS, "its paint")]
    kind: Kind
    patches: Annotated[tuple[Patch, ...], from_to(1, MOST_PATCHES, "its patches")]
    pigments: Annotated[tuple[Code, ...], at_most(MOST_IN_POT, "its pigments")] = ()
    maker: Annotated[str, at_most(MOST_LETTERS, "its maker")] = ""
    finish: str = ""  # as `optics.surface.FINISHES`; none takes what the kind usually has
    thinner: Thinner = "water"
    thinning: Annotated[float, between(0, MOST_THINNING)] = 0.0
    tool: str = "loaded"
    source: Source = "typed"
    light: str = "D65"


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    schema: int
    card: Card


def dump_card(card: Card) -> bytes:
    """Return a card as the bytes of its file."""
    return (
        msgspec.json.format(msgspec.json.encode(_File(CARD_FORMAT, CARD_SCHEMA, card)), indent=1)
        + b"\n"
    )


def load_card(path: Path) -> Card:
    """Return the card in a file; raises InputError with one sentence."""
    return parse_card(read_whole(path, _MOST_MB, "card"), path.name)


def parse_card(raw: bytes, where: str = "The card") -> Card:
    """Return the card in the bytes of a file.

    Raises
    ------
    InputError
        With one sentence that starts with `where`.
    """
    file = decoded(raw, _File, where, "card")
    if file.format != CARD_FORMAT or file.schema != CARD_SCHEMA:
        raise InputError(
            tr("{0} is no card of schema {1}; read the card again.").format(where, CARD_SCHEMA)
        )
    try:
        check_card(file.card)
    except InputError as error:
        raise InputError(f"{where}: {error}") from None
    return file.card


def check_card(card: Card) -> None:
    """Refuse a card that holds something impossible; raises InputError with one sentence."""
    if not card.paint.strip():
        raise InputError(tr("The card names no paint; write which paint it is."))
    if card.tool not in tools():
        raise InputError(
            tr("The tool '{0}' is not known; use one of {1}.").format(card.tool, ", ".join(tools()))
        )
    if card.finish and card.finish not in FINISHES:
        known = ", ".join(FINISHES)
        raise InputError(
            tr("The finish '{0}' is not known; use one of {1}.").format(card.finish, known)
        )
    for fault in limit_faults(card):
        raise InputError(tr("The card of '{0}': {1}").format(card.paint[:MOST_LETTERS], fault))
    for patch in card.patches:
        _check_patch(patch)
    if not any(patch.passes for patch in card.patches):
        raise InputError(tr("No patch of the card is painted; give at least one with 1 pass."))


def _check_patch(patch: Patch) -> None:
    count = counted(patch.passes, "{0} pass", "{0} passes")
    what = tr("The patch over {0} with {1}").format(patch.backing, count)
    for fault in limit_faults(patch):
        raise InputError(f"{what}: {fault}")
    if patch.lab is None and patch.spectrum is None:
        raise InputError(tr("{0} has no colour; give its Lab or its spectrum.").format(what))
