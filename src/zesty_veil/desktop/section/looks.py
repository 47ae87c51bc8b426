"""Ways of looking that change nothing of the plan: squint, mirror, grey, coat by coat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from zesty_veil.plan.model import Passage
from zesty_veil.predict.forms.onform import Seen


class Looks:
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
        self.how = Seen()
        self.squint = False
        self.photograph = False
        self.hidden = False
        self._steps: int | None = None

    def toggle_studio(self) -> None:
        """Model the form by a soft studio light, or show its colours flat."""
        self.how = replace(self.how, studio=not self.how.studio)
        self._changed()

    def toggle_mirror(self) -> None:
        """Show the form mirrored, which lets the eye see it afresh."""
        self.how = replace(self.how, mirrored=not self.how.mirrored)
        self._changed()

    def toggle_squint(self) -> None:
        """Show ribbons and form as a squinting eye sees them at arm's length, or sharp."""
        self.squint = not self.squint
        self._changed()

    def toggle_grey(self) -> None:
        """Show the form as a grey photograph, which is its value alone, or in colour."""
        self.photograph = not self.photograph
        self._changed()

    def toggle_hidden(self) -> None:
        """Show the passage without the coat in hand, or with it again."""
        self.hidden = not self.hidden
        self._say("Seen without the coat in hand; H brings it back." if self.hidden else "")
        self._changed()

    def step(self, count: int) -> None:
        """Lay the coats, of which there are `count`, one by one; after the last, all are laid."""
        laid = 0 if self._steps is None else self._steps + 1
        self._steps = laid if laid < count else None
        self._say(f"{laid} of {count} coats laid; J lays the next." if laid < count else "")
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
