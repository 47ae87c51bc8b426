"""All checks of the project, as `./veil test` runs them: style, types, rooms, tests.

Arguments are handed to pytest, and then only the tests run. Works without a display and without
a network.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
CHECKS = (
    ("ruff check", ["-m", "ruff", "check", "--quiet", "src", "tests", "tools"]),
    ("ruff format", ["-m", "ruff", "format", "--quiet", "--check", "src", "tests", "tools"]),
    ("types", ["-m", "mypy", "--no-error-summary"]),
    ("rooms", ["-m", "importlinter.cli", "lint"]),
)


def main() -> int:
    """Run everything, go on after a failure, and return 1 if there was one."""
    # Two test processes on two processors: threads of theirs would only wait for each other.
    own = {"QT_QPA_PLATFORM": "offscreen", "OPENBLAS_NUM_THREADS": "1"}
    environment = {**os.environ, **own}
    failed = []
    if len(sys.argv) == 1:
        for name, command in CHECKS:
            start = time.monotonic()
            code = _run([sys.executable, *command], environment)
            print(f"{name}: {'ok' if code == 0 else 'FAILED'} ({time.monotonic() - start:.1f} s)")
            if code:
                failed.append(name)
    sys.stdout.flush()
    # Files stay together, as their tests share what takes long to work out.
    shared = ["-n", str(min(os.cpu_count() or 1, 4)), "--dist", "loadfile"]
    tests = [sys.executable, "-m", "pytest", "-q", *(sys.argv[1:] or shared)]
    if _run(tests, environment):
        failed.append("tests")
    if failed:
        print(f"Failed: {', '.join(failed)}")
    return 1 if failed else 0


def _run(command: list[str], environment: dict[str, str]) -> int:
    return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


if __name__ == "__main__":
    sys.exit(main())
