"""A passage on a form: the colour of each pixel looked up in the passage's field.

The field is worked out once over axis x relief, densely enough that looking up between its places
is as good as working out each pixel; what is looked up is light (XYZ), which mixes as light does.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.light.srgb import srgb
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import axis, fold
from zesty_veil.predict.forms.shapes import Shape, form
from zesty_veil.predict.look import Look, spectrum

_PLACES = 256
_RELIEFS = 33
_FINE_PLACES = 2048
_FINE_RELIEFS = 65

Rows = npt.NDArray[np.float32]

# Soft studio light from the upper left: what comes from everywhere, and what from the lamp.
_LAMP = np.array([-0.45, 0.62, 0.64])
_AMBIENT = 0.55


@dataclass(frozen=True)
class Table:
    """Encoded sRGB and CIELAB of a passage over its axis and relief, (256, 33, 3) each.

    `fine` is the encoded sRGB over 2048 x 65, as flat rows (133120, 3) float32: so fine that a
    picture takes the nearest row and needs no arithmetic of its own for each pixel.
    """

    rgb: Array
    lab: Array
    fine: Rows


@lru_cache(maxsize=64)
def kept_table(
    passage: Passage, paints: tuple[Paint, ...], look: Look, grey: bool = False
) -> Table:
    """Return `table` of a passage, kept for passages that have not changed."""
    return table(passage, {paint.name: paint for paint in paints}, look, grey)


def table(passage: Passage, paints: Mapping[str, Paint], look: Look, grey: bool = False) -> Table:
    """Return the table in which the colours of a passage are looked up.

    `grey` makes it that of a grey photograph, which shows value alone.
    """
    state = fold(passage, passage.coats, paints, axis(_PLACES), np.linspace(-1, 1, _RELIEFS))
    eye = weights(look.light, look.observer)
    colour = lab(xyz(spectrum(state, look), eye), eye.sum(axis=0))
    rgb = srgb(colour * np.array([1.0, 0.0, 0.0]) if grey else colour)[0]
    return Table(rgb, colour, _refined(rgb.astype(np.float32)))


def _refined(values: Rows) -> Rows:
    """Return values (256, 33, 3) interpolated to the fine table, as flat rows."""
    for axis_, count in ((0, _FINE_PLACES), (1, _FINE_RELIEFS)):
        place = np.linspace(0, values.shape[axis_] - 1, count)
        cell, part = _cell(place, values.shape[axis_])
        share = part.astype(np.float32).reshape((-1, 1, 1) if axis_ == 0 else (1, -1, 1))
        low, high = (np.take(values, cell + i, axis=axis_) for i in (0, 1))
        values = low + share * (high - low)
    return np.ascontiguousarray(values.reshape(-1, 3), dtype=np.float32)


def looked_up(values: Array, u: Array, relief: Array) -> Array:
    """Return values of a table, (256, 33, 3), at places and reliefs of any one shape; (..., 3)."""
    i, fi = _cell(u * (_PLACES - 1), _PLACES)
    j, fj = _cell((relief + 1) / 2 * (_RELIEFS - 1), _RELIEFS)
    flat = values.reshape(-1, values.shape[-1])
    corner = i * _RELIEFS + j
    out = flat[corner] * ((1 - fi) * (1 - fj))[..., None]
    out += flat[corner + _RELIEFS] * (fi * (1 - fj))[..., None]
    out += flat[corner + 1] * ((1 - fi) * fj)[..., None]
    out += flat[corner + _RELIEFS + 1] * (fi * fj)[..., None]
    return np.asarray(out)


def _cell(place: Array, count: int) -> tuple[npt.NDArray[np.intp], Array]:
    cell = np.clip(place.astype(np.intp), 0, count - 2)
    return cell, place - cell


@lru_cache(maxsize=16)
def _rows(worn: Shape | str, size: int) -> npt.NDArray[np.intp]:
    """Return the row of the fine table that each pixel of a form takes, (pixels in mask,)."""
    shape = form(worn, size)
    u = np.rint(shape.u[shape.mask] * (_FINE_PLACES - 1)).astype(np.intp)
    r = np.rint((shape.relief[shape.mask] + 1) / 2 * (_FINE_RELIEFS - 1)).astype(np.intp)
    return np.asarray(u * _FINE_RELIEFS + r)


@lru_cache(maxsize=16)
def _studio(worn: Shape | str, size: int) -> Rows:
    """Return by how much the studio's light changes each pixel of a form, (pixels in mask, 1).

    The curve of the screen is close to a power of 2.2 over all but the darkest tones.
    """
    shape = form(worn, size)
    lamp = _LAMP / np.linalg.norm(_LAMP)
    facing = np.clip(shape.normal[shape.mask] @ lamp, 0, 1)
    light = _AMBIENT + (1 - _AMBIENT) * facing / float(lamp[2])
    return np.asarray(light[:, None] ** (1 / 2.2), dtype=np.float32)


@dataclass(frozen=True)
class Seen:
    """How a form is looked at besides the look: under studio light, in a mirror."""

    studio: bool = True
    mirrored: bool = False


def picture(worn: Shape | str, size: int, seen: Table, how: Seen) -> tuple[Rows, Array]:
    """Return a passage on a form.

    Parameters
    ----------
    worn, size
        The form, and its size in pixels.
    seen
        The passage's table.
    how
        Studio light models the form.

    Returns
    -------
    rgb : (pixels, 3) float32
        Encoded sRGB of the pixels in the form's mask, in its order.
    mask : (size, size) bool
    """
    shape = form(worn, size)
    rgb = np.take(seen.fine, _rows(worn, size), axis=0)
    if how.studio:
        rgb *= _studio(worn, size)
        np.minimum(rgb, 1, out=rgb)
    return rgb, np.asarray(shape.mask)


def scene(
    layers: Sequence[tuple[Shape | str, Table]], size: int, how: Seen
) -> npt.NDArray[np.uint8]:
    """Return passages on their forms, one before the other, as RGBA pixels (size, size, 4).

    layers
        Form and table of each, from the one furthest back.
    """
    out = np.zeros((size, size, 4), dtype=np.uint8)
    for worn, seen in layers:
        rgb, mask = picture(worn, size, seen, how)
        rgb *= 255
        rgb += 0.5
        pixels = np.empty((rgb.shape[0], 4), dtype=np.uint8)
        pixels[:, :3] = rgb
        pixels[:, 3] = 255
        out[mask] = pixels
    return np.ascontiguousarray(out[:, ::-1]) if how.mirrored else out
