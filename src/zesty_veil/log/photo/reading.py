"""The whole way from a photograph to the colours of a card's patches."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.bench.card import HEIGHT_MM, WIDTH_MM, Area, greys, patches
from zesty_veil.errors import InputError
from zesty_veil.light.cielab import lab
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import decode, xyz_of
from zesty_veil.log.card import DEEP, Backing, Patch
from zesty_veil.log.drawdown import CARD_BLACK, CARD_WHITE
from zesty_veil.log.photo.marks import find_marks, mark_centres
from zesty_veil.log.photo.perspective import PhotoPixels, homography, inside, mapped, sampled
from zesty_veil.log.photo.tone import Tone, fitted_tone
from zesty_veil.tr import tr

CARD_SIZE = np.array([WIDTH_MM, HEIGHT_MM])
_MARGIN = {"grey": 2.5, "patch": 5.0}
_BURNT, _SUNK, _DARKER = 0.985, 0.016, 0.8
_LEAST_MARK_PX = 250.0
_GLARE, _SHADOW, _UNEVEN = 0.04, 0.08, 0.09
# Where the card is bare paper: x, y, width, height in mm; text, ruler and paint lie elsewhere.
_BARE = (
    *((x, 31.5, 4.0, 5.0) for x in (20.0, 46.0, 72.0, 98.0, 124.0, 150.0)),
    *((x, 101.5, 4.0, 3.5) for x in (20.0, 46.0, 72.0, 98.0, 124.0, 150.0)),
    *((3.0, y, 9.0, 4.0) for y in (22.0, 40.0, 58.0, 76.0, 94.0, 112.0)),
    *((168.0, y, 8.0, 4.0) for y in (22.0, 40.0, 58.0, 76.0, 94.0, 112.0)),
)


@dataclass(frozen=True, eq=False)
class Reading:
    """What a photograph tells of a card.

    `patches` come in the card's order; `corners` (4, 2) are the middles of the marks in pixels,
    clockwise from the solid one; `outlines` (8, 4, 2) where the patches lie; `notes` are sentences.
    """

    patches: tuple[Patch, ...]
    corners: Array
    outlines: Array
    notes: tuple[str, ...]


def read_photograph(pixels: PhotoPixels, corners: Array | None = None) -> Reading:
    """Return the colours of the card in a photograph.

    Parameters
    ----------
    pixels : (h, w, 3) uint8
        As the camera encoded them.
    corners : (4, 2) float64 or None
        Middles of the marks in pixels, clockwise from the solid one, where they were picked by
        hand; found in the photograph otherwise.

    Raises
    ------
    InputError
        If there is no card, not all of it, or it cannot be read.
    """
    found = find_marks(pixels) if corners is None else np.asarray(corners, dtype=np.float64)
    try:
        H = homography(mark_centres(), found)
        tone, off = _tone(pixels, H)
        read = [_patch(pixels, H, tone, off, area) for area in patches()]
    except np.linalg.LinAlgError:
        raise InputError(
            tr("The four corners lie on a line; pick the middles of the four marks.")
        ) from None
    except IndexError:
        raise InputError(
            tr("A part of the card lies outside the photograph; photograph the whole card.")
        ) from None
    outlines = np.array([mapped(H, _outline(area)) for area in patches()])
    return Reading(tuple(read), found, outlines, _notes(pixels, found, read))


def _tone(pixels: PhotoPixels, H: Array) -> tuple[Tone, tuple[Array, Array]]:
    """Return the tone, and the white spots (n, 2) with the log of how much they are off (n,)."""
    codes, places, wanted = [], [], []
    for area in greys():
        codes.append(np.median(_codes(pixels, H, area, _MARGIN["grey"]), axis=(0, 1)))
        places.append((area.x + area.width / 2, area.y + area.height / 2))
        wanted.append(_printed(area.grey or 0))
    for x, y, width, height in _BARE:
        area = Area("bare", x, y, width, height)
        codes.append(np.median(_codes(pixels, H, area, 0.5), axis=(0, 1)))
        places.append((x + width / 2, y + height / 2))
        wanted.append(1.0)
    code, place, reflectance = np.array(codes), np.array(places), np.array(wanted)
    white = code[reflectance == 1.0]
    if np.median(white.max(axis=1)) > _BURNT:
        raise InputError(
            tr(
                "The card's white is burnt out in this photograph, so colours cannot be told; "
                "photograph it darker."
            )
        )
    if np.median(white.min(axis=1)) < 0.15:
        raise InputError(
            tr("This photograph is too dark to tell colours; photograph the card in daylight.")
        )
    if not (np.diff(code[: len(greys())].mean(axis=1)) < 0.01).all():
        raise InputError(
            tr(
                "The card's grey scale does not fall from white to black here: check that the "
                "corners are the marks of a test card, the solid one first."
            )
        )
    tone, off = fitted_tone(code, place, reflectance, CARD_SIZE)
    return tone, (place, off.mean(axis=1))


def _printed(grey: int) -> float:
    """Return the reflectance of a printed grey, relative to the paper's."""
    linear = float(decode(np.array(grey / 255)))
    return (CARD_BLACK + (CARD_WHITE - CARD_BLACK) * linear) / CARD_WHITE


def _codes(pixels: PhotoPixels, H: Array, area: Area, margin: float) -> Array:
    across = int(np.clip((area.width - 2 * margin) * 2, 4, 48))
    down = int(np.clip((area.height - 2 * margin) * 2, 4, 40))
    return sampled(pixels, H, inside(area, margin, across, down))


def _patch(
    pixels: PhotoPixels, H: Array, tone: Tone, off: tuple[Array, Array], area: Area
) -> Patch:
    margin = _MARGIN["patch"]
    code = _codes(pixels, H, area, margin)
    places = inside(area, margin, code.shape[1], code.shape[0])
    light = tone.linear(code, places) * CARD_WHITE
    flat = light.reshape(-1, 3)
    middle = np.median(flat, axis=0)
    # The mean of what lies near the median is less noisy than the median itself.
    far = np.abs(flat - middle).mean(axis=1)
    colour = flat[far <= np.quantile(far, 0.7)].mean(axis=0)
    white = np.array([0.9505, 1.0, 1.0890])
    L, a, b = (float(v) for v in lab(np.maximum(xyz_of(colour), 0.0), white))
    backing, passes = area.name.split()
    kind: Backing = "white" if backing == "white" else "black"
    doubt = _doubt(light, off, area)
    return Patch(kind, int(passes), (min(max(L, 0.0), 100.0), a, b), doubt=doubt)


def _doubt(light: Array, off: tuple[Array, Array], area: Area) -> str:
    """Return what may be wrong with a patch, or nothing."""
    bright = light.mean(axis=-1)
    middle = float(np.median(bright))
    if float(np.mean(bright > middle + max(0.12, 0.25 * middle))) > _GLARE:
        return "glare"
    near = np.linalg.norm(off[0] - (area.x + area.width / 2, area.y + area.height / 2), axis=1) < 30
    if near.any() and float(np.min(off[1][near])) < -_SHADOW:
        return "shadow"
    halves = (bright[:, : bright.shape[1] // 2], bright[:, bright.shape[1] // 2 :],
              bright[: bright.shape[0] // 2], bright[bright.shape[0] // 2 :])  # fmt: skip
    one, other, top, low = (float(np.median(half)) for half in halves)
    if max(abs(one - other), abs(top - low)) > _UNEVEN * max(middle, 0.08):
        return "uneven"
    seen = np.median(light, axis=(0, 1))
    if float(seen.min()) < _SUNK or float(seen.max()) < _DARKER * CARD_BLACK:
        return DEEP
    return ""


def _outline(area: Area) -> Array:
    right, bottom = area.x + area.width, area.y + area.height
    return np.array([(area.x, area.y), (right, area.y), (right, bottom), (area.x, bottom)])


def _notes(pixels: PhotoPixels, corners: Array, read: list[Patch]) -> tuple[str, ...]:
    out = []
    across = corners[1] - corners[0]
    turned = float(np.degrees(np.arctan2(across[1], across[0])))
    if abs(turned) > 135:
        out.append(tr("The card is upside down in the photograph. It was turned to be read."))
    elif abs(turned) > 45:
        out.append(tr("The card is on its side in the photograph. It was turned to be read."))
    if np.linalg.norm(across) < _LEAST_MARK_PX:
        out.append(tr("The card is small in the photograph. Closer up it would be read better."))
    doubts = sorted({patch.doubt for patch in read if patch.doubt})
    if doubts:
        where = ", ".join(f"{p.backing} {p.passes}" for p in read if p.doubt)
        words = tr("Some patches are doubtful ({0}): {1}.")
        out.append(words.format(", ".join(doubts), where))
    return tuple(out)
