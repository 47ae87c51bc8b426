"""A plan's file while it is open: whether somebody else has written it, and who else has it open.

Two windows, or two programs, may work on one file. Neither is kept from it; but whoever saves
second is asked first, and whoever opens second is told who was first.
"""

from __future__ import annotations

import fcntl
import getpass
import hashlib
import os
import socket
import time
from contextlib import suppress
from pathlib import Path
from typing import NamedTuple

import msgspec

from zesty_veil.errors import FileError
from zesty_veil.files import read_limited

_MOST_LOCK_BYTES = 4096
# A lock from another machine cannot be tried; one this old was left by a crash.
_OLD_S = 24 * 3600.0


class Stamp(NamedTuple):
    """What a file was when it was read or written: its status, and a digest of its bytes."""

    device: int
    inode: int
    size: int
    written_ns: int
    digest: bytes


def stamp(path: Path, raw: bytes) -> Stamp | None:
    """Return the stamp of a file that holds some bytes; None if it cannot be looked at."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    digest = hashlib.sha256(raw).digest()
    return Stamp(found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns, digest)


def written_since(path: Path, before: Stamp | None, most_bytes: int) -> bool:
    """Tell whether a file holds something else than it did; one that is gone does not.

    Its bytes are read only where its status differs: a copy put back in its place is no change.
    """
    try:
        found = path.stat()
    except (OSError, ValueError):
        return False
    if before is None:
        return True
    if (found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns) == before[:4]:
        return False
    try:
        raw = read_limited(path, most_bytes, "plan")
    except FileError:
        return True
    return hashlib.sha256(raw).digest() != before.digest


class Holder(msgspec.Struct, frozen=True):
    """Who has a plan open: kept as JSON in a file beside it."""

    user: str
    host: str
    process: int
    since: float

    @property
    def words(self) -> str:
        """Who, where and since when, as part of a sentence."""
        where = "another window" if self.host == socket.gethostname() else self.host
        try:
            clock = time.strftime("%H:%M", time.localtime(self.since))
        except (OverflowError, ValueError, OSError):  # whoever wrote it had no such clock
            return f"{self.user} in {where}"
        return f"{self.user} in {where} since {clock}"


class OpenLock:
    """A file beside a plan that says who has it open; it goes when the plan is closed.

    It is advice: a folder that cannot be written to has none, and nothing is refused by it.
    """

    def __init__(self) -> None:
        self._handle: int | None = None
        self._path: Path | None = None

    def take(self, plan: Path) -> Holder | None:
        """Say that this window has a plan open; return who else has, if anybody."""
        self.let_go()
        path = lock_path(plan)
        # A lock that was let go between opening and locking it is no longer the one in the folder.
        for _ in range(8):
            try:
                handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC | os.O_NOFOLLOW, 0o644)
            except OSError:
                return None
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                os.close(handle)
                return holder(plan) or Holder("somebody", socket.gethostname(), 0, time.time())
            if _same(handle, path):
                break
            os.close(handle)
        else:
            return None
        before = _read(path)
        if before is not None and _elsewhere(before):
            os.close(handle)
            return before
        me = Holder(_user(), socket.gethostname(), os.getpid(), time.time())
        with suppress(OSError):
            os.ftruncate(handle, 0)
            os.pwrite(handle, msgspec.json.encode(me), 0)
        self._handle, self._path = handle, path
        return None

    @property
    def held(self) -> bool:
        """Whether it is this window that has the plan open first."""
        return self._handle is not None

    def let_go(self) -> None:
        """Close what was taken."""
        if self._handle is not None and self._path is not None:
            with suppress(OSError):
                if _same(self._handle, self._path):
                    self._path.unlink()
            os.close(self._handle)
        self._handle = self._path = None


def lock_path(plan: Path) -> Path:
    """Return where it is said who has a plan open."""
    plan = Path(os.path.realpath(plan))
    return plan.with_name(f".{plan.name[:200]}.lock")


def holder(plan: Path) -> Holder | None:
    """Return who a plan's lock names, if it names anybody."""
    return _read(lock_path(plan))


def _read(path: Path) -> Holder | None:
    try:
        return msgspec.json.decode(read_limited(path, _MOST_LOCK_BYTES, "lock"), type=Holder)
    except (FileError, msgspec.DecodeError, UnicodeDecodeError):
        return None


def _elsewhere(found: Holder) -> bool:
    """Tell whether a lock that could be taken is held all the same, on another machine."""
    return found.host != socket.gethostname() and abs(time.time() - found.since) < _OLD_S


def _same(handle: int, path: Path) -> bool:
    try:
        one, other = os.fstat(handle), path.stat()
    except OSError:
        return False
    return (one.st_dev, one.st_ino) == (other.st_dev, other.st_ino)


def _user() -> str:
    try:
        return getpass.getuser()
    except (OSError, KeyError):  # a user without a name in the system's table
        return f"user {os.getuid()}"
