"""The shipped help: a page for each station, and the glossary. No Qt here."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache
from typing import NamedTuple

from zesty_veil import data

GLOSSARY = "glossary"
# In the order of work; each is a file of that name.
PAGES = ("start", "section", "light", "match", "sitting", "rack", "log", "guess", GLOSSARY)
_TERM = re.compile(r"^- \*\*(.+?)\*\*: (.+)$", re.MULTILINE)
_MARKS = re.compile(r"[*#>`]|!\[[^\]]*\]\([^)]*\)")
_AROUND = 60


class Found(NamedTuple):
    """A page of the help that has some words, and what stands round the first of them."""

    page: str
    title: str
    words: str


@cache
def help_text(page: str) -> str:
    """Return a page as Markdown; raises KeyError where there is none."""
    return data.read(f"help/{page}.md").decode("utf-8")


def title_of(page: str) -> str:
    """Return what a page is called.

    >>> title_of("section")
    'Section'
    """
    return help_text(page).partition("\n")[0].lstrip("# ").strip()


@cache
def glossary() -> dict[str, str]:
    """Return what each term means, by the term in small letters."""
    return dict(_TERM.findall(help_text(GLOSSARY)))


@cache
def _forms() -> tuple[tuple[re.Pattern[str], str], ...]:
    """Return how each term is found in a text, with its plural; longer terms first."""
    terms = sorted(glossary(), key=len, reverse=True)
    return tuple(
        (re.compile(rf"(?<![\w-]){re.escape(term)}(?:e?s)?(?![\w-])", re.IGNORECASE), term)
        for term in terms
    )


def terms_in(text: str, most: int = 2) -> tuple[str, ...]:
    """Return the terms of the glossary that stand in a text, in the order in which they stand.

    >>> terms_in("Feather mm")
    ('feather',)
    >>> terms_in("3 passes of a thin glaze")
    ('pass', 'glaze')
    """
    found: dict[str, int] = {}
    taken: list[tuple[int, int]] = []
    for form, term in _forms():
        match = form.search(text)
        if match and not any(a < match.end() and match.start() < b for a, b in taken):
            taken.append(match.span())
            found[term] = match.start()
    return tuple(sorted(found, key=found.__getitem__))[:most]


def explained(text: str, most: int = 2) -> str:
    """Return what the terms in a text mean, a line each; nothing if it has none."""
    return "\n".join(f"{term}: {glossary()[term]}" for term in terms_in(text, most))


def search(words: str) -> Iterator[Found]:
    """Yield the pages that have all the words, those in whose title they stand first."""
    wanted = words.casefold().split()
    if not wanted:
        return
    hits = []
    for page in PAGES:
        plain = _MARKS.sub("", help_text(page))
        low = plain.casefold()
        if all(word in low for word in wanted):
            at = low.index(wanted[0])
            around = " ".join(plain[max(at - _AROUND, 0) : at + _AROUND].split())
            hits.append((wanted[0] not in title_of(page).casefold(), page, around))
    for _, page, around in sorted(hits, key=lambda hit: hit[0]):
        yield Found(page, title_of(page), around)
