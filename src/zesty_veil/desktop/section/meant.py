"""What a coat is meant for, in words: remarks that contradict it are not shown."""

from __future__ import annotations

from PySide6.QtWidgets import QMenu

from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.plan.model import MEANT, Meant
from zesty_veil.tr import tr

MEANT_WORDS: dict[Meant, str] = {
    "": "nothing special",
    "base": "a base",
    "dull": "meant to dull",
    "glow spot": "a glow spot, kept clear",
    "edge": "a hard edge",
}


def fill_meant(menu: QMenu, editor: PassageEditor, in_hand: int | None) -> None:
    """List what the coat in hand may be meant for; a choice is written into the plan."""
    menu.clear()
    coat = None if in_hand is None else editor.coat(in_hand)
    if in_hand is None or coat is None:
        menu.addAction(tr("No coat in hand")).setEnabled(False)
        return
    for meant in MEANT:
        action = menu.addAction(tr(MEANT_WORDS[meant]))
        action.setCheckable(True)
        action.setChecked(coat.meant == meant)
        action.triggered.connect(lambda _=False, m=meant: editor.mean(in_hand, m))
