"""The plan and its parts: frozen documents."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from zesty_veil.limits import MOST_LAB, MOST_LETTERS, at_most, between, from_to
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import Mixture
from zesty_veil.paint.paint import Name, Paint
from zesty_veil.plan.glow import Fire, Glow

Hand = Literal["steady", "ordinary", "loose"]
HANDS: tuple[Hand, ...] = ("steady", "ordinary", "loose")
Primer = Literal["white", "grey", "black", "ivory", "brown", "red", "blue"]
Stroke = Literal["across", "to light", "to far"]
STROKES: tuple[Stroke, ...] = ("across", "to light", "to far")

# What a coat is meant for, so that nobody tells the painter otherwise: a base for what lies over
# it, to dull what lies below, a glow spot that nothing may cover, an edge that stays hard.
Meant = Literal["", "base", "dull", "glow spot", "edge"]
MEANT: tuple[Meant, ...] = ("", "base", "dull", "glow spot", "edge")


MOST_PASSES = 60
MOST_LENGTH_MM = 2000.0
LEAST_COVER = 0.02
MOST_AREA_MM2 = 1e6
MOST_COATS = 200
MOST_GROUND_COATS = 40
MOST_PASSAGES = 200
MOST_TARGETS = 200
MOST_HELD = 2000
MOST_SCULPTS = 32
MOST_OWN = 60
MOST_FIGURES = 1000
MOST_SCULPT_SIDE = 1024
LEAST_TILTS, MOST_TILTS, MOST_TURNS = 2, 25, 9

Lab = tuple[
    Annotated[float, between(-MOST_LAB, MOST_LAB, "L")],
    Annotated[float, between(-MOST_LAB, MOST_LAB, "a")],
    Annotated[float, between(-MOST_LAB, MOST_LAB, "b")],
]

FORM_NAMES: tuple[str, ...] = ("flame", "facet", "blade", "folds", "plate", "orb", "hood")


class Coat(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One mixture laid with one tool in some passes over part of a passage.

    `span` is where the coat lies in full, on the axis from 0 (at the light) to 1 (away).
    `feather` is how far beyond each end of the span it thins out, as shares of the axis.
    `stroke` is where each pass ends: the little drop left at the lift makes that end richer.
    `wicked` means that puddles are taken up at once, so that recesses get no more than flats.
    `stagger` is how the passes share the feather, as shares of it, from the pass that reaches
    furthest inward; without it they share it evenly.
    `nozzle` is for airbrush and spray: degrees from straight above; none follows the surface.
    `cover` is for sponge, stippling and dry brush: the share of the area that a pass touches; none
    is the tool's own. `meant` is what the painter means it for, if that was said.
    """

    mixture: Mixture
    tool: Name = "loaded"
    passes: Annotated[int, between(1, MOST_PASSES)] = 1
    span: tuple[
        Annotated[float, between(0, 1, "the start of its span")],
        Annotated[float, between(0, 1, "the end of its span")],
    ] = (0.0, 1.0)
    feather: tuple[
        Annotated[float, between(0, 1, "the feather on its light side")],
        Annotated[float, between(0, 1, "the feather on its far side")],
    ] = (0.0, 0.0)
    sites: tuple[Site, ...] = SITES
    stroke: Stroke = "across"
    wicked: bool = False
    nozzle: Annotated[float, between(-180, 180, "the angle of its nozzle")] | None = None
    stagger: Annotated[
        tuple[Annotated[float, between(0, 1, "a share of its stagger")], ...],
        at_most(MOST_PASSES, "its stagger"),
    ] = ()
    cover: Annotated[float, between(LEAST_COVER, 1, "the share that its passes cover")] | None = (
        None
    )
    meant: Meant = ""


class Ground(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What is below the first coat: a primer, and coats that count as ground.

    Those coats make zenithal sprays, white focused round the light, and coloured underpaint.
    `measured` is a colour (CIELAB, daylight) measured on the figure, where nobody knows what lies
    below it: it takes the primer's place, and nothing shows through it.
    """

    primer: Primer = "black"
    coats: Annotated[tuple[Coat, ...], at_most(MOST_GROUND_COATS, "coats of its ground")] = ()
    measured: Lab | None = None


class Target(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A wanted colour (CIELAB) at a place of a passage.

    `words` where it was given in words: then any colour that is so called is what is wanted.
    """

    place: Annotated[float, between(0, 1, "its place")]
    lab: Lab
    site: Site = "flat"
    words: Annotated[str, at_most(60, "The words for a colour")] = ""


class Axis(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Where a passage's axis runs on a sculpt: from the light to the far end.

    Both are x (to the right) and y (upward) in the view, -1 to 1. With `rings` the axis runs from
    the light in all directions, as far as the far end is away.
    """

    start: tuple[
        Annotated[float, between(-2, 2, "x of the start of its axis")],
        Annotated[float, between(-2, 2, "y of the start of its axis")],
    ] = (0.0, 0.8)
    end: tuple[
        Annotated[float, between(-2, 2, "x of the end of its axis")],
        Annotated[float, between(-2, 2, "y of the end of its axis")],
    ] = (0.0, -0.8)
    rings: bool = False


class Sculpt(msgspec.Struct, frozen=True, forbid_unknown_fields=True, weakref=True):
    """A view of the painter's own figure, kept in the plan so that it needs no other file.

    `heights` are side x side unsigned 16-bit numbers, rows from the top, deflated: 0 where the
    figure is not, otherwise 1 + height / step. `step` and heights are in half widths of the view,
    and `half_width_mm` tells how large that is.
    """

    name: Name
    side: Annotated[int, between(16, MOST_SCULPT_SIDE)]
    heights: bytes
    step: Annotated[float, between(1e-12, 1)]
    half_width_mm: Annotated[float, between(1e-3, MOST_LENGTH_MM)]


class OwnTool(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What strips or the log showed of a hand with one tool.

    `film` is how much more than the tool's usual film a pass leaves; `cv` is how far single passes
    stray, as a coefficient of variation, if it is known.
    """

    tool: Name
    film: Annotated[float, between(0.05, 20, "the own film")] = 1.0
    cv: Annotated[float, between(0.01, 2, "the own spread")] | None = None


OwnHand = Annotated[tuple[OwnTool, ...], at_most(MOST_OWN, "Own hand")]


class Passage(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """An area of the figure painted as one thing, with its axis away from the light.

    `tilt` is how far the surface is turned from facing straight up, in degrees, at places spread
    evenly from the light to the far end; sprays from above reach what faces up. `turns` are tilts
    of equal shares of the surface there, where one place is turned many ways. `form` is the shape
    that it is seen on: one of `FORM_NAMES`, or a sculpt of the plan, over which `axis` runs.
    `targets` are the colours wanted on it. `lit_by` names the passage whose painted light falls on
    it, if any. `own_hand` is that of the plan.
    """

    name: Name
    length_mm: Annotated[float, between(0.1, MOST_LENGTH_MM)] = 20.0
    area_mm2: Annotated[float, between(0.01, MOST_AREA_MM2)] = 150.0
    ground: Ground = Ground()
    coats: Annotated[tuple[Coat, ...], at_most(MOST_COATS, "its coats")] = ()
    surround: Name | None = None
    lit_by: Name | None = None
    tilt: Annotated[
        tuple[Annotated[float, between(-360, 360, "a tilt")], ...],
        from_to(LEAST_TILTS, MOST_TILTS, "its tilts"),
    ] = (0.0, 90.0)
    turns: Annotated[
        tuple[
            Annotated[
                tuple[Annotated[float, between(-360, 360, "a tilt")], ...],
                from_to(LEAST_TILTS, MOST_TILTS, "its tilts"),
            ],
            ...,
        ],
        at_most(MOST_TURNS, "its turns"),
    ] = ()
    form: Name = "orb"
    axis: Axis = Axis()
    targets: Annotated[tuple[Target, ...], at_most(MOST_TARGETS, "its targets")] = ()
    own_hand: OwnHand = ()

    def film(self, tool: str) -> float:
        """Return how much more than a tool's usual film the hand that paints it leaves."""
        return next((own.film for own in self.own_hand if own.tool == tool), 1.0)


class Plan(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One document: what will be painted, for how many figures, under which light, by which hand.

    It holds the paints and the sculpts it uses, so that a file needs nothing else to be read.
    `own_hand` is what is known of the painter's own hand, by tool; it lays all passages.
    """

    title: Annotated[str, at_most(MOST_LETTERS, "The title")]
    passages: Annotated[tuple[Passage, ...], at_most(MOST_PASSAGES, "Passages")] = ()
    paints: Annotated[tuple[Paint, ...], at_most(MOST_HELD, "Paints")] = ()
    figures: Annotated[int, between(1, MOST_FIGURES)] = 1
    light: Name = "D65"
    hand: Hand = "ordinary"
    sculpts: Annotated[tuple[Sculpt, ...], at_most(MOST_SCULPTS, "Sculpts")] = ()
    glow: Glow | None = None
    fires: Annotated[tuple[Fire, ...], at_most(MOST_PASSAGES, "Fires")] = ()
    own_hand: OwnHand = ()

    def rack(self) -> dict[str, Paint]:
        """Return the paints that the plan holds, by name."""
        return {paint.name: paint for paint in self.paints}


def mixture_words(mixture: Mixture) -> str:
    """Return the paints of a mixture with their parts, where those differ."""
    parts = mixture.parts
    if all(part.parts == parts[0].parts for part in parts):
        return " + ".join(part.paint for part in parts)
    return " + ".join(f"{part.paint} {part.parts:g}" for part in parts)


def coat_name(coat: Coat) -> str:
    """Return what a painter would call a coat: its paints and thinning."""
    return f"{mixture_words(coat.mixture)}, {thinning_words(coat.mixture)}"


def ground_words(ground: Ground) -> str:
    """Return what a ground is: 'black primer, Lime White sprayed from above'."""
    words = ["a measured colour" if ground.measured else f"{ground.primer} primer"]
    for coat in ground.coats:
        paints = " + ".join(part.paint for part in coat.mixture.parts)
        if coat.nozzle is not None:
            words.append(f"{paints} sprayed from {_from_where(coat.nozzle)}")
        elif coat.span != (0.0, 1.0):
            words.append(f"{paints} in part")
        else:
            words.append(paints)
    return ", ".join(words)


def _from_where(nozzle: float) -> str:
    return "above" if abs(nozzle) < 10 else f"{nozzle:g} degrees"


def thinning_words(mixture: Mixture) -> str:
    """Return the thinning as painters write it: 'neat', '3:1 water'."""
    return f"{mixture.thinning:g}:1 {mixture.thinner}" if mixture.thinning else "neat"
