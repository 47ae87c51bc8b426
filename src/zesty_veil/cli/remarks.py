"""The command line's remarks on a plan: the same that stand in the window."""

from __future__ import annotations

import argparse
from typing import Any

from zesty_veil.advise.refined import refined
from zesty_veil.advise.remarks import remarks
from zesty_veil.aside import aside
from zesty_veil.log.athand import known_at_hand, paints_at_hand
from zesty_veil.plan.fileformat import load


def remarked(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return the remarks on a plan, for JSON and as text.

    Raises
    ------
    InputError, PaintError, FileError, LogError
        With one sentence.
    """
    plan, paints = load(chosen.plan, aside), paints_at_hand()
    known, hand = known_at_hand()
    rows = [
        {
            "kind": remark.kind,
            "passage": passage.name,
            "coat": None if remark.coat is None else remark.coat + 1,
            "mm": None if remark.place is None else round(remark.place * passage.length_mm, 2),
            "number": round(remark.number, 4),
            "words": remark.words,
            "remedy": remark.remedy or None,
        }
        for i, passage in enumerate(plan.passages)
        for remark in (*refined(plan, i, known, hand), *remarks(plan, i, paints))
    ]
    text = ""
    for row in rows:
        remedy = f" Remedy: {row['remedy']}." if row["remedy"] else ""
        text += f"{row['passage']}: {row['words']}{remedy}\n"
    return rows, text or "No remarks.\n"
