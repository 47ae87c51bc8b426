"""Keeping freed memory at hand, because arrays of some hundred kilobytes come and go all the time.

The C library of most Linux systems gives such blocks back to the kernel as soon as they are freed
and fetches fresh, zeroed pages the next time, which takes longer than the arithmetic on them.
"""

from __future__ import annotations

import ctypes

_M_TRIM_THRESHOLD, _M_MMAP_THRESHOLD = -1, -3
_KEEP_BYTES = 64 * 1024 * 1024


def keep_freed_memory() -> bool:
    """Ask the C library to keep up to 64 MB; False where it cannot be asked (not glibc)."""
    try:
        mallopt = ctypes.CDLL(None).mallopt
    except (OSError, AttributeError):
        return False
    # Both, as setting one alone switches off the library's own adjustment of the other.
    asked = [mallopt(what, _KEEP_BYTES) for what in (_M_TRIM_THRESHOLD, _M_MMAP_THRESHOLD)]
    return all(asked)
