"""Write all texts of the program as a JSON object to fill in with a translation.

Run `.venv/bin/python tools/texts.py FILE.json`; what a file that is there already translates is
kept. Put the file filled in beside the log, as texts.json, and the program speaks it.
"""

from __future__ import annotations

import ast
import json
import sys
from collections.abc import Iterator
from pathlib import Path

from zesty_veil.desktop.shell.commands import all_commands, menus

SOURCE = Path(__file__).resolve().parents[1] / "src/zesty_veil"


def texts() -> Iterator[str]:
    """Yield every text that is looked up: those in the code, and those of the commands."""
    for path in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name)):
                continue
            text = node.args[0] if node.func.id == "tr" and node.args else None
            if isinstance(text, ast.Constant) and isinstance(text.value, str):
                yield text.value
    yield from menus()
    for command in all_commands():
        yield from (words for words in (command.words, command.hint, command.key_words) if words)


def main(path: Path) -> None:
    """Write the file; what it translates already stays."""
    before = json.loads(path.read_text(encoding="utf-8")) if path.exists() else {}
    found = {text: before.get(text, "") for text in dict.fromkeys(texts())}
    path.write_text(json.dumps(found, ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
    print(f"{len(found)} texts, {sum(map(bool, found.values()))} translated")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
