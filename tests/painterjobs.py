"""Jobs that painters have, as wanted colours on a ground; what is usual is common practice."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage, Primer, Target
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.services.colours import parse_colour


class Job(NamedTuple):
    """A ramp from light to far as words for colours, its primer, and what a painter would lay."""

    name: str
    primer: Primer
    colours: tuple[str, ...]
    usual: str

    @property
    def targets(self) -> tuple[Target, ...]:
        """The colours at places spread evenly."""
        places = np.linspace(0, 1, len(self.colours)) if len(self.colours) > 1 else [0.5]
        out = []
        for place, words in zip(places, self.colours, strict=True):
            L, a, b = (float(v) for v in parse_colour(words))
            out.append(Target(round(float(place), 4), (L, a, b)))
        return tuple(out)

    def passage(self, coats: tuple[Coat, ...] = ()) -> Passage:
        """A passage with these targets."""
        return Passage(self.name, ground=Ground(self.primer), coats=coats, targets=self.targets)

    def request(
        self, paints: tuple[Paint, ...] | None = None, limits: Limits | None = None
    ) -> MatchRequest:
        """What is asked of the search; from all paints at hand."""
        base = self.passage()
        some = paints_at_hand() if paints is None else paints
        return MatchRequest(
            (base,), some, self.targets, some, limits or Limits(coats=6, mixes=3),
            ViewingConditions("D65"), reasons=False,
        )  # fmt: skip


RAMPS: tuple[Job, ...] = (
    Job("fire on white", "white",
        ("97,-3,25", "85,8,80", "68,40,70", "50,60,45", "30,38,22", "13,6,4"),
        "white stays, yellow, orange, red, then red with black, each shorter"),
    Job("fire on black", "black",
        ("92,-8,32", "84,8,78", "67,40,68", "48,58,42", "28,34,20"),
        "white over all, yellow over all, orange, red, dark red, each shorter"),
    Job("blue glow on black", "black",
        ("79,-8,-19", "63,-10,-32", "43,-1,-44", "30,13,-43", "15,7,-21"),
        "dark blue over all, then lighter blues, each further in"),
    Job("red cloth", "white",
        ("58,62,50", "48,60,42", "36,48,28", "22,28,12"),
        "red over all, shaded with red-brown and then with black in it"),
    Job("violet cloth", "black",
        ("77,17,-2", "60,32,-18", "42,32,-24", "25,17,-27", "14,8,-18"),
        "violet over all, pink-lilac steps inward, blue-violet outward"),
    Job("green crystal", "white",
        ("94,-10,27", "81,-31,55", "57,-48,42", "37,-35,16", "20,-14,1"),
        "yellow-green over white, green, deep green, each shorter"),
    Job("bone in green light", "black",
        ("85,-24,40", "67,-34,42", "50,-40,32", "34,-30,17", "20,-10,2"),
        "dark green over all, then green with ivory, each further in"),
    Job("ochre leather", "grey",
        ("70,11,47", "56,17,42", "42,17,28", "28,15,14", "16,6,4"),
        "ochre over all, brown, dark brown, each shorter"),
    Job("skin", "ivory",
        ("82,9,18", "72,14,22", "60,19,24", "46,22,20"),
        "skin over all, a reddish tint toward the shade, twice"),
    Job("blue into green", "white",
        ("46,-2,-42", "50,-16,-30", "54,-28,-16", "58,-38,2", "62,-46,24"),
        "blue, blue + green, green: the two pots and their mixtures"),
    Job("cold fire", "white",
        ("94,-8,50", "78,25,60", "58,54,20", "36,42,-24", "22,19,-38", "16,8,-24"),
        "yellow, orange, magenta, violet, dark blue, each shorter"),
    Job("grey steel", "black",
        ("88,-1,-2", "66,-1,-4", "46,-1,-5", "28,0,-4"),
        "black stays, greys, each further in"),
)  # fmt: skip

SINGLES: tuple[Job, ...] = (
    Job("bright yellow on black", "black", ("86,6,82",), "white twice, then yellow"),
    Job("bright yellow on white", "white", ("86,6,82",), "yellow, two or three times"),
    Job("clean red on white", "white", ("46,62,44",), "red, two or three times"),
    Job("clean red on black", "black", ("46,62,44",), "white or ivory first, then red"),
    Job("deep violet", "white", ("24,28,-34",), "violet, several times"),
    Job("teal", "white", ("50,-30,-12",), "teal pot, twice"),
    Job("deep green", "black", ("30,-28,12",), "green with yellow in it"),
    Job("pale blue", "white", ("84,-8,-12",), "white with a little blue"),
    Job("turquoise", "black", ("62,-36,-16",), "turquoise over white, or with white in it"),
    Job("warm brown", "grey", ("34,16,20",), "brown pot, once or twice"),
    Job("pink", "white", ("72,36,4",), "pink pot"),
    Job("black red", "white", ("14,16,8",), "red with black"),
)  # fmt: skip

# Mean dE00 and passes of the way that stood first for each ramp while nearness alone was sought.
BEFORE: dict[str, tuple[float, int]] = {
    "fire on white": (1.7, 17),
    "fire on black": (0.8, 17),
    "blue glow on black": (1.5, 13),
    "red cloth": (0.5, 12),
    "violet cloth": (1.3, 16),
    "green crystal": (1.4, 14),
    "bone in green light": (2.0, 17),
    "ochre leather": (0.8, 16),
    "skin": (0.5, 12),
    "blue into green": (1.7, 13),
    "cold fire": (2.3, 19),
    "grey steel": (0.5, 7),
}
