"""Finding among many things by a few typed words. No Qt here."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple


class Entry(NamedTuple):
    """Something that can be found.

    kind : what it is, in a word. title : what it is called. beside : what else it is found by, and
    what stands beside it. what : of its kind, for whoever runs it.
    """

    kind: str
    title: str
    beside: str
    what: object


def ranked(entries: Sequence[Entry], words: str, most: int = 40) -> list[Entry]:
    """Return what has all the words, the likeliest first: in the title, at the start of a word.

    >>> things = [Entry("page", "Light", "", 1), Entry("command", "Highlight", "", 2)]
    >>> [one.title for one in ranked(things, "light")]
    ['Light', 'Highlight']
    """
    wanted = words.casefold().split()
    if not wanted:
        return list(entries[:most])
    scored = []
    for order, entry in enumerate(entries):
        title, beside = entry.title.casefold(), entry.beside.casefold()
        whole = f"{title} {beside} {entry.kind.casefold()}"
        if not all(word in whole for word in wanted):
            continue
        starts = [part for part in title.replace("-", " ").split() if part]
        score = sum(
            0 if any(part.startswith(word) for part in starts) else 1 if word in title else 2
            for word in wanted
        )
        scored.append((score, title != " ".join(wanted), order, entry))
    return [entry for *_, entry in sorted(scored, key=lambda one: one[:3])][:most]
