"""Data that ships with the program, and one registry that knows every file of it.

`registry.json` gives for each file its SHA-256, source, licence and units. Files are read lazily.
"""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from pathlib import Path

import msgspec


class Entry(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What is known of one shipped file."""

    sha256: str
    source: str
    licence: str
    units: str


@cache
def registry() -> dict[str, Entry]:
    """Return every shipped file by its path below this folder."""
    return msgspec.json.decode(_locate("registry.json").read_bytes(), type=dict[str, Entry])


def folder() -> Path:
    """Return where the files lie, for what can only be given a path."""
    return Path(__file__).parent


def read(name: str) -> bytes:
    """Return the bytes of a shipped file.

    Raises
    ------
    KeyError
        If the registry does not list the file.
    """
    if name not in registry():
        raise KeyError(f"{name} is not in data/registry.json")
    return _locate(name).read_bytes()


def _locate(name: str) -> Traversable:
    return files(__name__).joinpath(*name.split("/"))
