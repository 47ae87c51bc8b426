"""What came of a fit: the drawdown before and after, how sure it is, or why it is refused."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.rack.paintcard import LargeDrawdown
from zesty_veil.log.measured import Measured
from zesty_veil.services.fitting import Fitted
from zesty_veil.tr import counted, tr


class FitResult(QWidget):
    """Shows a fit in words and as drawdowns."""

    def __init__(self) -> None:
        super().__init__()
        self.before, self.after = LargeDrawdown(), LargeDrawdown()
        self.was, self.now = Label(tr("As it is in the rack")), Label(tr("As the card has it"))
        self.told = Label()
        self.told.setWordWrap(True)
        self.told.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        for widget in (self.was, self.before, self.now, self.after, self.told):
            column.addWidget(widget)
        column.addStretch(1)

    def show_fit(self, result: Fitted | None) -> None:
        """Show a fit, or that there is none yet."""
        self.after.show_rgb(result.after if result is not None else None)
        self.after.setVisible(result is not None and result.after is not None)
        self.now.setVisible(self.after.isVisibleTo(self))
        before = result.before if result is not None else None
        self.before.show_rgb(before)
        for widget in (self.before, self.was):
            widget.setVisible(before is not None)
        if result is None:
            self.told.setText(tr("Nothing is fitted yet."))
        elif result.found is None:
            self.told.setText(result.refused)
        else:
            self.told.setText(_words(result.found))


def _words(found: Measured) -> str:
    white, black = found.sure_de
    count, worst = len(found.fit.de), float(max(found.fit.de))
    patches = counted(count, "{0} patch", "{0} patches")
    told = tr(
        "Absorption and scattering fit {0} within dE {1:.1f}. Drawdowns are sure within dE "
        "{2:.1f} over white and {3:.1f} over black."
    ).format(patches, worst, white, black)
    return "\n".join([told, *found.unknown])
