"""Menus and keys in one table: menu -> (name of the act, words, keys)."""

from __future__ import annotations

Entry = tuple[str, str, tuple[str, ...]]

KEYS: dict[str, tuple[Entry, ...]] = {
    "Plan": (
        ("new", "New plan", ("Ctrl+N",)),
        ("open", "Open …", ("Ctrl+O",)),
        ("recent", "Open again", ()),
        ("-", "", ()),
        ("save", "Save", ("Ctrl+S",)),
        ("save as", "Save as …", ("Ctrl+Shift+S",)),
        ("steps", "Export the steps …", ("Ctrl+E",)),
        ("-", "", ()),
        ("undo", "Undo", ("Ctrl+Z", "U")),
        ("redo", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y", "Shift+U")),
        ("-", "", ()),
        ("leave", "Leave", ("Ctrl+Q",)),
    ),
    "Coat": (
        ("add coat", "Add a coat …", ("N",)),
        ("remove coat", "Take the coat away", ("Del",)),
        ("later", "Lay it later", ("Ctrl+Up",)),
        ("sooner", "Lay it sooner", ("Ctrl+Down",)),
        ("-", "", ()),
        ("pass more", "One pass more", ("+", "=")),
        ("pass less", "One pass less", ("-",)),
        ("thin", "Thin it", ("T",)),
        ("strengthen", "Strengthen it", ("Shift+T",)),
        ("-", "", ()),
        ("feather longer", "Feather the far end longer", ("F",)),
        ("feather shorter", "Feather the far end shorter", ("Shift+F",)),
        ("light feather longer", "Feather the light end longer", ("D",)),
        ("light feather shorter", "Feather the light end shorter", ("Shift+D",)),
    ),
    "Passage": (
        ("add passage", "Add a passage", ("Ctrl+Shift+N",)),
        ("remove passage", "Take the passage away", ()),
        ("next passage", "Next passage", ("PgDown",)),
        ("previous passage", "Previous passage", ("PgUp",)),
        ("primer", "Next primer", ("P",)),
    ),
    "Look": (
        ("surround light", "Light surround", ("1",)),
        ("surround middle", "Middle surround", ("2",)),
        ("surround dark", "Dark surround", ("3",)),
        ("-", "", ()),
        ("wet", "Still wet, or dry", ("W",)),
        ("glint", "Glint of metal, or shade", ("G",)),
        ("sure", "How sure", ("B",)),
        ("-", "", ()),
        ("observer 2", "Small field (2 degrees)", ()),
        ("observer 10", "Large field (10 degrees)", ()),
        ("-", "", ()),
        ("hand steady", "Steady hand", ()),
        ("hand ordinary", "Ordinary hand", ()),
        ("hand loose", "Loose hand", ()),
    ),
    "Help": (("keys", "Keys", ("F1",)),),
}
