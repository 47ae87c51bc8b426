"""The plan's file as a worker reads and writes it. No Qt here, and nothing of the window's state.

What a window knows of its file goes in, and what it knows afterwards comes out.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import NamedTuple

from zesty_veil.errors import WrittenElsewhereError
from zesty_veil.files import write_atomically
from zesty_veil.plan.fileformat import (
    MOST_PLAN_BYTES,
    SavedLook,
    checked_dump,
    parse_file,
    read_plan_bytes,
)
from zesty_veil.plan.model import Plan
from zesty_veil.plan.openfile import Stamp, holder, stamp, written_since
from zesty_veil.services.looks import Moved, looks_of, moved_looks
from zesty_veil.tr import tr


class Read(NamedTuple):
    """A plan as it was read."""

    path: Path
    plan: Plan
    stamp: Stamp | None
    earlier: bool  # whether an earlier version wrote the file
    looks: tuple[SavedLook, ...]  # how it looked when it was saved
    moved: tuple[Moved, ...]  # what looks otherwise now


class Own(NamedTuple):
    """What a window knows of its plan's file: where, if it has one, and how it was seen last."""

    path: Path | None
    stamp: Stamp | None

    def written_elsewhere(self) -> bool:
        """Tell whether the file holds something that was never seen here."""
        return self.path is not None and written_since(self.path, self.stamp, MOST_PLAN_BYTES)

    def state(self) -> tuple[int, ...]:
        """Return what tells one state of the file from another, without reading it."""
        try:
            found = self.path.stat() if self.path is not None else None
        except (OSError, ValueError):
            found = None
        return () if found is None else (found.st_ino, found.st_size, found.st_mtime_ns)


def read_plan(path: Path) -> Read:
    """Return a file's plan; raises PlanFileError."""
    raw = read_plan_bytes(path)
    file = parse_file(raw, str(path))
    return Read(path, file.plan, stamp(path, raw), file.earlier, file.looks, moved_looks(file))


def write_plan(
    plan: Plan, path: Path, own: Own, over: bool = False, last: Own | None = None
) -> Own:
    """Write a plan to a file, and return what is then known of it.

    `last` is what this window wrote there last: it may not have heard of that yet.

    Raises
    ------
    InputError
        If it could not be opened again.
    FileError
        If it cannot be written; nothing changes then.
    WrittenElsewhereError
        Unless `over`, if this plan's own file holds something that was never seen here.
    """
    ours = last is not None and not last.written_elsewhere()
    if not over and not ours and own.written_elsewhere() and _same(path, own.path):
        raise WrittenElsewhereError(
            tr("{0} was saved by somebody else since it was opened here{1}.").format(
                path.name, _who(path)
            )
        )
    raw = checked_dump(plan, looks_of(plan))
    write_atomically(path, raw)
    return Own(path, stamp(path, raw))


def _same(one: Path, other: Path | None) -> bool:
    return other is not None and one.resolve() == other.resolve()


def _who(path: Path) -> str:
    found = holder(path)
    return (
        tr(" ({0} has it open)").format(found.words)
        if found is not None and found.process != os.getpid()
        else ""
    )
