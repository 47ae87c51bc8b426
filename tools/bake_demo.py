"""Write the demo plans that ship with the program, from the demo rack.

What a fire lights, and the fire itself, is painted by the program, as the Glow station does it;
what stands out of its light is laid by hand. Everything in them is invented.

Run by hand after the rack changes: `.venv/bin/python tools/bake_demo.py`, then tools/register.py.
"""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace

from zesty_veil.advise.glow.painting import USUAL_LIMITS, School, painted, with_painting
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import remove_coat
from zesty_veil.plan.glow import Glow, Surface
from zesty_veil.plan.grounds import prepared_ground
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.contribution import contributions
from zesty_veil.services.looks import save_plan

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


# A coat that adds less than this anywhere is not worth its drying, dE00; common practice.
MISSED = 2.0
# What is taken out of the rack before the first stroke, as painters do.
FIRE = (
    "Lime White", "Driftbone Ivory", "Saffron Buoy", "Kiln Yellow", "Lantern Amber", "Ember Orange",
    "Slipway Orange", "Cinder Scarlet", "Furnace Red", "Anchor Rust", "Saggar Brown",
    "Midwater Ultramarine", "Deepwell Blue", "Harbour Violet", "Pewter Grey", "Lamp Black",
    "Clinker Red Ink", "Gloss Varnish", "Satin Varnish",
)  # fmt: skip
DEEP_WATER = (
    "Lime White", "Driftbone Ivory", "Brash Ice Blue", "Shoal Turquoise", "Seawall Green",
    "Rockpool Teal",
    "Flask Blue", "Deepwell Blue", "Dune Ochre", "Saggar Brown", "Hull Umber", "Lamp Black",
    "Soot Wash", "Gloss Varnish", "Satin Varnish",
)  # fmt: skip


def by_light(plan: Plan, glow: Glow, school: School, flame: str, palette: tuple[str, ...]) -> Plan:
    """Return a plan with a fire and what it lights painted by the program, from a palette."""
    at_hand = tuple(RACK[name] for name in palette)
    *_, done = painted(plan, glow, school, at_hand, USUAL_LIMITS, flame)
    return without_waste(with_painting(plan, glow, done, at_hand))


def without_waste(plan: Plan) -> Plan:
    """Return a plan without those coats that would hardly be missed."""
    for i in range(len(plan.passages)):
        while True:
            adds = contributions(plan.passages[i], plan.rack())
            least = min(range(len(adds)), key=lambda k: adds[k].most, default=0)
            varnish = [plan.passages[i].coats[k].mixture.parts[0].paint for k in range(len(adds))]
            if len(adds) <= 1 or adds[least].most >= MISSED or "Varnish" in varnish[least]:
                break
            plan = remove_coat(plan, i, least)
    return plan


def glasswright() -> Plan:
    """Return the glass-blower at night: a furnace fire on leather, copper and cobalt glass."""
    gather, apron, flask, pipe = (
        "gather of molten glass",
        "leather apron, furnace side",
        "cobalt glass flask",
        "copper blowpipe, hot end",
    )
    kettle = passage(
        "copper kettle, out of the light",
        "plate",
        22,
        160,
        Ground("black"),
        coat("Pipe Copper; water 0.5; passes 2", 0, 1),
        coat("Clinker Red Ink; medium 6; passes 2; tool glaze", 0.24, 0.56, light=0.16, far=0.2),
        coat("Soot Wash 1 + Gloss Varnish 4; tool wash", 0.2, 1, light=0.1),
        coat("Dusk Violet Ink; medium 5; passes 3; tool glaze", 0.70, 1, light=0.25),
    )
    shirt = passage(
        "linen shirt, far shoulder",
        "folds",
        26,
        380,
        prepared("black", "zenithal"),
        coat("Hull Umber; water 1; passes 1", 0, 1),
        coat("Flask Blue; medium 3; passes 2; tool glaze; stroke to far", 0.4, 1, light=0.30),
        coat("Soot Wash", 0, 1),
        coat("Driftbone Ivory; water 1; passes 2; tool drybrush", 0, 0.5, far=0.3),
    )
    plan = Plan(
        "The glasswright at the furnace mouth",
        passages=(
            passage(gather, "flame", 18, 210, Ground("white"), surround=apron),
            passage(apron, "folds", 26, 480, Ground("black")),
            passage(flask, "orb", 14, 130, Ground("black")),
            passage(pipe, "blade", 22, 60, Ground("black")),
            kettle,
            shirt,
        ),
        paints=demo_rack(),
    )
    glow = Glow(
        gather,
        (
            Surface(apron, (40.0, 16.0, 26.0), place=(-0.7, 0.3, 0.8)),
            Surface(flask, (34.0, 14.0, -50.0), "gloss", (-0.8, 0.5, 0.8)),
            Surface(pipe, (58.0, 26.0, 32.0), "satin", (-0.2, 0.9, 0.5)),
        ),
        strength=2.2,
        radius_mm=24.0,
    )
    return by_light(plan, glow, "inward", "deep", FIRE)


def diver() -> Plan:
    """Return the diver in deep water: a cold lamp behind glass, on brass and canvas."""
    lamp, helmet, suit = (
        "lamp glow behind thick glass",
        "helmet, lamp side",
        "canvas suit in the dark water",
    )
    rivets = passage(
        "brass rivets, out of the light",
        "plate",
        20,
        120,
        Ground("grey"),
        coat("Sovereign Gold; water 0.5; passes 2", 0, 1),
        coat("Flood Teal; medium 3; tool wash", 0, 1),
        coat("Driftbone Ivory 1 + Lure Green 1; water 1; passes 3; tool drybrush", 0, 0.4, far=0.3),
        coat(
            "Midwater Ultramarine; water 4; passes 3; tool glaze; sites recess flat",
            0.4,
            1,
            light=0.3,
        ),
    )
    glove = passage(
        "rubber glove, far hand",
        "hood",
        26,
        240,
        prepared("white", "underpaint"),
        coat("Soot Wash; wicked", 0, 1),
        coat("Driftbone Ivory; water 3; passes 3; tool glaze; sites ridge", 0, 0.5, far=0.3),
        coat("Satin Varnish", 0, 1),
    )
    plan = Plan(
        "The bell diver",
        passages=(
            passage(lamp, "facet", 12, 95, Ground("white")),
            passage(helmet, "plate", 20, 320, Ground("white")),
            passage(suit, "hood", 30, 900, Ground("white")),
            rivets,
            glove,
        ),
        paints=demo_rack(),
    )
    glow = Glow(
        lamp,
        (
            Surface(helmet, (62.0, 8.0, 40.0), "satin", (-0.6, 0.5, 0.7)),
            Surface(suit, (56.0, 2.0, 16.0), place=(0.2, 0.9, 0.9)),
        ),
        colour=(86.0, -46.0, -4.0),
        radius_mm=26.0,
        strength=3.0,
        rings=4,
    )
    return by_light(plan, glow, "white", "single", DEEP_WATER)


def main() -> None:
    """Write both plans."""
    save_plan(glasswright(), DATA / "glasswright.veil")
    save_plan(diver(), DATA / "diver.veil")


if __name__ == "__main__":
    main()
