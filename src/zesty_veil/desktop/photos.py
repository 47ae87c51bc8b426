"""Photographs from files, as the program computes with them and as it keeps them."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QRectF, Qt
from PySide6.QtGui import QImage, QImageReader, QImageWriter

from zesty_veil.errors import InputError
from zesty_veil.light.picture import Pixels

FILTER = "Photographs (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"
_MOST_SIDE = 4000
_THUMB = 160


def read_image(path: Path) -> QImage:
    """Return a picture from a file, the way up it was taken, at most 4000 pixels long.

    Raises
    ------
    InputError
        If it is none.
    """
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid() and max(size.width(), size.height()) > _MOST_SIDE:
        size.scale(_MOST_SIDE, _MOST_SIDE, Qt.AspectRatioMode.KeepAspectRatio)
        reader.setScaledSize(size)
    image = reader.read()
    if image.isNull():
        raise InputError(f"{path.name} is no picture that can be read; open a PNG or JPEG file.")
    return image.convertToFormat(QImage.Format.Format_RGB888)


def pixels_of(image: QImage) -> Pixels:
    """Return the pixels (h, w, 3) uint8 of a picture from `read_image`, not copied."""
    raw = np.frombuffer(image.constBits(), dtype=np.uint8)
    rows = raw.reshape(image.height(), image.bytesPerLine())
    return rows[:, : 3 * image.width()].reshape(image.height(), image.width(), 3)


def fitted(image: QImage | None, room: QRectF) -> QRectF:
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
