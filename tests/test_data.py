"""Shipped files: every one registered, none a stranger, all licensed."""

from __future__ import annotations

import hashlib
from pathlib import Path

import pytest

from zesty_veil import data
from zesty_veil.memory import keep_freed_memory

FOLDER = Path(data.__file__).parent


def test_every_file_is_registered_and_unchanged() -> None:
    there = {
        file.relative_to(FOLDER).as_posix()
        for file in FOLDER.rglob("*")
        if file.is_file() and file.suffix not in {".py", ".pyc"} and file.name != "registry.json"
    }
    assert there == set(data.registry())
    for name, entry in data.registry().items():
        assert hashlib.sha256(data.read(name)).hexdigest() == entry.sha256, name
        assert entry.source not in {"", "TODO"}
        assert entry.licence in {"MIT", "OFL-1.1"}
        assert entry.units


def test_a_stranger_is_not_read() -> None:
    with pytest.raises(KeyError, match="not in data/registry"):
        data.read("../errors.py")


def test_memory_can_be_kept_or_left() -> None:
    # Only glibc can be asked; elsewhere nothing happens.
    assert keep_freed_memory() in {True, False}
