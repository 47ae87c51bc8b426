"""Draw the pictures in docs/screenshots from the demo plans, offscreen, at 1280 x 800.

Run `.venv/bin/python tools/screenshots.py [FOLDER]` after a view changed, and look at them.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.theme import dress
from zesty_veil.desktop.window import MainWindow
from zesty_veil.plan.samples import sample

FOLDER = Path(__file__).resolve().parents[1] / "docs/screenshots"


def shoot(
    folder: Path,
    name: str,
    plan: str,
    passage: int,
    coat: int,
    place: float,
    surround: str,
    turned_on: tuple[str, ...] = (),
) -> None:
    """Draw one picture of the Section, with some of the looks turned on."""
    window = MainWindow(sample(plan))
    window.resize(1280, 800)
    window.show()
    window.station.choose_passage(passage)
    window.station.set_surround(surround)
    window.station.choose_coat(coat)
    window.wait_until_idle()
    for look in turned_on:
        window.actions_by_name[look].trigger()
    window.wait_until_idle()
    window.station.view.read_at(place)
    QApplication.processEvents()
    window.grab().save(str(folder / f"{name}.png"))
    window.close()


def main() -> None:
    """Draw all pictures."""
    folder = Path(sys.argv[1]) if len(sys.argv) > 1 else FOLDER
    folder.mkdir(parents=True, exist_ok=True)
    app = QApplication([])
    dress(app)
    shoot(folder, "section-flame", "glasswright", 0, 3, 0.62, "middle")
    shoot(folder, "section-apron", "glasswright", 1, 1, 0.30, "dark")
    shoot(folder, "section-flask", "glasswright", 2, 1, 0.45, "light")
    shoot(folder, "section-glint", "glasswright", 3, 0, 0.50, "dark", ("glint",))
    shoot(folder, "section-sure", "diver", 0, 2, 0.40, "dark", ("sure",))
    shoot(folder, "form-large", "glasswright", 0, 3, 0.5, "dark", ("form",))
    shoot(folder, "form-squint", "glasswright", 0, 3, 0.5, "dark", ("form", "squint"))
    shoot(folder, "section-ground", "diver", 2, 1, 0.25, "middle", ("wet",))


if __name__ == "__main__":
    main()
