"""What a window keeps between starts: theme, size of type, its own size, the station. No Qt."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

import msgspec

from zesty_veil.errors import FileError
from zesty_veil.files import is_there, make_private, put_aside, read_limited, write_atomically
from zesty_veil.paths import preferences_path

ThemeChoice = Literal["follow", "day", "night"]
THEME_CHOICES: tuple[ThemeChoice, ...] = get_args(ThemeChoice)
# Below this, words would be cut off; in pixels.
LEAST_WINDOW = 1160, 640
# How large type and controls are, in percent.
ZOOMS = (80, 100, 120, 140, 160)
_MOST_BYTES = 20_000
_Side = Annotated[int, msgspec.Meta(ge=200, le=20_000)]


class Preferences(msgspec.Struct, frozen=True):
    """What somebody has chosen, and how the window stood when it was last closed."""

    theme: ThemeChoice = "follow"
    zoom: Annotated[int, msgspec.Meta(ge=min(ZOOMS), le=max(ZOOMS))] = 100
    width: _Side = 1280
    height: _Side = 800
    maximised: bool = False
    station: str = "section"


def kept_preferences() -> Preferences:
    """Return what was kept; what is missing or damaged is as at the first start."""
    path = preferences_path()
    if not is_there(path):
        return Preferences()
    try:
        return msgspec.json.decode(read_limited(path, _MOST_BYTES, "preferences"), type=Preferences)
    except (FileError, msgspec.DecodeError, UnicodeDecodeError):
        # Nobody can mend it by hand, and nothing of the work is in it.
        put_aside(path)
        return Preferences()


def keep_preferences(wanted: Preferences) -> None:
    """Write preferences down; raises FileError."""
    make_private(preferences_path().parent)
    write_atomically(preferences_path(), msgspec.json.encode(wanted), private=True)


def zoom_fits(zoom: int, started: int, screen: tuple[int, int]) -> bool:
    """Tell whether the smallest window fits a screen at a size of everything.

    Parameters
    ----------
    zoom
        The size asked about, in percent.
    started
        The size that the program was started with, in percent.
    screen
        Width and height that a window has, in pixels as they are now.

    >>> zoom_fits(160, 100, (1920, 1050)), zoom_fits(160, 100, (1366, 740))
    (True, False)
    """
    return all(
        side * started / zoom >= least for side, least in zip(screen, LEAST_WINDOW, strict=True)
    )
