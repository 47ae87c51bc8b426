"""The program: the command line, and the window where a job asks for one."""

from __future__ import annotations

import argparse
import sys

from zesty_veil.cli import main as cli
from zesty_veil.memory import keep_freed_memory


def main() -> int:
    """Run the program; return the exit code."""
    keep_freed_memory()
    return cli.run(window=_window)


def _window(chosen: argparse.Namespace) -> int:
    # Qt is imported only when a window is wanted: the other jobs must run where Qt cannot.
    from zesty_veil.desktop.shell.start import start  # noqa: PLC0415

    return start(chosen)


if __name__ == "__main__":
    sys.exit(main())
