"""Speed and memory, each as a ratio to a yardstick measured in the same run.

`./veil bench` prints one line per figure: what, how long, the yardstick, the ratio. Figures are
the best of several runs, so that a busy machine disturbs them little.
"""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from zesty_veil.memory import keep_freed_memory
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Passage
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import axis, predict

PLACES, RELIEFS, COATS, BANDS = 128, 33, 12, 36
HERE = Path(__file__).resolve().parent

BARE_WINDOW = """
import sys
from PySide6.QtWidgets import QApplication, QMainWindow
from PySide6.QtCore import QTimer
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, app.quit)
app = QApplication([]); window = Window(); window.resize(1280, 800); window.show()
sys.exit(app.exec())
"""

OUR_WINDOW = """
import sys
from PySide6.QtWidgets import QApplication
from PySide6.QtCore import QTimer
from zesty_veil.desktop.theme import dress
from zesty_veil.desktop.window import MainWindow
from zesty_veil.plan.samples import sample
app = QApplication([]); dress(app); window = MainWindow(sample("glasswright")); window.show()
view = window.station.view
draw = view.paintEvent
def painted(event):
    draw(event)
    if view.scene is not None:
        QTimer.singleShot(0, app.quit)
view.paintEvent = painted
code = app.exec(); window.station.stop()
import resource
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
sys.exit(code)
"""


def best(work: Callable[[], object], runs: int = 7) -> float:
    """Return the shortest of several runs, in seconds."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def line(what: str, ours: float, yardstick: str, theirs: float) -> None:
    """Print one figure."""
    mine, measure = f"{ours * 1e3:8.1f} ms", f"{theirs * 1e3:8.1f} ms"
    print(f"{what:44} {mine}   {yardstick:30} {measure}   x{ours / theirs:.2f}")


def flame() -> Passage:
    """Return a passage of twelve feathered coats."""
    rack = {paint.name: paint for paint in demo_rack()}
    names = ("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red")
    coats = []
    for i in range(COATS):
        coat = parse_coat(f"{names[i % 4]}; water {i % 5}; passes {1 + i % 4}; tool glaze", rack)
        coats.append(with_feather(with_span(coat, i / 20, 1 - i / 40), 0.1, 0.1))
    return Passage("flame", 20.0, coats=tuple(coats))


def core() -> None:
    """Time the field and what each coat adds against plain exponentials."""
    rack = {paint.name: paint for paint in demo_rack()}
    passage, u, relief = flame(), axis(PLACES), np.linspace(-1, 1, RELIEFS)
    numbers = np.random.default_rng(1).uniform(-5, 0, PLACES * RELIEFS * COATS * BANDS)
    exponentials = best(lambda: np.exp(numbers))
    field = best(lambda: predict(passage, rack, u, relief))
    line(
        f"field {PLACES} x {RELIEFS} x {COATS} coats",
        field,
        "numpy.exp, as many elements",
        exponentials,
    )
    ribbons = best(lambda: predict(passage, rack, axis(256)))
    line("ribbons 256 x 3 sites x 12 coats", ribbons, "numpy.exp, as above", exponentials)
    adds = best(lambda: contributions(passage, rack), 3)
    line("what each of 12 coats adds", adds, "numpy.exp, as above", exponentials)


def windows() -> None:
    """Time the start until the first window with a section in it, and its peak memory."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    peak = 0

    def run(code: str) -> None:
        nonlocal peak
        command = [sys.executable, "-c", code]
        done = subprocess.run(command, env=environment, check=True, capture_output=True, text=True)
        if done.stdout.strip():
            peak = int(done.stdout)

    bare = best(lambda: run(BARE_WINDOW), 5)
    ours = best(lambda: run(OUR_WINDOW), 5)
    line("start to the first painted section", ours, "a bare Qt window", bare)
    print(f"{'peak memory of the window':44} {peak / 1024:8.0f} MB")


def main() -> None:
    """Print all figures."""
    keep_freed_memory()
    core()
    own = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{'peak memory of the core':44} {own:8.0f} MB")
    windows()


if __name__ == "__main__":
    main()
