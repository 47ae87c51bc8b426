"""What stands on the Section at one moment: a frozen picture of it, built without Qt."""

from __future__ import annotations

from dataclasses import dataclass
from string import ascii_lowercase

import numpy as np

from zesty_veil.desktop.kit.frame import LABEL, Frame, frame
from zesty_veil.desktop.kit.geometry import (
    Box,
    Grip,
    Strata,
    label_anchor,
    label_rows,
    strata,
)
from zesty_veil.light.adapt import by_day
from zesty_veil.light.srgb import given_up
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.model import Passage
from zesty_veil.predict.appearance import colour_gain_words, gain_words
from zesty_veil.predict.field import axis
from zesty_veil.predict.words import describe
from zesty_veil.services.forecast import Forecast
from zesty_veil.thresholds import HIDDEN_DE00
from zesty_veil.tr import tr


@dataclass(frozen=True)
class Scene:
    """Everything that a drawing of the Section needs."""

    passage: Passage
    forecast: Forecast
    frame: Frame
    strata: Strata
    labels: tuple[float, ...]  # y of each coat's label
    selected: int | None
    hot: tuple[int, Grip] | None  # what is under the pointer
    place: float  # where the readout reads

    @property
    def ground_coats(self) -> int:
        """How many of the lowest coats belong to the ground."""
        return self.forecast.request.ground_coats

    @property
    def has_ground(self) -> bool:
        """Whether its ground has coats, drawn or not."""
        return bool(self.ground_coats or self.passage.ground.coats)

    @property
    def ground_pile(self) -> Box:
        """Where the ground's coats lie at the light, while they are drawn."""
        box = self.frame.ground
        top = float(self.strata.strata[self.ground_coats - 1].upper[0]) if self.ground_coats else 0
        return Box(box.x, top, box.width, box.y - top)

    def opens_ground(self, x: float, y: float) -> bool:
        """Tell whether a point is where the ground's coats are shown, or folded in."""
        named = self.ground_pile if self.ground_coats else self.frame.ground
        beside = x < named.x and named.y <= y < named.bottom
        return self.has_ground and (beside or self.frame.ground.holds(x, y))

    def mark(self, coat: int) -> str:
        """Return the number of a coat, or the letter of one that belongs to the ground."""
        ground = self.ground_coats
        return ascii_lowercase[coat] if coat < ground else str(coat - ground + 1)

    @property
    def nearest(self) -> int:
        """Index of the computed place nearest to where the readout reads."""
        assert self.forecast.field is not None
        return int(np.abs(self.forecast.field.u - self.place).argmin())

    def reading(self, site: str) -> tuple[str, str, float]:
        """Return words, numbers and value of a site at the place that is read."""
        field = self.forecast.field
        assert field is not None
        at, site_index = self.nearest, SITES.index(site)
        lch, value = field.lch[at, site_index], float(field.value[at, site_index])
        L, C, h = (float(v) for v in lch)
        sure = self.forecast.sure
        if sure is not None:
            place = round(self.place * (sure.low.shape[0] - 1))
            low, high = sure.low[place, site_index], sure.high[place, site_index]
            numbers = "  ".join(f"{n} {_range(low[i], high[i])}" for i, n in enumerate("LC"))
            return describe(lch, value), numbers, value
        numbers = f"L {L:.0f}  C {C:.0f}  h {h:.0f}"
        if not field.in_gamut[at, site_index]:
            look = self.forecast.request.look
            true = by_day(field.lab[at, site_index], look.light, look.observer)
            given = given_up(true, field.rgb[at, site_index])
            numbers = f"L {L:.0f} C {C:.0f} h {h:.0f}, {given}"
        return describe(lch, value), numbers, value

    def value_words(self) -> str:
        """Return what stands beside the value: how sure it is, or how light it seems."""
        sure, seems = self.forecast.sure, self.forecast.seems
        if sure is not None:
            place = round(self.place * (sure.low.shape[0] - 1))
            dE = float(sure.median[place, SITES.index("flat")])
            return f"dE {dE:.1f} ({tr(_CAUSES[sure.main_cause])})"
        return tr("seems {0:.1f}").format(float(seems[self.nearest])) if seems is not None else ""

    def surround_words(self) -> str:
        """Return what the surround does to how light the flat seems at the place that is read."""
        field, seems = self.forecast.field, self.forecast.seems
        if field is None or seems is None:
            return ""
        at = self.nearest
        said = gain_words(float(field.value[at, SITES.index("flat")]), float(seems[at]))
        gains = self.forecast.livelier
        colour = "" if gains is None else colour_gain_words(float(gains[at]))
        return f"{said}; {colour}" if colour else said

    def film(self, coat: int) -> float:
        """Return the micrometres of a coat at the place that is read."""
        return float(self.forecast.layers[coat].dry_um[self.nearest])

    def laid(self, coat: int) -> bool:
        """Tell whether a coat is laid in what is shown."""
        laid = self.forecast.request.laid
        return laid is None or coat in laid

    def hidden(self, coat: int) -> bool:
        """Tell whether nothing of a coat shows in the end."""
        adds = self.forecast.adds
        return adds is not None and coat < len(adds) and adds[coat].most < HIDDEN_DE00


def _range(low: float, high: float) -> str:
    """Return a range in whole numbers: '59-65'."""
    return f"{low:.0f}-{high:.0f}"


_CAUSES = {"film": "film", "ratio": "thinning", "paint": "paint"}


def build(
    forecast: Forecast,
    width: float,
    height: float,
    selected: int | None,
    hot: tuple[int, Grip] | None,
    place: float,
    before: Scene | None = None,
) -> Scene | None:
    """Return the scene for a forecast, or nothing if it has no passage.

    What lies where the scene `before` had it is taken over from that.
    """
    request = forecast.request
    if forecast.field is None or request.passage < 0:
        return None
    passage = request.plan.passages[request.passage]
    line = forecast.missed is not None and forecast.missed.line is not None
    parts = frame(width, height, bool(passage.targets), line)
    if before is not None and before.forecast.layers is forecast.layers and before.frame == parts:
        layout, rows = before.strata, before.labels
    else:
        layout, rows = _laid_out(forecast, parts)
    if selected is not None and selected >= len(passage.coats):
        selected = None
    return Scene(passage, forecast, parts, layout, rows, selected, hot, place)


def _laid_out(forecast: Forecast, parts: Frame) -> tuple[Strata, tuple[float, ...]]:
    """Return where the strata lie, and where their labels stand."""
    layers, gutter = forecast.layers, parts.gutter
    assert forecast.field is not None
    layout = strata([layer.dry_um for layer in layers], axis(forecast.field.u.size), parts.strata)
    anchors = [label_anchor(layout, i) for i in range(len(layers))]
    rows = tuple(label_rows(anchors, LABEL, gutter.y, gutter.bottom))
    return layout, rows
