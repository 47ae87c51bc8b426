"""A coat as a painter says it, with how it is laid and where."""

from __future__ import annotations

from zesty_veil.paint.tool import tools
from zesty_veil.plan.model import Coat, coat_name
from zesty_veil.plan.placewords import place_words
from zesty_veil.tr import counted, tr


def laid_words(number: int, coat: Coat) -> str:
    """Return a coat in a line: '2   Ember Orange, 3:1 water, glaze, 4 passes, the inner half'."""
    return tr("{0}   {1}, {2}, {3}, {4}").format(
        number, coat_name(coat), tr(tools()[coat.tool].label),
        counted(coat.passes, "{0} pass", "{0} passes"), place_words(coat),
    )  # fmt: skip
