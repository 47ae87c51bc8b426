"""The query that finds records by words: an index of all letters where there is one."""

from __future__ import annotations

_LETTERS = 3  # words as long as this are in the index


def query_for(words: str, indexed: bool) -> tuple[str, list[str]]:
    """Return the query for the numbers that some words are in, and what stands for its marks."""
    parts = words.casefold().split()
    long = [word for word in parts if len(word) >= _LETTERS] if indexed else []
    given = []
    if long:
        quoted = ('"' + word.replace('"', '""') + '"' for word in long)
        given.append(" AND ".join(quoted))
    match = "SELECT rowid FROM found WHERE found MATCH ?"
    rest = [word for word in parts if word not in long]
    if not rest:
        return (match if long else ""), given
    conditions = [f"number IN ({match})"] if long else []
    for word in rest:
        conditions.append("text LIKE ? ESCAPE '\\'")
        for letter in "\\%_":
            word = word.replace(letter, "\\" + letter)  # noqa: PLW2901
        given.append(f"%{word}%")
    return f"SELECT number FROM listing WHERE {' AND '.join(conditions)}", given
