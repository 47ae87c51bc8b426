"""Print what is laid for thirty jobs beside what a painter would lay, as a Markdown table.

Run `.venv/bin/python tools/jobtable.py` after the search was changed, and read the sentences.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from painterjobs import BEFORE, RAMPS, SINGLES, Job
from zesty_veil.advise.glow.painting import USUAL_LIMITS, painted
from zesty_veil.advise.glow.usual import off_figure
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.match.waywords import way_words
from zesty_veil.advise.templates.every import template
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Coat, Ground, Passage, Plan
from zesty_veil.predict.field import predict
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.services.colours import parse_colour

# Whole plans, with what a painter would lay on their first passage; common practice.
_TEMPLATES = (
    ("flame", "white or yellow under all, orange, red, dark tips"),
    ("cloth", "the tone over all, glazed darker into the folds, lights on them"),
    ("skin", "skin tone, a warm glaze on the spots, a cool one in the shade"),
    ("metal", "metal laid neat, thin tints over it"),
)


def searched() -> Iterator[tuple[str, ...]]:
    """Yield rows of the ramps and single colours."""
    for job in (*RAMPS, *SINGLES):
        begun = time.perf_counter()
        answers = [found.ways[0] for found in solve(job.request()) if found.ways]
        best, took = answers[-1], time.perf_counter() - begun
        before = BEFORE.get(job.name)
        was = "" if before is None else f" (was {before[1]}, dE {before[0]:g})"
        yield _row(job, best.words, best.coats, f"{best.mean:.1f}{was}", took)


def _row(job: Job, words: str, coats: tuple[Coat, ...], off: str, took: float) -> tuple[str, ...]:
    passes = sum(coat.passes for coat in coats)
    return job.name, job.primer, job.usual, words, str(passes), off, f"{took:.1f}"


def lit() -> Iterator[tuple[str, ...]]:
    """Yield rows of two lights off the figure."""
    rack = paints_at_hand()
    named = {paint.name: paint for paint in rack}
    red = (parse_coat("Pilot Red; water 0.5; passes 3", named),)
    jobs = (
        ("blue lamp over black", (), (45.0, 10.0, -60.0), 1.0, "blue, lighter blues further in"),
        ("fire on red, kept", red, None, 0.4, "yellow, then orange, then pale orange, shorter"),
    )
    for name, coats, colour, wins, usual in jobs:
        passage = Passage(name, 30.0, 900.0, ground=Ground("black"), coats=coats, form="plate")
        plan = Plan("job", (passage,), rack)
        glow = off_figure(plan)
        glow = replace(glow, colour=colour, wins=wins)
        begun = time.perf_counter()
        *_, done = painted(plan, glow, "inward", rack, USUAL_LIMITS, keep=bool(coats))
        answer, took = done[0].answer, time.perf_counter() - begun
        assert answer is not None
        job = Job(name, "black", (), usual)
        yield _row(job, answer.words, answer.coats, f"{answer.mean:.1f}", took)


def made() -> Iterator[tuple[str, ...]]:
    """Yield rows of the first passages of templates."""
    rack = paints_at_hand()
    named = {paint.name: paint for paint in rack}
    for name, usual in _TEMPLATES:
        chosen = template(name)
        begun = time.perf_counter()
        *_, last = chosen.build(chosen.answered({}, parse_colour, rack), lambda: True)
        assert last.plan is not None
        took, passage = time.perf_counter() - begun, last.plan.passages[0]
        job = Job(f"template {name}", "black", (), usual)
        off = ""
        if passage.targets:
            u = np.array([target.place for target in passage.targets])
            seen = predict(passage, named, u, np.zeros(1), DAYLIGHT).lab[:, 0]
            want = np.array([target.lab for target in passage.targets])
            off = f"{float(ciede2000(seen, want).mean()):.1f}"
        yield _row(job, way_words(passage.coats, named), passage.coats, off, took)


def main() -> None:
    """Print the table."""
    print("| job | primer | a painter lays | it lays | passes | dE | s |")
    print("|---|---|---|---|---|---|---|")
    for rows in (searched(), lit(), made()):
        for row in rows:
            print(f"| {' | '.join(row)} |", flush=True)


if __name__ == "__main__":
    main()
