"""The trade's jobs: what is asked, what painters accept, and what of it a plan does not meet.

All of it is common practice. Each is laid as a user would have it, with the rack that ships.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from lightjobs import RACK, coats_for, lamp, thing
from painterjobs import Job
from test_templates import plan_of
from zesty_veil.advise.glow.painting import with_painting
from zesty_veil.advise.ladder import ladder
from zesty_veil.advise.lights import with_glint
from zesty_veil.advise.match.shortlist import solid_looks
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.remarks import remarks
from zesty_veil.light.grid import Array
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.recalled import alone, flat_stack
from zesty_veil.services.colours import target_of
from zesty_veil.services.ladders import LadderRequest, laid_ladder

_WHITES = {"Lime White", "Driftbone Ivory", "Cuttlebone"}
_LOOK = ViewingConditions()


class TradeJob(NamedTuple):
    """A job: its name, what painters accept, the plan for it, and what of it is not met."""

    name: str
    usual: str
    plan: Callable[[], Plan]
    missing: Callable[[Plan], Iterator[str]]


def pots(coat: Coat) -> set[str]:
    """Return the pots of a coat."""
    return {part.paint for part in coat.mixture.parts}


def _coats(plan: Plan) -> tuple[Coat, ...]:
    return plan.passages[0].coats


def _every(plan: Plan) -> set[str]:
    return {pot for coat in _coats(plan) for pot in pots(coat)}


def _thin(pot: str) -> tuple[float, float, float]:
    """Return L, C, h of a thin film over white: dark paints show no hue where they lie solid."""
    return alone(parse_coat(f"{pot}; water 3", RACK), RACK, "white")


def _hue(pot: str, low: float, high: float, chroma: float = 15.0) -> bool:
    """Tell whether a pot has a hue between two, the way round from low to high."""
    _, C, h = _thin(pot)
    return bool(chroma < C and (h - low) % 360 <= (high - low) % 360)


def _neutral(pot: str) -> bool:
    return _thin(pot)[1] <= 15.0


def _field(plan: Plan, relief: float = 0.0) -> Field:
    return predict(plan.passages[0], plan.rack(), axis(41), np.array([relief]))


def _lch(plan: Plan) -> Array:
    return np.asarray(_field(plan).lch[:, 0])


def _seen(plan: Plan, low: float, high: float, chroma: float, light: float = 0.0) -> bool:
    """Tell whether a hue is seen somewhere, so clear and so light at least."""
    L, C, h = _lch(plan).T
    return bool((((h - low) % 360 <= (high - low) % 360) & (chroma <= C) & (light <= L)).any())


def _falls(plan: Plan) -> Iterator[str]:
    value = _field(plan).value[:, 0]
    if (value[1:] - np.minimum.accumulate(value)[:-1]).max() > 0.2:
        yield "it gets lighter again"


def _unremarked(plan: Plan) -> Iterator[str]:
    for index in range(len(plan.passages)):
        for remark in remarks(plan, index, demo_rack()):
            yield f"remark: {remark.kind}"


def _word(colour: str, primer: Primer) -> Callable[[], Plan]:
    def plan() -> Plan:
        request = Job(colour, primer, ("50,0,0",), "").request(demo_rack())
        target = target_of(colour, 0.5)
        *_, last = solve(replace(request, targets=(target,), reasons=False))
        coats = last.ways[0].coats
        return Plan(colour, (Passage(colour, ground=Ground(primer), coats=coats),), demo_rack())

    return plan


def _template(name: str, **said: str) -> Callable[[], Plan]:
    return lambda: plan_of(name, "demo", *sorted(said.items()))


def _yellow_on_white(plan: Plan) -> Iterator[str]:
    if len(_coats(plan)) > 1 or sum(c.passes for c in _coats(plan)) > 2:
        yield "more than one coat, or than two passes"
    if not all(_hue(pot, 75, 105) for pot in _every(plan)):
        yield "a pot that is no yellow"


def _yellow_on_black(plan: Plan) -> Iterator[str]:
    white, *rest = _coats(plan)
    if not (pots(white) <= _WHITES and 1 <= white.passes <= 3):
        yield "no white first"
    if len(rest) != 1 or not all(_hue(pot, 75, 105) for pot in pots(rest[0])):
        yield "no yellow pot alone over it"


def _bone(plan: Plan) -> Iterator[str]:
    if not _every(plan) <= _WHITES:
        yield "a pot that is no ivory, bone or white"


def _violet(plan: Plan) -> Iterator[str]:
    if not all(_hue(pot, 265, 10) for pot in _every(plan)):
        yield "a pot that is no violet, magenta or blue"
    if any(RACK[pot].glow is not None for pot in _every(plan)):
        yield "a fluorescent"


def _deep_flame(plan: Plan) -> Iterator[str]:
    if not _seen(plan, 78, 102, 75, 75):
        yield "no clear yellow"
    if not (_seen(plan, 48, 70, 60) and _seen(plan, 22, 44, 45)):
        yield "no orange and red"
    if _lch(plan)[6, 1] < 75:
        yield "dull at 15 %"
    for pot in _every(plan):
        if not (_neutral(pot) or pot in _WHITES or _hue(pot, 300, 105)):
            yield f"{pot} is of no flame"
    yield from _falls(plan)


def _sooty_flame(plan: Plan) -> Iterator[str]:
    if not _seen(plan, 78, 102, 60, 70):
        yield "no yellow"
    _, C, h = _lch(plan)[21:].T
    if (((h < 45) | (h > 340)) & (C > 60)).any():
        yield "a clear red beyond the middle"
    if not any("Soot" in pot for pot in _every(plan)):
        yield "no soot"
    if _lch(plan)[-1, 1] > 12:
        yield "no grey tips"
    yield from _falls(plan)


def _cold_flame(plan: Plan) -> Iterator[str]:
    if not _seen(plan, 78, 102, 50, 70):
        yield "no yellow"
    if not (_seen(plan, 320, 10, 30) and _seen(plan, 270, 320, 25)):
        yield "no magenta, or no violet"
    for coat in _coats(plan)[:-1]:
        if coat.span[0] < 0.7 and any(_neutral(p) and p not in _WHITES for p in pots(coat)):
            yield "black or brown before the tips"
    yield from _falls(plan)


def _single_hue(plan: Plan) -> Iterator[str]:
    L, C, h = _lch(plan).T
    if (np.abs((h[C > 12] - 150 + 180) % 360 - 180) > 45).any():
        yield "another hue is seen"
    for pot in _every(plan):
        if not (_neutral(pot) or pot in _WHITES or _hue(pot, 90, 220)):
            yield f"{pot} is of another hue"
    if L[0] < 85:
        yield "no near-white"


def _blade(plan: Plan) -> Iterator[str]:
    for pot in _every(plan):
        if not (_neutral(pot) or pot in _WHITES or _hue(pot, 190, 320)):
            yield f"{pot} is no blue"
    if _coats(plan)[-1].meant != "edge":
        yield "no edge highlight last"


def _crystal(plan: Plan) -> Iterator[str]:
    L = _lch(plan)[:, 0]
    if L[0] - L[-1] < 40:
        yield "no light corner opposite a dark one"
    if _coats(plan)[-1].meant != "edge":
        yield "no edges last"


def _blue_lamp(plan: Plan) -> Iterator[str]:
    if max(float(_field(replace_first(plan, k)).value.max()) for k in (0, 1)) < 7.5:
        yield "no core"
    for k in (0, 1):
        yield from _falls(replace_first(plan, k))
        for coat in plan.passages[k].coats:
            for pot in pots(coat):
                if not (_neutral(pot) or pot in _WHITES or _hue(pot, 190, 40)):
                    yield f"{pot} is neither blue nor of what it lies on"


def replace_first(plan: Plan, number: int) -> Plan:
    """Return a plan with one of its passages alone."""
    return Plan(plan.title, (plan.passages[number],), plan.paints)


def _fire(plan: Plan) -> Iterator[str]:
    __, _, h = _lch(plan)[0]
    if not 70 <= h <= 105 or _field(plan).value[0, 0] < 7.5:
        yield "ring 1 is not yellow-white"
    yield from _falls(plan)


def _second_light(plan: Plan) -> Iterator[str]:
    one = plan_of("light", "demo", ("other", "grey"), ("primer", "grey"), ("source", "fire"))
    first, both = _lch(one)[0], _lch(plan)[0]
    if abs(first[0] - both[0]) > 5 or abs(first[1] - both[1]) > 8:
        yield "it changes the first"


def _gold() -> Plan:
    plan = thing("black", "Sovereign Gold; water 0.5; passes 3")
    glow = lamp(0.6)
    done = coats_for(plan, glow, "inward", keep=True)
    return with_painting(plan, glow, done, demo_rack())


def _gold_stays(plan: Plan) -> Iterator[str]:
    bare = Passage("bare", 30.0, ground=Ground("black"), coats=_coats(plan)[:1], form="plate")
    before, now = (
        with_glint(flat_stack(p, plan.rack(), 9), axis(9), _LOOK) for p in (bare, plan.passages[0])
    )
    if now.mean() < before.mean() / 2:
        yield "half of the glint is lost"
    blue = {pot for coat in _coats(plan)[1:] for pot in pots(coat) if _hue(pot, 190, 320)}
    if not blue:
        yield "no blue on it"


def _robe(plan: Plan) -> Iterator[str]:
    base, wash, again, *lights = _coats(plan)
    if pots(base) & _WHITES or not (pots(again) == pots(base) and again.sites != base.sites):
        yield "a white ground, or no base again"
    if RACK[next(iter(pots(wash)))].kind not in {"wash", "contrast"} or len(lights) < 2:
        yield "no wash, or not two lights"


def _armour(plan: Plan) -> Iterator[str]:
    *darks, edge = _coats(plan)
    if edge.meant != "edge":
        yield "edges are not last"
    if any(pots(coat) <= _WHITES for coat in darks):
        yield "a white ground"
    if not all(RACK[pot].kind == "opaque" for coat in darks for pot in pots(coat)):
        yield "something clear on black"
    look = [solid_looks([coat.mixture.parts], RACK)[1, 0, 0] for coat in darks]
    if sorted(look) != look:
        yield "not from dark to light"


def _violet_cloth(plan: Plan) -> Iterator[str]:
    if not (_seen(plan, 290, 335, 20) and _lch(plan)[0, 0] > 75):
        yield "no violet, or no bone at the light"
    if not any(_hue(pot, 330, 10) for pot in _every(plan)):
        yield "not lifted with pink"
    if not any(_hue(pot, 255, 305) for pot in _every(plan)):
        yield "not shaded with blue"
    last = _coats(plan)[-1]
    if not (last.mixture.thinner == "medium" and all(_hue(p, 290, 335) for p in pots(last))):
        yield "not glazed back"


def _sheer(plan: Plan) -> Iterator[str]:
    L, _, h = _lch(plan).T
    if not (40 < h[0] < 90 and 200 < h[-1] < 270 and abs(L[-1] - 80) < 5):
        yield "cloth and skin are not both seen"
    if _coats(plan)[-1].sites != ("ridge",) or not pots(_coats(plan)[-1]) <= _WHITES:
        yield "no folds put back white"


def _vial(plan: Plan) -> Iterator[str]:
    L = _lch(plan)[:, 0]
    top = int(np.argmax(L))
    if not (0.5 < axis(41)[top] < 0.75 and L[-4:].max() < 20 and L[0] < L[top] - 20):
        yield "not lightest just below the surface, or the empty part is not dark"
    if not any(coat.meant == "edge" for coat in _coats(plan)):
        yield "no hard surface line"
    if RACK[next(iter(pots(_coats(plan)[-1])))].kind != "varnish":
        yield "no gloss last"


def _undead(plan: Plan) -> Iterator[str]:
    if any(_hue(pot, 20, 75, 30.0) for pot in _every(plan)):
        yield "something orange"
    shade = _coats(plan)[-1]
    if not all(_hue(pot, 240, 335) for pot in pots(shade)):
        yield "no violet or blue in the shade"


def _two_ladders() -> Plan:
    plan = Plan("armour", (Passage("plate", 30.0, ground=Ground("black")),), demo_rack())
    for pot, end in (("Seawall Green", "far"), ("Brash Ice Blue", "light")):
        both = [RACK["Deepwell Blue"], RACK[pot]]
        found = ladder(both, 3, plan.passages[0], plan.paints, _LOOK)
        asked = LadderRequest(
            plan, 0, tuple(p.name for p in both), demo_rack(), _LOOK, 3, "even", end,  # type: ignore[arg-type]
            share=0.5,
        )  # fmt: skip
        plan = laid_ladder(asked, found)
    return plan


def _both_ladders(plan: Plan) -> Iterator[str]:
    if sum(coat.span == (0.0, 1.0) for coat in _coats(plan)) != 1:
        yield "no one base"
    light, base, far = (_lch(plan)[k] for k in (0, 20, 40))
    if not (light[0] > base[0] + 20 and 230 < base[2] < 290 and 120 < far[2] < 200):
        yield "one buries the other"


def _copper() -> Plan:
    words = ("Pipe Copper; water 0.5; passes 3", "Peat Sepia Wash; tool wash; sites recess flat")
    return thing("black", *words)


def _copper_stays(plan: Plan) -> Iterator[str]:
    glint = replace(_LOOK, angle="glint")
    bare = replace_first(plan, 0)
    bare = thing("black", "Pipe Copper; water 0.5; passes 3")
    at = np.array([0.5]), np.array([1.0])
    before, now = (
        float(predict(p.passages[0], RACK, *at, glint).value[0, 0]) for p in (bare, plan)
    )
    if now < 2 / 3 * before:
        yield "the ridges lose their glint"
    if _field(plan, -1.0).value.max() > 3.5:
        yield "the recesses are not dark"


def _clean(check: Callable[[Plan], Iterator[str]]) -> Callable[[Plan], Iterator[str]]:
    """Return a check that tells of remarks as well: nothing laid here may raise one."""

    def both(plan: Plan) -> Iterator[str]:
        yield from check(plan)
        yield from _unremarked(plan)

    return both


JOBS: tuple[TradeJob, ...] = (
    TradeJob("yellow on white", "one yellow pot, once or twice", _word("yellow", "white"),
             _yellow_on_white),
    TradeJob("yellow on black", "white once to three times, then one yellow pot",
             _word("yellow", "black"), _yellow_on_black),
    TradeJob("bone on black", "ivory, bone or white alone", _word("bone", "black"), _bone),
    TradeJob("clean violet on white", "violet or magenta with violet or blue",
             _word("#7a1fa2", "white"), _violet),
    *(
        TradeJob(f"{school} flame on {primer}", usual,
                 _template("flame", school=school, primer=primer), _clean(check))
        for school, usual, check in (
            ("deep", "white, yellow, orange, red, dark red, each shorter", _deep_flame),
            ("sooty", "yellow, orange, brown, grey tips", _sooty_flame),
            ("cold", "yellow, orange or pink, magenta, violet, blue", _cold_flame),
        )
        for primer in ("white", "black")
    ),
    TradeJob("flame of one hue", "tint, mid tone and shade of that hue, near-white",
             _template("flame", school="single", colour="green"), _clean(_single_hue)),
    TradeJob("blade, blue", "blues and white, last an edge highlight",
             _template("within", thing="blade", colour="blue"), _clean(_blade)),
    TradeJob("crystal", "light corner opposite dark corner, last edges",
             _template("within", thing="crystal"), _clean(_crystal)),
    TradeJob("blue lamp on black", "pale blue to near-white inside, plain blues outward",
             _template("light", source="lamp", colour="blue", primer="black"),
             _clean(_blue_lamp)),
    TradeJob("fire on things", "yellow-white, orange outward, then red or brown",
             _template("light", source="fire"), _clean(_fire)),
    TradeJob("second, cold light", "the first stays as it is",
             _template("light", source="fire", primer="grey", other="grey", second="pale blue"),
             _clean(_second_light)),
    TradeJob("blue on gold, kept", "gold stays, of gold and blue", _gold, _gold_stays),
    TradeJob("robe from a mid tone", "base, wash, base again, two lights, no white ground",
             _template("cloth", thing="robe"), _clean(_robe)),
    TradeJob("dark armour from black", "darks upward by layers, edges last",
             _template("cloth", thing="armour", colour="dark blue"),
             _clean(_armour)),
    TradeJob("violet cloth by glazes", "violet, shade with blue, lift with pink, bone, glaze back",
             _template("cloth", colour="violet"), _clean(_violet_cloth)),
    TradeJob("violet cloth by layers", "the same, up from black",
             _template("cloth", colour="violet", school="layers"), _clean(_violet_cloth)),
    TradeJob("sheer cloth, pale blue", "cloth and bare skin both seen, folds put back white",
             _template("sheer", colour="pale blue"), _clean(_sheer)),
    TradeJob("vial", "hard surface line, lightest below it, empty part dark, gloss last",
             _template("vial"), _clean(_vial)),
    TradeJob("skin, undead", "grey-green, violet or blue shade, no orange",
             _template("skin", tone="undead"), _clean(_undead)),
    TradeJob("blue armour, two ladders", "one base, green one way, pale blue the other",
             _two_ladders, _both_ladders),
    TradeJob("copper under a brown wash", "ridges keep their glint, recesses dark", _copper,
             _copper_stays),
)  # fmt: skip
