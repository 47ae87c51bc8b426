"""A plan laid by hand, with every kind of paint and ground in it, for tests to work on."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from zesty_veil.plan.fileformat import load
from zesty_veil.plan.model import Plan


@cache
def hand_laid() -> Plan:
    """Return a glass-blower's fire, an apron, a flask and a pipe, as somebody painted them."""
    return load(Path(__file__).parent / "data/workshop.veil")
