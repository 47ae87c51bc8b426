"""What lies on the clipboard, read without waiting for the program that holds it.

Under X11 the holder is asked for it, and one that stands still lets whoever asks wait for a quarter
of a minute. So a process of its own asks. Elsewhere the system has it at once.
"""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Callable

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication

from zesty_veil.desktop.session.jobs import EachInTurn
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

_PATIENCE_S = 3.0


class ClipboardText(QObject):
    """Reads text; `failed` hears in a sentence why there is none."""

    def __init__(self, failed: Callable[[str], object], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._failed = failed
        self.jobs = EachInTurn(self)

    def read(self, then: Callable[[str], object]) -> None:
        """Tell a function what lies there, at once or a little later."""
        clipboard = QGuiApplication.clipboard()
        if QGuiApplication.platformName() != "xcb" or clipboard.ownsClipboard():
            then(clipboard.text())
        else:
            self.jobs.do(asked_apart, then, lambda error: self._failed(str(error)))

    def close(self) -> None:
        """End the worker."""
        self.jobs.close()


def asked_apart() -> str:
    """Return what a process of its own reads from the clipboard.

    Raises
    ------
    InputError
        If whoever holds it does not answer.
    """
    # -P: a module beside a plan in the current folder must not be run for ours.
    command = [sys.executable, "-P", "-m", "zesty_veil.desktop.session.clipboard"]
    try:
        done = subprocess.run(
            command, capture_output=True, timeout=_PATIENCE_S, check=False, stdin=subprocess.DEVNULL
        )
    except subprocess.TimeoutExpired:
        raise InputError(
            tr("The program that holds the clipboard doesn't answer. Copy the coat again.")
        ) from None
    return done.stdout.decode(errors="replace")


def main() -> None:
    """Print what lies on the clipboard."""
    app = QGuiApplication(sys.argv[:1])
    sys.stdout.buffer.write(app.clipboard().text().encode(errors="replace"))


if __name__ == "__main__":
    main()
