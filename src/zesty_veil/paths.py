"""Where the program keeps its files: the painter's data, and the state of this machine."""

from __future__ import annotations

import hashlib
from pathlib import Path

from platformdirs import user_data_path, user_state_path

_NAME = "zesty-veil"


def log_path() -> Path:
    """Return the log's file."""
    return user_data_path(_NAME) / "log.sqlite"


def state_folder() -> Path:
    """Return the folder of what is kept of this machine's windows."""
    return user_state_path(_NAME)


def recent_path() -> Path:
    """Return the file of which plans were opened last."""
    return state_folder() / "recent.json"


def preferences_path() -> Path:
    """Return the file of how the window looks."""
    return state_folder() / "window.json"


def unsaved_folder() -> Path:
    """Return the folder of work that is not saved."""
    return state_folder() / "unsaved"


def sitting_path(plan: Path | None, title: str) -> Path:
    """Return the file of a plan's sitting: by the plan's own file, or by its title if it has none.

    A name of a fixed length tells nothing of the plan, and is none that a file may not have.
    """
    what = f"unsaved {title}" if plan is None else str(plan.resolve())
    digest = hashlib.sha256(what.encode(errors="surrogateescape")).hexdigest()[:24]
    return state_folder() / "sittings" / f"{digest}.json"


def one_sitting_path() -> Path:
    """Return where older programs kept the one sitting that they knew."""
    return state_folder() / "sitting.json"


def texts_path() -> Path:
    """Return the file of a translation that the painter put there."""
    return user_data_path(_NAME) / "texts.json"


def fault_path() -> Path:
    """Return the file of the program's own errors."""
    return state_folder() / "faults.log"
