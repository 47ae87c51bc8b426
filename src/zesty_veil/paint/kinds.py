"""Kinds of paint, and all that the program takes for granted of each: one row, one place.

Whoever adds a kind adds its name and its row here; what uses kinds asks this table.
"""

from __future__ import annotations

from typing import Literal, NamedTuple

Kind = Literal[
    "opaque",
    "transparent",
    "ink",
    "wash",
    "contrast",
    "fluorescent",
    "metallic",
    "varnish",
    "medium",
]


class CardPrior(NamedTuple):
    """What is known of a kind before a card is read, in parts of what pigment tables say.

    strength, scatter : factors on absorption and scattering. white : share that scatters as white
    does. absorbs, scatters : mean absorption and reduced scattering where no pigment is known, per
    neat coat.
    """

    strength: float
    scatter: float
    white: float
    absorbs: float
    scatters: float


class KindFacts(NamedTuple):
    """What a painter would take, unless something else is said; common practice.

    tool, thinning : with which it is laid, and parts of water to one. search : tools that a search
    lays it with, the usual one first. finish : of its dry film. clear : it has no colour of its
    own. apart : sought only where all other kinds stay off. prior : what a card is read with; none
    where `unfit` says why a card cannot tell.
    """

    tool: str
    thinning: float
    search: tuple[str, ...] = ()
    finish: str = "satin"
    clear: bool = False
    apart: bool = False
    prior: CardPrior | None = None
    unfit: str = ""


_CLEAR = "it is clear, so a card shows nothing of it but its finish"

KINDS: dict[Kind, KindFacts] = {
    "opaque": KindFacts(
        "loaded", 0.5, ("loaded", "glaze"), "matt", prior=CardPrior(1.0, 1.0, 0.3, 0.65, 4.0)
    ),
    "transparent": KindFacts(
        "loaded", 1.0, ("loaded", "glaze"), prior=CardPrior(0.8, 1.0, 0.0, 0.5, 0.55)
    ),
    "ink": KindFacts(
        "glaze", 4.0, ("glaze", "loaded"), "gloss", prior=CardPrior(1.0, 0.15, 0.0, 0.65, 0.045)
    ),
    "wash": KindFacts("wash", 0.0, ("wash", "glaze"), prior=CardPrior(0.1, 0.8, 0.0, 0.2, 0.14)),
    "contrast": KindFacts(
        "contrast", 0.0, ("contrast", "glaze"), prior=CardPrior(0.2, 1.0, 0.0, 0.43, 0.35)
    ),
    "fluorescent": KindFacts(
        "loaded", 0.5, ("loaded", "glaze"), apart=True,
        unfit="it sends out light of its own, which needs a meter with two gratings",
    ),
    "metallic": KindFacts(
        "loaded", 0.5, ("loaded",), apart=True,
        unfit="its flakes shine, and a card shows them from one side only",
    ),
    "varnish": KindFacts("loaded", 0.0, clear=True, unfit=_CLEAR),
    "medium": KindFacts("glaze", 0.0, clear=True, unfit=_CLEAR),
}  # fmt: skip

# Those that have no colour of their own.
CLEAR: frozenset[Kind] = frozenset(kind for kind, facts in KINDS.items() if facts.clear)
# Those that a search leaves aside at first.
SPECIAL: frozenset[Kind] = CLEAR | {kind for kind, facts in KINDS.items() if facts.apart}
# The tool and load that a painter would take for each kind when nothing is said.
USUAL_TOOL: dict[str, str] = {kind: facts.tool for kind, facts in KINDS.items()}
# Those that a card can be read of.
CARD_KINDS: tuple[Kind, ...] = tuple(kind for kind, facts in KINDS.items() if facts.prior)
