"""Templates of skin with its spots, and of sheer cloth over skin.

Thinnings are common practice: a sheer tint 5:1 medium, a milk-thin white veil 3:1 water, folds put
back; warm spots on skin 1:1 medium, a cool violet in the shade 5:1 medium.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.templates.laying import (
    alone_over_white,
    coated,
    film_of,
    nearest_paint,
    wanted_along,
    white_of,
    with_films,
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
from zesty_veil.light.grid import Array
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import predict
from zesty_veil.tr import tr

# Hues in degrees: violet shade, and warm red of skin.
_VIOLET, _WARM = 312.0, 32.0
# From magenta to ochre a paint of some chroma is warm.
_WARM_FROM, _WARM_TO, _COLOURED = 340.0, 82.0, 16.0
_SKINS: dict[str, tuple[str, tuple[Colour, ...]]] = {
    "pale": ("pale", ((83.0, 8.0, 17.0), (73.0, 13.0, 21.0), (60.0, 19.0, 23.0))),
    "tan": ("tanned", ((72.0, 13.0, 26.0), (60.0, 18.0, 29.0), (46.0, 20.0, 25.0))),
    "brown": ("brown", ((52.0, 16.0, 24.0), (40.0, 17.0, 22.0), (28.0, 14.0, 15.0))),
    "dark": ("dark", ((40.0, 13.0, 17.0), (29.0, 12.0, 13.0), (19.0, 9.0, 8.0))),
    "undead": ("undead", ((74.0, -6.0, 12.0), (60.0, -8.0, 8.0), (44.0, -4.0, -2.0))),
}


def _skin(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    _, colours = _SKINS[answers["tone"]]
    bare = Passage(
        tr("skin"), length, area, answers.ground(), form="orb", targets=wanted_along(*colours)
    )
    only = answers.paints
    if answers["tone"] == "undead":  # nothing in it is warm
        only = tuple(p for p in only if not _is_warm(alone_over_white(p)))
    done = yield from coated(bare, answers, go, only=only)
    if not done.coats:
        return
    solid = ("opaque", "transparent", "ink", "wash")
    more, assumed = [], [tr("The axis runs from the raised, lit parts into the shade.")]
    spots = answers["spots"]
    if answers["tone"] == "undead":
        assumed.append(tr("No blood is left in it: its shade is violet, and nothing is warm."))
        spots = {"both": "cool", "warm": "none"}.get(spots, spots)
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
    done = with_films(done, tuple(more), answers)
    yield TemplateMade(1.0, plan_with(tr("Skin"), answers, (done,)), tuple(assumed))


def _is_warm(look: tuple[float, float, float]) -> bool:
    return look[1] > _COLOURED and (look[2] < _WARM_TO or look[2] > _WARM_FROM)


# Where bare skin ends and cloth begins, and how cloth looks where it lies thick.
_BARE, _THIN = 0.25, 0.55
_CLOTH_L, _CLOTH_CHROMA = 80.0, 17.0


def _sheer(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    length, area = answers.size()
    _, colours = _SKINS[answers["tone"]]
    bare = Passage(
        tr("sheer cloth over skin"), length, area, answers.ground(), form="folds",
        targets=wanted_along(*colours),
    )  # fmt: skip
    own = lch(np.array(answers.lab("colour")))
    tint, white = (
        nearest_paint(answers, float(own[2]), ("opaque",), tr("an opaque paint of that colour")),
        white_of(answers),
    )
    skin = yield from coated(bare, answers, go, part=(0.0, 0.6))
    if not skin.coats:
        return
    paints = {paint.name: paint for paint in answers.paints}
    places = np.array([_BARE, _THIN])
    stays, there = predict(skin, paints, places, np.zeros(1)).lab[:, 0]
    chroma = min(float(own[1]), _CLOTH_CHROMA)
    thick = lab_from_lch(np.array([_CLOTH_L, chroma, own[2]]))
    # Half of the way there skin shines through.
    wanted = wanted_along(
        *(_colour(each) for each in (stays, (there + thick) / 2, thick, thick)),
        places=(_BARE, _THIN, 0.8, 1.0),
    )
    over = replace(skin, targets=wanted)
    veiled = yield from coated(over, answers, go, "beyond", part=(0.6, 1.0), only=(tint, white))
    if len(veiled.coats) == len(skin.coats):
        return
    folds = replace(film_of(white, "water", 3.0, 2), sites=("ridge",))
    folds = with_feather(with_span(folds, _THIN, 1.0), _THIN - _BARE, 0.0)
    between = replace(film_of(tint, "medium", 3.0, 2), sites=("recess",))
    between = with_feather(with_span(between, _THIN, 1.0), _THIN - _BARE, 0.0)
    done = replace(veiled, coats=(*veiled.coats, between, folds))
    yield TemplateMade(
        1.0, plan_with(tr("Sheer cloth"), answers, (done,)),
        (
            tr("The axis runs from bare skin to where the cloth lies thickest."),
            tr("Skin is painted first and shows through where the cloth lies close."),
            tr("The veil is milk-thin; the folds are put back white after it."),
        ),
    )  # fmt: skip


def _colour(lab: Array) -> Colour:
    L, a, b = (float(v) for v in lab)
    return L, a, b


_TONE = Asks("tone", "Which skin?", "pale", {k: v[0] for k, v in _SKINS.items()})
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
