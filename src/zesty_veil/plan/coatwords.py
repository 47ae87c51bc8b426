"""A coat written in one line, as on the command line: "PAINT 3 + PAINT 1; medium 2; passes 2"."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping

from msgspec.structs import replace

from zesty_veil.errors import InputError, PaintError
from zesty_veil.paint.kinds import USUAL_TOOL
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.paint.mixture import THINNERS, Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import find
from zesty_veil.paint.tool import tool_name
from zesty_veil.plan.check import check_coat
from zesty_veil.plan.model import MEANT, STROKES, Coat, Meant, Stroke, mixture_words
from zesty_veil.tr import tr

_KEYS = (
    "water",
    "medium",
    "thick medium",
    "passes",
    "tool",
    "sites",
    "stroke",
    "nozzle",
    "wicked",
    "cover",
    "meant",
)


def parse_coat(words: str, rack: Mapping[str, Paint]) -> Coat:
    """Return the coat that a line of words says.

    Parameters
    ----------
    words
        A mixture, then fields divided by semicolons: a thinner with its parts to one of paint,
        `passes` with a whole number, `tool` with a name, `sites` with some of recess flat ridge,
        `stroke` across, to light or to far, `nozzle` with degrees, `cover` with a
        percentage, `meant` base, dull, glow spot or edge, `wicked`.
        What is not said: neat, one pass, the usual tool of the paint's kind, all sites.
    rack
        The paints that may be named, by name.

    Raises
    ------
    InputError, PaintError
        With one sentence that quotes the coat.
    """
    try:
        first, *fields = words.split(";")
        mixture = _mixture(first, rack)
        coat = Coat(mixture, USUAL_TOOL[rack[mixture.parts[0].paint].kind])
        said: set[str] = set()
        for field in fields:
            if field.strip():
                key, coat = _field(field, coat)
                kind = "thinner" if key in THINNERS else key
                if kind in said:
                    raise InputError(tr("it says the {0} twice; say it once.").format(kind))
                said.add(kind)
        check_coat(coat, dict(rack))
    except PaintError as error:
        raise PaintError(tr('Coat "{0}": {1}').format(words, _lower(str(error)))) from None
    except InputError as error:
        text = str(error).removeprefix("Coat: ")
        raise InputError(tr('Coat "{0}": {1}').format(words, _lower(text))) from None
    return coat


def coat_words(coat: Coat) -> str:
    """Return a coat in one line, as `parse_coat` reads it; where it lies is not said."""
    out = mixture_words(coat.mixture)
    if coat.mixture.thinning:
        out += f"; {coat.mixture.thinner} {coat.mixture.thinning:g}"
    if coat.passes != 1:
        out += f"; passes {coat.passes}"
    out += f"; tool {coat.tool}"
    if coat.sites != SITES:
        out += f"; sites {' '.join(coat.sites)}"
    if coat.stroke != "across":
        out += f"; stroke {coat.stroke}"
    if coat.nozzle is not None:
        out += f"; nozzle {coat.nozzle:g}"
    if coat.cover is not None:
        out += f"; cover {100 * coat.cover:g}%"
    if coat.meant:
        out += f"; meant {coat.meant}"
    return out + ("; wicked" if coat.wicked else "")


def _mixture(words: str, rack: Mapping[str, Paint]) -> Mixture:
    parts: dict[str, float] = {}
    for piece in words.split("+"):
        name, amount = piece.strip(), 1.0
        counted = re.fullmatch(r"(.*\S)\s+([-+]?[\d.]\S*)", name)
        if counted and counted[1].casefold() and name.casefold() not in map(str.casefold, rack):
            name, amount = counted[1], _number("parts", counted[2])
        if not name:
            raise InputError(tr("a paint is missing; write its name."))
        paint = find(name, rack.values()).name
        parts[paint] = parts.get(paint, 0.0) + amount
    return Mixture(tuple(Part(paint, amount) for paint, amount in parts.items()))


def _field(words: str, coat: Coat) -> tuple[str, Coat]:
    text = " ".join(words.split())
    key = next((k for k in _KEYS if re.match(rf"{k}(\s|$)", text.casefold())), None)
    if key is None:
        raise InputError(
            tr("'{0}' is not understood; write one of {1}.").format(text, ", ".join(_KEYS))
        )
    rest = text[len(key) :].strip()
    if key == "wicked":
        return key, replace(coat, wicked=True)
    if not rest:
        raise InputError(tr("'{0}' needs something after it.").format(key))
    if key in THINNERS:
        mixture = replace(coat.mixture, thinner=key, thinning=_number(key, rest))
        return key, replace(coat, mixture=mixture)
    change: dict[str, Callable[[], Coat]] = {
        "passes": lambda: replace(coat, passes=_whole(rest)),
        "tool": lambda: replace(coat, tool=tool_name(rest)),
        "sites": lambda: replace(coat, sites=_sites(rest)),
        "stroke": lambda: replace(coat, stroke=_stroke(rest)),
        "nozzle": lambda: replace(coat, nozzle=_number("nozzle", rest)),
        "cover": lambda: replace(coat, cover=_number("cover", rest.removesuffix("%")) / 100),
        "meant": lambda: replace(coat, meant=_meant(rest)),
    }
    return key, change[key]()


def _number(what: str, words: str) -> float:
    try:
        return float(words)
    except ValueError:
        raise InputError(
            tr("'{0}' after '{1}' is not a number; write one.").format(words, what)
        ) from None


def _whole(words: str) -> int:
    number = _number("passes", words)
    if not abs(number) < 1e6 or number != int(number):
        raise InputError(tr("'{0}' passes is not a whole number; write one.").format(words))
    return int(number)


def _sites(words: str) -> tuple[Site, ...]:
    out: list[Site] = []
    for name in words.replace(",", " ").split():
        site = next((known for known in SITES if known == name.casefold()), None)
        if site is None:
            raise InputError(tr("there is no site '{0}'; use {1}.").format(name, ", ".join(SITES)))
        out.append(site)
    return tuple(out)


def _stroke(words: str) -> Stroke:
    for stroke in STROKES:
        if words.casefold() == stroke:
            return stroke
    raise InputError(tr("there is no stroke '{0}'; use {1}.").format(words, ", ".join(STROKES)))


def _meant(words: str) -> Meant:
    for meant in MEANT[1:]:
        if words.casefold() == meant:
            return meant
    raise InputError(
        tr("a coat isn't meant as '{0}'; use {1}.").format(words, ", ".join(MEANT[1:]))
    )


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]
