"""The house in order: no circle of imports, and no public name that means two things."""

from __future__ import annotations

import ast
import re
import sys
from collections import defaultdict
from pathlib import Path

TOOLS = Path(__file__).resolve().parents[1] / "tools"
SOURCE = TOOLS.parent / "src/zesty_veil"
sys.path.insert(0, str(TOOLS))
from structure import circles, imports, modules, room  # noqa: E402 - a tool, not the program


def test_no_files_and_no_folders_import_each_other_in_a_circle() -> None:
    files = modules()
    graph = {name: imports(path, files) - {name} for name, path in files.items()}
    assert circles(graph) == []
    rooms = {room(name): set[str]() for name in graph}
    for name, others in graph.items():
        rooms[room(name)] |= {room(other) for other in others} - {room(name)}
    assert circles(rooms) == []
    # What looks for circles finds one.
    assert circles({"a": {"b"}, "b": {"c"}, "c": {"a"}, "d": {"a"}}) == [["a", "b", "c"]]


def test_each_public_name_is_defined_in_one_module() -> None:
    """Who reads a name need not ask which of two is meant."""
    where: dict[str, set[str]] = defaultdict(set)
    for module, path in modules().items():
        for node in ast.parse(path.read_text(encoding="utf-8")).body:
            names: list[ast.expr] = []
            if isinstance(node, ast.FunctionDef | ast.ClassDef):
                where[node.name].add(module)
            elif isinstance(node, ast.Assign):
                names = list(node.targets)
            elif isinstance(node, ast.AnnAssign):
                names = [node.target]
            for each in names:
                for one in each.elts if isinstance(each, ast.Tuple) else [each]:
                    if isinstance(one, ast.Name):
                        where[one.id].add(module)
    twice = {n: sorted(m) for n, m in where.items() if len(m) > 1 and not n.startswith("_")}
    twice.pop("main", None)  # what a process begins with
    assert twice == {}


def test_workers_are_begun_where_their_queues_stand() -> None:
    """A thread of one's own would have no order with others, and no end with its window."""
    own = {f"desktop/session/{name}.py" for name in ("jobs", "apart/helper", "apart/link")}
    begins = {
        str(path.relative_to(SOURCE))
        for path in SOURCE.rglob("*.py")
        if re.search(r"ThreadPoolExecutor|Thread\(|QThread", path.read_text(encoding="utf-8"))
    }
    assert begins - own == set()
