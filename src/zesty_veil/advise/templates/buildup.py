"""Cloth, robes and armour by the schools of painters who build up; common practice.

layers : up from black, dark first, lighter steps that reach less far, edges last. wash : base, wash
in the recesses, base again on what stands out, two lights. glazes : down from white, folds shaded
by clear colour.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.drift import drift_of
from zesty_veil.advise.templates.glowing import tones
from zesty_veil.advise.templates.laying import (
    alone_over_white,
    coated,
    film_of,
    nearest_paint,
    wanted_along,
    with_edges,
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
from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.tr import tr

# Name, form, how light it is from fold to depth, and the school that is usual for it.
_THINGS: dict[str, tuple[str, str, tuple[float, ...], str]] = {
    "cloth": ("cloth", "folds", (62.0, 44.0, 28.0, 14.0), "glazes"),
    "robe": ("robe", "folds", (70.0, 52.0, 36.0, 22.0), "wash"),
    "armour": ("armour", "plate", (60.0, 40.0, 26.0, 13.0), "layers"),
}
_SCHOOLS = {
    "usual": "the usual way",
    "glazes": "down from white by glazes",
    "layers": "up from black by layers, edges last",
    "wash": "base, wash, base again, two lights",
}
# Reds shade towards a cold red, cold colours towards blue; violet is lifted with pink, then bone.
_REDS, _ORANGE, _LESS_LIGHT = (12.0, 52.0), 62.0, 6.0
_BLUE, _COLD_RED, _VIOLETS = 280.0, 350.0, (290.0, 335.0)
_LIFTS: tuple[Colour, ...] = ((84.0, 3.0, 15.0), (64.0, 26.0, -14.0))
# How clear an opaque violet is, in chroma, by its lightness.
_VIOLET_CHROMA = ((14.0, 28.0, 44.0), (18.0, 34.0, 42.0))
# The glaze that brings a violet together: its hue, medium, passes, and where it lies.
_VIOLET, _BACK, _BACK_SPAN = 315.0, (5.0, 1), (0.25, 0.75)
# Yellows, which shade into ochre: of what chroma at most, and how much warmer, in degrees.
_YELLOWS, _OCHRE = (78.0, 106.0), (47.0, 9.0)
# How light a clear colour is by its hue in degrees: no yellow is dark.
_AS_LIGHT = ((62.0, 84.0, 106.0, 125.0), (0.0, 84.0, 86.0, 0.0))
# How much of what a colour is lighter than usual reaches fold, flat, shade and depth; of what is
# nearly white, whose shadows are light; and from how much darker on a colour is dark, in L.
_LIFTED, _PALE_LIFTED, _NOT_DARK = (1.0, 0.8, 0.55, 0.3), (1.0, 0.9, 0.8, 0.75), 12.0
# How much clearer than itself a colour may be in its tones; and from what chroma on it is clear.
_CLEARER, _CLEAR = 1.3, 30.0
# Lights of the wash school: where they begin to fade, and base and light in drops.
_LIGHTS = ((0.5, (2.0, 1.0)), (0.15, (1.0, 2.0)))
_FAR, _PALE, _WHITE, _LIGHTER, _A_LITTLE, _NEAR_HUE = 28.0, 22.0, 78.0, 10.0, 3.0, 45.0
_HUED = 12.0  # from this chroma on a colour and a wash have a hue
_STANDS_OUT = ("flat", "ridge")


def _turned(colour: Colour, towards: float, share: float) -> Colour:
    """Return a colour with its hue turned some way towards another, by the shorter way."""
    L, C, h = (float(v) for v in lch(np.array(colour)))
    turn = (towards - h + 180) % 360 - 180
    a, b, c = (float(v) for v in lab_from_lch(np.array([L, C, h + share * turn])))
    return a, b, c


def _wanted(own: Colour, lights: tuple[float, ...]) -> tuple[Colour, ...]:
    """Return what is wanted of a cloth from its raised folds to its depth."""
    _, chroma, hue = (float(v) for v in lch(np.array(own)))
    strong = tones(own, _lights(own, lights))
    clear = [_at_most(each, _CLEARER * chroma) for each in strong]
    light = clear[:-2]
    shade = _BLUE if 110 < hue < 335 else _COLD_RED
    deep, depth = (_turned(each, shade, 0.25) for each in clear[-2:])
    if chroma < _CLEAR:
        return (*light, deep, depth)
    if _is_violet(own):
        own_tones = (*light[1:], deep, depth)
        most = np.interp([tone[0] for tone in own_tones], *_VIOLET_CHROMA).tolist()
        return (*_LIFTS, *map(_at_most, own_tones, most))
    if _REDS[0] < hue < _REDS[1]:
        # A red is lifted with orange: lighter of its own hue it would be a pink.
        first, *rest = light
        light = [_turned(_darker(first), _ORANGE, 0.6), *(_turned(r, _ORANGE, 0.2) for r in rest)]
    if _YELLOWS[0] < hue < _YELLOWS[1]:
        # Its shades are ochre, and no dark yellow.
        first, *rest = light
        light = [first, *(_turned(_at_most(v, _OCHRE[0]), hue - _OCHRE[1], 1.0) for v in rest)]
    return (*light, deep, depth)


def _is_violet(own: Colour) -> bool:
    _, chroma, hue = (float(v) for v in lch(np.array(own)))
    return chroma >= _CLEAR and _VIOLETS[0] < hue < _VIOLETS[1]


def _glazed_back(violet: Passage, answers: Answered) -> Passage:
    """Return a violet with one thin clear violet over what was lifted, but its brightest."""
    try:
        clear = nearest_paint(answers, _VIOLET, ("ink", "transparent"), "")
    except InputError:
        return violet  # there is nothing clear to glaze it with
    film = edits.with_span(film_of(clear, "medium", *_BACK), *_BACK_SPAN)
    film = edits.with_feather(film, _BACK_SPAN[0], 1 - _BACK_SPAN[1])
    return with_films(violet, (film,), answers)


def _at_most(colour: Colour, chroma: float) -> Colour:
    """Return a colour no clearer than a chroma."""
    L, a, b = colour
    share = min(1.0, chroma / max(float(np.hypot(a, b)), 1e-9))
    return L, share * a, share * b


def _lights(own: Colour, usual: tuple[float, ...]) -> tuple[float, ...]:
    """Return how light a cloth is from fold to depth, L.

    Yellow cloth is as light as yellow is, dark cloth darker than usual, and the shadows of white
    cloth are light.
    """
    L, chroma, hue = (float(v) for v in lch(np.array(own)))
    light, middle = max(L, float(np.interp(hue, *_AS_LIGHT))), (usual[0] + usual[1]) / 2
    if chroma < _CLEAR:
        light = L
    pale = chroma < _PALE and light > _WHITE
    less = min(light - middle + _NOT_DARK, 0.0) / 2
    more = max(light - middle, 0.0)
    shares = _PALE_LIFTED if pale else _LIFTED
    moved = (u + share * (more + less) for u, share in zip(usual, shares, strict=True))
    return tuple(min(each, max(light, usual[0])) for each in moved)


def _darker(colour: Colour) -> Colour:
    L, a, b = colour
    return L - _LESS_LIGHT, 1.15 * a, 1.15 * b


def _built(answers: Answered, go: Callable[[], bool]) -> Iterator[TemplateMade]:
    name, form, lights, usual = _THINGS[answers["thing"]]
    length, area = answers.size()
    own, school = answers.lab("colour"), answers["school"]
    if school == "usual":
        school = usual
    bare = Passage(
        tr(name), length, area, answers.ground(), form=form,
        targets=wanted_along(*_wanted(own, lights)),
    )  # fmt: skip
    assumed = [tr("The axis runs from the raised folds into the depth between them.")]
    if school == "wash":
        done = _washed(bare, answers)
        assumed.append(tr("The wash runs into the recesses; the base goes back on the rest."))
    elif school == "layers":
        # Nothing clear shows on black.
        solid = tuple(p for p in answers.paints if p.kind == "opaque")
        done = yield from coated(bare, answers, go, "inward", only=solid)
        assumed.append(tr("Each lighter step reaches less far; no white lies below."))
    else:
        done = yield from coated(bare, answers, go, "white")
        assumed.append(
            tr("It is shaded towards violet or blue before black; white lightens no red.")
        )
    if not done.coats:
        return
    if school != "wash" and _is_violet(own):
        done = _glazed_back(done, answers)
        assumed.append(tr("A thin violet glaze ties the lights and shades together."))
    if answers["thing"] == "armour":
        done = with_edges(done, answers, 1.0)
        assumed.append(tr("Last of all a hairline of light lies on the edges."))
    title = tr("Deep cloth") if answers["thing"] == "cloth" else tr(name).capitalize()
    yield TemplateMade(1.0, plan_with(title, answers, (done,)), tuple(assumed))


def _washed(bare: Passage, answers: Answered) -> Passage:
    """Return a passage with base, wash, base again on what stands out, and two lights."""
    own = answers.lab("colour")
    base, light = _base(answers, own)
    pot = (Part(base.name),)
    solid = Coat(Mixture(pot, "water", 0.7), "loaded", 2)
    wash = Coat(Mixture((Part(_shade(answers, own).name),)), "wash")
    again = replace(_thin(pot, 1.0), sites=_STANDS_OUT)
    coats = [solid, wash, again]
    for (end, drops), sites in zip(_LIGHTS, (_STANDS_OUT, ("ridge",)), strict=True):
        laid = _thin((Part(base.name, drops[0]), Part(light.name, drops[1])), 1.0)
        laid = edits.with_feather(edits.with_span(laid, 0.0, end), 0.0, 0.3)
        coats.append(replace(laid, sites=sites))
    return replace(bare, coats=tuple(coats), targets=())


def _thin(parts: tuple[Part, ...], water: float) -> Coat:
    return Coat(Mixture(parts, "water", water), "loaded", 1)


def _base(answers: Answered, own: Colour) -> tuple[Paint, Paint]:
    """Return the opaque paint nearest to a colour that one can lighten, and what lightens it.

    White itself cannot be: its base is an ivory or a grey. Raises InputError if there is none.
    """
    near = [p for p in answers.paints if p.kind == "opaque" and _off(p, own) <= _FAR]
    if not near:
        raise InputError(tr("What is wanting is an opaque paint of that colour; add one."))
    for base in sorted(near, key=lambda p: _off(p, own)):
        light = _lifter(answers, base)
        if light is not None:
            return base, light
    raise InputError(tr("What is wanting is a lighter paint to lift it with; add one."))


def _off(paint: Paint, own: Colour) -> float:
    look = np.array(lab_from_lch(np.array(alone_over_white(paint))))
    return float(ciede2000(look, np.array(own)))


def _lifter(answers: Answered, base: Paint) -> Paint | None:
    """Return what lightens a base without its hue going astray, or none."""
    named = {p.name: p for p in answers.paints}
    L, chroma, hue = alone_over_white(base)
    found: list[tuple[float, Paint]] = []
    for paint in answers.paints:
        own = alone_over_white(paint)
        parts = (Part(base.name), Part(paint.name))
        pale = own[1] < _PALE and own[0] > _WHITE
        turn = 0.0 if pale else abs((own[2] - hue + 180) % 360 - 180)
        if chroma < _HUED and not pale:
            continue  # a grey is lifted with white or ivory
        lighter = own[0] > L + (_A_LITTLE if pale else _LIGHTER) and turn < _NEAR_HUE
        if lighter and paint.kind == "opaque" and drift_of(parts, named) is None:
            found.append((turn - (own[0] - L) / 2 + (_PALE if pale else 0.0), paint))
    return min(found, key=lambda each: each[0])[1] if found else None


def _shade(answers: Answered, own: Colour) -> Paint:
    """Return the wash that shades a colour; raises InputError if there is none.

    Of its hue, and no clearer; a grey's has as little hue as can be.
    """
    _, chroma, hue = (float(v) for v in lch(np.array(own)))

    def astray(paint: Paint) -> float:
        _, C, h = alone_over_white(paint)
        if chroma < _HUED:
            return C
        turn = abs((h - hue + 180) % 360 - 180) if C > _HUED else 40.0
        return turn + max(C - chroma - _HUED, 0.0) / 2

    washes = [p for p in answers.paints if p.kind in {"wash", "contrast"}]
    if not washes:
        raise InputError(tr("What is wanting is a wash for the recesses; add one to the rack."))
    return min(washes, key=astray)


CLOTH = Template(
    "cloth", "Cloth and armour", "folds, robes and plates by three schools", (
        Asks("colour", "Which colour?", "red", colour=True),
        Asks("thing", "What is it?", "cloth",
             {"cloth": "deep cloth", "robe": "a robe from a mid tone", "armour": "armour"}),
        Asks("school", "How is it painted?", "usual", _SCHOOLS),
        LARGE, PRIMER, FIGURES,
    ), _built,
)  # fmt: skip
