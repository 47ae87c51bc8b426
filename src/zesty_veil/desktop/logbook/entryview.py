"""Writing down what was painted: colours of some places beside what was predicted there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zesty_veil.desktop.kit.entryline import EntryLine
from zesty_veil.desktop.kit.numbersrow import number
from zesty_veil.desktop.kit.photos import PICTURE_FILTER, Picture, pictures, thumbnail
from zesty_veil.desktop.kit.plain import Label
from zesty_veil.desktop.logbook.pickview import PickView
from zesty_veil.desktop.logbook.rowfields import RowFields
from zesty_veil.desktop.session.jobs import NewestWins
from zesty_veil.desktop.session.userstore import UserStore
from zesty_veil.errors import VeilError
from zesty_veil.light.picture import PicturePoint
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.record import Conditions, How, ObservedColour, Record, check_record
from zesty_veil.plan.model import Plan
from zesty_veil.predict.named import region_of
from zesty_veil.services.colours import parse_colour, seen_in_words
from zesty_veil.services.recordforecast import Foretelling, Row, _Lab, foretold
from zesty_veil.tr import tr

_START = (
    "Give the colour that came out at each place: from a photograph (Shift + click on something "
    "white in it, then click the place of the row in hand), or typed. Rows without are left out."
)


class EntryView(QWidget):
    """Makes a record of the open plan; `done` tells its number, or 0 for none."""

    done = Signal(int)

    def __init__(
        self, user_store: UserStore, now: Callable[[], datetime] = lambda: datetime.now(UTC)
    ) -> None:
        super().__init__()
        self._user_store, self._now = user_store, now
        self._plan = Plan("")
        self._where = (0, 0.5)
        self._picture: Picture | None = None
        self.rows: list[Row] = []
        self._row = 0
        self.picture = PickView()
        self.picture.picked.connect(self._picked)
        self.picture.white_picked.connect(self._white)
        self._predicted: dict[int, _Lab] = {}
        self.jobs: NewestWins[Foretelling, tuple[_Lab, ...]] = NewestWins(foretold, self, "short")
        self.jobs.answered.connect(self._foretold)
        self.jobs.failed.connect(lambda error: self.say(str(error)))
        self.photos: NewestWins[Path, Picture] = NewestWins(pictures, self)
        self.photos.answered.connect(self._opened)
        self.photos.failed.connect(lambda error: self.say(str(error)))
        self.fields = RowFields()
        self.fields.chosen.connect(self.take)
        self.fields.changed.connect(self._changed)
        self.fields.typed.connect(self.write)
        self._lay_out()

    def begin(self, plan: Plan, passage: int, place: float) -> None:
        """Note what came out of a plan, beginning with the place that is read.

        What was noted of the same plan and not written down yet is there again.
        """
        if plan == self._plan and self._noted():
            self.anew.setVisible(True)
            self.say(tr("This is as you left it; it is not written down yet."))
            self._show_rows()
            return
        self._where = passage, place
        self.anew.setVisible(False)
        self._plan, self._picture, self._row = plan, None, 0
        self.photos.drop()
        self.rows = []
        self.fields.show_plan(plan, [])  # what stands typed belongs to what was there before
        order = [passage, *(i for i in range(len(plan.passages)) if i != passage)]
        for index in order:
            if 0 <= index < len(plan.passages) and plan.passages[index].coats:
                at = place if index == passage else 0.5
                self.rows.append(Row(index, at, "flat", len(plan.passages[index].coats)))
        self.picture.show_picture(None)
        self.picture.setVisible(False)
        self.title.setText(tr("What came out of “{0}”").format(plan.title))
        for line in (self.step, self.minutes_text):
            line.clear()
        self.notes.clear()
        self.say(_START)
        self._show_rows()

    def begin_anew(self) -> None:
        """Forget what was noted and not written down."""
        plan, self._plan = self._plan, Plan("")
        self.begin(plan, *self._where)

    def _noted(self) -> bool:
        return bool(
            self._picture is not None
            or any(row.lab is not None for row in self.rows)
            or self.notes.toPlainText().strip()
        )

    def open_photograph(self, path: Path) -> None:
        """Take a photograph; say what is wrong with it otherwise."""
        self.say(tr("Opening {0} …").format(path.name))
        self.photos.ask(path)

    def _opened(self, picture: Picture) -> None:
        self._picture = picture
        self.rows = [replace(row, point=None) for row in self.rows]
        self.picture.show_picture(picture)
        self.picture.setVisible(True)
        self.say(
            tr("Shift + click on something white in it (paint, primer, paper), then click places.")
        )

    def add_row(self) -> None:
        """Note one place more, of the passage of the row in hand."""
        passage = self.rows[self._row].passage if self.rows else 0
        if passage < len(self._plan.passages):
            self.fields.finish()
            coats = len(self._plan.passages[passage].coats)
            self.rows.append(Row(passage, 0.5, "flat", coats))
            self._row = len(self.rows) - 1
            self._show_rows()

    def take(self, row: int) -> None:
        """Take a row in hand."""
        self._row = row
        self._show_marks()

    def write(self, row: int, words: str) -> None:
        """Take what was typed as the colour of a row; nothing forgets it."""
        try:
            lab = parse_colour(words) if words.strip() else None
        except VeilError as error:
            self.say(str(error))
            return
        called = " ".join(words.split()) if region_of(words) is not None else ""
        if lab != self.rows[row].lab:
            how: How = "words" if called else "typed"
            self.rows[row] = replace(self.rows[row], lab=lab, how=how, called=called)
        self._show_marks()

    def keep(self) -> None:
        """Write the record into the log."""
        try:
            record = self.record()
            check_record(record)
        except VeilError as error:
            self.say(str(error))
            return
        picture = self._picture
        if not record.seen and not record.words and picture is None:
            self.say(tr("Nothing is noted yet: give a colour, a photograph or some words."))
            return
        photo = (picture.path.suffix, picture.raw) if picture is not None else None
        small = thumbnail(picture.image) if picture is not None else None

        def kept(number: int) -> None:
            # What was noted is written down; no field may tell of it any more.
            self._plan, self.rows = Plan(""), []
            self._show_rows()
            self._user_store.learn()
            self.done.emit(number)

        self._user_store.do(lambda desk: desk.book.add(record, photo, small), kept)

    def record(self) -> Record:
        """Return the record as it stands; raises InputError."""
        seen = []
        for row in self.rows:
            if row.lab is None:
                continue
            passage = self._plan.passages[row.passage]
            L, a, b = (
                float(v)
                for v in predicted_at(self._plan, passage.name, row.place, row.site, row.coats)
            )
            lab = seen_in_words(row.called, (L, a, b)) if row.how == "words" else row.lab
            seen.append(
                ObservedColour(
                    passage.name, row.place, row.site, row.coats, lab, (L, a, b), row.how
                )
            )
        minutes = self.minutes_text.text().strip().replace(",", ".")
        try:
            taken = float(minutes) if minutes else None
        except ValueError:
            taken = -1.0  # refused with a sentence when it is written
        return Record(
            self._now().isoformat(timespec="seconds"),
            self._plan,
            " ".join(self.step.text().split()),
            tuple(seen),
            self.notes.toPlainText().strip(),
            taken,
            Conditions(
                self.celsius.value() or None,
                self.humidity.value() / 100 if self.humidity.value() else None,
            ),
        )

    def say(self, words: str) -> None:
        """Say a sentence above the rows."""
        self.words.setText(words)

    def _picked(self, point: PicturePoint) -> None:
        if not self.rows:
            return
        if self.picture.white is None:
            self.say(tr("Say first what is white in the photograph: Shift + click on it."))
            return
        self._read(self._row, point)
        # The next row without a colour comes into hand.
        after = [i for i in range(len(self.rows)) if self.rows[i].lab is None]
        self._row = next((i for i in after if i > self._row), self._row)
        self._show_marks()

    def _read(self, row: int, point: PicturePoint) -> None:
        try:
            lab = self.picture.colour(point)
        except VeilError as error:
            self.say(str(error))
            return
        self.rows[row] = replace(self.rows[row], lab=lab, how="photograph", point=point, called="")

    def _white(self) -> None:
        for i, row in enumerate(self.rows):
            if row.point is not None:
                self._read(i, row.point)
        self.say(tr("White is known. Click the place of the row in hand."))
        self._show_marks()

    def _changed(self, i: int, row: Row) -> None:
        other = row.passage != self.rows[i].passage
        if other:
            self.fields.finish()  # what is typed belongs to the row, wherever it lies now
            now = self.rows[i]
            row = replace(row, lab=now.lab, how=now.how, called=now.called)
        self.rows[i] = row
        if other:
            self._show_rows()
        else:
            self._ask()

    def _show_rows(self) -> None:
        self.fields.show_plan(self._plan, self.rows)
        self._ask()

    def _ask(self) -> None:
        """Ask what is predicted, and show the rest meanwhile."""
        self.jobs.ask(Foretelling(self._plan, tuple(self.rows)))
        self._show_marks()

    def _foretold(self, labs: tuple[_Lab, ...]) -> None:
        self._predicted = dict(enumerate(labs))
        self._show_marks()

    def _show_marks(self) -> None:
        """Show which row is in hand, and what is predicted and noted."""
        self.fields.show_rows(self.rows, self._row, self._predicted)
        points = {i: row.point for i, row in enumerate(self.rows) if row.point is not None}
        self.picture.show_points(points, self._row)

    def wait_until_idle(self) -> bool:
        """Run events until what is predicted is there."""
        return all(jobs.wait_until_idle() for jobs in (self.photos, self.jobs))

    def close_jobs(self) -> None:
        """End the workers."""
        self.photos.close()
        self.jobs.close()

    def _choose_photo(self) -> None:
        home = str(Path.home())
        name, _ = QFileDialog.getOpenFileName(self, tr("What was painted"), home, PICTURE_FILTER)
        if name:
            self.open_photograph(Path(name))

    def _lay_out(self) -> None:
        self.title, self.words = Label(), Label()
        self.words.setWordWrap(True)
        self.photo = QPushButton(tr("Photograph …"))
        self.photo.clicked.connect(lambda _=False: self._choose_photo())
        self.more = QPushButton(tr("One place more"))
        self.more.clicked.connect(lambda _=False: self.add_row())
        self.accept = QPushButton(tr("Write it down"))
        self.accept.clicked.connect(lambda _=False: self.keep())
        self.anew = QPushButton(tr("Begin anew"))
        self.anew.setToolTip(tr("Forget what was noted here and not written down"))
        self.anew.clicked.connect(lambda _=False: self.begin_anew())
        self.leave = QPushButton(tr("Back"))
        self.leave.clicked.connect(lambda _=False: self.done.emit(0))
        self.step, self.minutes_text = EntryLine(), EntryLine()
        self.step.setPlaceholderText(tr("what of it: all, or which step"))
        self.step.setAccessibleName(tr("what of the plan was painted"))
        self.step.setMaxLength(120)
        self.minutes_text.setPlaceholderText(tr("minutes"))
        self.minutes_text.setAccessibleName(tr("minutes it took"))
        self.minutes_text.setFixedWidth(84)
        self.celsius = number(tr("degrees at the bench; 0 for not noted"), 0, 45, 1, " °C", 0)
        self.humidity = number(tr("relative humidity; 0 for not noted"), 0, 100, 5, " %", 0)
        for box in (self.celsius, self.humidity):
            box.setSpecialValueText(tr("not noted"))
        self.notes = QPlainTextEdit()
        self.notes.setPlaceholderText(tr("A few words"))
        self.notes.setAccessibleName(tr("a few words on it"))
        self.notes.setFixedHeight(58)
        self.notes.setTabChangesFocus(True)
        self.head = QWidget()
        self.accept.setObjectName("main")
        head, said = QHBoxLayout(self.head), QHBoxLayout()
        head.setContentsMargins(0, 0, 0, 0)
        head.setSpacing(8)
        for button in (self.anew, self.accept, self.leave):
            head.addWidget(button)
        said.addWidget(self.photo)
        said.addWidget(self.more)
        said.addWidget(self.step, 1)
        for words, widget in (
            ("took", self.minutes_text),
            ("air", self.celsius),
            ("", self.humidity),
        ):
            if words:
                said.addWidget(Label(tr(words)))
            said.addWidget(widget)
        scroll = QScrollArea()
        scroll.setWidget(self.fields)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        body = QHBoxLayout()
        body.setSpacing(14)
        right = QVBoxLayout()
        right.addWidget(scroll, 1)
        right.addWidget(self.notes)
        body.addWidget(self.picture, 5)
        body.addLayout(right, 6)
        page = QVBoxLayout(self)
        page.setContentsMargins(8, 0, 16, 4)
        page.setSpacing(8)
        page.addWidget(self.title)
        page.addLayout(said)
        page.addWidget(self.words)
        page.addLayout(body, 1)
