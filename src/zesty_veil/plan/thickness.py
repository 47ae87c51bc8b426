"""How thick paint lies: so many passes of so much neat paint hide the detail below them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from zesty_veil.paint.paint import Paint
from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat

# Kinds that are mostly medium: they run off what stands out, and fill nothing but recesses.
_THIN = frozenset({"wash", "contrast", "varnish", "medium"})
# What is thinned by less is neat, to a painter.
_NEAT_THINNING = 0.3
# So much neat opaque paint hides what lies below it; common practice.
_HIDES_UM = 24.0


def neat_um(coat: Coat, paints: Mapping[str, Paint]) -> float:
    """Return how much neat paint a coat lays on a flat place, in um before it dries."""
    if all(paints[part.paint].kind in _THIN for part in coat.mixture.parts):
        return 0.0
    tool = tools()[coat.tool]
    cover = tool.cover if coat.cover is None else coat.cover
    return cover * tool.wet_film_um * coat.passes / (1 + coat.mixture.thinning)


def um_at(coats: Iterable[Coat], place: float, paints: Mapping[str, Paint]) -> float:
    """Return the same of all coats that lie at a place of the axis, 0-1."""
    return sum(neat_um(c, paints) for c in coats if c.span[0] <= place <= c.span[1])


def neat_passes(coat: Coat, paints: Mapping[str, Paint]) -> int:
    """Return in how many passes a coat lays an opaque paint neat, with a loaded brush."""
    opaque = any(paints[part.paint].kind == "opaque" for part in coat.mixture.parts)
    neat = coat.tool == "loaded" and coat.mixture.thinning < _NEAT_THINNING
    return coat.passes if opaque and neat else 0


def hides(coat: Coat, paints: Mapping[str, Paint]) -> bool:
    """Tell whether a coat of opaque paint lies thick enough to hide what is below it."""
    opaque = all(paints[part.paint].kind == "opaque" for part in coat.mixture.parts)
    return opaque and neat_um(coat, paints) >= _HIDES_UM
