"""Asking for the forecast of what is in view: once for all that changes in one turn of events."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer

from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.services.forecast import Forecast, Request, forecasts


class Forecasting(QObject):
    """Gathers changes and asks for one forecast; `jobs.answered` brings it, part by part.

    Parameters
    ----------
    request
        Returns what is to be asked for now.
    """

    def __init__(self, request: Callable[[], Request], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._request = request
        self._asked: Request | None = None  # what was asked for last
        self.jobs: NewestWins[Request, Forecast] = NewestWins(forecasts, self, "short")
        self._gather = QTimer(self)
        self._gather.setSingleShot(True)
        self._gather.setInterval(0)
        self._gather.timeout.connect(self._ask)

    def changed(self) -> None:
        """Ask anew when this turn of the event loop is over."""
        self._gather.start()

    def up_to_date(self, shown: Forecast) -> bool:
        """Tell whether a forecast is of the plan and look as they are now."""
        return not self._gather.isActive() and shown.request == self._asked

    def drop(self) -> None:
        """Want nothing of what is under way any more."""
        self.jobs.drop()

    def wait_until_idle(self) -> bool:
        """Run events until what was asked for is there; False if nothing moves any more."""
        idle = True
        while idle and (self._gather.isActive() or not self.jobs.idle()):
            if self._gather.isActive():
                self._gather.stop()
                self._ask()
            idle = self.jobs.wait_until_idle()  # what it brings may change something in turn
        return idle

    def stop(self) -> None:
        """End the worker; nothing is computed any more."""
        self._gather.stop()
        self.jobs.close()

    def _ask(self) -> None:
        self._asked = self._request()
        self.jobs.ask(self._asked)
