"""The command line's templates: a few answers in, a whole plan out."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from zesty_veil.advise.templates.every import TEMPLATES, template
from zesty_veil.errors import InputError
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.paint.rack import find
from zesty_veil.plan.coatwords import coat_words
from zesty_veil.plan.model import ground_words
from zesty_veil.plan.placewords import place_words
from zesty_veil.services.colours import parse_colour
from zesty_veil.services.looks import save_plan


def template_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of all templates."""
    job.add_argument("name", nargs="?", metavar="NAME", help=", ".join(t.id for t in TEMPLATES))
    keys: dict[str, list[str]] = {}
    for each in TEMPLATES:
        for question in each.questions:
            answers = keys.setdefault(question.key, [])
            answers += [a for a in question.answers if a not in answers]
    for key, answers in keys.items():
        job.add_argument(f"--{key}", metavar="ANSWER", help=", ".join(answers) or "a colour")
    job.add_argument("--only", action="append", default=[], metavar="PAINT", help="use these alone")
    job.add_argument("-o", "--out", type=Path, metavar="PLAN.veil", help="write the plan there")
    job.add_argument("--json", action="store_true")


def templated(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return the plan that a template makes, for JSON and as text; without a name, the list.

    Raises
    ------
    InputError, PaintError, FileError
        With one sentence.
    """
    if chosen.name is None:
        return _listed()
    made = template(chosen.name)
    keys = {question.key for each in TEMPLATES for question in each.questions}
    said = {key: getattr(chosen, key) for key in keys if getattr(chosen, key) is not None}
    paints = paints_at_hand()
    if chosen.only:
        paints = tuple(find(name, paints) for name in dict.fromkeys(chosen.only))
    *_, last = made.build(made.answered(said, parse_colour, paints), lambda: True)
    if last.plan is None:
        raise InputError("No plan came of it; allow more paints.")
    plan = last.plan
    if chosen.out is not None:
        save_plan(plan, chosen.out)
    rows = [
        {
            "passage": passage.name,
            "ground": ground_words(passage.ground),
            "coats": [
                {"words": coat_words(c), "span": list(c.span), "where": place_words(c)}
                for c in passage.coats
            ],
        }
        for passage in plan.passages
    ]
    text = f"{plan.title}\n"
    for passage in plan.passages:
        text += f"{passage.name}, {ground_words(passage.ground)}\n"
        for coat in passage.coats:
            text += f"  {coat_words(coat)}; {place_words(coat)}\n"
    text += "".join(f"Taken for granted: {words}\n" for words in last.assumed)
    return {"title": plan.title, "passages": rows, "assumed": list(last.assumed)}, text


def _listed() -> tuple[Any, str]:
    rows = [
        {
            "name": each.id,
            "title": each.title,
            "asks": {q.key: list(q.answers) or "a colour" for q in each.questions},
        }
        for each in TEMPLATES
    ]
    text = "".join(
        f"{each.id}: {each.words}; asks {', '.join(q.key for q in each.questions)}\n"
        for each in TEMPLATES
    )
    return rows, text
