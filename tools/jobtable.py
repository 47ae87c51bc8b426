"""Print what is laid for the trade's jobs beside what painters lay, as a Markdown table.

Run `.venv/bin/python tools/jobtable.py` after the search was changed, and read the sentences.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from painterjobs import BEFORE, RAMPS, SINGLES, Job
from tradejobs import JOBS
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.match.waywords import way_words
from zesty_veil.plan.model import Coat


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


def traded() -> Iterator[tuple[str, ...]]:
    """Yield rows of the trade's jobs, passage by passage, and what of each is not met."""
    for job in JOBS:
        begun = time.perf_counter()
        plan = job.plan()
        took, short = time.perf_counter() - begun, ", ".join(job.missing(plan)) or "nothing"
        for passage in plan.passages:
            words = way_words(passage.coats, plan.rack())
            passes = sum(coat.passes for coat in passage.coats)
            where = passage.ground.primer
            yield job.name, where, job.usual, words, str(passes), f"short: {short}", f"{took:.1f}"


def main() -> None:
    """Print the table."""
    print("| job | primer | a painter lays | it lays | passes | dE | s |")
    print("|---|---|---|---|---|---|---|")
    for rows in (searched(), traded()):
        for row in rows:
            print(f"| {' | '.join(row)} |", flush=True)


if __name__ == "__main__":
    main()
