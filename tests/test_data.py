"""Shipped files: every one registered, none a stranger, all licensed."""

from __future__ import annotations

import hashlib
from pathlib import Path

import pytest

from zesty_veil import data
from zesty_veil.memory import give_back, keep_freed_memory

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


def test_memory_that_is_free_is_given_back() -> None:
    def resident() -> int:
        return int(Path("/proc/self/statm").read_text().split()[1]) * 4096

    keep_freed_memory()
    below = resident()
    # Blocks as arrays of films are: many of some hundred kilobytes, a last one above them all.
    blocks = [bytearray(200_000) for _ in range(400)]
    last = bytearray(1000)
    del blocks
    if not give_back():
        pytest.skip("the C library cannot be asked here")
    assert resident() - below < 30_000_000
    assert len(last) == 1000


def test_memory_can_be_kept_or_left() -> None:
    # Only glibc can be asked; elsewhere nothing happens.
    assert keep_freed_memory() in {True, False}
