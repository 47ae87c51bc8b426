"""Keeping freed memory at hand, because arrays of some hundred kilobytes come and go all the time.

The C library of most Linux systems gives such blocks back to the kernel as soon as they are freed
and fetches fresh, zeroed pages the next time, which takes longer than the arithmetic on them.
"""

from __future__ import annotations

import ctypes
import sys

_M_TRIM_THRESHOLD, _M_MMAP_THRESHOLD, _M_ARENA_MAX = -1, -3, -8
_KEEP_BYTES = 64 * 1024 * 1024
# Each thread gets an arena of its own, up to eight a processor, and each would keep as much. One is
# enough, as the interpreter lets its threads work by turns anyway.
_ARENAS = 1
_SWITCH_S = 0.0002


def let_the_window_breathe() -> None:
    """Have workers give the interpreter back soon when the window wants it.

    Every call into the toolkit lets it go and must get it again, from a worker in the middle of
    its arithmetic; by Python's usual 5 ms a time, drawing a section of some hundred lines takes
    seconds. Workers lose about a seventh of their speed while both want it, and nothing else.
    """
    sys.setswitchinterval(_SWITCH_S)


def give_back() -> bool:
    """Hand memory that is kept but not in use back to the system; False where it cannot be done.

    For moments in which nobody waits: what is needed again must be fetched again.
    """
    try:
        trim = ctypes.CDLL(None).malloc_trim
    except (OSError, AttributeError):
        return False
    return bool(trim(0))


def keep_freed_memory() -> bool:
    """Ask the C library to keep up to 64 MB; False where it cannot be asked (not glibc).

    To be called before any thread is begun.
    """
    try:
        mallopt = ctypes.CDLL(None).mallopt
    except (OSError, AttributeError):
        return False
    # Both, as setting one alone switches off the library's own adjustment of the other.
    asked = [mallopt(what, _KEEP_BYTES) for what in (_M_TRIM_THRESHOLD, _M_MMAP_THRESHOLD)]
    asked.append(mallopt(_M_ARENA_MAX, _ARENAS))
    return all(asked)
