"""The paints of a mixture, each with its drops."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtWidgets import QToolButton, QVBoxLayout, QWidget

from zesty_veil.desktop.kit.paintmenu import SWATCH, PaintMenu, paint_icon
from zesty_veil.desktop.kit.passageeditor import PassageEditor
from zesty_veil.desktop.kit.plain import entry, tip
from zesty_veil.desktop.kit.popover import OpensBelow
from zesty_veil.desktop.kit.ribbons import screen_colour
from zesty_veil.desktop.kit.taborder import tab_after
from zesty_veil.desktop.section.drops import Counter, drops_counter
from zesty_veil.desktop.session.rackview import RackView
from zesty_veil.paint.paint import Paint
from zesty_veil.plan import edits
from zesty_veil.plan.model import Coat, Plan, coat_name
from zesty_veil.services.picking import Picking, coat_with
from zesty_veil.tr import tr


class _Row(QWidget):
    """One paint: its name, which opens the rack to swap it, and its drops."""

    def __init__(self, swap: PaintMenu, step: Callable[[int], None]) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(3)
        self.button = OpensBelow()
        self.button.setIconSize(SWATCH)
        self.button.setStyleSheet("text-align: left;")
        self.button.clicked.connect(lambda: swap.open_below(self.button))
        self.swap = swap
        self.counter: Counter
        self.counter, self.drops = drops_counter("drops")
        self.counter.stepped.connect(step)
        column.addWidget(self.button)
        column.addWidget(self.counter)


class MixtureRows(QWidget):
    """Shows and changes which paints are in the pot, in drops."""

    def __init__(
        self,
        editor: PassageEditor,
        rack: RackView,
        within: Callable[[int, str], Picking | None] = lambda coat, swapped: None,
    ) -> None:
        super().__init__()
        self._editor, self._rack, self._within = editor, rack, within
        self._index: int | None = None
        self._coat: Coat | None = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(5)
        self.rows: list[_Row] = []
        self.before: QWidget | None = None  # the control that Tab comes from
        self._swaps: list[PaintMenu] = []
        self.add = QToolButton()
        self.add.setText(tr("+ Mix in another paint"))
        self.add.setObjectName("link")
        self.add.setToolTip(tr("Put a drop of another paint into this mixture"))
        self.mixing = PaintMenu(
            rack, self._mixed_in, self, lambda: self._here(None), lambda p: self._preview(None, p)
        )
        self.add.clicked.connect(lambda: self.mixing.open_below(self.add))
        self._column.addWidget(self.add)

    def show_mixture(self, plan: Plan, index: int | None, coat: Coat | None) -> bool:
        """Show the mixture of a coat, or nothing; tell whether it takes another height now."""
        before = sum(not row.isHidden() for row in self.rows)
        self._index, self._coat = index, coat
        parts = coat.mixture.parts if coat is not None else ()
        while len(self.rows) < len(parts):
            self._grow(len(self.rows))
        rack = plan.rack()
        for i, row in enumerate(self.rows):
            row.setVisible(i < len(parts))
            if i >= len(parts):
                continue
            paint = rack[parts[i].paint]
            row.button.setText(entry(paint.name))
            swatch = self._rack.swatch(paint)
            row.button.setIcon(paint_icon(swatch))
            row.button.setToolTip(
                tip(tr("{0}, {1}; press to swap it").format(paint.kind, ", ".join(paint.pigments)))
            )
            row.button.setAccessibleName(tr("paint {0}; press to swap it").format(paint.name))
            row.counter.name(f"drops of {paint.name}")
            row.counter.less.setEnabled(len(parts) > 1 or parts[i].parts > 1)
            row.drops.count = parts[i].parts
            row.drops.fill = screen_colour(swatch.over_white) if swatch is not None else None
            row.drops.update()
        return before != len(parts)

    def stop(self) -> None:
        """End the workers of the menus."""
        for menu in (self.mixing, *self._swaps):
            menu.stop()

    def _swapped_name(self, number: int | None) -> str | None:
        """Return the paint that is swapped, '' where one is mixed in; none if it is gone."""
        if self._coat is None or self._index is None:
            return None
        if number is None:
            return ""
        parts = self._coat.mixture.parts
        return parts[number].paint if number < len(parts) else None

    def _here(self, number: int | None) -> Picking | None:
        name = self._swapped_name(number)
        return None if name is None or self._index is None else self._within(self._index, name)

    def _preview(self, number: int | None, paint: Paint | None) -> None:
        self._editor.end_preview()  # what was shown before must not be changed further
        name = self._swapped_name(number)
        if paint is not None and name is not None and self._index is not None:
            assert self._coat is not None
            self._editor.preview_within(self._index, coat_with(self._coat, paint, name), paint)

    def _grow(self, number: int) -> None:
        swap = PaintMenu(
            self._rack, lambda p: self._swapped(number, p), self, lambda: self._here(number),
            lambda p: self._preview(number, p),
        )  # fmt: skip
        self._swaps.append(swap)
        row = _Row(swap, lambda s: self._stepped(number, s))
        self._column.insertWidget(number, row)
        self.rows.append(row)
        if self.before is not None:
            tab_after(self.before, (*self.rows, self.add))

    def _change(
        self, coat: Coat, words: str, paint: Paint | None = None, gesture: str = ""
    ) -> None:
        if self._index is not None:
            if paint is not None:
                self._editor.change_with(self._index, coat, paint, words)
            else:
                self._editor.change(self._index, coat, words, gesture)

    def _stepped(self, number: int, step: int) -> None:
        if self._coat is None or number >= len(self._coat.mixture.parts):
            return
        part = self._coat.mixture.parts[number]
        # Half drops exist only in plans written by hand; the next whole drop is what is meant.
        wanted = (math.floor(part.parts) if step > 0 else math.ceil(part.parts)) + step
        changed = edits.with_parts(self._coat, part.paint, wanted)
        self._change(changed, tr("drops of {0}").format(part.paint), gesture=f"drops {part.paint}")

    def _swapped(self, number: int, paint: Paint) -> None:
        if self._coat is None or number >= len(self._coat.mixture.parts):
            return
        old = self._coat.mixture.parts[number].paint
        if paint.name != old:
            words = tr("{0} for {1}").format(paint.name, old)
            self._change(edits.swap_paint(self._coat, old, paint.name), words, paint)

    def _mixed_in(self, paint: Paint) -> None:
        if self._coat is None:
            return
        changed = coat_with(self._coat, paint)
        self._change(changed, tr("{0} into {1}").format(paint.name, coat_name(self._coat)), paint)
