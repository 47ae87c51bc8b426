"""A question of the guess, found without Qt and away from its thread."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from zesty_veil.log.guess import Question, question
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Ground


@dataclass(frozen=True)
class Wanted:
    """Paints at hand and grounds in use, and which question of them it is."""

    paints: tuple[Paint, ...]
    grounds: tuple[Ground, ...]
    seed: int


def questions(asked: Wanted, should_continue: Callable[[], bool]) -> Iterator[Question]:
    """Yield a question."""
    yield question(asked.paints, asked.grounds, np.random.default_rng(asked.seed))
