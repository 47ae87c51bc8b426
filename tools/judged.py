"""Lay every template on every primer from several racks, and say what is remarked on the result.

Run `.venv/bin/python tools/judged.py [WORD ...]` after the search, a template or a remark was
changed; with words only templates whose id holds one of them. Nothing that the program lays itself
may raise one of its own remarks; what is only a hint (a complement, if one likes) is left out.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from itertools import product
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from test_templates import RACKS
from zesty_veil.advise.remarks import remarks
from zesty_veil.advise.templates.every import TEMPLATES
from zesty_veil.advise.templates.model import Template
from zesty_veil.errors import VeilError
from zesty_veil.services.colours import parse_colour

HINTS = {"no complement", "metameric", "alike"}
# What is answered besides the usual, one after the other.
COLOURS = ("red", "violet", "turquoise", "yellow")


def answers(each: Template) -> Iterator[dict[str, str]]:
    """Yield answers to a template: every choice of what is not its size, and some colours."""
    asked = [q for q in each.questions if q.key not in {"size", "figures", "primer"}]
    choices = [
        [{q.key: a} for a in q.answers] or [{q.key: a} for a in COLOURS]
        for q in asked if not q.optional
    ]  # fmt: skip
    every = choices[:1] or [[{}]]
    yield from every[0]
    for more in choices[1:]:
        yield from more


def main(words: list[str]) -> int:
    """Print what is remarked; return how many plans raise a remark."""
    count = wrong = 0
    for each, rack, primer in product(TEMPLATES, RACKS, ("white", "grey", "black")):
        if words and not any(word in each.id for word in words):
            continue
        for said in answers(each):
            count += 1
            told = {**said, "primer": primer}
            name = f"{each.id} {rack} {' '.join(told.values())}"
            try:
                answered = each.answered(told, parse_colour, RACKS[rack])
                *_, made = each.build(answered, lambda: True)
            except VeilError:
                continue  # it says what is wanting
            assert made.plan is not None
            for index in range(len(made.plan.passages)):
                for remark in remarks(made.plan, index, RACKS[rack]):
                    if remark.kind not in HINTS:
                        wrong += 1
                        print(f"{name}: {remark.kind}: {remark.words}", flush=True)
    print(f"{count} plans, {wrong} remarks on the program's own work")
    return wrong


if __name__ == "__main__":
    sys.exit(bool(main(sys.argv[1:])))
