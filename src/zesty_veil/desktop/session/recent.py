"""The files opened last, remembered between runs. No Qt here."""

from __future__ import annotations

import os
from pathlib import Path
from urllib.parse import unquote_to_bytes

import msgspec

from zesty_veil.errors import FileError
from zesty_veil.files import is_there, make_private, put_aside, read_limited, write_atomically
from zesty_veil.paths import recent_path

_MOST = 8
_MOST_BYTES = 100_000
_URI = "file://"


def recent() -> tuple[Path, ...]:
    """Return the files opened last, newest first; those that are gone are left out."""
    if not is_there(recent_path()):
        return ()
    try:
        raw = read_limited(recent_path(), _MOST_BYTES, "list of files")
        names = msgspec.json.decode(raw, type=list[str])
    except (FileError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        # Nothing readable: an empty list is the whole truth, and the next one is written anew.
        put_aside(recent_path())
        return ()
    return tuple(path for path in map(_path, names[:_MOST]) if _there(path))


def remember(path: Path) -> bool:
    """Put a file first; return False if that cannot be written, which loses only the memory."""
    path = path.resolve()
    names = [_name(path), *(_name(p) for p in recent() if p != path)]
    try:
        make_private(recent_path().parent)
        # The window does not wait for the disk: what a power cut would lose is a convenience.
        raw = msgspec.json.encode(names[:_MOST])
        write_atomically(recent_path(), raw, private=True, flushed=False)
    except FileError:
        return False
    return True


def _name(path: Path) -> str:
    """Return a path as text; one that is no text (old file systems have such) as a URI."""
    try:
        str(path).encode()
    except UnicodeEncodeError:
        return path.as_uri()
    return str(path)


def _path(name: str) -> Path:
    if name.startswith(_URI):
        return Path(os.fsdecode(unquote_to_bytes(name.removeprefix(_URI))))
    return Path(name)


def _there(path: Path) -> bool:
    try:
        return path.is_file()
    except (OSError, ValueError):  # a folder that may not be looked into, or a name that none has
        return False
