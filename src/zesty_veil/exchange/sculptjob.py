"""Reading a sculpt in a process of its own, which can be stopped and can do no harm.

A parser at work on a large text file holds the interpreter for seconds, and a damaged file may
take memory without end; in a process with a limit neither reaches the window.
"""

from __future__ import annotations

import json
import resource
import selectors
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from zesty_veil.errors import SculptError
from zesty_veil.exchange.meshfile import read_mesh
from zesty_veil.predict.forms.mesh import Mesh, coarse
from zesty_veil.tr import tr

_MOST_MEMORY = 12 << 30
_LOOK_EVERY_S = 0.1


@dataclass(frozen=True)
class Opened:
    """A sculpt that was read: all of it, less of it to turn it by, and what is wrong with it."""

    path: Path
    mesh: Mesh
    draft: Mesh
    notes: tuple[str, ...]


def opening(path: Path, should_continue: Callable[[], bool]) -> Iterator[str | Opened]:
    """Yield what is being done, and at last the sculpt in a file.

    `wanted` is asked several times a second; when it says no, the reading is killed and nothing
    more is yielded.

    Raises
    ------
    SculptError
        With one sentence, if nothing can be drawn from the file.
    """
    with tempfile.TemporaryDirectory(prefix="zesty-veil-") as folder:
        # Isolated: the folder one stands in, where a sculpt was perhaps just put, is never run.
        command = [sys.executable, "-I", "-m", "zesty_veil.exchange.sculptjob", str(path), folder]
        child = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL)
        try:
            notes: tuple[str, ...] | None = None
            for line in _lines(child, should_continue):
                told = json.loads(line)
                if "error" in told:
                    raise SculptError(told["error"])
                if "notes" in told:
                    notes = tuple(told["notes"])
                else:
                    yield told["doing"]
            if not should_continue():
                return
            if notes is None:
                raise SculptError(
                    tr(
                        "{0} could not be read: it is damaged or needs more memory than there "
                        "is; reduce it or export it again."
                    ).format(path.name)
                )
            meshes = [
                Mesh(*(np.load(f"{folder}/{kind}-{part}.npy") for part in ("vertices", "faces")))
                for kind in ("all", "draft")
            ]
            yield Opened(path, meshes[0], meshes[1], notes)
        finally:
            child.kill()
            child.wait()
            assert child.stdout is not None
            child.stdout.close()


def _lines(child: subprocess.Popen[bytes], should_continue: Callable[[], bool]) -> Iterator[bytes]:
    """Yield the lines a process writes, until it ends or is not wanted any more."""
    assert child.stdout is not None
    with selectors.DefaultSelector() as selector:
        selector.register(child.stdout, selectors.EVENT_READ)
        while should_continue():
            if selector.select(_LOOK_EVERY_S):
                line = child.stdout.readline()
                if not line:
                    return
                yield line


def _main(path: Path, folder: Path) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (_MOST_MEMORY, _MOST_MEMORY))

    def tell(**what: object) -> None:
        print(json.dumps(what), flush=True)

    try:
        mesh, notes = read_mesh(path, lambda doing: tell(doing=doing))
        tell(doing="making a draft to turn it by")
        for kind, one in (("all", mesh), ("draft", coarse(mesh))):
            np.save(folder / f"{kind}-vertices.npy", one.vertices)
            np.save(folder / f"{kind}-faces.npy", one.faces)
        tell(notes=notes)
    except SculptError as error:
        tell(error=str(error))
    except MemoryError:
        tell(error=f"{path.name} needs more memory than there is; reduce it.")


if __name__ == "__main__":
    _main(Path(sys.argv[1]), Path(sys.argv[2]))
