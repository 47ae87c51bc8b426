"""A real client of assistive technology looks at the real window; it must not die of that."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

HERE = Path(__file__).parent
_SYSTEM = "/usr/bin/python3"
_LAUNCHER = Path("/usr/libexec/at-spi-bus-launcher")
_INSIDE = """
{launcher} --launch-immediately >/dev/null 2>&1 & bus=$!
sleep 1
{python} -m zesty_veil demo >{log} 2>&1 & window=$!
timeout 240 {system} {client} >{said} 2>&1
echo "client $?" >>{log}
kill -0 $window 2>/dev/null && echo alive >>{log}
kill $window $bus 2>/dev/null
wait $window
"""


def _missing() -> str:
    """Return what is not installed here that a real client needs; '' if all is there."""
    programs = [name for name in ("Xvfb", "dbus-run-session") if shutil.which(name) is None]
    if not _LAUNCHER.exists():
        programs.append("at-spi2-core")
    asked = [_SYSTEM, "-c", "import gi; gi.require_version('Atspi', '2.0')"]
    if (
        not Path(_SYSTEM).exists()
        or subprocess.run(asked, capture_output=True, check=False).returncode
    ):
        programs.append("python3-gi with gir1.2-atspi-2.0")
    libraries = [sys.executable, str(HERE.parent / "tools/missing_libraries.py")]
    asked = subprocess.run(libraries, capture_output=True, text=True, check=False).stdout.split()
    return ", ".join([*programs, *asked])


@pytest.mark.skipif(bool(_missing()), reason=f"a screen reader needs, and has not: {_missing()}")
@contextmanager
def display(tmp_path: Path) -> Iterator[str]:
    """A display of its own, as soon as it answers."""
    shown, show = os.pipe()
    with (tmp_path / "display").open("w") as said:
        server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(show), "-noreset", "-ac", "-screen", "0", "1280x800x24"],
            pass_fds=(show,), stderr=said,
        )  # fmt: skip
    os.close(show)
    try:
        with os.fdopen(shown) as number:
            name = f":{number.readline().strip()}"
        assert name != ":", (tmp_path / "display").read_text()
        yield name
        assert server.poll() is None, (tmp_path / "display").read_text()
    finally:
        server.terminate()
        server.wait()


@pytest.mark.skipif(bool(_missing()), reason=f"a screen reader needs, and has not: {_missing()}")
def test_a_screen_reader_walks_through_everything(tmp_path: Path) -> None:
    log, said = tmp_path / "log", tmp_path / "said"
    script = _INSIDE.format(
        launcher=_LAUNCHER, python=sys.executable, system=_SYSTEM, log=log, said=said,
        client=HERE / "atspiclient.py",
    )  # fmt: skip
    with display(tmp_path) as name:
        environment = {
            **os.environ, "DISPLAY": name, "QT_QPA_PLATFORM": "xcb",
            "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1",
        }  # fmt: skip
        run = ["dbus-run-session", "--", "bash", "-c", script]
        subprocess.run(run, env=environment, check=False, capture_output=True)
    told = log.read_text()
    assert "alive" in told, told
    assert "client 0" in told, said.read_text()
    answer = json.loads(said.read_text().splitlines()[-1])
    assert answer["missing"] == []
    assert {name: bare for name, (_, bare) in answer["stages"].items() if bare} == {}
    # Each station has a tree of its own, and what opens over it is in it.
    assert min(count for count, _ in answer["stages"].values()) > 60
    assert answer["stages"]["Rack"][0] > 150
    assert any(words.startswith("coat 1: ") for words in answer["heard"])
