"""The paints at hand without a window: those of the rack in use, as they are known now."""

from __future__ import annotations

from zesty_veil.log.learning import Learning
from zesty_veil.log.racks import Racks
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import log_path


def paints_at_hand() -> tuple[Paint, ...]:
    """Return the paints at hand; the demo rack as long as nothing was ever kept.

    Raises
    ------
    LogError
        If the log cannot be read.
    """
    if not log_path().exists():
        return demo_rack()
    store = Store()
    try:
        rack = Learning(store).known(Racks(store).get())
    finally:
        store.close()
    return tuple(kept.paint for kept in rack.paints if kept.status == "own")
