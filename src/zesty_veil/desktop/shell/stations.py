"""The stations in the order of work. A new one is its folder, and a line here."""

from __future__ import annotations

from importlib import import_module

from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.guess.station import GuessStation
from zesty_veil.desktop.help.station import HelpStation
from zesty_veil.desktop.kit.station import Station
from zesty_veil.desktop.logbook.station import LogStation
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.rack.station import RackStation
from zesty_veil.desktop.section.home import SectionHome
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.desktop.start.station import StartStation

STATIONS: tuple[type[Station], ...] = (
    StartStation,
    SectionHome,
    LightStation,
    MatchStation,
    SittingStation,
    RackStation,
    LogStation,
    GuessStation,
    HelpStation,
)


def read_ahead() -> None:
    """Import the pages of all stations, so that none keeps the hand waiting; for a worker."""
    for kind in STATIONS:
        room = kind.__module__.rpartition(".")[0]
        for name in kind.reads:
            import_module(f"{room}.{name}")
