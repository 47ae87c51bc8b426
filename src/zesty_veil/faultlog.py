"""Errors of the program itself, written down where they can be found again.

The log is a text file in the state folder that only its owner can read. It is bounded: when it is
full it becomes the old one, and the old one goes.
"""

from __future__ import annotations

import os
import threading
import time
import traceback
from collections.abc import Callable

from zesty_veil import __version__
from zesty_veil.errors import FileError, VeilError
from zesty_veil.files import is_there, make_private
from zesty_veil.paths import fault_path

_MOST_BYTES = 256 * 1024
_MOST_ENTRY = 16 * 1024
_writing = threading.Lock()


def write_down(error: BaseException, doing: str) -> str:
    """Write an error's traceback down; return one sentence that says so, and where it lies.

    `doing` is what was being done, for the log alone.
    """
    path = fault_path()
    trace = "".join(traceback.format_exception(error))
    moment = time.strftime("%Y-%m-%d %H:%M:%S")
    entry = f"{moment}  {__version__}  {doing}\n{trace[-_MOST_ENTRY:]}\n"
    raw = entry.encode(errors="backslashreplace")
    what = f"The program made an error ({type(error).__name__})"
    try:
        with _writing:
            make_private(path.parent)
            if is_there(path) and path.stat().st_size + len(raw) > _MOST_BYTES:
                path.replace(path.with_name("faults.old.log"))
            handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND | os.O_CLOEXEC, 0o600)
            with os.fdopen(handle, "ab") as file:
                file.write(raw)
    except (OSError, FileError):
        return f"{what}, which could not be written down; save the plan under another name."
    return f"{what}; what it was lies in {path}. Save the plan under another name to be safe."


def told(error: Exception, work: Callable[..., object] | str) -> Exception:
    """Return a failure as it can be told: a painter's own, or that the program made an error.

    That one's traceback is written down here, as it would be lost with its thread or process.
    """
    if isinstance(error, VeilError):
        return error
    return VeilError(
        write_down(
            error, work if isinstance(work, str) else getattr(work, "__qualname__", repr(work))
        )
    )
