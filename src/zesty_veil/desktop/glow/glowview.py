"""Glow: a light is dragged before the forms, the ladder follows, and one press paints it."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent

from zesty_veil.advise.fire import FIRE_SCHOOLS as FLAMES
from zesty_veil.advise.glow.painting import USUAL_LIMITS
from zesty_veil.advise.glow.usual import glow_now, off_figure, usual_shadow, with_colour
from zesty_veil.advise.glow.warnings import Warned
from zesty_veil.desktop.glow.glowpage import GlowPage
from zesty_veil.desktop.glow.glowwords import effort_words, found_words
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import tip
from zesty_veil.desktop.kit.quiet import quiet
from zesty_veil.desktop.kit.theme import Surround
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.errors import VeilError
from zesty_veil.plan.glow import Glow, Place3, Surface
from zesty_veil.plan.model import Plan
from zesty_veil.services.lighting import (
    FoundCoats,
    LightRequest,
    LightSeen,
    Painting,
    lighting,
    paint_lights,
)
from zesty_veil.tr import counted, tr


class GlowView(GlowPage):
    """What if a light stood here? Nothing of the plan changes until it is written.

    Parameters
    ----------
    document, editor, rack
        The open plan, the passage in view, and the paints at hand.
    """

    sitting_wanted = Signal()

    def __init__(self, document: Document, editor: PassageEditor, rack: RackView) -> None:
        super().__init__(rack)
        self._document, self._editor, self._rack = document, editor, rack
        self.glow: Glow | None = None
        self.in_view = 0
        self.found: FoundCoats | None = None
        self.lights: NewestWins[LightRequest, LightSeen] = NewestWins(lighting, self, "short")
        self.lights.answered.connect(self._seen)
        self.lights.failed.connect(self._failed)
        self.jobs: NewestWins[Painting, FoundCoats] = NewestWins(paint_lights, self, "long")
        self.jobs.answered.connect(self._found)
        self.jobs.failed.connect(self._failed)
        self.view.moved.connect(self.move_light)
        self.view.end_moved.connect(self.move_end)
        self.view.shadow_moved.connect(self.move_shadow)
        self.view.let_go.connect(lambda: self._changed(outdate=False))
        self.ladder.chosen.connect(self._look_at_named)
        self.row.surface_changed.connect(self._change_surface)
        self.row.colour_changed.connect(self._set_colour)
        self.row.second_changed.connect(lambda fields: self._set(**fields))
        self.row.complained.connect(self._say)
        self.numbers.changed.connect(lambda fields: self._set(**fields))
        self.notes.chosen.connect(self._look_at_named)
        self.wins.changed.connect(lambda wins: self._set(wins=wins))
        self.falls_on.chosen.connect(self._light_or_leave)
        self.shadow_of.chosen.connect(self.shade)
        self.school.activated.connect(lambda _: self._outdated())
        self.keep.activated.connect(lambda _: self._changed())
        self.flame.activated.connect(lambda _: self._outdated())
        self.find_coats.clicked.connect(self.paint)
        self.stop.clicked.connect(self._stop)
        self.write.clicked.connect(self.write_it)
        self.leave.clicked.connect(self.give_up)

    def state_words(self) -> str:
        """Return what light it is, and how far it has come."""
        if self.glow is None:
            return ""
        count = len(self.glow.surfaces)
        found = self.found is not None and self.found.done
        light = tr("A light from {0}").format(self.glow.source)
        return tr("{0} on {1}  ·  {2}").format(
            light if self.glow.source else tr("A light off the figure"),
            counted(count, "{0} surface", "{0} surfaces"),
            tr("coats found, not yet written") if found else tr("no coats found yet"),
        )

    def open(self) -> bool:
        """Show the plan's light, or one to begin with; say why if there can be none."""
        plan = self._document.plan
        try:
            self.glow = glow_now(plan)
        except VeilError as error:
            self.complained.emit(str(error))
            return False
        if not self.glow.surfaces:
            self.complained.emit(tr("The light falls on no passage; choose one under Lit by."))
            return False
        names = [surface.passage for surface in self.glow.surfaces]
        passage = self._editor.passage
        self.in_view = names.index(passage.name) if passage and passage.name in names else 0
        self._show_fires()
        self._changed()
        return True

    def take_focus(self) -> None:
        """Begin with the light."""
        self.view.setFocus()

    def follow(self) -> None:
        """Look again if the plan has changed."""
        if self.glow is not None:
            names = {passage.name for passage in self._document.plan.passages}
            lit = {surface.passage for surface in self.glow.surfaces}
            if lit | ({self.glow.source} - {""}) <= names:
                self._changed()
            else:
                self.give_up()

    def look_at(self, surface: int) -> None:
        """Take another surface in view."""
        self.in_view = surface
        self._changed(outdate=False)
        self._show_laid()

    def _look_at_named(self, name: str) -> None:
        """Take the surface of a passage in view, if the light falls on it still."""
        names = [surface.passage for surface in self.glow.surfaces] if self.glow else []
        if name in names:
            self.look_at(names.index(name))

    def move_light(self, place: Place3) -> None:
        """Bring the light of the surface in view to another place before its form."""
        if self.glow is not None:
            self._change_surface(replace(self.glow.surfaces[self.in_view], place=place))

    def move_end(self, end: Place3) -> None:
        """Bring the far end of a line of light to another place."""
        if self.glow is not None:
            self._change_surface(replace(self.glow.surfaces[self.in_view], end=end))

    def move_shadow(self, place: Place3) -> None:
        """Bring what shadows the surface in view to another place before its form."""
        if self.glow is not None:
            surface = self.glow.surfaces[self.in_view]
            if surface.shadow is not None:
                shadow = replace(surface.shadow, place=place)
                self._change_surface(replace(surface, shadow=shadow))

    def shade(self, name: str) -> None:
        """Let a passage stand between the light and the surface in view; none with ""."""
        if self.glow is not None:
            surface = self.glow.surfaces[self.in_view]
            shadow = usual_shadow(surface, name) if name else None
            self._change_surface(replace(surface, shadow=shadow))

    def paint(self) -> None:
        """Find the coats."""
        if self.glow is None:
            return
        self._outdated()
        self.words.setText(tr("Searching …"))
        self._going(True)
        self.jobs.ask(
            Painting(
                self._document.plan, self.glow, self.school.currentData(),
                self.flame.currentData(), self._rack.paints(), USUAL_LIMITS,
                self.keep.currentData(),
            )
        )  # fmt: skip

    def write_it(self) -> None:
        """Write what is found into the plan, as one step, and go back."""
        found = self.found
        if found is None or found.plan is None or found.painting.plan != self._document.plan:
            return
        self.give_up()
        self._document.edit(found.plan, tr("painted light"))
        written = tr("The light is written into the plan. Next: lay it, pass by pass.")
        self.offered.emit(written, tr("Begin the sitting"), self.sitting_wanted.emit)

    def rest(self) -> None:
        """Forget what was tried."""
        self.lights.drop()
        self._outdated()
        self.glow = None

    def set_surround(self, surround: Surround) -> None:
        """Put the form into another grey field."""
        self.view.set_surround(surround)

    def wait_until_idle(self) -> bool:
        """Run events until all that was asked is there; False if nothing moves any more."""
        return all(jobs.wait_until_idle() for jobs in (self.lights, self.jobs))

    def close_jobs(self) -> None:
        """End the workers."""
        self.lights.close()
        self.jobs.close()
        self.row.stop()

    def _change_surface(self, surface: Surface) -> None:
        if self.glow is not None:
            surfaces = list(self.glow.surfaces)
            surfaces[self.in_view] = surface
            self._set(surfaces=tuple(surfaces))

    def _light_or_leave(self, name: str) -> None:
        """Let a light off the figure fall on a passage as well, or not any more."""
        if self.glow is None:
            return
        kept = tuple(s for s in self.glow.surfaces if s.passage != name)
        if len(kept) == len(self.glow.surfaces):
            names = [passage.name for passage in self._document.plan.passages]
            kept = (*kept, *off_figure(self._document.plan, [names.index(name)]).surfaces)
        if kept:
            self.in_view = min(self.in_view, len(kept) - 1)
            self._set(surfaces=kept)

    def _set(self, **changes: object) -> None:
        if self.glow is not None:
            self.glow = replace(self.glow, **changes)
            self._changed()

    def _set_colour(self, colour: Place3 | None) -> None:
        if self.glow is not None:
            self.glow = with_colour(self.glow, colour)
            self._changed()

    def _changed(self, outdate: bool = True) -> None:
        if self.glow is None:
            return
        if outdate:
            self._outdated()
        surface = self.glow.surfaces[self.in_view]
        self.view.show_light(surface.place, surface.end)
        if surface.shadow is None:
            self.view.show_shadow(None)
        self.row.show_surface(self.glow, surface)
        self.numbers.show_numbers(self.glow)
        self.wins.show_wins(self.glow.wins)
        names = [passage.name for passage in self._document.plan.passages]
        self.falls_on.show_passages(names, [each.passage for each in self.glow.surfaces])
        self.falls_on.setVisible(not self.glow.source)
        self.shadow_of.show_passages(names, surface)
        self.flame.setVisible(bool(self.glow.source))
        self.lights.ask(
            LightRequest(
                self._document.plan, self.glow, self.in_view, self.view.wanted_size(),
                self.keep.currentData(),
            )
        )  # fmt: skip

    def _outdated(self) -> None:
        """Forget the coats; they are for another light or another way to paint."""
        self.jobs.drop()
        self.found = None
        self.write.setEnabled(False)
        self._going(False)
        self._show_head()
        self.words.setText(
            tr("Drag the light. Above in each cell what is wanted, with its value; below it what ")
            + tr("comes, once coats are found.")
        )
        self.laid.show_coats(())
        self.state_changed.emit()

    def _seen(self, seen: LightSeen) -> None:
        if not self._holds(seen.asked.plan, seen.asked.glow):
            return
        self.view.show_picture(seen.picture)
        self.view.show_shadow(seen.shadow)
        self.ladder.show_lits(seen.lits, seen.source_value, seen.asked.surface)
        self.dark.show_lit(seen.lits[seen.asked.surface])
        self._show_warned(seen.asked.plan, seen.warned)
        if self.found is not None:
            self._found(self.found)

    def _holds(self, plan: Plan, glow: Glow) -> bool:
        """Tell whether an answer for a plan and a light is for those that are there now."""
        return self.glow == glow and self._document.plan == plan

    def _found(self, found: FoundCoats) -> None:
        if not self._holds(found.painting.plan, found.painting.glow):
            return
        self.found = found
        for one, rgb in zip(found.passages, found.achieved, strict=True):
            if rgb is not None and one.answer is not None:
                self.ladder.show_achieved(one.passage, rgb, one.answer.delta_e)
        self._going(found.share < 1, found.share)
        self.write.setEnabled(found.done)
        count = len(found.painting.glow.surfaces) + (found.painting.flame is not None)
        going = tr("Searching … {0} of {1} passages are found.").format(len(found.passages), count)
        self.words.setText(going)
        self.words.setToolTip(tip("\n".join(found.changes)))
        self._show_head()
        self._show_laid()
        self.state_changed.emit()
        if found.done:
            self._show_warned(found.painting.plan, found.warned)

    def _show_warned(self, plan: Plan, warned: Sequence[Warned]) -> None:
        self.notes.show_warned(plan, warned)
        self.say_remarks(len(warned))

    def _going(self, on: bool, share: float = 0.0) -> None:
        """Show how far a search is, and what ends it; or neither."""
        self.stop.setEnabled(on)
        self.progress.setVisible(on)
        self.progress.setValue(round(100 * share))

    def _show_head(self) -> None:
        """Show what the light comes to: its coats once they are found, its rings until then."""
        if self.found is not None and self.found.done:
            self.head.setText(effort_words(self.found))
        else:
            rings = None if self.glow is None else self.glow.rings
            self.head.setText("" if rings is None else counted(rings, "{0} ring", "{0} rings"))

    def _show_laid(self) -> None:
        """Show the coats of the surface in view."""
        if self.found is None or self.glow is None:
            return
        name = self.glow.surfaces[self.in_view].passage
        names = [passage.name for passage in self._document.plan.passages]
        here = [one for one in self.found.passages if names[one.passage] == name and one.answer]
        answer = here[0].answer if here else None
        self.laid.show_coats(answer.coats if answer else ())
        if self.found.done:
            said = found_words(self.found)
            self.words.setText(f"{said} {answer.words}" if answer else said)

    def _failed(self, error: Exception) -> None:
        self._outdated()
        self.words.setText(str(error))

    def _say(self, words: str) -> None:
        self.words.setText(words)

    def _stop(self) -> None:
        if self.found is not None and self.found.done:
            # Only what might be better is not known yet.
            self.jobs.drop()
            self._going(False)
            return
        self._outdated()
        self.words.setText(tr("Stopped."))

    def _show_fires(self) -> None:
        """Offer the schools of fire, and the plan's own fires."""
        before = self.flame.currentData()
        with quiet(self.flame):
            self.flame.clear()
            self.flame.addItem(tr("the light as it is"), None)
            for flame in (*FLAMES, *(fire.name for fire in self._document.plan.fires)):
                self.flame.addItem(tr("the light: {0}").format(flame), flame)
            self.flame.setCurrentIndex(max(self.flame.findData(before), 0))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """F finds coats, Enter writes them, Escape goes back."""
        acts = {
            "leave light": self.give_up,
            "find light": self.paint,
            "write light": self.write_it,
        }
        act = acts.get(self.keys.pressed(event) or "")
        if act is None:
            event.ignore()
            return
        act()
        event.accept()
