"""Measuring a paint: four ways to read its card, the fit, and what it would change."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFileDialog

from zesty_veil.desktop.kit.paper.testcard import write_card
from zesty_veil.desktop.kit.photos import PICTURE_FILTER, Picture
from zesty_veil.desktop.rack.cardview import PATCH_PLACES, PatchPlace
from zesty_veil.desktop.rack.drafts import Draft, Drafts
from zesty_veil.desktop.rack.keys import MEASURE
from zesty_veil.desktop.rack.measureleaf import MeasureLeaf
from zesty_veil.desktop.rack.meterbar import MeterBar
from zesty_veil.desktop.rack.reading import (
    FromFile,
    Photograph,
    measurements,
    photographs,
)
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.errors import VeilError
from zesty_veil.light.grid import Array
from zesty_veil.log.card import Card, Patch, Source
from zesty_veil.log.hand import hand_from
from zesty_veil.log.measured import likely
from zesty_veil.log.meter import TILE, Meter, SimulatedMeter
from zesty_veil.log.photo.reading import Reading
from zesty_veil.log.racks import Kept
from zesty_veil.log.simulated import SimulatedCard
from zesty_veil.paint.tool import tools
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.fitting import Fitted, Fitting, fittings
from zesty_veil.tr import counted, tr

_INSTRUMENT = "Measurements (*.cxf *.txt *.cgats *.ti3 *.csv *.xml);;All files (*)"
_SIMULATED = "Simulated meter, over a card of an invented pot."
_START = (
    "Lay 1, 2 and 4 passes over both halves of a printed test card, then read it: from a "
    "photograph, from an instrument's file, with a meter, or by typing what you see."
)


def _simulated() -> Meter:
    return SimulatedMeter(time.monotonic)


class MeasureView(MeasureLeaf):
    """Reads a card and fits its paint; `done` tells the paint that was kept, or none."""

    done = Signal(object)  # Paint or None
    complained = Signal(str)

    def __init__(self, user_store: UserStore, meter: Callable[[], Meter] | None = None) -> None:
        # A driver of a real meter takes the place of these two; the rest is the same.
        make: Callable[[], Meter] = _simulated if meter is None else meter
        super().__init__(MeterBar(make, self._lay_meter, _SIMULATED if meter is None else ""))
        self._user_store = user_store
        self._kept: Kept | None = None
        self._patches: dict[PatchPlace, Patch] = {}
        self._source: Source = "typed"
        self._drafts = Drafts()
        self._picture: Picture | None = None
        self.result: Fitted | None = None
        self.photos: NewestWins[Path | Photograph, Picture | Reading] = NewestWins(
            photographs, self
        )
        self.photos.answered.connect(self._read)
        self.photos.failed.connect(self._unread)
        self.files: NewestWins[Path, FromFile] = NewestWins(measurements, self)
        self.files.answered.connect(self._instrument)
        self.files.failed.connect(lambda error: self._say(str(error)))
        self.fits: NewestWins[Fitting, Fitted] = NewestWins(fittings, self, "long")
        self.fits.answered.connect(self._fitted)
        self.fits.failed.connect(lambda error: self.complained.emit(str(error)))
        self.meter.measured.connect(self._metered)
        self.meter.complained.connect(self._say)
        self.form.changed.connect(self._refit)
        self.photo.corners_moved.connect(self._read_again)
        self.card.chosen.connect(lambda _: self._show_typed())
        self.card.cleared.connect(self._forget)
        self.typed.returnPressed.connect(self.type_colour)
        for button, act in (
            (self.print, self._choose_card), (self.from_photo, self._choose_photo),
            (self.from_file, self._choose_file), (self.from_meter, self.use_meter),
            (self.accept, self.keep), (self.hand, self.learn_hand),
            (self.forget, self.forget_hand), (self.leave, lambda: self.done.emit(None)),
            (self.anew, self.begin_anew),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, a=act: a())

    def begin(self, kept: Kept | None) -> None:
        """Measure a paint of the rack, or a new one."""
        self._kept, self._picture, self.result = kept, None, None
        card = kept.cards[0] if kept is not None and kept.cards else None
        draft = self._drafts.taken_up(self._draft_name(), card)
        if draft is not None:
            card = draft.card
        self._patches = {(p.backing, p.passes): p for p in card.patches} if card else {}
        self._source = card.source if card else "typed"
        self.photos.drop()
        self.files.drop()
        self.title.setText(
            tr("Measure {0}").format(kept.paint.name) if kept else tr("Measure a new paint")
        )
        self.form.show_paint(kept.paint if kept else None, card)
        self.photo.show_image(None)
        self.photo.setVisible(False)
        self.meter.setVisible(False)
        self.meter.rest()
        self.card.in_hand = ("white", 1)
        self.anew.setVisible(draft is not None)
        self._say(_START if draft is None else tr("This card is as you left it."))
        if draft is not None and draft.picture is not None:
            self._picture = draft.picture
            self.photo.show_image(draft.picture.image)
            self.photo.setVisible(True)
        self._show()
        self._refit()

    def put_down(self) -> None:
        """Leave the card; what was read of it is there again when its paint is measured."""
        self._drafts.put_down(self._draft_name(), Draft(self._card(), self._picture))
        self.meter.rest()

    def begin_anew(self) -> None:
        """Read the card of the paint in hand from the beginning."""
        self.begin(self._kept)

    def _draft_name(self) -> str:
        return self._kept.paint.name if self._kept is not None else ""

    def _card(self) -> Card:
        patches = tuple(self._patches[place] for place in PATCH_PLACES if place in self._patches)
        others = tuple(p for place, p in self._patches.items() if place not in PATCH_PLACES)
        return self.form.card((*patches, *others), self._source)

    def open_photograph(self, path: Path) -> None:
        """Read a photograph; say what is wrong with it otherwise."""
        self._say(tr("Opening {0} …").format(path.name))
        self.photos.ask(path)

    def open_measurements(self, path: Path) -> None:
        """Read an instrument's file; say what is wrong with it otherwise."""
        self._say(tr("Reading {0} …").format(path.name))
        self.files.ask(path)

    def _instrument(self, found: FromFile) -> None:
        self.photo.setVisible(False)
        self._take({(p.backing, p.passes): p for p in found.patches}, "instrument")
        told = tr("{0} patches from {1}.").format(len(found.patches), found.name)
        self._say(f"{told} {found.note}".strip())

    def use_meter(self) -> None:
        """Switch the meter on."""
        self.photo.setVisible(False)
        self.meter.setVisible(True)
        self.meter.switch_on()
        if self._source != "bench meter":
            self._take({}, "bench meter")
        self.card.setFocus()

    def type_colour(self) -> None:
        """Take what was typed as the colour of the patch in hand, and go on to the next."""
        words = self.typed.text().strip()
        if not words:
            return
        backing, passes = self.card.in_hand
        try:
            L, a, b = parse_colour(words, measured=True)
        except VeilError as error:
            self._say(str(error))
            return
        self._take({**self._patches, (backing, passes): Patch(backing, passes, (L, a, b))}, "typed")
        self.card.next()
        self.typed.setFocus()

    def keep(self) -> None:
        """Put the fitted paint into the rack."""
        found = self.result.found if self.result is not None else None
        if found is None or self.result is None:
            return
        rack, cards = self._user_store.base.name, self.result.asked.cards
        paint = found.paint

        def kept(_: object) -> None:
            self.meter.rest()
            self.done.emit(paint)

        self._user_store.do(lambda desk: desk.racks.measure(rack, paint, cards), kept)

    def learn_hand(self) -> None:
        """Learn the hand from the strips that are read: the paint is known, films are not."""
        if self._kept is None or self.result is None:
            return
        try:
            found = hand_from(self.result.asked.cards, self._kept.paint)
        except VeilError as error:
            self._say(str(error))
            return
        own, strips = found.own, found.strips

        def learnt(_: object) -> None:
            self._user_store.learn()
            self._say(
                tr(
                    "Your hand, {0}: {1:.2f} times the usual film, straying by {2:.0f} % ({3} "
                    "strips)."
                ).format(tools()[own.tool].label, own.film, 100 * (own.cv or 0), strips)
            )

        self._user_store.do(lambda desk: desk.learning.set_strips((own,)), learnt)

    def forget_hand(self) -> None:
        """Take back what strips told of the hand."""

        def forgotten(_: object) -> None:
            self._user_store.learn()
            self._say(tr("The hand is the usual one again, but for what the log taught."))

        self._user_store.do(lambda desk: desk.learning.forget_strips(), forgotten)

    def write_card(self, path: Path) -> None:
        """Write the test card to be printed; say what is wrong otherwise."""
        try:
            write_card(path)
        except VeilError as error:
            self._say(str(error))
        else:
            self._say(
                tr("Wrote {0}. Print it at 100 %: its ruler must measure true.").format(path.name)
            )

    def wait_until_idle(self) -> bool:
        """Run events until all is read and fitted."""
        every = (self.photos, self.files, self.fits)
        return all(jobs.wait_until_idle() for jobs in every)

    def close_jobs(self) -> None:
        """End the workers."""
        self.meter.rest()
        self.photos.close()
        self.files.close()
        self.fits.close()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Ctrl+Enter keeps the paint."""
        if MEASURE.pressed(event) == "keep paint":
            self.keep()
            event.accept()
        else:
            event.ignore()

    def _opened(self, picture: Picture) -> None:
        # What was read before is of another card.
        self._picture = picture
        self._take({}, "photograph")
        self.photo.show_image(picture.image)
        self.photo.setVisible(True)
        self.meter.setVisible(False)
        self._say(tr("Looking for the card …"))

    def _read(self, reading: Picture | Reading) -> None:
        if isinstance(reading, Picture):
            self._opened(reading)
            return
        self.photo.show_reading(reading)
        self._take({(p.backing, p.passes): p for p in reading.patches}, "photograph")
        self._say(" ".join(reading.notes) or tr("The card was found. Drag a corner if it is off."))

    def _unread(self, error: Exception) -> None:
        self._say(str(error))
        self.photo.offer_corners()

    def _read_again(self, corners: Array) -> None:
        if self._picture is not None:
            self.photos.ask(Photograph(self._picture.pixels, corners.copy()))

    def _take(self, patches: dict[PatchPlace, Patch], source: Source) -> None:
        self._patches, self._source = patches, source
        self._show()
        self._refit()

    def _forget(self, place: PatchPlace) -> None:
        self._take({p: patch for p, patch in self._patches.items() if p != place}, self._source)

    def _lay_meter(self, meter: Meter, tile: bool) -> None:
        """Put the simulated meter on its tile, or on the patch in hand; a real one lies already."""
        if isinstance(meter, SimulatedMeter):
            meter.put_on(TILE if tile else self._under_meter())

    def _under_meter(self) -> Array:
        card = self.form.card((), "bench meter")
        paint = self._kept.paint if self._kept is not None else likely(card)
        return SimulatedCard(paint, card).reflectance(*self.card.in_hand)

    def _metered(self, spectrum: Array) -> None:
        backing, passes = self.card.in_hand
        patch = Patch(backing, passes, spectrum=tuple(float(v) for v in spectrum))
        self._take({**self._patches, (backing, passes): patch}, "bench meter")
        self.card.next()

    def _refit(self) -> None:
        """Fit what is there, if there is enough."""
        card = self._card()
        if not any(patch.passes for patch in card.patches):
            self.fits.drop()
            self._show_result(None)
            return
        before = self._kept.paint if self._kept is not None else None
        self.fits.ask(Fitting((card,), before))

    def _fitted(self, result: Fitted) -> None:
        self._show_result(result)

    def _show_result(self, result: Fitted | None) -> None:
        self.result = result
        found = result.found if result is not None else None
        self.shown.show_fit(result)
        self.accept.setEnabled(found is not None)
        measured_before = self._kept is not None and bool(self._kept.paint.spread)
        self.hand.setEnabled(result is not None and measured_before)
        self.forget.setVisible(bool(self._user_store.hand))
        self._show()

    def _show(self) -> None:
        fitted: dict[PatchPlace, tuple[Array, float]] = {}
        result = self.result
        if result is not None and result.found is not None and result.fitted is not None:
            for patch, rgb, de in zip(
                result.found.fit.down.patches, result.fitted, result.found.fit.de, strict=True
            ):
                fitted[patch.backing, patch.passes] = (rgb, float(de))
        self.card.show_patches(self._patches, fitted)
        self._show_typed()

    def _show_typed(self) -> None:
        backing, passes = self.card.in_hand
        count = counted(passes, "{0} pass", "{0} passes") if passes else tr("bare")
        self.which.setText(tr("Over {0}, {1}:").format(backing, count))
        patch = self._patches.get(self.card.in_hand)
        if not self.typed.hasFocus():
            words = "" if patch is None else " ".join(f"{v:.1f}" for v in patch.colour)
            self.typed.setText(words)
        else:
            self.typed.clear()

    def _say(self, words: str) -> None:
        self.words.setText(words)

    def _choose_photo(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, tr("A photographed card"), str(Path.home()), PICTURE_FILTER
        )
        if name:
            self.open_photograph(Path(name))

    def _choose_card(self) -> None:
        start = str(Path.home() / "test-card.pdf")
        name, _ = QFileDialog.getSaveFileName(self, tr("A card to print"), start, tr("PDF (*.pdf)"))
        if name:
            self.write_card(Path(name))

    def _choose_file(self) -> None:
        home = str(Path.home())
        name, _ = QFileDialog.getOpenFileName(self, tr("An instrument's file"), home, _INSTRUMENT)
        if name:
            self.open_measurements(Path(name))
