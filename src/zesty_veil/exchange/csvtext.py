"""Lines of CSV (RFC 4180) whose cells no spreadsheet takes for formulas, and back.

A cell that begins with =, +, -, @ is reckoned by spreadsheets, and may open files and addresses. A
mark of text is put before it, as they do themselves; numbers stay numbers.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable

_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_NUMBER = re.compile(r"[-+]?\d+(\.\d*)?([eE][-+]?\d+)?%?")
_MARK = "'"


def row_of(cells: Iterable[object]) -> bytes:
    """Return some cells as one line of CSV, UTF-8."""
    out = io.StringIO()
    csv.writer(out).writerow([_defused(cell) for cell in cells])
    return out.getvalue().encode(errors="replace")


def table_of(rows: Iterable[Iterable[object]]) -> bytes:
    """Return rows of cells as CSV, UTF-8."""
    return b"".join(row_of(row) for row in rows)


def plain_cell(cell: str) -> str:
    """Return what stood in a cell before it was defused."""
    return cell[1:] if cell.startswith(_MARK) and cell[1:].startswith(_FORMULA) else cell


def _defused(cell: object) -> object:
    if not isinstance(cell, str) or not cell.startswith(_FORMULA) or _NUMBER.fullmatch(cell):
        return cell
    return _MARK + cell
