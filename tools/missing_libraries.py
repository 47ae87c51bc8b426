"""Print the system libraries that Qt needs and this machine lacks, on one line; nothing if none.

`missing_libraries.py offscreen` asks only for what drawing without a display needs.
"""

from __future__ import annotations

import ctypes
import sys

ALWAYS = (
    "libEGL.so.1",
    "libGL.so.1",
    "libxkbcommon.so.0",
    "libdbus-1.so.3",
    "libfontconfig.so.1",
    "libfreetype.so.6",
    "libglib-2.0.so.0",
)
DISPLAY = (
    "libX11-xcb.so.1",
    "libxkbcommon-x11.so.0",
    "libxcb-cursor.so.0",
    "libxcb-render.so.0",
    "libxcb-shm.so.0",
    "libxcb-sync.so.1",
    "libxcb-xfixes.so.0",
    "libxcb-icccm.so.4",
    "libxcb-image.so.0",
    "libxcb-keysyms.so.1",
    "libxcb-randr.so.0",
    "libxcb-render-util.so.0",
    "libxcb-shape.so.0",
    "libxcb-xkb.so.1",
)


def missing(names: tuple[str, ...]) -> list[str]:
    """Return the libraries of these names that cannot be loaded."""
    out = []
    for name in names:
        try:
            ctypes.CDLL(name)
        except OSError:
            out.append(name)
    return out


if __name__ == "__main__":
    print(" ".join(missing(ALWAYS if "offscreen" in sys.argv[1:] else ALWAYS + DISPLAY)))
