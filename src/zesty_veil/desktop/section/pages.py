"""The pages that stand in place of the section, each tied to the station it was turned from."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zesty_veil.desktop.glow.glowview import GlowView
from zesty_veil.desktop.guess.guesspage import GuessPage
from zesty_veil.desktop.logbook.logpage import LogPage
from zesty_veil.desktop.match.matchview import MatchView
from zesty_veil.desktop.rack.rackpage import RackPage
from zesty_veil.desktop.sitting.sittingview import SittingView
from zesty_veil.paint.mixture import Mixture

if TYPE_CHECKING:
    from zesty_veil.desktop.section.station import SectionStation
    from zesty_veil.desktop.session.document import Document


def add_pages(station: SectionStation, document: Document) -> None:
    """Make all pages and hand them to the station's stage."""
    stage, hand, rack, keeping = station.stage, station.hand, station.rack, station.keeping

    def place() -> float:
        return station.view.place

    stage.add_match(MatchView(document, hand, rack, station.head.look, place))
    stage.add_glow(GlowView(document, hand, rack))
    sitting = SittingView(document)
    sitting.rescue_wanted.connect(station.rescue)
    stage.add_sitting(sitting)

    def shelf() -> RackPage:
        page = RackPage(document, keeping, lambda: mixture_in_hand(station))
        page.lay_wanted.connect(station.add_coat)
        return page

    def log() -> LogPage:
        page = LogPage(document, keeping, lambda: (hand.passage_index, place()))
        page.again_wanted.connect(station.again_wanted.emit)
        return page

    # Most sittings need none of these, and they take as long to make as half of the window.
    stage.add_later(shelf, log, lambda: GuessPage(document, keeping))


def mixture_in_hand(station: SectionStation) -> Mixture | None:
    """Return the mixture of the coat in hand, if there is one."""
    passage, coat = station.hand.passage, station.coat
    if passage is None or coat is None or coat >= len(passage.coats):
        return None
    return passage.coats[coat].mixture
