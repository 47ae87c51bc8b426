"""A coat as a painter says it, with how it is laid and where."""

from __future__ import annotations

from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, coat_name
from zesty_veil.tr import counted, tr


def laid_words(number: int, coat: Coat) -> str:
    """Return a coat in a line: '2   Ember Orange, 3:1 water, glaze, 4 passes, 0 to 60 %'."""
    return tr("{0}   {1}, {2}, {3}, {4}").format(
        number, coat_name(coat), tr(tools()[coat.tool].label),
        counted(coat.passes, "{0} pass", "{0} passes"), _where(coat),
    )  # fmt: skip


def _where(coat: Coat) -> str:
    start, end = (round(100 * place) for place in coat.span)
    light, far = (round(100 * feather) for feather in coat.feather)
    if (start, end) == (0, 100):
        return tr("all over")
    # What lies full at the very end alone is a touch that fades.
    if end == 0 and far:
        return tr("at the light, faded out at {0} %").format(far)
    if start == 100 and light:
        return tr("at the far end, from {0} % on").format(100 - light)
    return tr("{0} to {1} %").format(start, end)
