"""The coats of a surface as a painter says them, one line each, in the order of laying."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.desktop.kit.laidwords import laid_words
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.plan.model import Coat
from zesty_veil.tr import tr

_MOST = 6


class LaidWords(Label):
    """Shows coats in words; what does not fit is told by how many there are more."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setAccessibleName(tr("coats of the surface in view"))
        self.show_coats(())

    def show_coats(self, coats: Sequence[Coat]) -> None:
        """Show coats, or that none are found yet."""
        lines = [laid_words(i, coat) for i, coat in enumerate(coats[:_MOST], 1)]
        if len(coats) > _MOST:
            lines.append(tr("… and {0} more").format(len(coats) - _MOST))
        self.setText("\n".join(lines) or tr("Find coats (F) tells here what to lay."))
