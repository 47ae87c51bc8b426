"""A way in one sentence, as a painter would say it.

'White twice, then yellow'; 'white over all, then yellow, orange and red, each shorter'.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import groupby
from typing import Literal

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.match.drift import BLACK_ALONE
from zesty_veil.advise.match.judge import Rule
from zesty_veil.advise.match.shortlist import solid_looks
from zesty_veil.light.cielab import lch, luminous
from zesty_veil.light.value import value
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.plan.placewords import site_words
from zesty_veil.predict.field import predict
from zesty_veil.predict.words import GREY_CHROMA, describe, hue_word
from zesty_veil.thresholds import STRONG_CHROMA, WHITE_COVER_L
from zesty_veil.tr import listed, tr

_End = Literal["all", "most", "far", "light", "middle"]
_MOST = 0.6  # of the axis
_IVORY = (78.0, 34.0)
# What is laid to be seen through.
_GLAZES = {"transparent", "ink", "wash", "contrast"}
# Hues in degrees that turn much between a thin film and a thick one.
_TURNS, _PALE_EARTH = (50.0, 110.0), 58.0
# Up to this hue a pale yellow is no green yet.
_LEMON = 114.0
# From this lightness on and up to this chroma a colour is a pale one.
_PALE_FROM, _PALE_TO = 76.0, 42.0
_PALES = {"pink", "green", "turquoise", "cyan-blue", "blue", "violet-blue", "violet", "yellow"}
# Up to this chroma what a thin film makes of white passes for white.
_FAINT_CHROMA = 12.0
_FULLER = 3.0
# Two colours of one name differ in lightness by this much, or are called the same.
_LIGHTER = 4.0


def way_words(coats: Sequence[Coat], paints: Mapping[str, Paint]) -> str:
    """Return what coats do, from the ground up, as a sentence; '' of none."""
    if not coats:
        return ""
    names = _names(coats, paints)
    said: list[str] = []
    ends = [_end(coat, k == 0) for k, coat in enumerate(coats)]
    runs = groupby(zip(coats, names, ends, strict=True), lambda each: (each[2], each[0].sites))
    along = any(end != "all" for end in ends) or any(coat.sites != SITES for coat in coats)
    for (end, sites), run in runs:
        some = [(name, coat.passes) for coat, name, _ in run]
        said.append(_run_words(end, sites, some, along))
    words = tr(", then ").join(said)
    return f"{words[:1].upper()}{words[1:]}."


def rough_words(rules: Iterable[Rule]) -> Iterator[str]:
    """Yield a sentence for each thing that painters would rather not lay."""
    said = {
        Rule.PATCHY: tr("A single pass looks patchy."),
        Rule.TINTED: tr("It stays tinted: the dark below shows through."),
    }
    return (said[rule] for rule in dict.fromkeys(rules))


def _end(coat: Coat, first: bool) -> _End:
    """Return which end a coat lies at; the first of all may lie on all but the tips."""
    start, end = coat.span
    if first and start == 0.0 and _MOST <= end < 1.0:
        return "most"
    if start == 0.0:
        return "all" if end == 1.0 else "light"
    return "far" if end == 1.0 else "middle"


def _run_words(
    end: _End, sites: Sequence[Site], run: Sequence[tuple[str, int]], along: bool
) -> str:
    each = [name if count == 1 else f"{name} {_times(count)}" for name, count in run]
    every = listed(each)
    if sites != SITES:
        return tr("{0} on the {1}").format(every, site_words(sites))
    if end == "all":
        return tr("{0} over all").format(every) if along else tr(", then ").join(each)
    if end == "most":
        return tr("{0} over all but the far end").format(every)
    if end == "middle":
        return tr("{0} in between").format(every)
    if len(each) == 1:
        where = tr("at the far end") if end == "far" else tr("towards the light")
        return tr("{0} {1}").format(every, where)
    if end == "far":
        return tr("{0}, each shorter, to the far end").format(every)
    return tr("{0}, each further in, to the light").format(every)


def _times(count: int) -> str:
    return {2: tr("twice"), 3: tr("three times"), 4: tr("four times")}.get(
        count, tr("{0} times").format(count)
    )


def _names(coats: Sequence[Coat], paints: Mapping[str, Paint]) -> list[str]:
    """Return what painters would call the paint of coats: 'white', 'orange', 'lighter blue'.

    What hides is called by its pot; what is clear, and a yellow or orange, whose hue turns with
    the film, by what it makes of white: amber in thin glazes is a yellow.
    """
    shaded = [_without_black(coat, paints) for coat in coats]
    coats = [coat if clean is None else clean for coat, clean in zip(coats, shaded, strict=True)]
    mixtures = [coat.mixture.parts for coat in coats]
    solids = lch(solid_looks(mixtures, paints)[1])
    looks = solids.copy()
    for k, coat in enumerate(coats):
        clear = any(paints[part.paint].kind in _GLAZES for part in coat.mixture.parts)
        turns = _TURNS[0] <= looks[k, 2] <= _TURNS[1] and looks[k, 0] >= _PALE_EARTH
        if clear or turns:
            alone = replace(coat, span=(0.0, 1.0), feather=(0.0, 0.0), nozzle=None, stagger=())
            looks[k] = _over_white(alone, tuple(paints[p.paint] for p in coat.mixture.parts))
    out: list[str] = []
    for k, look in enumerate(looks):
        kinds = {paints[part.paint].kind for part in mixtures[k]}
        if "metallic" in kinds or kinds == {"varnish"}:
            out.append(tr("metal") if "metallic" in kinds else tr("varnish"))
            continue
        name = mixture_colour(look)
        faint = float(look[0]) >= WHITE_COVER_L and float(look[1]) < _FAINT_CHROMA
        # What is laid in full has more colour, or is darker.
        thin = float(solids[k, 0]) < WHITE_COVER_L or solids[k, 1] > look[1] + _FULLER
        pot = kinds == {"wash"}
        if (pot or (thin and (faint or _is_ivory(look)))) and mixture_colour(solids[k]) != name:
            # A film that is hardly seen over white is still no white, and no ivory; and a brown
            # wash is brown, however thin.
            name = tr("thin {0}").format(mixture_colour(solids[k]))
        same = [i for i in range(k) if mixture_colour(looks[i]) == name]
        if same and mixtures[same[-1]] != mixtures[k]:
            change = float(look[0] - looks[same[-1]][0])
            if abs(change) >= _LIGHTER:
                name = tr("lighter {0}" if change > 0 else "darker {0}").format(name)
        out.append(name)
    return [
        name if clean is None else tr("{0} with black").format(name)
        for name, clean in zip(out, shaded, strict=True)
    ]


def _without_black(coat: Coat, paints: Mapping[str, Paint]) -> Coat | None:
    """Return a coat of a colour that black shades without that black; none of any other.

    Red with black looks like a violet brown, but who stirs it says what is in it.
    """
    parts = tuple(p for p in coat.mixture.parts if paints[p.paint].pigments != BLACK_ALONE)
    if (
        parts in {(), coat.mixture.parts}
        or lch(solid_looks([parts], paints)[1, 0])[1] < STRONG_CHROMA
    ):
        return None
    return replace(coat, mixture=replace(coat.mixture, parts=parts))


@lru_cache(1_000)
def _over_white(coat: Coat, own: tuple[Paint, ...]) -> tuple[float, ...]:
    """Return L, C and h of a coat over white, which is asked for with every way it is in."""
    white = Passage("alone", ground=Ground("white"), coats=(coat,))
    paints = {paint.name: paint for paint in own}
    seen = predict(white, paints, np.array([0.5]), np.zeros(1)).lch[0, 0]
    return tuple(float(v) for v in seen)


def mixture_colour(look: np.ndarray) -> str:
    """Return the plain word for a colour (3,) L, C, h: without how strong it is."""
    if _is_ivory(look):
        return tr("ivory")
    word, L, C = _plain_word(look), float(look[0]), float(look[1])
    if _PALE_FROM <= L and GREY_CHROMA <= C < _PALE_TO and word in _PALES:
        return tr("pale {0}").format(word)
    return word


def _is_ivory(look: np.ndarray) -> bool:
    pale = float(look[0]) >= _IVORY[0] and float(look[1]) < _IVORY[1]
    return pale and _plain_word(look) in {"off-white", "sand", "yellow"}


def _plain_word(look: np.ndarray) -> str:
    L = float(look[0])
    if float(look[1]) < GREY_CHROMA:
        return describe(look, float(value(luminous(np.array(L)))))
    word = hue_word(look)
    if word == "yellow-green" and float(look[2]) < _LEMON and _PALE_FROM <= L:
        return "yellow"
    return word
