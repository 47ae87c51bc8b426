"""Renew the hashes in data/registry.json; a file that is new needs its words typed in by hand."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

DATA = Path(__file__).resolve().parents[1] / "src/zesty_veil/data"


def main() -> None:
    """Rewrite the registry with the hash of every file; keep what is said of known ones."""
    path = DATA / "registry.json"
    known = json.loads(path.read_text("utf-8")) if path.exists() else {}
    out = {}
    for file in sorted(DATA.rglob("*")):
        name = file.relative_to(DATA).as_posix()
        if file.is_dir() or file.suffix in {".py", ".pyc"} or name == "registry.json":
            continue
        entry = known.get(name, {"source": "TODO", "licence": "MIT", "units": "none"})
        out[name] = {**entry, "sha256": hashlib.sha256(file.read_bytes()).hexdigest()}
    path.write_text(json.dumps(out, indent=2, sort_keys=True) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
