"""Guess first: a stack of the painter's own paints, five colours, one of which comes; and a tally.

The wrong ones lie to known sides of the right one (lighter, darker, warmer, colder, duller,
stronger), so that the tally can say how an eye errs, not only how often.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import NamedTuple

import msgspec
import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab_from_lch, lch
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import has
from zesty_veil.log.store import Store
from zesty_veil.paint.kinds import SPECIAL, USUAL_TOOL
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Ground, Passage, Primer, coat_name
from zesty_veil.predict.field import predict
from zesty_veil.tr import tr

CHOICES = 5
_APART_DE = 7.0  # how far wrong colours lie from the right one; seen at once side by side
_LEAST_DE = 3.0
_TRIES = 40
_WARM_DEG = 60.0  # the warmest hue, orange; common practice
_GROUNDS: tuple[Primer, ...] = ("white", "grey", "black")
_SEEN = 0.8  # dE on average that is worth words


@dataclass(frozen=True, eq=False)
class Question:
    """A ground with coats, the colours to pick from (5, 3), and which of them comes."""

    ground: Ground
    coats: tuple[Coat, ...]
    words: tuple[str, ...]  # the coats in words, the lowest first
    below: Array  # (3,) the ground alone
    choices: Array
    right: int


class Guess(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One answer: the colour that comes and the one that was picked, CIELAB."""

    when: str
    words: tuple[str, ...]
    right: tuple[float, float, float]
    picked: tuple[float, float, float]


def question(
    paints: Sequence[Paint], grounds: Sequence[Ground], rng: np.random.Generator
) -> Question:
    """Return a question from paints at hand and grounds in use (primers, if there are none).

    Raises
    ------
    InputError
        If there is no paint to ask about.
    """
    usable = [paint for paint in paints if paint.kind not in SPECIAL]
    if not usable:
        raise InputError(tr("There is no paint at hand to guess with; put some into the rack."))
    below = [*(Ground(primer) for primer in _GROUNDS), *grounds]
    rack = {paint.name: paint for paint in paints}
    place = np.array([0.5])
    for _ in range(_TRIES):
        ground = below[int(rng.integers(len(below)))]
        coats = tuple(_coat(usable, rng) for _ in range(int(rng.integers(1, 4))))
        laid = Passage("guess", ground=ground, coats=coats)
        lab = predict(laid, rack, place, np.zeros(1)).lab[0, 0]
        if bool(has(lab)):  # or the screen could not ask it fairly
            break
    bare = predict(Passage("guess", ground=ground), rack, place, np.zeros(1)).lab[0, 0]
    choices, right = _choices(lab, rng)
    words = tuple(f"{coat_name(c)}, {c.passes} pass{'es' * (c.passes > 1)}" for c in coats)
    return Question(ground, coats, words, bare, choices, right)


def _coat(paints: Sequence[Paint], rng: np.random.Generator) -> Coat:
    """Return a coat as painters lay it: glazes thinned and blotted, the rest nearly neat."""
    paint = paints[int(rng.integers(len(paints)))]
    glazed = paint.kind in {"transparent", "ink"}
    thinning = float(rng.choice((1.0, 2.0, 3.0, 4.0) if glazed else (0.0, 0.5, 1.0)))
    tool = "glaze" if glazed and thinning >= 2 else USUAL_TOOL[paint.kind]
    mixture = Mixture((Part(paint.name),), "water", thinning)
    return Coat(mixture, tool, int(rng.integers(1, 4)))


def _choices(lab: Array, rng: np.random.Generator) -> tuple[Array, int]:
    """Return five colours in a random order, and the place of the right one."""
    L, C, h = (float(v) for v in lch(lab))
    warm = (_WARM_DEG - h + 180) % 360 - 180  # which way is warmer
    turn = np.sign(warm) if abs(warm) > 1 else 1.0
    sides = [(1, 0, 0), (-1, 0, 0), (0, 0, turn), (0, 0, -turn), (0, 1, 0), (0, -1, 0)]
    found: list[Array] = []
    for k in rng.permutation(len(sides)):
        other = _moved(L, C, h, *sides[k])
        if other is not None and all(float(ciede2000(other, f)) > _LEAST_DE for f in (lab, *found)):
            found.append(other)
        if len(found) == CHOICES - 1:
            break
    # Near black or white there is not much room: go on from there, a step that is seen each time.
    step = 0.0
    while len(found) < CHOICES - 1:
        step += float(rng.uniform(4, 8))
        # What is strong and dark no screen has, so it pales as it goes.
        pale = 0.97**step
        other = lab * np.array([1.0, pale, pale]) + np.array([step if L < 50 else -step, 0.0, 0.0])
        if all(float(ciede2000(other, f)) > _LEAST_DE for f in (lab, *found)):
            found.append(other)
    order = rng.permutation(CHOICES)
    every = np.array([lab, *found])[order]
    return every, int(np.flatnonzero(order == 0)[0])


def _moved(L: float, C: float, h: float, up: float, out: float, turn: float) -> Array | None:
    """Return a colour some dE00 to one side, if the screen can show it."""
    at = lab_from_lch(np.array([L, C, h]))
    for size in np.arange(1.0, 60.0, 0.5):
        L2, C2 = L + up * size, C + out * size
        if not (0 <= L2 <= 100 and C2 >= 0):
            return None
        # A turn of hue is as wide as its arc.
        h2 = h + turn * np.degrees(min(size / max(C, 4.0), 1.2))
        other = lab_from_lch(np.array([L2, C2, h2]))
        if float(ciede2000(at, other)) >= _APART_DE:
            inside = has(other)
            return other if bool(inside) else None
    return None


class Tally(NamedTuple):
    """How an eye errs: counts, and the mean of picked minus right as parts of what is seen.

    lighter, warmer, stronger : mean differences in L, along the warm direction, and in C.
    """

    asked: int
    right: int
    lighter: float
    warmer: float
    stronger: float
    words: str


def tally(guesses: Sequence[Guess]) -> Tally:
    """Return how an eye errs over some guesses."""
    if not guesses:
        return Tally(0, 0, 0.0, 0.0, 0.0, tr("No guess yet."))
    right = np.array([guess.right for guess in guesses])
    picked = np.array([guess.picked for guess in guesses])
    off = picked - right
    hits = int((np.abs(off).max(axis=1) < 1e-6).sum())
    warm = np.array([np.cos(np.radians(_WARM_DEG)), np.sin(np.radians(_WARM_DEG))])
    lighter = float(off[:, 0].mean())
    warmer = float((off[:, 1:] @ warm).mean())
    stronger = float((lch(picked)[:, 1] - lch(right)[:, 1]).mean())
    sides = []
    for size, more, less in (
        (lighter, "too light", "too dark"),
        (warmer, "too warm", "too cold"),
        (stronger, "too strong in colour", "too dull"),
    ):
        if abs(size) >= _SEEN:
            sides.append((abs(size), f"{more if size > 0 else less} by {abs(size):.1f}"))
    lean = ", ".join(words for _, words in sorted(sides, reverse=True))
    words = f"{hits} of {len(guesses)} right. " + (
        f"Your eye expects it {lean}, on average." if lean else "Your eye leans to no side."
    )
    return Tally(len(guesses), hits, lighter, warmer, stronger, words)


def _guess(document: object) -> Guess | None:
    """Return a guess out of the log; none if it is damaged, as a tally does well without it."""
    if not isinstance(document, bytes | str):
        return None
    try:
        return msgspec.json.decode(document, type=Guess)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return None


class Guesses:
    """The guesses kept in the log."""

    def __init__(self, store: Store) -> None:
        self._store = store

    def add(self, asked: Question, picked: int, now: datetime | None = None) -> Guess:
        """Keep a guess and return it; raises LogError."""
        moment = (datetime.now(UTC) if now is None else now).isoformat(timespec="seconds")
        right, chosen = (tuple(float(v) for v in asked.choices[i]) for i in (asked.right, picked))
        guess = Guess(moment, asked.words, right, chosen)  # type: ignore[arg-type]
        with self._store.writing() as db:
            db.execute(
                "INSERT INTO guess (moment, document) VALUES (?, ?)",
                (moment, msgspec.json.encode(guess)),
            )
        return guess

    def all(self) -> tuple[Guess, ...]:
        """Return all guesses, the oldest first; raises LogError."""
        with self._store.reading() as db:
            rows = db.execute("SELECT document FROM guess ORDER BY number").fetchall()
        return tuple(guess for row in rows if (guess := _guess(row[0])) is not None)

    def forget(self) -> None:
        """Begin the tally anew; raises LogError."""
        with self._store.writing() as db:
            db.execute("DELETE FROM guess")
