"""Tools and loads: how much wet film a pass leaves, how it pools, how much it covers."""

from __future__ import annotations

from functools import cache

import msgspec

from zesty_veil import data
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

# Other words for the same tool, as painters say them.
_ALIASES = {
    "brush": "loaded",
    "base": "loaded",
    "layer": "loaded",
    "blotted": "glaze",
    "flooded": "wash",
    "shade": "wash",
    "dry brush": "drybrush",
    "dry-brush": "drybrush",
    "spray can": "spray",
    "stippling": "stipple",
    "nearly empty sponge": "flecks",
}


class Tool(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A tool with its load.

    `wet_film_um` is laid per pass on a flat area; `pooling` drives it from ridges to recesses;
    `cover` is the share of the area that one pass touches, in dabs of `dab_mm` where it is not all;
    a directional tool reaches what faces its nozzle; `lean` is how much more a tool touches what
    stands out than what lies flat. `texture` is how uneven one pass lies, finer than the eye
    parts: ridges and valleys of a brush, standard deviation over mean. Starting values from memory.
    """

    label: str
    wet_film_um: float
    pooling: float
    cover: float
    ridges_only: bool
    directional: bool
    dab_mm: float = 0.0
    lean: float = 0.0
    texture: float = 0.0


@cache
def tools() -> dict[str, Tool]:
    """Return the tools by their short name."""
    return msgspec.json.decode(data.read("tools.json"), type=dict[str, Tool])


def tool_name(words: str) -> str:
    """Return the short name for what somebody calls a tool.

    Raises
    ------
    InputError
        If nothing of that name is known.
    """
    name = " ".join(words.split()).casefold()
    name = _ALIASES.get(name, name)
    if name not in tools():
        raise InputError(
            tr("There is no tool '{0}'; use one of {1}.").format(words.strip(), ", ".join(tools()))
        )
    return name
