"""Finding the four marks of the card in a photograph.

Dark spots are cut out against the brightest nearby, so that uneven light does not matter. A mark
is a dark square; the first is solid and tells which way is up, the others have a square hole.
"""

from __future__ import annotations

from itertools import permutations
from typing import NamedTuple

import numpy as np

from zesty_veil.bench.card import WIDTH_MM, card_marks, greys, patches
from zesty_veil.errors import InputError
from zesty_veil.light.grid import Array
from zesty_veil.log.photo.perspective import PhotoPixels, homography, inside, mapped, sampled

_SIDE = 1400  # marks are sought in a picture of at most so many pixels
_DARK = 0.62  # of the brightness nearby
_LEAST_PIXELS = 25
_HOLE = (0.08, 0.36)  # share of a hollow mark that its hole takes; 0.2 as printed
_MOST_SPOTS = 14


class MarkSpot(NamedTuple):
    """A dark spot that may be a mark: its middle in pixels, its filled area, its hole's share."""

    x: float
    y: float
    area: float
    hole: float


def mark_centres() -> Array:
    """Return the middles of the marks on the card, clockwise from the solid one, (4, 2) in mm."""
    outer = [area for area in card_marks() if area.name.startswith("mark")]
    return np.array([(a.x + a.width / 2, a.y + a.height / 2) for a in outer])


def find_marks(pixels: PhotoPixels) -> Array:
    """Return the middles of the four marks in a photograph, clockwise from the solid one, (4, 2).

    Raises
    ------
    InputError
        If no card is there, or not all of it.
    """
    step = max(1, int(np.ceil(max(pixels.shape[:2]) / _SIDE)))
    spots = _spots(pixels, step)
    solid = sorted((s for s in spots if s.hole < 0.03), key=lambda s: -s.area)[:_MOST_SPOTS]
    hollow = sorted((s for s in spots if _HOLE[0] < s.hole < _HOLE[1]), key=lambda s: -s.area)
    best: tuple[float, Array] | None = None
    for three in permutations(hollow[:6], 3):
        for one in solid:
            corners = np.array([(s.x, s.y) for s in (one, *three)])
            error = _unlike(pixels, corners, (one, *three))
            if error is not None and (best is None or error < best[0]):
                best = (error, corners)
    if best is None:
        raise InputError(_missing(len(hollow)))
    return best[1]


def _missing(hollow: int) -> str:
    if hollow == 0:
        return (
            "There is no test card in this photograph, or it is too small, blurred or dark: its "
            "four corner marks must be seen. Pick the corners by hand, or photograph it again."
        )
    return (
        "Not all four corner marks of the card are in this photograph: a corner is cut off, "
        "covered or painted over. Pick the corners by hand, or photograph the whole card."
    )


def _spots(pixels: PhotoPixels, step: int) -> list[MarkSpot]:
    from scipy import ndimage  # noqa: PLC0415 - it would double the time a window takes to start

    grey = pixels[::step, ::step].astype(np.float64).mean(axis=-1)
    grey = ndimage.uniform_filter(grey, 3)
    reach = max(max(grey.shape) // 12, 5)
    bright = ndimage.uniform_filter(ndimage.maximum_filter(grey, reach), reach)
    dark = grey < _DARK * bright
    labels, _ = ndimage.label(dark)
    out = []
    for number, box in enumerate(ndimage.find_objects(labels), 1):
        height, width = (part.stop - part.start for part in box)
        if not (0.4 < height / width < 2.5) or height * width < _LEAST_PIXELS:
            continue
        if height > grey.shape[0] / 6 or width > grey.shape[1] / 6:
            continue
        own = labels[box] == number
        filled = ndimage.binary_fill_holes(own)
        area = float(filled.sum())
        if area < _LEAST_PIXELS or not _square(filled):
            continue
        y, x = (float(v) for v in ndimage.center_of_mass(filled))
        hole = 1 - float(own.sum()) / area
        out.append(
            MarkSpot((x + box[1].start) * step + (step - 1) / 2,
                 (y + box[0].start) * step + (step - 1) / 2, area, hole)
        )  # fmt: skip
    return sorted(out, key=lambda s: -s.area)[: 4 * _MOST_SPOTS]


def _square(filled: np.ndarray) -> bool:
    """Whether a spot has the moments of a parallelogram."""
    ys, xs = np.nonzero(filled)
    spread = np.linalg.eigvalsh(np.cov(np.stack([xs, ys]))) + 1 / 12
    if spread[0] <= 0 or spread[1] / spread[0] > 6:
        return False
    # For any parallelogram 12 sqrt(det cov) is its area; ragged or round spots differ.
    return bool(abs(12 * np.sqrt(spread.prod()) / xs.size - 1) < 0.13)


def _unlike(pixels: PhotoPixels, corners: Array, spots: tuple[MarkSpot, ...]) -> float | None:
    """Return how unlike the card a guess at its marks is, or None if it cannot be the card."""
    sides = np.linalg.norm(corners - np.roll(corners, 1, axis=0), axis=1)
    if sides.min() < 40 or not _convex(corners):
        return None
    try:
        H = homography(mark_centres(), corners)
        scale = np.diff(mapped(H, np.array([[0.0, 0.0], [WIDTH_MM, 0.0]])), axis=0)
        if not np.isfinite(scale).all():
            return None
        steps = np.array([sampled(pixels, H, inside(g, 3.0, 3, 3)).mean() for g in greys()])
        halves = [area for area in patches() if area.name.endswith(" 0")]
        bare = [sampled(pixels, H, inside(area, 8.0, 3, 3)).mean() for area in halves]
    except (np.linalg.LinAlgError, IndexError):
        return None
    # The grey scale falls, and the bare halves are white and black.
    if not (np.diff(steps) < 0.03).all() or steps[0] - steps[-1] < 0.15 or bare[0] - bare[1] < 0.15:
        return None
    areas = np.array([spot.area for spot in spots])
    return float(np.ptp(np.log(areas)))


def _convex(corners: Array) -> bool:
    """Whether four corners run clockwise (y downward) round a convex shape."""
    ahead = np.roll(corners, -1, axis=0) - corners
    after = np.roll(ahead, -1, axis=0)
    turn = ahead[:, 0] * after[:, 1] - ahead[:, 1] * after[:, 0]
    return bool((turn > 0).all())
