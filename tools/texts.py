"""Write all texts of the program as a JSON object to fill in with a translation.

Run `.venv/bin/python tools/texts.py FILE.json`; what a file that is there already translates is
kept. Put the file filled in beside the log, as texts.json, and the program speaks it.
"""

from __future__ import annotations

import ast
import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path

from zesty_veil.advise.templates.every import TEMPLATES
from zesty_veil.desktop.shell.commands import all_commands, menus
from zesty_veil.desktop.shell.stations import STATIONS
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.kinds import KINDS
from zesty_veil.paint.laydown import SITES
from zesty_veil.paint.mixture import THINNERS
from zesty_veil.paint.primer import PRIMERS
from zesty_veil.paint.tool import tools
from zesty_veil.plan.grounds import GROUNDS
from zesty_veil.predict.forms.shapes import FORMS

SOURCE = Path(__file__).resolve().parents[1] / "src/zesty_veil"


def texts() -> Iterator[str]:
    """Yield every text that is looked up: those in the code, and those of the commands."""
    for path in sorted(SOURCE.rglob("*.py")):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        by_name = False
        for node in ast.walk(tree):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name)):
                continue
            if node.func.id not in {"tr", "counted"}:
                continue
            for text in node.args:
                if isinstance(text, ast.Constant) and isinstance(text.value, str):
                    yield text.value
                else:
                    by_name = True
        if by_name:
            yield from _tabled(tree)
    for station in STATIONS:
        yield station.words
    # Words of the core that the window shows: what they stand for is looked up, not the words.
    yield from (*LIGHTS.values(), *PRIMERS, *KINDS, *FINISHES, *THINNERS, *SITES)
    yield from (tool.label for tool in tools().values())
    yield from (words for words, _ in FORMS.values())
    yield from GROUNDS.values()
    for each in TEMPLATES:
        yield from (each.title, each.words)
        for question in each.questions:
            yield from (question.words, *question.answers.values())
    yield from menus()
    for command in all_commands():
        yield from (words for words in (command.words, command.hint, command.key_words) if words)


def _tabled(tree: ast.Module) -> Iterator[str]:
    """Yield the texts that stand in the tables and constants of a module that looks them up."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Dict):
            inside = [*node.keys, *node.values]
        elif isinstance(node, ast.Tuple | ast.List):
            inside = list(node.elts)
        elif isinstance(node, ast.Assign | ast.IfExp):
            inside = [node.value] if isinstance(node, ast.Assign) else [node.body, node.orelse]
        else:
            continue
        for each in inside:
            text = each.value if isinstance(each, ast.Constant) else None
            if isinstance(text, str) and re.search("[A-Za-z]{2}", text):
                yield text


def main(path: Path) -> None:
    """Write the file; what it translates already stays."""
    before = json.loads(path.read_text(encoding="utf-8")) if path.exists() else {}
    found = {text: before.get(text, "") for text in dict.fromkeys(texts())}
    path.write_text(json.dumps(found, ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
    print(f"{len(found)} texts, {sum(map(bool, found.values()))} translated")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
