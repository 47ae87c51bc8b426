"""Ways of looking that change nothing of the plan: squint, mirror, grey, coat by coat, by turns."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.predict.forms.onform import FormConditions
from zesty_veil.predict.squint import ARMS_LENGTH_MM, DISTANCES_MM, blur_mm
from zesty_veil.tr import tr


class ViewOptions:
    """What is turned on of them.

    Parameters
    ----------
    changed
        Called when what is shown must follow.
    say
        Told a sentence about what is seen, or nothing when it is all there again.
    """

    def __init__(self, changed: Callable[[], None], say: Callable[[str], None]) -> None:
        self._changed, self._say = changed, say
        self.how = FormConditions()
        self.squint = False
        self.distance_mm = ARMS_LENGTH_MM
        self.photograph = False
        self.hidden = False
        self.split: str | None = None
        self.inside = False
        self.kept: Plan | None = None
        self.turned = False
        self._steps: int | None = None

    @property
    def squint_mm(self) -> float:
        """From how far a squinting eye looks, in mm; 0 while it does not squint."""
        return self.distance_mm if self.squint else 0.0

    @property
    def instead(self) -> Plan | None:
        """The plan that is seen in place of the open one, by turns."""
        return self.kept if self.turned else None

    @property
    def stepping(self) -> bool:
        """Whether the coats are laid one by one."""
        return self._steps is not None

    def toggle_studio(self) -> None:
        """Model the form by a soft studio light, or show its colours flat."""
        self.how = replace(self.how, studio=not self.how.studio)
        self._changed()

    def toggle_mirror(self) -> None:
        """Show the form mirrored, which lets the eye see it afresh."""
        self.how = replace(self.how, mirrored=not self.how.mirrored)
        self._changed()

    def toggle_squint(self) -> None:
        """Show ribbons and form as a squinting eye sees them, or sharp."""
        self.squint = not self.squint
        self._tell_squint()

    def next_distance(self) -> None:
        """Squint from the next of some distances, in the hand to across a room."""
        if self.squint:
            at = DISTANCES_MM.index(self.distance_mm)
            self.distance_mm = DISTANCES_MM[(at + 1) % len(DISTANCES_MM)]
        self.squint = True
        self._tell_squint()

    def _tell_squint(self) -> None:
        blur = blur_mm(self.distance_mm)
        words = tr(
            "Squinting from {0:.0f} cm: what is within {1:.1f} mm runs together.  Shift + Q: "
            "from elsewhere."
        ).format(self.distance_mm / 10, blur)
        self._say(words if self.squint else "")
        self._changed()

    def toggle_grey(self) -> None:
        """Show the form as a grey photograph, which is its value alone, or in colour."""
        self.photograph = not self.photograph
        self._changed()

    def toggle_inside(self) -> None:
        """Show the ribbons inside the passage that surrounds this one, or in the grey field."""
        self.inside = not self.inside
        self._changed()

    def toggle_hidden(self) -> None:
        """Show the passage without the coat in hand, or with it again."""
        self.hidden = not self.hidden
        self._say(tr("Seen without the coat in hand; H brings it back.") if self.hidden else "")
        self._changed()

    def next_split(self, light: str) -> None:
        """See half of everything under the next other light than the plan's, then none."""
        others = [other for other in LIGHTS if other != light]
        at = others.index(self.split) + 1 if self.split in others else 0
        self.split = others[at] if at < len(others) else None
        if self.split is None:
            self._say("")
        else:
            self._say(
                tr(
                    "Left half and upper ribbons: {0}.  Right half and lower ribbons: {1}.  A: "
                    "the next light."
                ).format(LIGHTS[light], LIGHTS[self.split])
            )
        self._changed()

    def keep(self, plan: Plan) -> None:
        """Keep a plan, to see by turns with the open one."""
        self.kept, self.turned = plan, False
        self._say(
            tr("Kept “{0}” as it is now; Y shows it by turns with what you change.").format(
                plan.title
            )
        )
        self._changed()

    def take_turns(self) -> None:
        """Show the kept plan in place of the open one, or that one again."""
        if self.kept is None:
            self._say(tr("No plan is kept yet; Shift + Y keeps this one, to see by turns later."))
            return
        self.turned = not self.turned
        self._say(
            tr("This is “{0}” as it was kept; Y: now.").format(self.kept.title)
            if self.turned
            else ""
        )
        self._changed()

    def back_to_now(self) -> None:
        """Show the open plan, as when it is changed."""
        self.turned = False

    def step(self, count: int) -> None:
        """Lay the coats, of which there are `count`, one by one; after the last, all are laid."""
        laid = 0 if self._steps is None else self._steps + 1
        self._steps = laid if laid < count else None
        self._say(
            tr("{0} of {1} coats laid; J lays the next.").format(laid, count)
            if laid < count
            else ""
        )
        self._changed()

    def lay_all(self) -> None:
        """Show all coats again, as when another passage comes into view."""
        self.hidden, self._steps = False, None

    def laid(self, passage: Passage | None, in_hand: int | None) -> tuple[int, ...] | None:
        """Return the coats that are laid in what is shown, or none for all of them."""
        if passage is None or not (self.hidden or self._steps is not None):
            return None
        count = len(passage.coats)
        upto = count if self._steps is None else min(self._steps, count)
        return tuple(i for i in range(upto) if not (self.hidden and i == in_hand))
