"""Photographs from files, as the program computes with them and as it keeps them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QRectF, Qt
from PySide6.QtGui import QImage, QImageReader, QImageWriter

from zesty_veil.errors import InputError
from zesty_veil.exchange.picturefile import head_of, open_photograph
from zesty_veil.light.picture import Pixels
from zesty_veil.tr import tr

PICTURE_FILTER = "Photographs (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"
_MOST_SIDE = 4000
_THUMB = 160


@dataclass(frozen=True, eq=False)
class Picture:
    """A photograph: its file as it was when it was read, to be shown, and to be computed with.

    pixels : (h, w, 3) uint8, which own their memory, as a worker may outlive what is shown.
    """

    path: Path
    raw: bytes
    image: QImage
    pixels: Pixels


def pictures(path: Path, should_continue: Callable[[], bool]) -> Iterator[Picture]:
    """Yield the photograph in a file; work for a worker, as it takes some tenths of a second."""
    yield read_picture(path)


def read_picture(path: Path, most_side: int = _MOST_SIDE) -> Picture:
    """Return a picture from a file, the way up it was taken, at most `most_side` pixels long.

    Raises
    ------
    FileError, InputError
        If it is none.
    """
    raw = open_photograph(path)
    # The format is the one that its bytes tell, never one that a name or a plugin guesses.
    buffer = QBuffer()
    buffer.setData(QByteArray(raw))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer, QByteArray(head_of(raw, path.name).kind.encode()))
    reader.setAutoDetectImageFormat(False)
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid() and max(size.width(), size.height()) > most_side:
        size.scale(most_side, most_side, Qt.AspectRatioMode.KeepAspectRatio)
        reader.setScaledSize(size)
    image = reader.read()
    if image.isNull():
        raise InputError(
            tr("{0} is no picture that can be read; open a PNG or JPEG file.").format(path.name)
        )
    image = image.convertToFormat(QImage.Format.Format_RGB888)
    return Picture(path, raw, image, pixels_of(image))


def pixels_of(image: QImage) -> Pixels:
    """Return the pixels (h, w, 3) uint8 of a picture as `read_picture` makes it.

    They are a copy that owns its memory: a worker may still read them when the picture is gone.
    """
    raw = np.frombuffer(image.constBits(), dtype=np.uint8)
    rows = raw.reshape(image.height(), image.bytesPerLine())
    return rows[:, : 3 * image.width()].reshape(image.height(), image.width(), 3).copy()


def fitted_rect(image: QImage | None, room: QRectF) -> QRectF:
    """Return where a picture lies in a room, as large as it fits, in the middle."""
    if image is None:
        return room
    size = image.size().scaled(room.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
    left = room.x() + (room.width() - size.width()) / 2
    top = room.y() + (room.height() - size.height()) / 2
    return QRectF(left, top, max(size.width(), 1), max(size.height(), 1))


def thumbnail(image: QImage) -> bytes:
    """Return a picture made small, as PNG."""
    small = image.scaled(
        _THUMB,
        _THUMB,
        Qt.AspectRatioMode.KeepAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    )
    out = QBuffer()
    out.open(QIODevice.OpenModeFlag.WriteOnly)
    QImageWriter(out, QByteArray(b"png")).write(small)
    return bytes(out.data().data())
