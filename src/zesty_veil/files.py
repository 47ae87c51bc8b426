"""Files of the painter's: read to a limit, written whole or not at all.

Only regular files are read, and only regular files are replaced: a pipe may never end, and a
device that was replaced by a file is gone for the whole machine.
"""

from __future__ import annotations

import os
import re
import secrets
import shutil
import stat
import time
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from zesty_veil.errors import FileError
from zesty_veil.tr import tr

# A leftover of a program that died in the middle of writing; nobody writes for so long.
_LEFT_OVER_S = 600.0
_MOST_NAME_BYTES = 200
_PIPE_BUFFER = 65536
_LEAST_READ = 65536
_TOKEN = re.compile(r"[0-9a-f]{12}")


def reason(error: OSError) -> str:
    """Return what the system says went wrong, as the middle of a sentence."""
    return (error.strerror or type(error).__name__).lower()


def is_there(path: Path) -> bool:
    """Tell whether something is there that can be looked at."""
    try:
        path.stat()
    except (OSError, ValueError):
        return False
    return True


def missing(path: Path) -> bool:
    """Tell whether nothing is there; of what may not be looked at nobody knows, so it is not."""
    try:
        path.stat()
    except (FileNotFoundError, NotADirectoryError):
        return True
    except (OSError, ValueError):
        return False
    return False


def read_limited(path: Path, most_bytes: int, what: str) -> bytes:
    """Return the bytes of a regular file.

    Parameters
    ----------
    path
        The file; a link to one is followed.
    most_bytes
        How many it may have.
    what
        What it should be, for sentences: "plan", "card", "rack".

    Raises
    ------
    FileError
        If it cannot be read, is no regular file, or is larger.
    """
    try:
        # Without waiting: opening a pipe that nobody writes to would never return.
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except (OSError, ValueError) as error:
        why = reason(error) if isinstance(error, OSError) else "its name holds a zero byte"
        raise FileError(tr("{0} cannot be read: {1}; check the path.").format(path, why)) from None
    try:
        # A folder is opened as well, but never as a file: its handle is closed here.
        status = os.fstat(handle)
        if not stat.S_ISREG(status.st_mode):
            os.close(handle)
            raise FileError(
                tr("{0} isn't a file that can be read; choose a {1} file.").format(path, what)
            )
        with os.fdopen(handle, "rb") as file:
            # A reader makes room for all that it is asked for before it reads; so no more is asked
            # for than there is, and one byte that would tell of more.
            raw = file.read(min(max(status.st_size, _LEAST_READ), most_bytes) + 1)
    except OSError as error:
        raise FileError(
            tr("{0} cannot be read: {1}; check the path.").format(path, reason(error))
        ) from None
    if len(raw) > most_bytes:
        most = f"{most_bytes / 1e6:g} MB" if most_bytes >= 1e5 else f"{most_bytes / 1e3:g} kB"
        raise FileError(
            tr("{0} is over {1}, which no {2} is; open another file.").format(path, most, what)
        )
    return raw


def write_atomically(
    path: Path, raw: bytes | Iterable[bytes], private: bool = False, flushed: bool = True
) -> None:
    """Write bytes so that the file is always whole: the old one or the new one.

    They go to a temporary file beside it, are flushed to the disk, and take its name; a link is
    written through. A file with several names (hard links) keeps them all: it is overwritten once
    the whole lies beside it. Devices for letters and pipes that are read are written to.

    Parameters
    ----------
    path, raw
        Where, and what: bytes, or pieces of them as they are made.
    private
        Whether nobody else may read a file that was not there before.
    flushed
        Whether to wait until it lies on the disk; without, a power cut may lose it.

    Raises
    ------
    FileError
        If that cannot be done; a regular file is then as it was.
    """
    pieces = (raw,) if isinstance(raw, bytes) else raw
    try:
        there = _status(path)
        if there is not None and not stat.S_ISREG(there.st_mode):
            _pour(path, there.st_mode, pieces)
            return
        target = path.resolve()
        if there is not None and not os.access(target, os.W_OK):
            raise FileError(
                tr("{0} is write-protected; save it under another name or place.").format(path)
            )
        _replace(target, there, pieces, private, flushed)
    except (OSError, RuntimeError, ValueError) as error:
        # RuntimeError: links that lead round in a circle. ValueError: a zero byte in the name.
        why = reason(error) if isinstance(error, OSError) else "its name leads nowhere"
        raise FileError(
            tr("{0} cannot be written: {1}; save it under another name or place.").format(path, why)
        ) from None


def make_private(folder: Path) -> None:
    """Make a folder of the program's own, and those above it; nobody else may look into it.

    Raises
    ------
    FileError
        If it cannot be made.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        if stat.S_IMODE(folder.stat().st_mode) & 0o077:
            folder.chmod(0o700)
    except (OSError, ValueError) as error:
        why = reason(error) if isinstance(error, OSError) else "its name leads nowhere"
        raise FileError(
            tr(
                "The folder {0} cannot be made: {1}; make room for it, or check who owns it."
            ).format(folder, why)
        ) from None


def put_aside(path: Path) -> Path | None:
    """Rename a file that cannot be used, so that it is neither read again nor lost.

    Return its new name, or None if it could not be renamed.
    """
    for number in range(1, 1000):
        aside = path.with_name(f"{path.name}.damaged-{number}")
        if not os.path.lexists(aside):
            try:
                path.rename(aside)
            except OSError:
                return None
            return aside
    return None


def _status(path: Path) -> os.stat_result | None:
    try:
        return path.stat()
    except FileNotFoundError:
        return None


def _pour(path: Path, mode: int, pieces: Iterable[bytes]) -> None:
    """Write to what is there, if it takes letters: a terminal, a null device, a pipe that is read.

    Raises FileError, OSError.
    """
    if not (stat.S_ISCHR(mode) or stat.S_ISFIFO(mode)):
        raise FileError(
            tr("{0} is no file that can be written; give the name of a file.").format(path)
        )
    # Without waiting: a pipe that nobody reads would never open.
    handle = os.open(path, os.O_WRONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    try:
        os.set_blocking(handle, True)
        for raw in pieces:
            piece = memoryview(raw)
            while piece:
                piece = piece[os.write(handle, piece[:_PIPE_BUFFER]) :]
    finally:
        os.close(handle)


def _replace(
    target: Path,
    there: os.stat_result | None,
    pieces: Iterable[bytes],
    private: bool,
    flushed: bool,
) -> None:
    stem = target.name.encode(errors="surrogateescape")[:_MOST_NAME_BYTES]
    head = f".{stem.decode(errors='ignore')}.veil."
    temporary = target.with_name(head + secrets.token_hex(6))
    try:
        _write_new(temporary, pieces, there, 0o600 if private else 0o666, flushed)
        if there is not None and there.st_nlink > 1:
            # To take the name would part it from its other names.
            _overwrite(target, temporary)
            temporary.unlink()
        else:
            os.replace(temporary, target)
    except BaseException:
        with suppress(OSError):
            temporary.unlink(missing_ok=True)
        raise
    if flushed:
        _flush_folder(target.parent)
    _clear(target.parent, head)


def _write_new(
    path: Path, pieces: Iterable[bytes], like: os.stat_result | None, mode: int, flushed: bool
) -> None:
    # The system takes the painter's umask off the mode here, for this file alone.
    handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, mode)
    with os.fdopen(handle, "wb") as file:
        if like is not None:
            os.fchmod(handle, stat.S_IMODE(like.st_mode))
            if os.geteuid() == 0:
                os.fchown(handle, like.st_uid, like.st_gid)
        for raw in pieces:
            file.write(raw)
        file.flush()
        if flushed:
            os.fsync(handle)


def _overwrite(target: Path, whole: Path) -> None:
    with target.open("r+b") as file, whole.open("rb") as source:
        shutil.copyfileobj(source, file)
        file.truncate()
        file.flush()
        os.fsync(file.fileno())


def _flush_folder(folder: Path) -> None:
    """Have the new name itself on the disk; without this a power cut may bring the old one back."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        with suppress(OSError):  # some network folders cannot, and have written all the same
            os.fsync(handle)
    finally:
        os.close(handle)


def _clear(folder: Path, head: str) -> None:
    """Clear what programs that died left beside a file."""
    with suppress(OSError), os.scandir(folder) as entries:
        for entry in entries:
            ours = entry.name.startswith(head) and _TOKEN.fullmatch(entry.name, len(head))
            if ours and time.time() - entry.stat(follow_symlinks=False).st_mtime > _LEFT_OVER_S:
                os.unlink(entry.path)
