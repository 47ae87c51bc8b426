"""A plan as tables: its steps, and its colours, as CSV that any spreadsheet reads (RFC 4180)."""

from __future__ import annotations

from collections.abc import Iterable

from zesty_veil.bench.air import Air, recoat
from zesty_veil.bench.amounts import wet_ul
from zesty_veil.bench.tasks import laid_on
from zesty_veil.exchange.colours import samples
from zesty_veil.exchange.csvtext import table_of
from zesty_veil.light.adapt import by_day
from zesty_veil.light.cielab import lch
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.paint.laydown import SITES
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.model import Plan, mixture_words


def steps_table(plan: Plan, air: Air) -> str:
    """Return every coat as a line: what, where, how, how long it dries, how much it takes."""
    rows: list[list[object]] = [
        ["step", "passage", "mixture", "thinner", "thinning", "tool", "passes", "from mm", "to mm",
         "feather to light mm", "feather to far mm", "sites", "dry from min", "dry to min",
         "microlitres", "as words"],
    ]  # fmt: skip
    for passage in plan.passages:
        for coat in laid_on(passage):
            wait = recoat(coat, air)
            places = (*coat.span, *coat.feather)
            sites = "all" if coat.sites == SITES else " ".join(coat.sites)
            rows.append(
                [len(rows), passage.name, mixture_words(coat.mixture), coat.mixture.thinner,
                 f"{coat.mixture.thinning:g}", coat.tool, coat.passes,
                 *(f"{place * passage.length_mm:.1f}" for place in places), sites,
                 f"{wait.least:.1f}", f"{wait.most:.1f}",
                 f"{wet_ul(coat, passage, plan.figures):.2f}", coat_words(coat)]
            )  # fmt: skip
    return _csv(rows)


def colours_table(plan: Plan) -> str:
    """Return the predicted colours of every passage at 11 places as lines."""
    rows: list[list[object]] = [["name", "L", "a", "b", "C", "h", "sRGB"]]
    for one in samples(plan):
        C, h = (float(v) for v in lch(one.lab)[1:])
        numbers = (f"{v:.2f}" for v in (*one.lab, C, h))
        rows.append([one.name, *numbers, hexadecimal(srgb(by_day(one.lab, one.light))[0])])
    return _csv(rows)


def _csv(rows: Iterable[list[object]]) -> str:
    return table_of(rows).decode()
