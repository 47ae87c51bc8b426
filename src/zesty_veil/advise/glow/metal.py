"""A light on metal, which stays metal: stirred into the light's colour and glazed, not hidden.

Near the light lies the metal with white, then with the light's colour, then a clear film of that;
far from it a thin dark film. All of it glints. Common practice.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace as changed
from itertools import product

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.glow.painted import Painted
from zesty_veil.advise.glow.wanted import lit_by_itself
from zesty_veil.advise.match.answering import weighed
from zesty_veil.advise.match.limits import Limits
from zesty_veil.advise.match.recipe import MatchRequest
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.glow import Glow
from zesty_veil.plan.model import Coat, Passage, Target
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import alone
from zesty_veil.thresholds import GLINT_SHARE, HIDDEN_DE00

_FLAT = np.zeros(1)
_PLACES = 33
_FEW = np.linspace(0, 1, 9)
_CLEAR = ("transparent", "ink")
_SHADES = ("wash", "ink", "transparent")
# Metal to white at the light, and to the light's colour round that, in drops that are tried in
# turn; passes of films likewise.
_CORE = ((2.0, 1.0), (4.0, 1.0), (8.0, 1.0))
_TINTED = ((2.0, 1.0), (4.0, 1.0), (8.0, 1.0))
_DARKS = (2, 4, 6)
_DIMMER = 0.88  # of the glint elsewhere it may be at the light, where its colour tells
_NEAR, _AWAY = 5, 0.9  # of the places, and of the axis
_CORE_REACH = 0.35  # of the first ring
_WITHIN, _COLOURED = 75.0, 15.0
_DARK_L, _DARK_CHROMA = 62.0, 45.0


def metal_of(passage: Passage, paints: dict[str, Paint]) -> Paint | None:
    """Return the metallic paint of which a passage glints, or none."""
    for coat in reversed(passage.coats):
        metals = [p.paint for p in coat.mixture.parts if paints[p.paint].kind == "metallic"]
        if metals and coat.span == (0.0, 1.0):
            state = predict(passage, paints, np.array([0.5]), _FLAT, ViewingConditions())
            shine = predict(
                passage, paints, np.array([0.5]), _FLAT, ViewingConditions(angle="glint")
            )
            return paints[metals[0]] if float((shine.value - state.value)[0, 0]) > 1.0 else None
    return None


def on_metal(
    one: Painted,
    base: Passage,
    metal: Paint,
    glow: Glow,
    paints: Sequence[Paint],
    held: dict[str, Paint],
    look: ViewingConditions,
) -> Painted:
    """Return a surface of metal with coats in the light, from what the rack has.

    Parameters
    ----------
    one
        The surface, with its rings, and the coats that stay.
    base
        The passage as it is.
    metal
        What it glints of.
    glow, paints, held, look
        The light, what is at hand, all paints by name, and how it is seen.
    """
    assert one.lit is not None
    named = held | {paint.name: paint for paint in paints}
    whole = replace(base, coats=one.kept)
    steps = list(_steps(one, metal, glow, tuple(paints)))
    # Gloss over it all brings the shine back that films take.
    gloss = next((p for p in paints if p.kind == "varnish" and p.finish == FINISHES["gloss"]), None)
    over = () if gloss is None else (Coat(Mixture((Part(gloss.name),)), "loaded"),)
    every = [tuple(c for c in each if c is not None) for each in product(*steps)]
    coats: tuple[Coat, ...] = ()
    # As many coats as can be.
    for count in range(len(steps), 0, -1):
        alike = [each for each in every if len(each) == count]
        coats = coats or _best(whole, alike, over, named, look)
    places = np.array([target.place for target in one.targets])
    done = replace(whole, coats=(*one.kept, *coats))
    seen = predict(done, named, places, _FLAT, look).lab[:, 0]
    targets = tuple(
        Target(t.place, (round(float(L), 2), round(float(a), 2), round(float(b), 2)))
        for t, (L, a, b) in zip(one.targets, seen, strict=True)
    )
    own = tuple(named.values())
    request = MatchRequest((whole,), own, targets, own, Limits(), look)
    answer = weighed(request, whole, coats)
    return changed(one, targets=targets, answer=answer, share=1.0, over=True)


def _best(
    base: Passage,
    every: Sequence[tuple[Coat, ...]],
    over: tuple[Coat, ...],
    paints: dict[str, Paint],
    look: ViewingConditions,
) -> tuple[Coat, ...]:
    """Return those coats that show most, of which each does on some site; () if none keep it metal.

    It is to glint still, at the light no less than where it is turned away.
    """
    before, first = _glint(base, paints, look), len(base.coats)
    fine: list[tuple[float, Passage]] = []
    for laid in every:
        now = replace(base, coats=(*base.coats, *laid, *over))
        glint = _glint(now, paints, look)
        dim = glint[:_NEAR].max() < _DIMMER * glint[_NEAR:].max()
        if not dim and (glint >= GLINT_SHARE * before).all():
            fine.append((_shown(now, first, len(laid), paints, look), now))
    for _, now in sorted(fine, key=lambda each: -each[0]):
        adds = contributions(now, paints, look)[first : len(now.coats) - len(over)]
        if min(each.most for each in adds) >= HIDDEN_DE00:
            return now.coats[first:]
    return ()


def _steps(
    one: Painted, metal: Paint, glow: Glow, paints: tuple[Paint, ...]
) -> Iterator[list[Coat | None]]:
    """Yield what may be laid, step by step from the far end inward."""
    assert one.lit is not None
    rings = one.lit.ringed.rings
    light = np.array(glow.colour) if glow.colour else lab(lit_by_itself(glow), white())
    hue = float(lch(light)[2])
    first, last = rings[0].end, min(rings[-1].end, _AWAY)
    second = min(rings[min(1, len(rings) - 1)].end, last)
    film, dark = _nearest(paints, hue, _CLEAR, 0.0), _darkest(paints)
    pale = _nearest(paints, hue, ("opaque",), 1.0)
    whites = [p for p in paints if p.pigments == ("PW6",) and p.kind == "opaque"]
    if dark is not None:
        yield [None, *(_soft(_film(dark, 1.0, n), last, 1.0, last - first, 0.0) for n in _DARKS)]
    if film is not None:
        out = max(min(1 - second, 0.3), 0.05)
        yield [None, *(_soft(_film(film, thin, 1), 0.0, second, 0.0, out) for thin in (8.0, 4.0))]
    if pale is not None:
        out = max(second - first, 0.1)
        yield [
            None,
            *(
                _soft(replace(_stirred(metal, pale, each), tool=tool), 0.0, first, 0.0, out)
                for each in _TINTED
                for tool in ("loaded", "glaze")
            ),
        ]
    if whites:
        end = _CORE_REACH * first
        yield [
            None, *(_soft(_stirred(metal, whites[0], each), 0.0, end, 0.0, first) for each in _CORE)
        ]  # fmt: skip


def _film(paint: Paint, thinning: float, passes: int) -> Coat:
    return Coat(Mixture((Part(paint.name),), "medium", thinning), "glaze", passes)


def _stirred(metal: Paint, other: Paint, drops: tuple[float, float]) -> Coat:
    parts = (Part(metal.name, drops[0]), Part(other.name, drops[1]))
    return Coat(Mixture(parts, "water", 0.5), "loaded", 1)


def _soft(coat: Coat, start: float, end: float, light: float, far: float) -> Coat:
    return edits.with_feather(edits.with_span(coat, start, end), light, far)


def _glint(passage: Passage, paints: dict[str, Paint], look: ViewingConditions) -> Array:
    """Return the luminance of a passage as it glints, on the flat along its axis, (n,)."""
    places = np.linspace(0, 1, _PLACES)
    seen = predict(passage, paints, places, _FLAT, changed(look, angle="glint"))
    return np.asarray(luminous(seen.lab[:, 0, 0]))


def _shown(
    passage: Passage, first: int, count: int, paints: dict[str, Paint], look: ViewingConditions
) -> float:
    """Return about what some coats add on the flat, all together: dE00 where each shows most."""
    less = [passage.coats[:k] + passage.coats[k + 1 :] for k in range(first, first + count)]
    whole, *rest = (
        predict(replace(passage, coats=coats), paints, _FEW, _FLAT, look).lab
        for coats in (passage.coats, *less)
    )
    return sum(float(ciede2000(whole, each).max()) for each in rest)


def _own(paint: Paint) -> tuple[float, float, float]:
    coat = Coat(Mixture((Part(paint.name),), "water", 0.5), "loaded", 2)
    return alone(coat, {paint.name: paint}, "white")


def _nearest(
    paints: Sequence[Paint], hue: float, kinds: Sequence[str], light: float
) -> Paint | None:
    """Return the paint of some kinds that is strongest near a hue, or none.

    light : how much more a light one is worth than a strong one.
    """
    best: tuple[float, Paint] | None = None
    for paint in paints:
        if paint.kind not in kinds:
            continue
        L, C, h = _own(paint)
        turn = abs((h - hue + 180) % 360 - 180)
        cost = turn - C / 2 - light * L
        if turn <= _WITHIN and _COLOURED < C and (best is None or cost < best[0]):
            best = cost, paint
    return None if best is None else best[1]


def _darkest(paints: Sequence[Paint]) -> Paint | None:
    """Return what is thin, dark and of little colour: a shade for the side away; or none."""
    own = [(L, paint) for paint in paints if paint.kind in _SHADES for L, C, _ in (_own(paint),)
           if L < _DARK_L and C < _DARK_CHROMA]  # fmt: skip
    washes = [each for each in own if each[1].kind == "wash"]
    best = min(washes or own, key=lambda each: each[0], default=None)
    return None if best is None else best[1]
