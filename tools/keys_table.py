"""Write the table of keys in the README anew from the table of commands.

Run `.venv/bin/python tools/keys_table.py` after a command was added or got another key; a test
tells when it was forgotten.
"""

from __future__ import annotations

import re
from pathlib import Path

from zesty_veil.desktop.shell.commands import all_commands

README = Path(__file__).resolve().parents[1] / "README.md"
_BETWEEN = re.compile(r"(<!-- keys -->\n).*?(<!-- end of keys -->)", re.DOTALL)


def table() -> str:
    """Return all commands that have keys, as a table in Markdown."""
    rows = ["| where | keys | what they do |", "|---|---|---|"]
    for command in all_commands():
        keys = ", ".join(f"`{key}`" for key in command.keys) or command.key_words
        if keys:
            rows.append(f"| {command.where} | {keys} | {command.words} |")
    return "\n".join(rows) + "\n"


def filled(text: str) -> str:
    """Return a text with the table between its marks."""
    return _BETWEEN.sub(lambda found: found[1] + table() + found[2], text)


if __name__ == "__main__":
    README.write_text(filled(README.read_text(encoding="utf-8")), encoding="utf-8")
