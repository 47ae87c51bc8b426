"""Paints that any maker sells: each pigment as transparent paint, ink and opaque paint."""

from __future__ import annotations

from functools import cache

from zesty_veil.paint.paint import Paint
from zesty_veil.paint.pigment import pigments
from zesty_veil.paint.rack import Formulation, demo_rack

# Pigments that hide by themselves; the others hide with white in the pot. Common practice.
_HIDING = frozenset({"PW6", "PBk7", "PBr7", "PR101", "PY42"})
_WHITE = 0.6
_INK, _INK_SCATTER = 1.5, 0.15


@cache
def catalogue() -> tuple[Paint, ...]:
    """Return paints that might be bought: the demo rack, then one of each pigment and kind."""
    out = list(demo_rack())
    for code in pigments():
        if code in _HIDING:
            out.append(_paint(f"an opaque paint of {code}", "opaque", {code: 1.0}))
            continue
        out.append(_paint(f"a transparent paint of {code}", "transparent", {code: 1.0}))
        out.append(_paint(f"an ink of {code}", "ink", {code: _INK}, _INK_SCATTER))
        opaque = {code: 1.0, "PW6": _WHITE}
        out.append(_paint(f"an opaque paint of {code} and white", "opaque", opaque))
    return tuple(out)


def _paint(name: str, kind: str, amounts: dict[str, float], scatter: float = 1.0) -> Paint:
    finish = {"opaque": "matt", "transparent": "satin", "ink": "gloss"}[kind]
    return Formulation(name, "", kind, amounts, finish, scatter).paint()  # type: ignore[arg-type]
