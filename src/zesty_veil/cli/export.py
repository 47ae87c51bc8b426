"""The export job: arguments, and what is said of it."""

from __future__ import annotations

import argparse
from pathlib import Path

from zesty_veil.aside import aside
from zesty_veil.plan.fileformat import load
from zesty_veil.services.export import FORMATS, write_export


def export_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of an export."""
    job.add_argument("plan", type=Path, metavar="PLAN.veil")
    endings = "; ".join(f"{ending}: {words}" for ending, (words, _) in FORMATS.items())
    job.add_argument("-o", "--out", type=Path, required=True, metavar="FILE", help=endings)


def exported(chosen: argparse.Namespace) -> str:
    """Write a plan in the format that the file's name asks for, and say so.

    Raises
    ------
    InputError, FileError
        With one sentence.
    """
    write_export(load(chosen.plan, aside), chosen.out)
    return f"Wrote {chosen.out}\n"
