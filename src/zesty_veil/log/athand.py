"""The paints at hand without a window: those of the rack in use, as they are known now."""

from __future__ import annotations

from zesty_veil.files import missing
from zesty_veil.log.learning import Learning
from zesty_veil.log.racks import Rack, Racks
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import log_path
from zesty_veil.plan.model import OwnTool


def paints_at_hand() -> tuple[Paint, ...]:
    """Return the paints at hand; the demo rack as long as nothing was ever kept.

    Raises
    ------
    LogError
        If the log cannot be read.
    """
    if missing(log_path()):
        return demo_rack()
    rack, _ = _kept()
    return tuple(kept.paint for kept in rack.paints if kept.status == "own")


def known_at_hand() -> tuple[tuple[Paint, ...], tuple[OwnTool, ...]]:
    """Return all paints of the rack in use as they are known now, and the painter's hand.

    Raises
    ------
    LogError
        If the log cannot be read.
    """
    if missing(log_path()):
        return demo_rack(), ()
    rack, hand = _kept()
    return tuple(kept.paint for kept in rack.paints), hand


def _kept() -> tuple[Rack, tuple[OwnTool, ...]]:
    store = Store()
    try:
        learning, base = Learning(store), Racks(store).get()
        return learning.known(base), learning.hand(base.name)
    finally:
        store.close()
