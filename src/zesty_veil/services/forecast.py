"""What the Section station shows of a plan, computed without Qt and away from its thread."""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from zesty_veil.advise.refined import refined
from zesty_veil.advise.remark import Remark
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import DroppedError
from zesty_veil.light.cielab import lab_from_lch, luminous
from zesty_veil.light.grid import Array
from zesty_veil.paint.kinds import CLEAR
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.edits import usual_coat, with_coats, with_feather, with_sites, with_span
from zesty_veil.plan.grounds import ground_from
from zesty_veil.plan.model import Coat, Ground, OwnTool, Passage, Plan, Primer
from zesty_veil.predict.appearance import appearance, livelier, seeming_value
from zesty_veil.predict.contribution import Contribution, contributions
from zesty_veil.predict.drawdown import over_primers
from zesty_veil.predict.field import SITE_RELIEF, Field, axis, field_of, predict
from zesty_veil.predict.forms.onform import FormConditions, kept_table
from zesty_veil.predict.harsh import harsh_places
from zesty_veil.predict.lay import ground, laid_up, thickness
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, on_screen
from zesty_veil.predict.onepass import OnePass, one_passes
from zesty_veil.predict.solid import judged_over, solid_after
from zesty_veil.predict.squint import along_axis
from zesty_veil.predict.streaks import Streaks, streaks
from zesty_veil.predict.sure import ColourUncertainty, sureness
from zesty_veil.predict.targets import Missed, missed
from zesty_veil.predict.turned import each_way
from zesty_veil.services.formpicture import form_layers, form_picture

SECTION_PLACES = 256
_RIBBON_PLACES = 96
_SURE_PLACES = 32
_FEW_PAINTS = 120
_SOLID_WITHIN = 8  # passes; what takes more is a glaze
FLAT = SITES.index("flat")
SHOWN = FormConditions()
_SWATCH_PRIMERS: tuple[Primer, ...] = ("white", "black")


class Swatch(NamedTuple):
    """A coat in full, each (3,) encoded sRGB."""

    over_white: Array
    over_black: Array
    solid: int | None = None  # passes until the eye sees no more change, if few do it


@dataclass(frozen=True)
class Request:
    """Everything a forecast needs, taken on the interface thread."""

    plan: Plan
    passage: int  # -1 if the plan has none
    rack: tuple[Paint, ...]  # the paints that may be chosen
    look: ViewingConditions
    background: float = 0.2  # luminous reflectance of the field round the colours
    sure: bool = False  # whether it is asked how sure the colours are
    form_size: int = 0  # in pixels; 0 for no form
    how: FormConditions = SHOWN  # how the form is looked at
    squint_mm: float = 0.0  # from how far a squinting eye looks; 0 for an open one
    split: str | None = None  # the light that half of what is shown is seen under instead
    instead: Plan | None = None  # a plan whose passage of that name is shown in place of this one
    inside: bool = False  # whether ribbons are drawn inside the passage that surrounds this one
    laid: tuple[int, ...] | None = None  # the coats that are laid in what is shown; none for all
    photograph: bool = False  # whether the form is shown as a grey photograph
    grey: float = 0.5  # encoded grey of the field round the form
    known: tuple[Paint, ...] = ()  # the rack's paints as they are known now
    hand: tuple[OwnTool, ...] = ()  # and the painter's hand
    ground_coats: int = 0  # how many of the lowest coats are shown, but count as ground

    @property
    def counted(self) -> Plan:
        """The plan with those in its ground."""
        return ground_from(self.plan, self.passage, self.ground_coats)


@dataclass(frozen=True)
class DrawnCoat:
    """A coat as it is drawn."""

    dry_um: Array  # (n,) film on the flat after the water has left
    swatch: Swatch


@dataclass(frozen=True)
class Forecast:
    """The answer to a request; what takes longer comes later, in further answers."""

    request: Request
    field: Field | None = None
    layers: tuple[DrawnCoat, ...] = ()
    harsh: tuple[float, ...] = ()
    ground: Array | None = None  # (n, 3) encoded sRGB of the ground along the axis
    metal: bool = False  # whether there is anything that glints
    beside: Array | None = None  # (n, sites, 3) encoded sRGB: the dry look, or the other light's
    around: Array | None = None  # (n, 3) encoded sRGB of the passage that surrounds this one
    seems: Array | None = None  # (n,) value that the flat seems to have in its surround
    livelier: Array | None = None  # (n,) how much stronger its colour seems beside another passage
    ribbons: tuple[Array, ...] | None = None  # per passage (n, 3) encoded sRGB, flat site
    paints: dict[Paint, Swatch] | None = None  # the usual coat of each paint of the rack
    form: npt.NDArray[np.uint8] | None = None  # (size, size, 4) the passage on its form, RGBA
    adds: tuple[Contribution, ...] | None = None
    passes: tuple[OnePass, ...] | None = None  # what one pass more or less would change
    shown: Array | None = None  # (n, sites, 3) encoded sRGB of the ribbons, if not the field's
    missed: Missed | None = None  # how far it is from its targets
    remarks: tuple[Remark, ...] | None = None
    streaks: Streaks | None = None  # how uneven its coats look, if they do
    streaked: tuple[Array, Array] | None = None  # those, (n, sites, 3) encoded sRGB each
    sure: ColourUncertainty | None = None
    bounds: tuple[Array, Array] | None = None  # (n, sites, 3) encoded sRGB of both bounds

    def is_patchy(self, coat: int) -> bool:
        """Tell whether streaks of a coat show in the passage with all its coats."""
        whole = self.request.laid is None and self.request.instead is None
        return whole and self.streaks is not None and self.streaks.patchy[coat]


def forecasts(request: Request, should_continue: Callable[[], bool]) -> Iterator[Forecast]:
    """Yield the forecast of the passage in view, then the same with more and more around it.

    `wanted` is asked before each long part; when it says no, the rest is not computed.
    """
    now = _passage_in_view(request)
    if now.field is not None:
        yield now
    plan, look = request.plan, request.look
    if not should_continue():
        return
    if request.form_size and now.field is not None:
        now = replace(now, form=_on_form(request))
        yield now
    if not should_continue():
        return
    ribbons = tuple(_ribbon(p, plan.paints, look) for p in plan.passages)
    # Of a large rack the menus' swatches take longest; what is in view comes first then.
    few = len(request.rack) <= _FEW_PAINTS
    now = replace(now, ribbons=ribbons, paints=_swatches(request, should_continue) if few else None)
    yield now
    if should_continue():
        now = yield from _judged(now, request, should_continue)
    if not few and should_continue():
        yield replace(now, paints=_swatches(request, should_continue))


def _swatches(request: Request, should_continue: Callable[[], bool]) -> dict[Paint, Swatch]:
    """Return how the usual coat of each paint looks; only some, if it is not wanted any more."""
    out = {}
    for paint in request.rack:
        if not should_continue():
            break
        out[paint] = _usual_swatch(paint, request.look)
    return out


def _judged(
    now: Forecast, request: Request, should_continue: Callable[[], bool]
) -> Generator[Forecast, None, Forecast]:
    """Yield what is said of the passage in view, and return the last of it."""
    plan, look, field = request.plan, request.look, now.field
    if field is None:
        return now
    passage, rack = plan.passages[request.passage], plan.rack()
    adds = contributions(passage, rack, look)
    now = replace(now, adds=adds, passes=one_passes(passage, rack, look))
    now = _with_streaks(now, field)
    yield now
    if should_continue():
        newer = refined(request.counted, request.passage, request.known, request.hand)
        told = remarks(request.counted, request.passage, request.rack, should_continue)
        now = replace(now, remarks=(*newer, *told))
        yield now
    if request.sure and should_continue():
        places = axis(_SURE_PLACES)
        try:
            sure = sureness(
                request.counted.passages[request.passage], rack, places, SITE_RELIEF, plan.hand,
                look, should_continue=should_continue,
            )  # fmt: skip
        except DroppedError:
            return now
        now = replace(
            now, sure=sure, bounds=(_shown(sure.low, request.look), _shown(sure.high, request.look))
        )
        yield now
    return now


def _with_streaks(now: Forecast, field: Field) -> Forecast:
    """Return a forecast with what streaks of the brush make of its ribbons, if they show."""
    passage, paints = _front(now.request)
    u, rack = axis(_SURE_PLACES), {paint.name: paint for paint in paints}
    found = streaks(passage, rack, u, SITE_RELIEF, now.request.look)
    if found is None:
        return now
    fine = axis(SECTION_PLACES)
    apart = np.apply_along_axis(lambda along: np.interp(fine, u, along), 0, found.apart)
    thin, thick = (
        on_screen(lab, now.request.look)[0] for lab in (field.lab - apart, field.lab + apart)
    )
    return replace(now, streaks=found, streaked=(thin, thick))


def _surrounding(request: Request) -> Passage | None:
    """Return the passage that is named as what surrounds the one in view."""
    plan = request.plan
    passage = plan.passages[request.passage]
    others = (p for p in plan.passages if p.name == passage.surround and p is not passage)
    return next(others, None)


def _background(request: Request) -> float:
    """Return the luminous reflectance of what surrounds the passage in view.

    That is the mean of the passage named as its surround, on the flat; with none named, the field
    in which the colours are shown.
    """
    other = _surrounding(request)
    if other is None:
        return request.background
    seen = kept_table(other, request.plan.paints, request.look)
    flat = seen.lab[:, seen.lab.shape[1] // 2, :, 0]
    return max(float(luminous(flat).mean()), 1e-3)


def _mean_colour(request: Request, other: Passage) -> Array:
    """Return the mean colour of a passage on the flat, (3,) CIELAB."""
    seen = kept_table(other, request.plan.paints, request.look)
    return np.asarray(seen.lab[:, seen.lab.shape[1] // 2].reshape(-1, 3).mean(axis=0))


def _front(request: Request) -> tuple[Passage, tuple[Paint, ...]]:
    """Return the passage in view as it is shown, and the paints it is of."""
    plan = request.plan
    passage = plan.passages[request.passage]
    if request.instead is not None:
        for other in request.instead.passages:
            if other.name == passage.name:
                return other, request.instead.paints
    if request.laid is None:
        return passage, plan.paints
    return with_coats(passage, tuple(passage.coats[i] for i in request.laid)), plan.paints


def _on_form(request: Request) -> npt.NDArray[np.uint8]:
    """Return the passage in view on its form, before the one that surrounds it."""
    return form_picture(
        form_layers(request.plan, request.passage, *_front(request)),
        request.form_size,
        request.look,
        request.how,
        request.photograph,
        request.split,
        request.squint_mm,
        request.grey,
    )


def _passage_in_view(request: Request) -> Forecast:
    if request.passage < 0:
        return Forecast(request)
    plan, look = request.plan, request.look
    passage = plan.passages[request.passage]
    front, paints = _front(request)
    rack = {paint.name: paint for paint in paints}
    u = axis(SECTION_PLACES)
    below = ground(front, rack, u, SITE_RELIEF)
    state = dry = laid_up(front, front.coats, rack, u, SITE_RELIEF)
    if look.finish == "wet":
        state = laid_up(front, front.coats, rack, u, SITE_RELIEF, wet=True)
    field = _seen(front, state, rack, look)
    beside = None
    if request.split is not None:
        beside = _seen(front, state, rack, replace(look, light=request.split)).rgb
    elif look.finish != "as painted":
        beside = _seen(front, dry, rack, replace(look, finish="as painted")).rgb
    J = appearance(state, look, _background(request))[:, FLAT, 0]
    other = _surrounding(request)
    gains = None if other is None else livelier(state, look, _mean_colour(request, other))[:, FLAT]
    return Forecast(
        request,
        field,
        tuple(_drawn(coat, passage.length_mm, plan.paints, look) for coat in passage.coats),
        harsh_places(field.lab, u, passage.length_mm),
        _seen(with_coats(front, ()), below, rack, look).rgb[:, FLAT],
        state.mirror is not None,
        beside,
        None if other is None else _ribbon(other, plan.paints, look),
        seeming_value(J),
        shown=along_axis(field.rgb, passage.length_mm, request.squint_mm)
        if request.squint_mm > 0
        else None,
        missed=missed(passage, field),
        livelier=gains,
    )


def _seen(
    passage: Passage, state: StackOptics, rack: Mapping[str, Paint], look: ViewingConditions
) -> Field:
    """Return what is seen along the axis of a passage whose coats are folded already."""
    u = axis(SECTION_PLACES)
    if len(each_way(passage)) > 1:
        return predict(passage, rack, u, SITE_RELIEF, look)
    return field_of(state, u, SITE_RELIEF, look)


def _shown(lch: Array, look: ViewingConditions) -> Array:
    return on_screen(lab_from_lch(lch), look)[0]


@lru_cache(maxsize=256)
def _ribbon(passage: Passage, paints: tuple[Paint, ...], look: ViewingConditions) -> Array:
    rack = {paint.name: paint for paint in paints}
    return predict(passage, rack, axis(_RIBBON_PLACES), np.zeros(1), look).rgb[:, 0]


@lru_cache(maxsize=512)
def _drawn(
    coat: Coat, length_mm: float, paints: tuple[Paint, ...], look: ViewingConditions
) -> DrawnCoat:
    # A coat that leaves the flats out is drawn all the same, or it could not be taken hold of.
    drawn = coat if "flat" in coat.sites else with_sites(coat, SITES)
    relief = np.ones(1) if coat.tool == "drybrush" else np.zeros(1)
    dry = (
        thickness(drawn, Passage("drawn", length_mm), axis(SECTION_PLACES), relief).dry[:, 0] * 1000
    )
    return DrawnCoat(dry, _swatch(coat, paints, look))


@lru_cache(maxsize=4096)
def _usual_swatch(paint: Paint, look: ViewingConditions) -> Swatch:
    coat = usual_coat(paint)
    relief = np.ones(1) if coat.tool == "drybrush" else np.zeros(1)
    passes = range(_SOLID_WITHIN + 2)
    labs = over_primers(coat, {paint.name: paint}, _SWATCH_PRIMERS, passes, relief, look)
    if labs is None:
        return _swatch(coat, (paint,), look)
    white, black = on_screen(labs[:, 1], look)[0]
    return Swatch(white, black, _solid(paint, labs))


def _solid(paint: Paint, labs: Array) -> int | None:
    if paint.kind in CLEAR:
        return None
    return solid_after(labs[_SWATCH_PRIMERS.index(judged_over(paint.kind))])


@lru_cache(maxsize=256)
def _swatch(coat: Coat, paints: tuple[Paint, ...], look: ViewingConditions) -> Swatch:
    rack = {paint.name: paint for paint in paints}
    full = with_sites(with_feather(with_span(coat, 0, 1), 0, 0), SITES)
    relief = np.ones(1) if coat.tool == "drybrush" else np.zeros(1)
    white, black = (
        predict(
            Passage("swatch", ground=Ground(primer), coats=(full,)), rack, axis(1), relief, look
        ).rgb[0, 0]
        for primer in _SWATCH_PRIMERS
    )
    return Swatch(white, black)
