"""The five steps of showing somebody round."""

from __future__ import annotations

from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.section.desk import SectionDesk
from zesty_veil.desktop.shell.stationrouter import StationRouter
from zesty_veil.desktop.shell.tour import TourStop
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.tr import tr


def steps_of(section: SectionDesk, router: StationRouter) -> tuple[TourStop, ...]:
    """Return where somebody is shown round."""
    return (
        TourStop(
            "section", tr("The section through the paint"),
            tr(
                "From left to right the passage, from the light to the far end. Above what it will "
                "look like on ridge, flat and recess; below the films, one on the other. Drag a "
                "film's ends: the colours follow."
            ),
            lambda: section.view,
        ),
        TourStop(
            "section", tr("The coat in hand"),
            tr(
                "What is in the pot in drops, which tool, how many passes, where it lies, and what "
                "it adds. Add a coat (N) shows each paint as it would come out here."
            ),
            lambda: section.card,
        ),
        TourStop(
            "light", tr("A painted light"),
            tr(
                "Drag the light before the form. The ladder says in rings what each surface wants; "
                "Find coats says how to get there."
            ),
            lambda: router.at(LightStation).view.view,
        ),
        TourStop(
            "match", tr("From a colour to coats"),
            tr(
                "Write a colour or take it from a picture: these are ways there, with how near, "
                "how long and how sure. Enter lays one into the plan."
            ),
            lambda: router.at(MatchStation).view.list,
        ),
        TourStop(
            "sitting", tr("Painting by the clock"),
            tr(
                "What to drip and lay now, while other films dry. Space says that it is laid. That "
                "is all: F2 leads back to the start, F1 opens the help of each page."
            ),
            lambda: router.at(SittingStation).view.card,
        ),
    )  # fmt: skip
