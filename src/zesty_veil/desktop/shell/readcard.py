"""Reading a card's photograph from the command line; decoding pictures needs Qt, but no display."""

from __future__ import annotations

import argparse

import msgspec
import numpy as np

from zesty_veil.desktop.kit.photos import read_picture
from zesty_veil.files import write_atomically
from zesty_veil.log.card import Card, check_card, dump_card
from zesty_veil.log.photo.reading import Reading, read_photograph
from zesty_veil.tr import counted, tr


def read_card(chosen: argparse.Namespace) -> str:
    """Return what a photograph tells of its card, as JSON or as text, and write the card.

    Raises
    ------
    InputError, FileError
        With one sentence.
    """
    corners = None if chosen.corners is None else np.array(chosen.corners).reshape(4, 2)
    reading = read_photograph(read_picture(chosen.photo).pixels, corners)
    name = chosen.paint or chosen.photo.stem
    card = Card(
        name, chosen.kind, reading.patches, tuple(chosen.pigments), thinner=chosen.thinner,
        thinning=chosen.thinned, tool=chosen.tool, source="photograph",
    )  # fmt: skip
    check_card(card)
    text = "" if chosen.json else _text(reading)
    if chosen.out is not None:
        write_atomically(chosen.out, dump_card(card))
        text += "" if chosen.json else tr("Wrote {0}").format(chosen.out) + "\n"
    if chosen.json:
        found = {
            "patches": msgspec.to_builtins(card.patches),
            "corners": [[round(float(v), 2) for v in corner] for corner in reading.corners],
            "notes": list(reading.notes),
        }
        text = msgspec.json.format(msgspec.json.encode(found), indent=1).decode() + "\n"
    return text


def _text(reading: Reading) -> str:
    out = ""
    for patch in reading.patches:
        L, a, b = patch.colour
        doubt = f"  ({patch.doubt})" if patch.doubt else ""
        count = counted(patch.passes, "{0} pass", "{0} passes") if patch.passes else tr("bare")
        out += f"{patch.backing:6} {count:9} L {L:5.1f}  a {a:6.1f}  b {b:6.1f}{doubt}\n"
    return out + "".join(f"{note}\n" for note in reading.notes)
