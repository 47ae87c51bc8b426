"""Photographs of painted cards, rendered for tests: perspective, uneven light, a camera, JPEG."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QImage, QPainter

from zesty_veil.bench.card import HEIGHT_MM, WIDTH_MM, patches
from zesty_veil.desktop.kit.paper.testcard import draw_card
from zesty_veil.light.cielab import xyz
from zesty_veil.light.illuminant import weights
from zesty_veil.light.srgb import decode

PER_MM, PAPER_MM = 6, 14
PAPER, TONER, TABLE = 0.88, 0.04, np.array([0.28, 0.2, 0.13])
# IEC 61966-2-1, to linear sRGB.
TO_RGB = np.array([[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.057]])


def srgb_curve(x):
    return np.where(x <= 0.0031308, 12.92 * x, 1.055 * np.maximum(x, 0) ** (1 / 2.4) - 0.055)


def flat_curve(x):
    return np.maximum(x, 0) ** (1 / 1.8)


def punchy_curve(x):
    y = srgb_curve(x)
    return 0.5 * y + 0.5 * y * y * (3 - 2 * y)


CURVES = (srgb_curve, flat_curve, punchy_curve)


@dataclass
class Shot:
    """How the photograph is taken."""

    tilt: float = 15.0  # degrees
    towards: float = 40.0  # direction in which it is tilted
    roll: float = 3.0
    uneven: float = 2.0  # brightest to darkest
    curve: object = srgb_curve
    gains: tuple = (1.12, 1.0, 0.86)
    noise: float = 0.006
    size: tuple = (1600, 1200)
    fill: float = 0.8  # share of the width that the card takes
    quality: int = 70
    shift: tuple = (0.0, 0.0)
    seed: int = 1
    spoil: list = field(default_factory=list)  # functions of (linear light, mm x, mm y)


def page(colours: dict[tuple[str, int], np.ndarray] | None) -> np.ndarray:
    """Return the printed and painted card as linear sRGB (h, w, 3), PER_MM, paper round it."""
    w, h = (int((side + 2 * PAPER_MM) * PER_MM) for side in (WIDTH_MM, HEIGHT_MM))
    image = QImage(w, h, QImage.Format.Format_RGB888)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.scale(PER_MM, PER_MM)
    painter.translate(PAPER_MM, PAPER_MM)
    draw_card(painter)
    painter.end()
    raw = np.frombuffer(image.constBits(), np.uint8).reshape(h, image.bytesPerLine())
    codes = raw[:, : 3 * w].reshape(h, w, 3) / 255
    out = TONER + (PAPER - TONER) * decode(codes)
    for area in patches() if colours else ():
        backing, passes = area.name.split()
        if passes == "0":
            continue
        x, y, x2, y2 = (
            round((v + PAPER_MM) * PER_MM)
            for v in (area.x + 1, area.y + 1, area.x + area.width - 1, area.y + area.height - 1)
        )
        out[y:y2, x:x2] = xyz(colours[backing, int(passes)], weights()) @ TO_RGB.T
    return out


def photograph(colours, shot: Shot) -> np.ndarray:
    """Return the pixels (h, w, 3) uint8 of a photograph, after JPEG."""
    rng = np.random.default_rng(shot.seed)
    card = page(colours)
    w, h = shot.size
    to_picture = projection(shot)
    back = np.linalg.inv(to_picture)
    ys, xs = np.mgrid[0:h, 0:w].astype(float)
    total = np.zeros((h, w, 3))
    for dx, dy in ((-0.25, -0.25), (0.25, 0.25)):
        p = np.stack([xs + dx, ys + dy, np.ones_like(xs)], -1) @ back.T
        mm = p[..., :2] / p[..., 2:]
        i = np.rint((mm[..., 1] + PAPER_MM) * PER_MM - 0.5).astype(int)
        j = np.rint((mm[..., 0] + PAPER_MM) * PER_MM - 0.5).astype(int)
        on = (i >= 0) & (i < card.shape[0]) & (j >= 0) & (j < card.shape[1]) & (p[..., 2] > 0)
        picture = np.broadcast_to(TABLE, (h, w, 3)).copy()
        picture[on] = card[i[on], j[on]]
        total += picture / 2
    # Light falls off smoothly across the card, by `uneven` from its brightest to its darkest.
    t = np.clip((mm[..., 0] / WIDTH_MM * 0.8 + mm[..., 1] / HEIGHT_MM * 0.2), -0.3, 1.3)
    light = np.exp(-np.log(shot.uneven) * (0.7 * t + 0.3 * t * t))
    for spoil in shot.spoil:
        total, light = spoil(total, light, mm[..., 0], mm[..., 1])
    linear = 0.88 * total * light[..., None] * np.array(shot.gains) / max(shot.gains)
    linear = linear + rng.normal(0, 1, linear.shape) * shot.noise * np.sqrt(
        np.maximum(linear, 0) + 0.01
    )
    code = np.clip(shot.curve(np.clip(linear, 0, 1)), 0, 1)
    return jpeg(np.rint(code * 255).astype(np.uint8), shot.quality)


def projection(shot: Shot) -> np.ndarray:
    """Return the matrix from mm on the card to pixels."""
    w, h = shot.size
    a, b, c = np.radians([shot.tilt, shot.towards, shot.roll])
    axis = np.array([np.cos(b), np.sin(b), 0.0])
    cross = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    turn = np.eye(3) + np.sin(a) * cross + (1 - np.cos(a)) * cross @ cross
    roll = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
    R = turn @ roll
    f = 1.2 * w
    distance = f * WIDTH_MM / (shot.fill * w)
    K = np.array([[f, 0, w / 2 + shot.shift[0]], [0, f, h / 2 + shot.shift[1]], [0, 0, 1]])
    middle = np.array([WIDTH_MM / 2, HEIGHT_MM / 2, 0.0])
    t = np.array([0, 0, distance]) - R @ middle
    return K @ np.column_stack([R[:, 0], R[:, 1], t])


def jpeg(pixels: np.ndarray, quality: int) -> np.ndarray:
    h, w = pixels.shape[:2]
    image = QImage(pixels.tobytes(), w, h, 3 * w, QImage.Format.Format_RGB888)
    out = QBuffer()
    out.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(out, "JPG", quality)
    back = QImage.fromData(out.data()).convertToFormat(QImage.Format.Format_RGB888)
    raw = np.frombuffer(back.constBits(), np.uint8).reshape(h, back.bytesPerLine())
    return raw[:, : 3 * w].reshape(h, w, 3).copy()
