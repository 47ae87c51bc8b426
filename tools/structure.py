"""Print the rooms, the arrows between them, every circle of imports, and what one edit costs.

Run `.venv/bin/python tools/structure.py`; it ends with 1 if there is a circle, of files or of
folders. An arrow counts the files of one room that import from the other. Imports for types alone
count too, as a reader has to follow them as well. Then the demo plan is opened offscreen, one pass
is added, and it is counted how often requests and scenes are built and how often it is worked out
what a coat adds.
"""

from __future__ import annotations

import ast
import os
import sys
import tempfile
from collections import Counter
from collections.abc import Iterable, Mapping
from pathlib import Path
from types import ModuleType

SOURCE = Path(__file__).resolve().parents[1] / "src"
PACKAGE = "zesty_veil"


def modules() -> dict[str, Path]:
    """Return the files of the package by their dotted names; packages' own files are left out."""
    found = {}
    for path in sorted((SOURCE / PACKAGE).rglob("*.py")):
        if path.name != "__init__.py":
            found[".".join(path.relative_to(SOURCE).with_suffix("").parts)] = path
    return found


def imports(path: Path, known: Iterable[str]) -> set[str]:
    """Return which of the known modules a file imports, anywhere in it."""
    names, found = set(known), set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module is not None:
            found.add(node.module)
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found & names


def room(module: str) -> str:
    """Return the folder that a module stands in, below the package; its name if in none."""
    folders = module.split(".")[1:-1]
    return "/".join(folders) or module.rsplit(".", maxsplit=1)[-1]


def circles(graph: Mapping[str, set[str]]) -> list[list[str]]:
    """Return the sets of more than one node that can all be reached from each other (Tarjan)."""
    order: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    found: list[list[str]] = []

    def visit(node: str) -> None:
        order[node] = low[node] = len(order)
        stack.append(node)
        for other in graph[node]:
            if other not in order:
                visit(other)
                low[node] = min(low[node], low[other])
            elif other in stack:
                low[node] = min(low[node], order[other])
        if low[node] == order[node]:
            at = stack.index(node)
            if len(stack) - at > 1:
                found.append(sorted(stack[at:]))
            del stack[at:]

    for node in graph:
        if node not in order:
            visit(node)
    return found


def counts() -> Counter[str]:
    """Return what adding one pass to a coat of the demo builds, and how often it answers."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    for name in ("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"):
        os.environ[name] = tempfile.mkdtemp()
    from PySide6.QtWidgets import QApplication  # noqa: PLC0415 - the structure needs no Qt

    from zesty_veil.desktop.section import desk as stations  # noqa: PLC0415
    from zesty_veil.desktop.section import view  # noqa: PLC0415
    from zesty_veil.desktop.shell.window import MainWindow  # noqa: PLC0415
    from zesty_veil.plan.samples import sample  # noqa: PLC0415
    from zesty_veil.predict import contribution  # noqa: PLC0415

    app = QApplication([])
    window = MainWindow(sample("glasswright"))
    window.show()
    window.wait_until_idle()
    app.processEvents()
    found: Counter[str] = Counter()

    def count(module: ModuleType, name: str, words: str) -> None:
        made = getattr(module, name)
        setattr(module, name, lambda *a, **k: (found.update([words]), made(*a, **k))[1])

    count(stations, "Request", "requests")
    count(view, "build", "scenes")
    count(contribution, "_without", "coats left out")
    window.section.forecasting.jobs.answered.connect(lambda _: found.update(["answers"]))
    window.section.more_passes(1)
    window.wait_until_idle()
    app.processEvents()
    found["coats"] = (
        len(window.section.editor.passage.coats) if window.section.editor.passage else 0
    )
    window.document.undo()
    window.close()
    return found


def main() -> int:
    """Print what stands; 1 if there is a circle."""
    files = modules()
    graph = {name: imports(path, files) - {name} for name, path in files.items()}
    rooms = {room(name): set[str]() for name in graph}
    arrows: Counter[tuple[str, str]] = Counter()
    for name, others in graph.items():
        for other in {room(o) for o in others} - {room(name)}:
            arrows[room(name), other] += 1
            rooms[room(name)].add(other)
    sizes = Counter(room(name) for name in graph)
    for name in sorted(rooms):
        to = ", ".join(f"{other} {arrows[name, other]}" for other in sorted(rooms[name]))
        print(f"{name:24} {sizes[name]:3} files  imports from: {to or 'none'}")
    between_files, between_rooms = circles(graph), circles(rooms)
    print(f"{len(files)} files, {len(rooms)} rooms, {len(arrows)} arrows between rooms")
    for kind, found in (("files", between_files), ("rooms", between_rooms)):
        print(f"{len(found)} circles of {kind}")
        for circle in found:
            print("  " + " <-> ".join(circle))
    print("one edit: " + ", ".join(f"{n} {words}" for words, n in sorted(counts().items())))
    return int(bool(between_files or between_rooms))


if __name__ == "__main__":
    sys.exit(main())
