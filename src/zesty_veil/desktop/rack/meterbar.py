"""The bench meter: warming, its white tile, and measuring the patch in hand."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from zesty_veil.desktop.kit.plain import Label
from zesty_veil.errors import VeilError
from zesty_veil.log.meter import Meter
from zesty_veil.tr import tr

_TICK_MS = 500


class MeterBar(QWidget):
    """Leads through measuring with a meter.

    Parameters
    ----------
    make
        Returns the meter when it is switched on: a driver of a real one, or the simulated one.
    lay
        Told before each reading what the hand puts it on: its white tile, or the patch in hand.
        With a real meter the hand does that.
    about
        Which meter it is, as a sentence.
    """

    measured = Signal(object)  # (36,)
    complained = Signal(str)

    def __init__(
        self, make: Callable[[], Meter], lay: Callable[[Meter, bool], None], about: str
    ) -> None:
        super().__init__()
        self._make, self._lay, self._about = make, lay, about
        self._meter: Meter | None = None
        self.words = Label()
        self.words.setWordWrap(True)
        self.tile = QPushButton(tr("Calibrate on the white tile"))
        self.tile.clicked.connect(lambda _=False: self.calibrate())
        self.press = QPushButton(tr("Measure this patch"))
        self.press.clicked.connect(lambda _=False: self.measure())
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.words, 1)
        row.addWidget(self.tile)
        row.addWidget(self.press)
        self._timer = QTimer(self)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self.refresh)

    @property
    def meter(self) -> Meter | None:
        """The meter, once it is switched on."""
        return self._meter

    def switch_on(self) -> None:
        """Switch the meter on, if it is not; its lamp then warms."""
        if self._meter is None:
            self._meter = self._make()
        self._timer.start()
        self.refresh()

    def rest(self) -> None:
        """Stop looking at the meter; it stays warm."""
        self._timer.stop()

    def calibrate(self) -> None:
        """Put the meter on its tile and calibrate it."""
        if self._meter is not None:
            self._lay(self._meter, True)
            self._try(self._meter.calibrate)

    def measure(self) -> None:
        """Put the meter on the patch in hand and measure."""
        if self._meter is None:
            return
        meter = self._meter
        self._lay(meter, False)
        self._try(lambda: self.measured.emit(meter.measure()))

    def refresh(self) -> None:
        """Say how far the meter is."""
        if self._meter is None:
            return
        state = self._meter.state()
        if state.warm_in_s > 0:
            words = tr("The lamp warms: {0:.0f} s more.").format(state.warm_in_s)
        elif not state.calibrated:
            words = tr("Warm. Calibrate it on its white tile.")
        else:
            words = tr("Ready. Put it flat on the patch in hand, and measure.")
        self.words.setText(f"{self._about}  {words}")
        self.tile.setEnabled(state.warm_in_s <= 0)
        self.press.setEnabled(state.warm_in_s <= 0 and state.calibrated)

    def _try(self, act: Callable[[], None]) -> None:
        try:
            act()
        except VeilError as error:
            self.complained.emit(str(error))
        self.refresh()
