"""Write the demo plans that ship with the program, from the demo rack.

Run by hand after the rack changes: `.venv/bin/python tools/bake_demo.py`, then tools/register.py.
Everything in them is invented.
"""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace

from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.grounds import prepared_ground
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer

DATA = Path(__file__).resolve().parents[1] / "src/zesty_veil/data"
RACK = {paint.name: paint for paint in demo_rack()}


def coat(words: str, start: float, end: float, light: float = 0.0, far: float = 0.0) -> Coat:
    """Return a coat with its span and feathers."""
    return replace(parse_coat(words, RACK), span=(start, end), feather=(light, far))


def passage(
    name: str,
    form: str,
    length_mm: float,
    area_mm2: float,
    ground: Ground,
    *coats: Coat,
    surround: str | None = None,
) -> Passage:
    """Return a passage."""
    return Passage(name, length_mm, area_mm2, ground, coats, surround, form=form)


def prepared(primer: Primer, kind: str) -> Ground:
    """Return a ground as the Ground menu prepares it."""
    plan = Plan("x", (Passage("x", ground=Ground(primer)),))
    return prepared_ground(plan, 0, kind, demo_rack()).passages[0].ground


GLASSWRIGHT = Plan(
    "The glasswright at the furnace mouth",
    passages=(
        passage(
            "gather of molten glass",
            "flame",
            18,
            210,
            Ground("black"),
            coat("Lime White; water 0.5; passes 2", 0, 0.62, far=0.16),
            coat("Kiln Yellow; water 2; passes 4; tool glaze", 0.18, 0.78, light=0.14, far=0.10),
            coat("Ember Orange; water 4; passes 5; tool glaze", 0.50, 0.92, light=0.24),
            coat("Furnace Red; water 4; passes 5; tool glaze", 0.76, 1, light=0.24),
            coat(
                "Lamp Black 2 + Furnace Red 1; water 5; passes 4; tool glaze", 0.98, 1, light=0.13
            ),
            surround="leather apron, furnace side",
        ),
        passage(
            "leather apron, furnace side",
            "folds",
            26,
            480,
            prepared("black", "zenithal"),
            coat("Hull Umber; water 1; passes 1", 0, 1),
            coat("Dune Ochre 2 + Ember Orange 1; water 1; passes 2", 0, 0.30, far=0.30),
            coat("Ember Orange; medium 3; passes 3; tool glaze; stroke to far", 0, 0.42, far=0.30),
            coat("Soot Wash", 0, 1),
            coat(
                "Driftbone Ivory 1 + Kiln Yellow 2; water 1; passes 2; tool glaze; sites ridge",
                0,
                0.16,
                far=0.20,
            ),
        ),
        passage(
            "cobalt glass flask",
            "orb",
            14,
            130,
            Ground("white"),
            coat("Midwater Ultramarine; water 2; passes 2; tool glaze", 0.10, 1, light=0.10),
            coat("Flask Blue; water 4; passes 3; tool glaze", 0.40, 1, light=0.30),
            coat("Dusk Violet Ink; medium 5; passes 3; tool glaze", 0.78, 1, light=0.24),
            coat("Signal Orange; water 3; passes 2; tool glaze", 0, 0.06, far=0.10),
            coat("Gloss Varnish", 0, 1),
        ),
        passage(
            "copper blowpipe, hot end",
            "blade",
            22,
            60,
            Ground("black"),
            coat("Pipe Copper; water 0.5; passes 2", 0, 1),
            coat("Signal Orange; water 2; passes 2; tool glaze", 0, 0.10, far=0.16),
            coat(
                "Clinker Red Ink; medium 6; passes 2; tool glaze", 0.24, 0.56, light=0.16, far=0.2
            ),
            coat("Soot Wash 1 + Gloss Varnish 4; tool wash", 0.2, 1, light=0.1),
            coat("Dusk Violet Ink; medium 5; passes 3; tool glaze", 0.70, 1, light=0.25),
        ),
    ),
    paints=demo_rack(),
)

DIVER = Plan(
    "The bell diver",
    passages=(
        passage(
            "lamp glow behind thick glass",
            "facet",
            12,
            95,
            prepared("black", "focused"),
            coat("Lime White; water 0.5; passes 2", 0, 0.40, far=0.2),
            coat("Lure Green; water 1; passes 2", 0, 0.5, far=0.2),
            coat("Shoal Turquoise; water 3; passes 3; tool glaze", 0.25, 0.85, light=0.2, far=0.1),
            coat("Flask Blue; water 3; passes 3; tool glaze", 0.55, 1, light=0.25),
            coat("Lamp Black 1 + Flask Blue 1; water 4; passes 3; tool glaze", 0.88, 1, light=0.2),
        ),
        passage(
            "helmet, lamp side",
            "plate",
            20,
            320,
            Ground("grey"),
            coat("Sovereign Gold; water 0.5; passes 2", 0, 1),
            coat("Flood Teal; medium 3; tool wash", 0, 1),
            coat(
                "Driftbone Ivory 1 + Lure Green 1; water 1; passes 3; tool drybrush",
                0,
                0.4,
                far=0.3,
            ),
            coat(
                "Midwater Ultramarine; water 4; passes 3; tool glaze; sites recess flat",
                0.4,
                1,
                light=0.3,
            ),
        ),
        passage(
            "canvas suit in the dark water",
            "hood",
            30,
            900,
            prepared("white", "underpaint"),
            coat("Soot Wash; wicked", 0, 1),
            coat("Driftbone Ivory; water 3; passes 3; tool glaze; sites ridge", 0, 0.5, far=0.3),
            coat("Satin Varnish", 0, 1),
        ),
    ),
    paints=demo_rack(),
)


def main() -> None:
    """Write both plans."""
    save(GLASSWRIGHT, DATA / "glasswright.veil")
    save(DIVER, DATA / "diver.veil")


if __name__ == "__main__":
    main()
