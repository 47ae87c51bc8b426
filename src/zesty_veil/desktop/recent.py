"""The files opened last, remembered between runs. No Qt here."""

from __future__ import annotations

from pathlib import Path

import msgspec
from platformdirs import user_state_path

from zesty_veil.errors import FileError
from zesty_veil.files import make_private, write_atomically

_MOST = 8


def _store() -> Path:
    return user_state_path("zesty-veil") / "recent.json"


def recent() -> tuple[Path, ...]:
    """Return the files opened last, newest first; those that are gone are left out."""
    try:
        names = msgspec.json.decode(_store().read_bytes(), type=list[str])
    except (OSError, msgspec.DecodeError):
        # Nothing remembered, or nothing readable: an empty list is the whole truth.
        return ()
    return tuple(path for path in map(Path, names[:_MOST]) if path.is_file())


def remember(path: Path) -> bool:
    """Put a file first; return False if that cannot be written, which loses only the memory."""
    path = path.resolve()
    names = [str(path), *(str(p) for p in recent() if p != path)]
    try:
        make_private(_store().parent)
        write_atomically(_store(), msgspec.json.encode(names[:_MOST]), private=True)
    except FileError:
        return False
    return True
