"""Templates of cloth and skin: deep cloth, sheer cloth over skin, and skin with its spots.

Thinnings are common practice: a sheer tint 5:1 medium, a milk-thin white veil 3:1 water, folds put
back; warm spots on skin 1:1 medium, a cool violet in the shade 5:1 medium.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.templates.glowing import tones
from zesty_veil.advise.templates.laying import (
    coated,
    film_of,
    nearest_paint,
    wanted_along,
    white_of,
)
from zesty_veil.advise.templates.model import (
    FIGURES,
    LARGE,
    PRIMER,
    Answered,
    Asks,
    Colour,
    Template,
    TemplateMade,
    plan_with,
)
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.field import predict
from zesty_veil.tr import tr

# Hues in degrees: violet and blue shade, warm red of skin, and the violets that reds shade into.
_VIOLET, _WARM, _BLUE = 312.0, 32.0, 280.0
# How a deep cloth runs from its raised folds to the depth, in L.
_FOLDS = (62.0, 44.0, 28.0, 14.0)
_SKINS: dict[str, tuple[str, tuple[Colour, ...]]] = {
    "pale": ("pale", ((83.0, 8.0, 17.0), (73.0, 13.0, 21.0), (60.0, 19.0, 23.0))),
    "tan": ("tanned", ((72.0, 13.0, 26.0), (60.0, 18.0, 29.0), (46.0, 20.0, 25.0))),
    "brown": ("brown", ((52.0, 16.0, 24.0), (40.0, 17.0, 22.0), (28.0, 14.0, 15.0))),
    "dark": ("dark", ((40.0, 13.0, 17.0), (29.0, 12.0, 13.0), (19.0, 9.0, 8.0))),
}


def _turned(colour: Colour, towards: float, share: float) -> Colour:
    """Return a colour with its hue turned some way towards another, by the shorter way."""
    L, C, h = (float(v) for v in lch(np.array(colour)))
    turn = (towards - h + 180) % 360 - 180
    a, b, c = (float(v) for v in lab_from_lch(np.array([L, C, h + share * turn])))
    return a, b, c


def _cloth(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    own = answers.lab("colour")
    light, middle, deep, depth = tones(own, _FOLDS)
    hue = float(lch(np.array(own))[2])
    # Warm colours are shaded towards violet-red, cold ones towards blue; black comes last.
    cold = 110 < hue < 330
    deep, depth = (_turned(each, _BLUE if cold else 350.0, 0.2) for each in (deep, depth))
    bare = Passage(
        tr("cloth"), length, area, answers.ground(), form="folds",
        targets=wanted_along(light, middle, deep, depth),
    )  # fmt: skip
    done = yield from coated(bare, answers, go)
    if done.coats:
        yield TemplateMade(
            1.0, plan_with(tr("Deep cloth"), answers, (done,)),
            (
                tr("The axis runs from the raised folds into the depth between them."),
                tr("It is shaded towards violet or blue before black; a red is not lightened with "
                   "white."),
            ),
        )  # fmt: skip


def _skin(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    _, colours = _SKINS[answers["tone"]]
    bare = Passage(
        tr("skin"), length, area, answers.ground(), form="orb", targets=wanted_along(*colours)
    )
    done = yield from coated(bare, answers, go)
    if not done.coats:
        return
    solid = ("opaque", "transparent", "ink", "wash")
    more, assumed = [], [tr("The axis runs from the raised, lit parts into the shade.")]
    spots = answers["spots"]
    if spots in ("warm", "both"):
        warm = nearest_paint(answers, _WARM, solid, tr("a warm red for cheeks, nose and knuckles"))
        tint = with_feather(with_span(film_of(warm, "medium", 1.0, 1), 0.25, 0.5), 0.15, 0.15)
        more.append(tint)
        assumed.append(tr("Warm spots lie on cheeks, nose, ears, knuckles and knees."))
    if spots in ("cool", "both", "bruise"):
        cool = nearest_paint(answers, _VIOLET, solid, tr("a violet for the cool shade"), 60.0)
        span, thin, passes = ((0.3, 0.6), 8.0, 2) if spots == "bruise" else ((0.75, 1.0), 5.0, 1)
        tint = with_feather(with_span(film_of(cool, "medium", thin, passes), *span), 0.2, 0.0)
        more.append(tint)
        assumed.append(
            tr("A bruise is violet and never as dark as a shadow.") if spots == "bruise"
            else tr("The shade is cooled by one thin violet, not darkened.")
        )  # fmt: skip
    done = _tinted(done, tuple(more), answers)
    yield TemplateMade(1.0, plan_with(tr("Skin"), answers, (done,)), tuple(assumed))


def _tinted(skin: Passage, spots: tuple[Coat, ...], answers: Answered) -> Passage:
    """Return skin with spots over it; what is wanted there is the skin as they tint it."""
    paints = {paint.name: paint for paint in answers.paints}
    tinted = replace(skin, coats=(*skin.coats, *spots))
    places = np.array([target.place for target in skin.targets])
    before, after = (predict(p, paints, places, np.zeros(1)).lab[:, 0] for p in (skin, tinted))
    moved = [
        replace(target, lab=tuple(round(float(v), 2) for v in np.array(target.lab) + shift))
        for target, shift in zip(skin.targets, after - before, strict=True)
    ]
    return replace(tinted, targets=tuple(moved))


def _sheer(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    _, colours = _SKINS[answers["tone"]]
    bare = Passage(
        tr("sheer cloth over skin"), length, area, answers.ground(), form="folds",
        targets=wanted_along(*colours),
    )  # fmt: skip
    hue = float(lch(np.array(answers.lab("colour")))[2])
    clear = ("transparent", "ink", "opaque")
    tint, white = (
        nearest_paint(answers, hue, clear, tr("a paint of that colour")),
        white_of(answers),
    )
    done = yield from coated(bare, answers, go)
    if not done.coats:
        return
    ridge, recess = ("ridge",), ("recess",)
    coats = (
        film_of(tint, "medium", 5.0, 1),
        replace(film_of(white, "water", 3.0, 1), sites=ridge),
        replace(film_of(tint, "medium", 3.0, 1), sites=recess),
    )
    done = replace(done, coats=(*done.coats, *coats), targets=())
    yield TemplateMade(
        1.0, plan_with(tr("Sheer cloth"), answers, (done,)),
        (
            tr("Skin is painted first and shows through; where cloth lies close it is strongest."),
            tr("The veil is milk-thin and lies on raised folds; the folds are put back after it."),
        ),
    )  # fmt: skip


_TONE = Asks("tone", "Which skin?", "pale", {k: v[0] for k, v in _SKINS.items()})
CLOTH = Template(
    "cloth", "Deep cloth", "folds from light to depth", (
        Asks("colour", "Which colour?", "red", colour=True), LARGE, PRIMER, FIGURES,
    ), _cloth,
)  # fmt: skip
SKIN = Template(
    "skin", "Skin", "warm spots, cool shade, a bruise", (
        _TONE,
        Asks("spots", "What lies on it?", "both", {
            "both": "warm spots and a cool shade", "warm": "warm spots", "cool": "a cool shade",
            "bruise": "a bruise", "none": "nothing",
        }),
        LARGE, PRIMER, FIGURES,
    ), _skin,
)  # fmt: skip
SHEER = Template(
    "sheer", "Sheer cloth", "skin, tint, veil, folds put back", (
        Asks("colour", "Which colour is the cloth?", "turquoise", colour=True), _TONE, LARGE,
        PRIMER, FIGURES,
    ), _sheer,
)  # fmt: skip
