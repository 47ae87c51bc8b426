"""Templates of what shines: a flame, light on things, what is lit from within, a vial.

The schools, the orders of colours and the steps of a vial (70:30, 40:60, pure; the empty part
black; two coats of gloss) are common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.fire import FIRE_SCHOOLS, fire, fire_places
from zesty_veil.advise.glow.flame import FIRE_STEPS
from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.painting import (
    SCHOOLS,
    painted,
    with_painting,
)
from zesty_veil.advise.glow.usual import USUAL_WINS
from zesty_veil.advise.templates.laying import LIMITS, coated, wanted_along
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
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.plan.glow import CORES, Glow, Surface
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.tr import tr

_FLAME_WORDS = {
    "deep": "through red to black-red",
    "sooty": "no red: orange, then soot and smoke",
    "cold": "yellow, magenta, violet, dark blue",
    "single": "one hue, from a tint to deep shade",
}
# Of the strongest chroma there is, so much is wanted; paint reaches no more.
_STRONG = 0.72


def _lab(L: float, chroma: float, hue: float) -> Colour:
    a, b, c = (float(v) for v in lab_from_lch(np.array([L, chroma, hue])))
    return a, b, c


def tones(own: Colour, lights: tuple[float, ...]) -> tuple[Colour, ...]:
    """Return a hue from light to dark, as strong as paints of it are.

    The lightest tints keep some yellow if the hue is near it, and the darkest lose their colour.
    """
    hue = float(lch(np.array(own))[2])
    out = []
    for L in lights:
        most = float(most_chroma(np.array(L), np.array(hue)))
        share = np.interp(L, (8.0, 30.0, 75.0, 96.0), (0.5, _STRONG, _STRONG, 0.55))
        out.append(_lab(L, min(share * most, 62.0), hue))
    return tuple(out)


def _flame(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    school = next(s for s in FIRE_SCHOOLS if s == answers["school"])
    hue = float(lch(np.array(answers.lab("colour")))[2])
    colours = fire(school, FIRE_STEPS, hue=hue).tolist()
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
    done = yield from coated(bare, answers, go, "far")
    if done.coats:
        yield TemplateMade(
            1.0, plan_with(tr("Flame"), answers, (done,)),
            (
                tr("The hottest place is the base or the recess; tongues and tips are darkest."),
                tr("What is round it is dark; a flame only glows in the dark."),
            ),
        )  # fmt: skip


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
        "", surfaces, colour=colour, radius_mm=max(2.2 * float(np.sqrt(2 * area)), 12.0),
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
    "crystal": ("facet", "a crystal", (94.0, 76.0, 52.0, 30.0, 14.0)),
    "plasma": ("orb", "plasma in a coil", (97.0, 84.0, 62.0, 40.0, 20.0)),
    "rune": ("plate", "a rune in stone", (96.0, 82.0, 56.0, 28.0)),
}


def _within(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    form, _, lights = _WITHIN[answers["thing"]]
    bare = Passage(
        answers["thing"], length, area, answers.ground(), form=form,
        targets=wanted_along(*tones(answers.lab("colour"), lights)),
    )  # fmt: skip
    done = yield from coated(bare, answers, go)
    if done.coats:
        yield TemplateMade(
            1.0, plan_with(tr("Lit from within"), answers, (done,)),
            (
                tr("The light is at the edge or the heart, the axis runs from there."),
                tr("Near it the tint keeps its colour; pure white is a touch at the end alone."),
            ),
        )  # fmt: skip


def _vial(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    light, middle, pure = tones(answers.lab("colour"), (78.0, 56.0, 36.0))
    empty: Colour = (14.0, 0.0, 0.0)
    bare = Passage(
        tr("vial"), length, area, answers.ground(), form="orb",
        targets=wanted_along(light, middle, pure, empty, places=(0.0, 0.3, 0.62, 1.0)),
    )  # fmt: skip
    gloss = None
    assumed = [
        tr("The liquid fills two thirds; the empty part is black."),
        tr("It is lightest where the light leaves it, opposite to where it falls in."),
    ]
    varnishes = [p for p in answers.paints if p.kind == "varnish"]
    if varnishes:
        gloss = min(varnishes, key=lambda paint: paint.finish)
    done = yield from coated(bare, answers, go)
    if not done.coats:
        return
    if gloss is not None:
        shine = Coat(Mixture((Part(gloss.name),)), "loaded", 2)
        done = replace(done, coats=(*done.coats, shine))
    else:
        assumed.append(tr("Two coats of gloss varnish would end it; the rack has none."))
    yield TemplateMade(1.0, plan_with(tr("Vial of glass"), answers, (done,)), tuple(assumed))


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
VIAL = Template(
    "vial", "Vial or glass", "liquid in steps, gloss over it", (
        Asks("colour", "Which colour is the liquid?", "green", colour=True),
        LARGE, PRIMER, FIGURES,
    ), _vial,
)  # fmt: skip
