"""Photographs: only PNG and JPEG, told by their bytes, limited before they are decoded."""

from __future__ import annotations

import gc
import struct
import zlib
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtGui import QColor, QImage
from PySide6.QtWidgets import QApplication

from zesty_veil.desktop.kit.photos import read_picture
from zesty_veil.errors import VeilError
from zesty_veil.exchange.picturefile import head_of


def saved(path: Path, width: int, height: int, kind: str = "JPG") -> Path:
    image = QImage(width, height, QImage.Format.Format_RGB888)
    image.fill(QColor(200, 120, 40))
    for x in range(0, width, 7):
        image.setPixelColor(x, x % height, QColor(x % 255, 20, 90))
    assert image.save(str(path), kind)
    return path


def claiming(path: Path, width: int, height: int) -> Path:
    """A JPEG whose frame header says another size (ITU-T T.81, B.2.2)."""
    raw = bytearray(saved(path, 64, 48).read_bytes())
    at = raw.index(b"\xff\xc0")
    raw[at + 5 : at + 9] = struct.pack(">HH", height, width)
    path.write_bytes(raw)
    return path


@pytest.mark.parametrize("kind", ["PNG", "JPG"])
def test_a_photograph_owns_its_memory(tmp_path: Path, dressed: QApplication, kind: str) -> None:
    """A worker may read pixels after the picture was let go; they must not be freed with it."""
    picture = read_picture(saved(tmp_path / "a", 801, 600, kind))
    assert picture.pixels.flags.owndata
    pixels, before = picture.pixels, picture.pixels.copy()
    assert pixels.shape == (600, 801, 3)
    del picture
    gc.collect()
    _ = [QImage(801, 600, QImage.Format.Format_RGB888) for _ in range(20)]
    np.testing.assert_array_equal(pixels, before)


def test_the_head_is_what_the_decoder_finds(tmp_path: Path, dressed: QApplication) -> None:
    for kind in ("PNG", "JPG"):
        path = saved(tmp_path / f"a.{kind}", 123, 45, kind)
        assert head_of(path.read_bytes(), "a")[1:] == (123, 45)
    # An ending tells nothing: the bytes do.
    named = saved(tmp_path / "b.png", 30, 20, "JPG")
    assert read_picture(named).pixels.shape == (20, 30, 3)


@pytest.mark.parametrize(
    ("name", "raw"),
    [
        ("a.png", b'<svg xmlns="http://www.w3.org/2000/svg"><image href="/etc/passwd"/></svg>'),
        ("a.svgz", b"\x1f\x8b" + b"\0" * 40),
        ("a.bmp", b"BM" + b"\0" * 60),
        ("a.gif", b"GIF89a" + b"\xff" * 60),
        ("a.jpg", b"\xff\xd8\xff"),
        ("a.jpg", b"\xff\xd8" + b"\xff" * 5000),
        ("a.jpg", b"\xff\xd8\xff\xe0\x00\x00" * 50),
        ("a.png", b"\x89PNG\r\n\x1a\n" + b"\0" * 40),
        ("a.png", b""),
    ],
)
def test_other_formats_are_refused_by_content(
    tmp_path: Path, dressed: QApplication, name: str, raw: bytes
) -> None:
    path = tmp_path / name
    path.write_bytes(raw)
    with pytest.raises(VeilError, match="is no picture that can be read; open a PNG or JPEG"):
        read_picture(path)


def test_sizes_that_are_claimed_are_refused_before_decoding(
    tmp_path: Path, dressed: QApplication
) -> None:
    with pytest.raises(VeilError, match="60000 x 60000 pixels"):
        read_picture(claiming(tmp_path / "a.jpg", 60_000, 60_000))
    with pytest.raises(VeilError, match="cut short or damaged"):
        read_picture(claiming(tmp_path / "b.jpg", 15_000, 15_000))
    head = struct.pack(">IIBBBBB", 50_000, 30_000, 8, 2, 0, 0, 0)
    body = b"IHDR" + head
    bomb = b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + body + struct.pack(">I", zlib.crc32(body))
    (tmp_path / "c.png").write_bytes(bomb)
    with pytest.raises(VeilError, match="up to 60 million can be read"):
        read_picture(tmp_path / "c.png")


def test_a_photograph_cut_short_gets_a_sentence(tmp_path: Path, dressed: QApplication) -> None:
    raw = saved(tmp_path / "a.png", 200, 200, "PNG").read_bytes()
    (tmp_path / "a.png").write_bytes(raw[:60])
    with pytest.raises(VeilError, match="no picture"):
        read_picture(tmp_path / "a.png")
