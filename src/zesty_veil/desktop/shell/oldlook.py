"""Telling of a plan that it looks otherwise than when it was saved, and keeping how it looked."""

from __future__ import annotations

from zesty_veil.desktop.kit.messageline import MessageLine
from zesty_veil.desktop.session.document import Document
from zesty_veil.desktop.session.planfile import Read
from zesty_veil.plan.fileformat import said_of_earlier
from zesty_veil.services.looks import moved_words, with_old_look
from zesty_veil.tr import tr


def tell_old_look(found: Read, document: Document, line: MessageLine) -> None:
    """Say how far a plan that was read looks otherwise now, and offer its old look as targets."""
    name = found.path.name
    if found.earlier:
        line.say(said_of_earlier(name))
    if not found.moved:
        return

    def keep() -> None:
        plan = with_old_look(document.plan, found.looks, found.moved)
        document.edit(plan, tr("the old look as targets"))

    words = moved_words(name, found.moved)
    if with_old_look(found.plan, found.looks, found.moved) == found.plan:
        line.say(words)  # all of it has targets of its own
    else:
        line.offer(words, tr("Keep the old look as targets"), keep)
