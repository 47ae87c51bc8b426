"""Templates of what shines: a flame, light on things, what is lit from within.

The schools and the orders of colours are common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import FIRE_SCHOOLS, fire, fire_places
from zesty_veil.advise.glow.flame import FIRE_STEPS, fire_paints
from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.painting import (
    SCHOOLS,
    painted,
    with_painting,
)
from zesty_veil.advise.glow.usual import USUAL_WINS
from zesty_veil.advise.templates.laying import LIMITS, coated, wanted_along, with_edges
from zesty_veil.advise.templates.model import (
    FIGURES,
    LARGE,
    NOTHING,
    PRIMER,
    Answered,
    Asks,
    Colour,
    Template,
    TemplateMade,
    plan_with,
)
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.gamut import most_chroma
from zesty_veil.plan.glow import CORES, Glow, Surface
from zesty_veil.plan.model import Passage, Target
from zesty_veil.tr import tr

_FLAME_WORDS = {
    "deep": "through red to black-red",
    "sooty": "no red: orange, then soot and smoke",
    "cold": "yellow, magenta, violet, dark blue",
    "single": "one hue, from a tint to deep shade",
}
# Of the strongest chroma there is, so much is wanted; paint reaches no more.
_STRONG = 0.72
# The clearest that tones are, in chroma, by hue in degrees: yellow paints are clearer than others.
_CLEAREST = ((65.0, 84.0, 104.0, 120.0), (62.0, 76.0, 76.0, 62.0))
_HUED = 20.0  # from this chroma on a colour has its whole hue
_THROWN_L = 60.0  # so light at least is the colour that a flame throws on its neighbours


def _lab(L: float, chroma: float, hue: float) -> Colour:
    a, b, c = (float(v) for v in lab_from_lch(np.array([L, chroma, hue])))
    return a, b, c


def tones(own: Colour, lights: tuple[float, ...]) -> tuple[Colour, ...]:
    """Return a hue from light to dark, as strong as paints of it are.

    The lightest tints keep some yellow if the hue is near it, and the darkest lose their colour.
    """
    hue, colour = float(lch(np.array(own))[2]), _colour_share(own)
    out = []
    for L in lights:
        most = float(most_chroma(np.array(L), np.array(hue)))
        share = np.interp(L, (8.0, 30.0, 75.0, 96.0), (0.5, _STRONG, _STRONG, 0.55))
        clear = min(share * most, float(np.interp(hue, *_CLEAREST)))
        out.append(_lab(L, colour * clear, hue))
    return tuple(out)


def _colour_share(own: Colour) -> float:
    """Return how much of a colour's hue there is, 0-1: a grey has none to be made stronger."""
    return min(float(np.hypot(own[1], own[2])) / _HUED, 1.0)


def _flame(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    school = next(s for s in FIRE_SCHOOLS if s == answers["school"])
    own = answers.lab("colour")
    hue, grey = float(lch(np.array(own))[2]), 1.0
    if school == "single":
        grey = _colour_share(own)
    colours = (fire(school, FIRE_STEPS, hue=hue) * (1.0, grey, grey)).tolist()
    places = fire_places(FIRE_STEPS).tolist()
    targets = wanted_along(*((L, a, b) for L, a, b in colours), places=places)
    bare = Passage(
        tr("flame"),
        length,
        area,
        answers.ground(),
        form="flame",
        targets=targets,
    )
    lit = answers["lights"] != NOTHING
    only = fire_paints(school, answers.paints, hue)
    part = (0.0, 0.5 if lit else 1.0)
    done = yield from coated(bare, answers, go, "far", part=part, only=only)
    if not done.coats:
        return
    assumed = (
        tr("The hottest place is the base or the recess; tongues and tips are darkest."),
        tr("What is round it is dark; a flame only glows in the dark."),
    )
    if not lit:
        yield TemplateMade(1.0, plan_with(tr("Flame"), answers, (done,)), assumed)
        return
    beside = Passage(
        tr("{0} surface").format(answers["lights"]), length, 2 * area, answers.ground(),
        lit_by=done.name, form="folds",
    )  # fmt: skip
    hot = None if school in ("deep", "sooty") else _brightest(targets)
    surface = Surface(beside.name, answers.lab("lights"), place=_PLACES["fire"])
    glow = Glow(
        done.name, (surface,), colour=hot, radius_mm=_reach(area), wins=USUAL_WINS,
        core=CORES["fire"],
    )  # fmt: skip
    plan = plan_with(tr("Flame"), answers, (done, beside))
    found: tuple[Painted, ...] = ()
    for found in painted(plan, glow, "inward", answers.paints, LIMITS, None, go):
        yield TemplateMade(0.5 + 0.48 * found[-1].share)
    if found and go():
        yield TemplateMade(1.0, with_painting(plan, glow, found, answers.paints), assumed)


def _brightest(targets: tuple[Target, ...]) -> Colour:
    """Return the colour that a flame throws on what is beside it: its clearest light one."""
    light = [target.lab for target in targets if target.lab[0] > _THROWN_L] or [targets[0].lab]
    return max(light, key=lambda colour: float(lch(np.array(colour))[1]))


def _reach(area: float) -> float:
    """Return how far a light reaches that shows on a surface of an area, in mm."""
    return max(2.2 * float(np.sqrt(2 * area)), 12.0)


_SOURCES = {
    "fire": "a fire beside the figure",
    "lamp": "a lamp above",
    "eyes": "glowing eyes",
    "spell": "a spell in the hand",
}
_PLACES: dict[str, tuple[float, float, float]] = {
    "fire": (-0.8, -0.4, 0.7),
    "lamp": (0.0, 0.95, 0.7),
    "eyes": (0.0, 0.6, 0.6),
    "spell": (0.7, 0.0, 0.7),
}


def _light(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    source = answers["source"]
    things = [key for key in ("thing", "other") if answers[key] != NOTHING]
    passages = []
    for key in things:
        ground = answers.ground()
        form = "plate" if key == "thing" else "folds"
        name = tr("{0} surface").format(answers[key])
        passages.append(Passage(name, length, 2 * area, ground, form=form))
    names = [p.name for p in passages]
    if len(set(names)) < len(names):
        passages[1] = replace(passages[1], name=tr("other {0}").format(names[1]))
    own = {p.name: answers.lab(key) for p, key in zip(passages, things, strict=True)}
    surfaces = tuple(Surface(p.name, own[p.name], place=_PLACES[source]) for p in passages)
    colour = None if source == "fire" else answers.lab("colour")
    second = None if answers["second"] == NOTHING else answers.lab("second")
    glow = Glow(
        "", surfaces, colour=colour, radius_mm=_reach(area),
        second=second, wins=USUAL_WINS, core=CORES[source],
    )  # fmt: skip
    plan = plan_with(tr("Light on things"), answers, passages)
    found: tuple[Painted, ...] = ()
    school = next(s for s in SCHOOLS if s == answers["school"])
    for found in painted(plan, glow, school, answers.paints, LIMITS, None, go):
        share = (len(found) - 1 + found[-1].share) / len(passages)
        yield TemplateMade(0.98 * share)
    if found and go():
        yield TemplateMade(
            1.0, with_painting(plan, glow, found, answers.paints),
            (
                tr("The light stands off the figure: nothing is painted as its source."),
                tr("Surfaces are matt; drag the light in Light to where it really is."),
            ),
        )  # fmt: skip


_WITHIN: dict[str, tuple[str, str, tuple[float, ...]]] = {
    "blade": ("blade", "a blade", (95.0, 80.0, 58.0, 36.0, 16.0)),
    "crystal": ("facet", "a crystal", (94.0, 78.0, 56.0, 36.0, 23.0)),
    "plasma": ("orb", "plasma in a coil", (97.0, 84.0, 62.0, 40.0, 20.0)),
    "rune": ("plate", "a rune in stone", (96.0, 82.0, 56.0, 28.0)),
}


# What has edges, which are drawn last.
_EDGED = frozenset({"blade", "crystal"})


def _within(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    form, _, lights = _WITHIN[answers["thing"]]
    bare = Passage(
        answers["thing"], length, area, answers.ground(), form=form,
        targets=wanted_along(*tones(answers.lab("colour"), lights)),
    )  # fmt: skip
    done = yield from coated(bare, answers, go)
    if not done.coats:
        return
    assumed = [
        tr("The light is at the edge or the heart, the axis runs from there."),
        tr("Near it the tint keeps its colour; pure white is a touch at the end alone."),
    ]
    if answers["thing"] in _EDGED:
        done = with_edges(done, answers)
        assumed.append(tr("Last of all a hairline of the lightest tint lies on the edges."))
    yield TemplateMade(1.0, plan_with(tr("Lit from within"), answers, (done,)), tuple(assumed))


_SCHOOL_WORDS = {
    "inward": "dark first, lighter inward",
    "sketch": "bright sketch, darker outward",
    "white": "white under all, glazes outward",
    "spot": "airbrush spots, edges by brush",
}
COLOUR = Asks("colour", "Which colour does it have?", "orange", colour=True)
FLAME = Template(
    "flame", "Flame", "hot recesses, dark tips", (
        Asks("school", "Which fire is it?", "deep", {s: _FLAME_WORDS[s] for s in FIRE_SCHOOLS}),
        Asks("colour", "Which hue, if it is of one?", "green", colour=True),
        Asks("lights", "What does it light beside it?", NOTHING, colour=True, optional=True),
        LARGE, PRIMER, FIGURES,
    ), _flame,
)  # fmt: skip
LIGHT_ON_THINGS = Template(
    "light", "Light on things", "a fire, a lamp, eyes or a spell", (
        Asks("source", "What shines?", "fire", _SOURCES),
        Asks("colour", "Which colour has the light, if it is no fire?", "blue", colour=True),
        Asks("thing", "Which colour has what it falls on?", "red", colour=True),
        Asks("other", "And another thing?", "brown", colour=True, optional=True),
        Asks("second", "A second light, opposite?", NOTHING, colour=True, optional=True),
        Asks("school", "How is it painted?", "inward", {s: _SCHOOL_WORDS[s] for s in SCHOOLS}),
        LARGE, PRIMER, FIGURES,
    ), _light,
)  # fmt: skip
WITHIN = Template(
    "within", "Lit from within", "a blade, a crystal, plasma, a rune", (
        Asks("thing", "What is it?", "crystal", {k: v[1] for k, v in _WITHIN.items()}),
        Asks("colour", "Which colour?", "turquoise", colour=True),
        LARGE, PRIMER, FIGURES,
    ), _within,
)  # fmt: skip
