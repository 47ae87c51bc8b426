"""Boxes for numbers in which point and comma both part the decimals, whatever the locale.

Qt's own take one of the two for a mark of thousands, by the locale, and drop it: 2,5 became 25.
"""

from __future__ import annotations

import re
from typing import Any

from PySide6.QtCore import QLocale
from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QDoubleSpinBox, QSpinBox

from zesty_veil.tr import tr

_TYPED = re.compile(r"([-+]?)(\d*)(?:[.,](\d*))?")
_DURATION = re.compile(
    r"(?:(?P<hours>\d+(?:[.,]\d+)?)\s*(?:h|hours?|:)\s*)?"
    r"(?:(?P<minutes>\d+(?:[.,]\d+)?)\s*(?:m|min|minutes?)?)?"
)

CONTROL = 32  # how high controls are, in pixels
_State = QValidator.State


def read_number(words: str) -> float | None:
    """Return the number in some words with point or comma, or None if there is none yet."""
    found = _TYPED.fullmatch(words.strip())
    if found is None or not (found[2] or found[3]):
        return None
    return float(f"{found[1]}{found[2] or 0}.{found[3] or 0}")


def read_minutes(words: str) -> float | None:
    """Return the minutes in some words: '2 h', '1 h 30', '1:30', '90 min', '90'; None for none.

    >>> [read_minutes(words) for words in ("2 h", "1h30", "1:30", "1,5 h", "90 min", "45", "soon")]
    [120.0, 90.0, 90.0, 90.0, 90.0, 45.0, None]
    """
    found = _DURATION.fullmatch(words.strip().casefold())
    if found is None or not (found["hours"] or found["minutes"]):
        return None
    hours = float((found["hours"] or "0").replace(",", "."))
    return 60 * hours + float((found["minutes"] or "0").replace(",", "."))


def told_minutes(minutes: float) -> str:
    """Return minutes as they are read: '45 min', '2 h', '1 h 30'.

    >>> [told_minutes(minutes) for minutes in (45, 120, 90)]
    ['45 min', '2 h', '1 h 30']
    """
    hours, rest = divmod(round(minutes), 60)
    if not hours:
        return tr("{0} min").format(rest)
    return tr("{0} h {1:02}").format(hours, rest) if rest else tr("{0} h").format(hours)


def _judged(box: QSpinBox | QDoubleSpinBox, text: str) -> _State:
    """Tell whether what is typed is a number of a box, may become one, or cannot."""
    words = _bare(box, text)
    if text and text == box.specialValueText():
        return _State.Acceptable
    if _TYPED.fullmatch(words) is None:
        return _State.Invalid
    number = read_number(words)
    inside = number is not None and box.minimum() <= number <= box.maximum()
    return _State.Acceptable if inside else _State.Intermediate


def _bare(box: QSpinBox | QDoubleSpinBox, text: str) -> str:
    return text.removeprefix(box.prefix()).removesuffix(box.suffix()).strip()


def _mended(box: QSpinBox | QDoubleSpinBox, text: str) -> str:
    """Return what is typed as a number within limits; without one, what there was."""
    number = read_number(_bare(box, text))
    kept = box.value() if number is None else min(max(number, box.minimum()), box.maximum())
    return f"{kept:.6f}"


class _Typed:
    """What both boxes do with what is typed."""

    def __init__(self) -> None:
        super().__init__()
        box: Any = self
        box.setLocale(QLocale.c())
        box.setKeyboardTracking(False)
        box.setMinimumHeight(CONTROL)

    def validate(self, text: str, place: int) -> tuple[_State, str, int]:
        """Take point and comma alike; what is beyond the limits may still be typed."""
        return _judged(self, text), text, place  # type: ignore[arg-type]

    def fixup(self, text: str) -> str:
        """Hold what was typed to the limits."""
        return _mended(self, text)  # type: ignore[arg-type]


class NumberBox(_Typed, QDoubleSpinBox):
    """A box for a number."""

    def valueFromText(self, text: str) -> float:
        """Return the number that stands there."""
        number = read_number(_bare(self, text))
        return self.minimum() if number is None else number


class CountBox(_Typed, QSpinBox):
    """A box for a whole number; a fraction that is typed is rounded."""

    def valueFromText(self, text: str) -> int:
        """Return the number that stands there, rounded."""
        number = read_number(_bare(self, text))
        return self.minimum() if number is None else round(number)


class MinutesBox(NumberBox):
    """A box for a time, in minutes; hours may be typed as well."""

    def validate(self, text: str, place: int) -> tuple[_State, str, int]:
        """Take what is a time, and let anything be typed on the way there."""
        minutes = 0.0 if text == self.specialValueText() else read_minutes(text)
        inside = minutes is not None and self.minimum() <= minutes <= self.maximum()
        return (_State.Acceptable if inside else _State.Intermediate), text, place

    def fixup(self, text: str) -> str:
        """Hold what was typed to the limits; what is no time is as it was."""
        minutes = read_minutes(text)
        kept = (
            self.value() if minutes is None else min(max(minutes, self.minimum()), self.maximum())
        )
        return self.textFromValue(kept)

    def textFromValue(self, value: float) -> str:
        """Return a time as it is read."""
        return told_minutes(value)

    def valueFromText(self, text: str) -> float:
        """Return the minutes that stand there."""
        minutes = 0.0 if text == self.specialValueText() else read_minutes(text)
        return self.minimum() if minutes is None else minutes
