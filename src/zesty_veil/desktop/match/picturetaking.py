"""Wanted colours taken from a picture, along a line from the light to the far end."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog

from zesty_veil.desktop.kit.photos import Picture, pictures
from zesty_veil.desktop.match.matchpage import MatchPage
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.errors import VeilError
from zesty_veil.plan import edits
from zesty_veil.plan.glow import LEAST_COLOURS
from zesty_veil.plan.model import Target
from zesty_veil.tr import tr

_PICTURES = "Pictures (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"


class PictureTaking(QObject):
    """Opens a picture on the page of Match, and takes colours from it.

    Parameters
    ----------
    page
        Where the picture stands, and the words about it.
    document
        Keeps a fire of the painter's own.
    """

    opened = Signal()
    taken = Signal(object)  # tuple of Target

    def __init__(self, page: MatchPage, document: Document) -> None:
        super().__init__(page)
        self._page, self._document = page, document
        self.jobs: NewestWins[Path, Picture] = NewestWins(pictures, self)
        self.jobs.answered.connect(self._opened)
        self.jobs.failed.connect(lambda error: page.words.setText(str(error)))
        page.wanted.picture_wanted.connect(self.choose)
        page.wanted.take_wanted.connect(self.take)
        page.wanted.keep_wanted.connect(self.keep_fire)
        page.picture.drawn.connect(self._line_drawn)

    def choose(self) -> None:
        """Let a picture's file be chosen and show it."""
        name, _ = QFileDialog.getOpenFileName(
            self._page, tr("Open a picture"), str(Path.home()), _PICTURES
        )
        if name:
            self.show(Path(name))

    def show(self, path: Path) -> None:
        """Show a picture to take colours from; on failure say why."""
        self._page.words.setText(tr("Opening {0} …").format(path.name))
        self.jobs.ask(path)

    def take(self) -> None:
        """Take the colours along the line as targets."""
        count = self._page.wanted.count.value()
        labs = self._along(count)
        places = [0.5] if count == 1 else [i / (count - 1) for i in range(count)]
        if labs is not None:
            rows = zip(places, labs, strict=True)
            self.taken.emit(tuple(Target(round(place, 4), lab) for place, lab in rows))

    def keep_fire(self) -> None:
        """Keep the colours along the line as a fire of the painter's own."""
        colours = self._along(max(self._page.wanted.count.value(), LEAST_COLOURS))
        if colours is None:
            return
        plan = edits.keep_fire(self._document.plan, colours)
        self._document.edit(plan, tr("own fire"))
        self._page.words.setText(
            tr("Kept as {0}; lights can be painted by it (Z).").format(plan.fires[-1].name)
        )

    def _along(self, count: int) -> list[tuple[float, float, float]] | None:
        """Return so many colours along the line; none if there is no line yet, which is said."""
        try:
            labs = self._page.picture.colours(count)
        except VeilError as error:
            self._page.words.setText(str(error))
            return None
        return [(round(float(L), 2), round(float(a), 2), round(float(b), 2)) for L, a, b in labs]

    def _opened(self, picture: Picture) -> None:
        self._page.picture.show_picture(picture)
        self.opened.emit()
        self._page.words.setText(
            tr("Click what is white, then drag from the light to the far end.")
        )

    def _line_drawn(self) -> None:
        page = self._page
        white = "" if page.picture.white is not None else tr(" Nothing is picked as white yet.")
        count = page.wanted.count.value()
        page.words.setText(tr("“Want these” takes {0} colours along it.{1}").format(count, white))
