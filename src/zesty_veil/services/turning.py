"""Turning a sculpt and taking its view, away from the interface thread. No Qt here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from zesty_veil.exchange.sculptjob import Opened
from zesty_veil.light.grid import Array
from zesty_veil.plan.model import Sculpt
from zesty_veil.predict.forms.mesh import View, drawing, heights, turned
from zesty_veil.predict.forms.sculpted import SIDE, kept_view
from zesty_veil.predict.forms.shading import clay

_DRAFT = 256
# So few triangles are drawn in full while they turn.
_FEW = 20_000
_MARGIN = 1.04
_NEAREST, _FARTHEST = 0.05, 4.0


@dataclass(frozen=True)
class Pose:
    """How a sculpt is held: degrees it is turned by, how near it is, and where, in half widths."""

    across: float = 0.0
    up: float = 0.0
    roll: float = 0.0
    near: float = 1.0
    middle: tuple[float, float] = (0.0, 0.0)

    def turned(self, across: float, up: float) -> Pose:
        """Return the pose turned by some degrees more."""
        turned_up = min(max(self.up + up, -90.0), 90.0)
        return replace(self, across=(self.across + across + 180) % 360 - 180, up=turned_up)

    def leaned(self, degrees: float) -> Pose:
        """Return the pose leaned over in the picture by some degrees more."""
        return replace(self, roll=(self.roll + degrees + 180) % 360 - 180)

    def nearer(self, factor: float) -> Pose:
        """Return the pose brought nearer."""
        return replace(self, near=min(max(self.near * factor, _NEAREST), 1 / _NEAREST))

    def moved(self, right: float, up: float) -> Pose:
        """Return the pose moved in the frame, by shares of its half width."""
        x, y = (
            min(max(at - by / self.near, -_FARTHEST), _FARTHEST)
            for at, by in zip(self.middle, (right, up), strict=True)
        )
        return replace(self, middle=(x, y))

    def view(self, opened: Opened) -> View:
        """Return from where the sculpt is seen."""
        radius = opened.mesh.radius * _MARGIN
        middle = (self.middle[0] * radius, self.middle[1] * radius)
        return View(turned(self.across, self.up, self.roll), middle, radius / self.near)


@dataclass(frozen=True)
class Turning:
    """A request to see a sculpt, or with a name, to take its view."""

    opened: Opened
    pose: Pose
    name: str = ""


@dataclass(frozen=True)
class Turned:
    """What is seen of it so far: grey RGBA pixels; with `share`, how much of it is drawn."""

    pixels: npt.NDArray[np.uint8] | None = None
    share: float | None = None
    sculpt: Sculpt | None = None


class Turner:
    """Draws a sculpt, and keeps what it drew last, so that its view can be taken at once."""

    def __init__(self) -> None:
        self._drawn: tuple[Opened, Pose, Array] | None = None

    def turning(self, request: Turning, should_continue: Callable[[], bool]) -> Iterator[Turned]:
        """Yield the draft of a view, then all of it; for a request with a name, the view as kept.

        Raises
        ------
        SculptError
            If next to nothing is in view.
        """
        opened, view = request.opened, request.pose.view(request.opened)
        if not request.name and len(opened.mesh.faces) > _FEW:
            yield Turned(clay(heights(opened.draft, view, _DRAFT)), 0.0)
        last = self._drawn
        if last is not None and last[0] is opened and last[1] == request.pose:
            height = last[2]
        else:
            height = np.full((SIDE, SIDE), -np.inf)
            for share in drawing(opened.mesh, view, height):
                if not should_continue():
                    return
                yield Turned(share=share)
            self._drawn = (opened, request.pose, height)
        if request.name:
            yield Turned(sculpt=kept_view(request.name, height, view.half_width))
        else:
            yield Turned(clay(height), 1.0)
