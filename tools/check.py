"""All checks of the project, as `./veil test` runs them: style, types, rooms, tests.

Arguments are handed to pytest, and then only the tests run. Works without a display and without
a network.
"""

from __future__ import annotations

import os
import subprocess
import sys
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
    # While the tests begin one after the other, there is a processor to spare for the rest.
    checks = _begun(environment) if len(sys.argv) == 1 else {}
    # Neighbours stay together, as tests of a file share what takes long to work out; who has
    # nothing left to do takes some of the other's.
    # One more than there are processors, for some tests wait for another process.
    shared = ["-n", str(min((os.cpu_count() or 1) + 1, 4)), "--dist", "worksteal"]
    tests = [sys.executable, "-m", "pytest", "-q", *(sys.argv[1:] or shared)]
    code = subprocess.run(tests, cwd=ROOT, env=environment, check=False).returncode
    failed = ["tests"] if code else []
    for name, check in checks.items():
        said, _ = check.communicate()
        print(f"{name}: {'FAILED' if check.returncode else 'ok'}\n{said}".rstrip())
        if check.returncode:
            failed.append(name)
    if failed:
        print(f"Failed: {', '.join(failed)}")
    return 1 if failed else 0


def _begun(environment: dict[str, str]) -> dict[str, subprocess.Popen[str]]:
    """Begin all that is no test, at once; what each says comes when it is asked for."""
    return {
        name: subprocess.Popen(
            [sys.executable, *command], cwd=ROOT, env=environment, text=True,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        )
        for name, command in CHECKS
    }  # fmt: skip


if __name__ == "__main__":
    sys.exit(main())
