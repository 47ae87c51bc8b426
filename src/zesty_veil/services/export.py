"""A plan in open formats, by the ending of the file's name."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from zesty_veil.bench.air import Air
from zesty_veil.bench.steps import steps
from zesty_veil.errors import InputError
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.colours import samples
from zesty_veil.exchange.cxf import write_cxf
from zesty_veil.exchange.palette import write_gpl
from zesty_veil.exchange.png import ribbons, write_png
from zesty_veil.exchange.tables import colours_table, steps_table
from zesty_veil.files import write_atomically
from zesty_veil.plan.fileformat import file_schema
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

# By ending, the longest first: what it is, and what makes it.
FORMATS: dict[str, tuple[str, Callable[[Plan], bytes]]] = {
    ".colours.csv": ("colours along every passage", lambda plan: colours_table(plan).encode()),
    ".csv": ("every coat as a line", lambda plan: steps_table(plan, Air()).encode()),
    ".md": ("numbered steps", lambda plan: steps(plan).encode()),
    ".gpl": ("a palette", lambda plan: write_gpl(plan.title, samples(plan)).encode()),
    ".cgats": (
        "colours with spectra",
        lambda plan: write_cgats(plan.title, plan.light, samples(plan)).encode(),
    ),
    ".cxf": (
        "colours with spectra",
        lambda plan: write_cxf(plan.title, plan.light, samples(plan)),
    ),
    ".p3.png": (
        "ribbons as a picture for wide-gamut screens",
        lambda plan: write_png(ribbons(plan, wide=True), wide=True),
    ),
    ".png": ("ribbons as a picture", lambda plan: write_png(ribbons(plan))),
    ".schema.json": ("the JSON Schema of plans", lambda plan: file_schema()),
}


def write_export(plan: Plan, path: Path) -> None:
    """Write a plan in the format that a file's name asks for.

    Raises
    ------
    InputError, FileError
        With one sentence; nothing is half-written then.
    """
    for ending, (_, make) in FORMATS.items():
        if path.name.casefold().endswith(ending):
            write_atomically(path, make(plan))
            return
    raise InputError(
        tr("{0} does not end in a format that is known; use one of {1}.").format(
            path.name, ", ".join(FORMATS)
        )
    )
