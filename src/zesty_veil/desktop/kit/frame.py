"""How the Section divides its room: ribbons above, strata below, labels in a gutter. No Qt here."""

from __future__ import annotations

from dataclasses import dataclass

from zesty_veil.desktop.kit.geometry import Box

MARGIN = 12.0
NAMES = 62.0
# The gutter takes a third of the room, between these: names should stand whole.
LEAST_GUTTER, MOST_GUTTER, GUTTER_SHARE = 208.0, 300.0, 0.36
RIBBON = 40.0
VALUE = 26.0
STEPS = 20.0
TARGETS = 36.0
TARGET_LINE = 24.0
GAP = 4.0
RULER = 36.0
GROUND = 34.0
LABEL = 38.0
# Room above the tallest pile, so that its grips never touch the ruler.
HEADROOM = 16.0


@dataclass(frozen=True)
class Frame:
    """The parts of the Section, in pixels."""

    ribbons: tuple[Box, Box, Box]  # ridge, flat, recess, as they are drawn downward
    value: Box
    steps: Box
    targets: Box  # of no height where there are none
    off: Box  # how far from them along the axis; of no height where that is nowhere known
    ruler: Box
    strata: Box
    ground: Box
    gutter: Box

    @property
    def axis(self) -> Box:
        """Everything that shares the axis, from the first ribbon down to the ground."""
        top = self.ribbons[0]
        return Box(top.x, top.y, top.width, self.ground.bottom - top.y)

    def place(self, x: float) -> float:
        """Return the place on the axis of an x, held to 0-1."""
        return min(max((x - self.value.x) / self.value.width, 0.0), 1.0)


def frame(width: float, height: float, targets: bool = False, line: bool = False) -> Frame:
    """Return the parts for a widget of a size."""
    x = MARGIN + NAMES
    gutter_width = min(max(width * GUTTER_SHARE, LEAST_GUTTER), MOST_GUTTER)
    across = max(width - x - gutter_width - MARGIN, 80.0)
    y = MARGIN
    ribbons = []
    for _ in range(3):
        ribbons.append(Box(x, y, across, RIBBON))
        y += RIBBON + GAP
    value = Box(x, y, across, VALUE)
    y += VALUE
    steps = Box(x, y, across, STEPS)
    y += STEPS
    wanted = Box(x, y, across, TARGETS if targets else 0.0)
    y += wanted.height
    off = Box(x, y, across, TARGET_LINE if line else 0.0)
    y += off.height
    ruler = Box(x, y, across, RULER)
    y += RULER
    ground = Box(x, height - MARGIN - GROUND, across, GROUND)
    strata = Box(x, y + HEADROOM, across, max(ground.y - y - HEADROOM, 20.0))
    gutter = Box(x + across, y, gutter_width, max(ground.y - y, 20.0))
    return Frame(
        (ribbons[0], ribbons[1], ribbons[2]),
        value,
        steps,
        wanted,
        off,
        ruler,
        strata,
        ground,
        gutter,
    )
