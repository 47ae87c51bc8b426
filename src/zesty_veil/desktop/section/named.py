"""What is said of the drawing: its coats for assistive technology, and the names of its rows."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QWidget

from zesty_veil.desktop.kit.spoken import SpokenItem, announce
from zesty_veil.desktop.kit.writing import rectangle
from zesty_veil.desktop.section.draw import label_box
from zesty_veil.desktop.section.scene import Scene
from zesty_veil.plan.model import Coat, coat_name
from zesty_veil.tr import counted, tr


def spoken_items(
    scene: Scene, select: Callable[[int], object], toggle: Callable[[], object]
) -> list[SpokenItem]:
    """Return the ground, if it has coats, and the coats from the lowest up.

    select : takes a coat in hand. toggle : shows the ground's coats, or folds them in.
    """
    out = []
    if scene.has_ground:
        opened = bool(scene.ground_coats)
        state = tr("its coats are shown") if opened else tr("its coats are folded in")
        out.append(
            SpokenItem(tr("ground"), state, rectangle(scene.frame.ground), opened, toggle, False)
        )
    for i, coat in enumerate(scene.passage.coats):
        box = rectangle(label_box(scene, i))
        length = scene.passage.length_mm
        value = tr("{0}, {1:.1f} to {2:.1f} mm").format(
            counted(coat.passes, "{0} pass", "{0} passes"),
            coat.span[0] * length, coat.span[1] * length,
        )  # fmt: skip
        kind = tr("ground coat {0}: {1}") if i < scene.ground_coats else tr("coat {0}: {1}")
        name = kind.format(scene.mark(i), coat_name(coat))
        out.append(SpokenItem(name, value, box, i == scene.selected, partial(select, i)))
    return out


def row_at(scene: Scene, place: QPoint) -> str | None:
    """Return the name of the row at a place, '' between rows; none right of the names."""
    parts, y = scene.frame, place.y()
    if place.x() >= parts.value.x and y >= parts.ruler.y:
        return None
    ground = [(tr("ground"), parts.ground)]
    if scene.ground_coats:
        ground = [(tr("primer"), parts.ground), (tr("ground"), scene.ground_pile)]
    rows = (
        *zip((tr("ridge"), tr("flat"), tr("recess")), parts.ribbons, strict=True),
        (tr("value"), parts.value), (tr("steps"), parts.steps),
        (tr("target"), parts.targets), (tr("dE"), parts.off), (tr("axis"), parts.ruler),
        *ground,
    )  # fmt: skip
    return next((words for words, box in rows if box.y <= y < box.bottom), "")


class CoatAloud:
    """Has it said aloud which coat is in hand, or how many passes it has, as that changes."""

    def __init__(self, source: QWidget) -> None:
        self._source = source
        self._said: tuple[int, int | None, str, int] | None = None

    def tell(self, passage: int, index: int | None, coat: Coat | None) -> None:
        """Say what has changed since it was told last."""
        name, passes = (coat_name(coat), coat.passes) if coat is not None else ("", 0)
        before, self._said = self._said, (passage, index, name, passes)
        if before is None or before == self._said:
            return
        count = counted(passes, "{0} pass", "{0} passes")
        if coat is None or index is None:
            announce(self._source, tr("no coat in hand"))
        elif before[:3] == self._said[:3]:
            announce(self._source, count)
        else:
            announce(self._source, tr("coat {0}: {1}, {2}").format(index + 1, name, count))
