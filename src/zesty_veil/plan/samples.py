"""The demo plans that ship with the program."""

from __future__ import annotations

from zesty_veil import data
from zesty_veil.plan.fileformat import parse
from zesty_veil.plan.model import Plan

SAMPLES = ("glasswright", "diver")


def sample_bytes(name: str) -> bytes:
    """Return a demo plan as the bytes of its file; `name` is one of `SAMPLES`."""
    return data.read(f"{name}.veil")


def sample(name: str) -> Plan:
    """Return a demo plan; `name` is one of `SAMPLES`."""
    return parse(sample_bytes(name), f"The demo plan {name}")
