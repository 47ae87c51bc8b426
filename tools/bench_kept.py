"""Speed of reading and fitting cards, of the log and of learning, beside yardsticks."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication
from scipy.optimize import least_squares

from zesty_veil.desktop.kit.theme import dress
from zesty_veil.log import fit as fitting
from zesty_veil.log.card import Card
from zesty_veil.log.drawdown import drawdown
from zesty_veil.log.fit import fit
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.learn import learnt
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.photo.reading import read_photograph
from zesty_veil.log.prior import prior
from zesty_veil.log.record import ObservedColour, Record
from zesty_veil.log.store import Store
from zesty_veil.plan.samples import sample

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

import cardphoto
import simulated

Best = Callable[..., float]
Line = Callable[[str, float, str, float], None]


def kept(best: Best, line: Line) -> None:
    """Time what is kept between plans."""
    rng = np.random.default_rng(4)
    pot = simulated.true_paint(rng, "transparent", {"PO73": 1.0}, 1.0)
    patches = simulated.card_of(rng, pot, 1.0, "loaded")
    card = simulated.read(rng, pot, patches, 1.0, "loaded", "bench meter")
    ours = best(lambda: fit([card]), 5)
    theirs = best(lambda: _by_library(card), 3)
    line("a paint fitted to 6 spectra", ours, "the same by scipy's least_squares", theirs)
    _photograph(best, line, {(b, n): R for b, n, R in patches})
    _log(best, line)


def _by_library(card: Card) -> float:
    """Fit a card as `fit` does, with scipy's solver for each round of weights; return the cost."""
    down, before = drawdown([card]), prior(card.kind, card.pigments)
    unknown, _ = fitting._unknown(down, [card], before, 0.02, 0.0)
    observed = fitting._Observed(down, [card])
    root = np.linalg.cholesky(unknown.precision).T
    x, weight = unknown.mean, np.ones(len(down.patches))
    _, residual, _ = observed.cost(x, weight, unknown)
    loose, cost = max(1.0, float(np.sqrt(np.mean(residual**2)))), np.inf
    while True:
        weight = fitting._student(residual / loose, observed.count)
        row = np.sqrt(np.repeat(weight, observed.count))

        def whole(x: np.ndarray, row: np.ndarray = row, weight: np.ndarray = weight) -> np.ndarray:
            _, residual, _ = observed.cost(x, weight, unknown)
            return np.concatenate([row * residual, root @ (x - unknown.mean)])

        def slope(x: np.ndarray, row: np.ndarray = row, weight: np.ndarray = weight) -> np.ndarray:
            _, _, J = observed.cost(x, weight, unknown)
            return np.vstack([row[:, None] * J, root])

        found = least_squares(whole, x, slope, method="lm")
        x, before_cost, cost = found.x, cost, float(found.cost)
        _, residual, _ = observed.cost(x, weight, unknown)
        if loose == 1 and before_cost - cost < 1e-5 * (1 + cost):
            return cost
        loose = max(1.0, loose * fitting._TIGHTEN)


def _photograph(best: Best, line: Line, painted: dict[tuple[str, int], np.ndarray]) -> None:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    dress(QApplication.instance() or QApplication([]))  # type: ignore[arg-type]
    pixels = cardphoto.photograph(painted, cardphoto.Shot())
    h, w = pixels.shape[:2]
    path = Path(tempfile.mkdtemp()) / "card.jpg"
    QImage(pixels.tobytes(), w, h, 3 * w, QImage.Format.Format_RGB888).save(str(path))
    decode = best(lambda: QImage(str(path)))
    line("a card read off 1600 x 1200 pixels", best(lambda: read_photograph(pixels), 5),
         "Qt decoding the same JPEG", decode)  # fmt: skip


def _log(best: Best, line: Line) -> None:
    folder = Path(tempfile.mkdtemp())
    book, plan = Logbook(Store(folder / "log.sqlite")), sample("glasswright")
    passage = plan.passages[0]
    count = len(passage.coats)
    R, c, d = (float(v) for v in predicted_at(plan, passage.name, 0.4, "flat", count))
    seen = ObservedColour(passage.name, 0.4, "flat", count, (R + 2, c, d), (R, c, d))
    record = Record("2026-01-01T00:00:00+00:00", plan, seen=(seen,))
    raw = b"x" * 100_000

    def write() -> None:
        with (folder / "plain").open("ab") as file:
            file.write(raw)
            os.fsync(file.fileno())

    line("a record written to the log", best(lambda: book.add(record)),
         "100 kB appended and flushed", best(write))  # fmt: skip
    for i in range(200):
        book.add(replace(record, words=str(i)))
    line("200 records listed and searched", best(lambda: book.lines("flame 19")),
         "numpy.sort of a million", best(lambda: np.sort(np.arange(1_000_000)[::-1])))  # fmt: skip
    few = book.all()[:10]
    paints = {paint.name: paint for paint in plan.paints}
    one = best(lambda: predicted_at(plan, passage.name, 0.4, "flat", count))
    line("10 colours of 11 coats learnt from", best(lambda: learnt(few, paints), 2),
         "predicting one of them", one)  # fmt: skip
