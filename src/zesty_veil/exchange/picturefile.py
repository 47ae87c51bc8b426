"""Photographs as files: what they are is told by their bytes, and how large before any is decoded.

Only PNG and JPEG are taken. Other formats that picture libraries read may name further files, run
without end, or unpack to more memory than there is.

References
----------
W3C, Portable Network Graphics (PNG) Specification, third edition, 5.2 and 11.2.1 (IHDR).
ITU-T T.81 (JPEG), B.1.1.3 (markers) and B.2.2 (frame header).
"""

from __future__ import annotations

import struct
from pathlib import Path
from typing import Literal, NamedTuple

from zesty_veil.errors import InputError
from zesty_veil.files import read_limited
from zesty_veil.tr import tr

PictureKind = Literal["png", "jpeg"]
MOST_PICTURE_BYTES = 80_000_000
_PNG = b"\x89PNG\r\n\x1a\n"
_MOST_SIDE = 40_000
# A decoder needs all of a PNG's pixels at once, but may read a JPEG smaller than it is.
_MOST_PIXELS: dict[PictureKind, int] = {"png": 60_000_000, "jpeg": 250_000_000}
# Even one even grey takes a byte of a JPEG for so many pixels; more is a size made up.
_MOST_PIXELS_A_BYTE = 2_000
# Frame headers are 0xC0 to 0xCF but for those that define tables, and arithmetic conditioning.
_FRAMES = frozenset(range(0xC0, 0xD0)) - {0xC4, 0xC8, 0xCC}
_ALONE = frozenset({0x01, *range(0xD0, 0xD9)})  # markers that nothing follows


class Head(NamedTuple):
    """What a picture says of itself."""

    kind: PictureKind
    width: int
    height: int


def open_photograph(path: Path) -> bytes:
    """Return the bytes of a photograph that can be decoded without harm.

    Raises
    ------
    FileError
        If it cannot be read, or is larger than photographs are.
    InputError
        If it is neither PNG nor JPEG, or says that it has more pixels than can be decoded.
    """
    raw = read_limited(path, MOST_PICTURE_BYTES, "photograph")
    head_of(raw, path.name)
    return raw


def head_of(raw: bytes, what: str) -> Head:
    """Return what a picture is and how large; `what` names it in sentences.

    Raises
    ------
    InputError
        As `open_photograph`.
    """
    head = _head(raw)
    if head is None or head.width < 1 or head.height < 1:
        raise InputError(
            tr("{0} is no picture that can be read; open a PNG or JPEG file.").format(what)
        )
    kind, width, height = head
    pixels = width * height
    if max(width, height) > _MOST_SIDE or pixels > _MOST_PIXELS[kind]:
        most = _MOST_PIXELS[kind] // 1_000_000
        raise InputError(
            tr(
                "{0} is {1} x {2} pixels, and up to {3} million can be read; make it smaller first."
            ).format(what, width, height, most)
        )
    if kind == "jpeg" and pixels > _MOST_PIXELS_A_BYTE * len(raw):
        raise InputError(
            tr("{0} is cut short or damaged; take the photograph's file anew.").format(what)
        )
    return head


def _head(raw: bytes) -> Head | None:
    if raw.startswith(_PNG):
        if len(raw) < 24 or raw[12:16] != b"IHDR":
            return None
        return Head("png", *struct.unpack(">II", raw[16:24]))
    if not raw.startswith(b"\xff\xd8\xff"):
        return None
    at = 2
    while at + 9 <= len(raw):
        if raw[at] != 0xFF:
            return None
        marker = raw[at + 1]
        if marker in _FRAMES:
            height, width = struct.unpack(">HH", raw[at + 5 : at + 9])
            return Head("jpeg", width, height)
        if marker == 0xFF:  # markers may be filled up in front
            at += 1
        elif marker in _ALONE:
            at += 2
        else:
            at += 2 + max(int.from_bytes(raw[at + 2 : at + 4], "big"), 2)
    return None
