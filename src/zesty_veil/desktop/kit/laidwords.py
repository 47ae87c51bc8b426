"""A coat as a painter says it, with how it is laid and where."""

from __future__ import annotations

from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, coat_name
from zesty_veil.tr import counted, tr


def laid_words(number: int, coat: Coat) -> str:
    """Return a coat in a line: '2   Ember Orange, 3:1 water, glaze, 4 passes, 0 to 60 %'."""
    start, end = (round(100 * place) for place in coat.span)
    where = tr("all over") if (start, end) == (0, 100) else tr("{0} to {1} %").format(start, end)
    return tr("{0}   {1}, {2}, {3}, {4}").format(
        number, coat_name(coat), tr(tools()[coat.tool].label),
        counted(coat.passes, "{0} pass", "{0} passes"), where,
    )  # fmt: skip
