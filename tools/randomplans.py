"""Random plans for the remarks: does one contradict another, and does each remedy help?

    .venv/bin/python tools/randomplans.py [--count N] [--seed N]

Each plan is of a few coats as painters might lay them. Pressed, a remedy must make its remark go
away (or make it less), and raise none that costs more than what it mended.
"""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from zesty_veil.advise.remark import Remark, RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import VeilError
from zesty_veil.paint.kinds import KINDS
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.edits import with_feather, with_span
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer

# Of these pairs the one says to do what the other says to undo, on one coat.
CONTRADICTING: tuple[frozenset[RemarkKind], ...] = (
    frozenset({"hidden", "dark below"}),
    frozenset({"hidden", "greyed"}),
    frozenset({"mud", "dark below"}),
    frozenset({"mud", "greyed"}),
    frozenset({"dark below", "greyed"}),
    frozenset({"minty", "pinked"}),
)
_PRIMERS: tuple[Primer, ...] = ("white", "grey", "black", "ivory")
_SLACK = 1.15


@dataclass(frozen=True)
class Finding:
    """What is wrong about a remark on a plan."""

    plan: Plan
    remark: Remark
    words: str

    def __str__(self) -> str:
        passage = self.plan.passages[0]
        coats = "; ".join(f"{coat_words(c)} @ {c.span}" for c in passage.coats)
        return f"{self.remark.kind}: {self.words}\n    {passage.ground.primer} | {coats}"


def random_plan(rng: np.random.Generator) -> Plan:
    """Return a plan of one passage, of one to five coats."""
    rack = [paint for paint in demo_rack() if paint.kind not in ("medium",)]
    coats = []
    for _ in range(int(rng.integers(1, 6))):
        paint = rack[rng.integers(len(rack))]
        parts = [Part(paint.name, float(rng.integers(1, 4)))]
        if rng.random() < 0.3 and paint.kind in {"opaque", "transparent", "ink"}:
            mixable = [p for p in rack if p.kind in {"opaque", "transparent"} and p != paint]
            parts.append(Part(mixable[rng.integers(len(mixable))].name, float(rng.integers(1, 4))))
        thinning = float(rng.choice([0, 0.5, 1, 2, 3, 5]))
        coat = Coat(Mixture(tuple(parts), "water", thinning), KINDS[paint.kind].tool)
        if rng.random() < 0.1:
            coat = replace(coat, tool="sponge")
        coat = replace(coat, passes=int(rng.integers(1, 6)))
        if rng.random() < 0.5:
            start = round(float(rng.uniform(0.1, 0.8)), 2)
            far = rng.random() < 0.7
            coat = with_span(coat, start, 1.0) if far else with_span(coat, 0.0, start)
            coat = with_feather(coat, 0.2 if far else 0.0, 0.0 if far else 0.2)
        coats.append(coat)
    primer = _PRIMERS[rng.integers(len(_PRIMERS))]
    passage = Passage("p", 25.0, ground=Ground(primer), coats=tuple(coats))
    return Plan("random", (passage,), demo_rack())


def findings(plan: Plan) -> Iterator[Finding]:
    """Yield what is wrong about the remarks on a plan."""
    found = remarks(plan, 0, demo_rack())
    for pair in CONTRADICTING:
        for coat in {r.coat for r in found if r.coat is not None}:
            here = [r for r in found if r.coat == coat and r.kind in pair]
            if {r.kind for r in here} == pair:
                yield Finding(plan, here[0], f"contradicts {here[1].kind}")
    for remark in found:
        if remark.mend is not None:
            yield from _pressed(plan, remark, found)


def _pressed(plan: Plan, remark: Remark, before: tuple[Remark, ...]) -> Iterator[Finding]:
    assert remark.mend is not None
    try:
        after = remarks(remark.mend(plan), 0, demo_rack())
    except VeilError as error:
        yield Finding(plan, remark, f"its remedy says: {error}")
        return
    mended = remark.mend(plan).passages[0].coats
    about = None if remark.coat is None else plan.passages[0].coats[remark.coat].mixture
    for left in after:
        same = left.kind == remark.kind and left.number >= remark.number * 0.98
        if same and (None if left.coat is None else mended[left.coat].mixture) == about:
            yield Finding(plan, remark, f"its remedy leaves it ({remark.remedy})")
            break
    if remark.kind == "hidden":
        return  # nothing that is seen changes: what is told now was there before
    known = Counter(r.kind for r in before)
    for kind, count in Counter(r.kind for r in after).items():
        fresh = [r for r in after if r.kind == kind]
        worst = max(r.cost for r in fresh)
        if count > known[kind] and kind != remark.kind and worst > _SLACK * remark.cost:
            yield Finding(plan, remark, f"its remedy ({remark.remedy}) raises a worse {kind}")


def main() -> None:
    """Look at random plans and print what is wrong."""
    chosen = argparse.ArgumentParser()
    chosen.add_argument("--count", type=int, default=500)
    chosen.add_argument("--seed", type=int, default=1)
    asked = chosen.parse_args()
    rng = np.random.default_rng(asked.seed)
    kinds: Counter[str] = Counter()
    wrong: list[Finding] = []
    for _ in range(asked.count):
        plan = random_plan(rng)
        kinds.update(r.kind for r in remarks(plan, 0, demo_rack()))
        wrong += findings(plan)
    for finding in wrong:
        print(finding)
    print(Counter(f"{w.remark.kind}: {w.words.split('(')[0]}" for w in wrong).most_common(40))
    print(f"{asked.count} plans, {sum(kinds.values())} remarks, {len(wrong)} findings")
    print(", ".join(f"{kind} {count}" for kind, count in kinds.most_common()))


if __name__ == "__main__":
    main()
