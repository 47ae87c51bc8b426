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
from zesty_veil.predict.forms.shapes import form
from zesty_veil.predict.look import Look, spectrum

_PLACES = 256
_RELIEFS = 33

# Soft studio light from the upper left: what comes from everywhere, and what from the lamp.
_LAMP = np.array([-0.45, 0.62, 0.64])
_AMBIENT = 0.55


@dataclass(frozen=True)
class Table:
    """Encoded sRGB, value-grey and CIELAB of a passage over its axis and relief, (256, 33, 3)."""

    rgb: Array
    lab: Array


@lru_cache(maxsize=64)
def kept_table(passage: Passage, paints: tuple[Paint, ...], look: Look) -> Table:
    """Return `table` of a passage, kept for passages that have not changed."""
    return table(passage, {paint.name: paint for paint in paints}, look)


def table(passage: Passage, paints: Mapping[str, Paint], look: Look) -> Table:
    """Return the table in which the colours of a passage are looked up."""
    state = fold(passage, passage.coats, paints, axis(_PLACES), np.linspace(-1, 1, _RELIEFS))
    eye = weights(look.light, look.observer)
    colour = lab(xyz(spectrum(state, look), eye), eye.sum(axis=0))
    return Table(srgb(colour)[0], colour)


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


@lru_cache(maxsize=8)
def _studio(name: str, size: int) -> Array:
    """Return how much of the studio's light each pixel of a form sends back, (pixels in mask,)."""
    shape = form(name, size)
    lamp = _LAMP / np.linalg.norm(_LAMP)
    facing = np.clip(shape.normal[shape.mask] @ lamp, 0, 1)
    return np.asarray(_AMBIENT + (1 - _AMBIENT) * facing / float(lamp[2]))


@dataclass(frozen=True)
class Seen:
    """How a form is looked at besides the look: under studio light, or as a grey photograph."""

    studio: bool = True
    grey: bool = False


def picture(name: str, size: int, seen: Table, how: Seen) -> tuple[Array, Array]:
    """Return a passage on a form.

    Parameters
    ----------
    name, size
        The form, and its size in pixels.
    seen
        The passage's table.
    how
        Studio light models the form; a grey photograph shows value only.

    Returns
    -------
    rgb : (pixels, 3) float64
        Encoded sRGB of the pixels in the form's mask, in its order.
    mask : (size, size) bool
    """
    shape = form(name, size)
    values = seen.rgb
    if how.grey:
        values = srgb(seen.lab * np.array([1.0, 0.0, 0.0]))[0]
    rgb = looked_up(values, shape.u[shape.mask], shape.relief[shape.mask])
    if how.studio:
        # The curve of the screen is close to a power of 2.2 over all but the darkest tones.
        rgb = np.clip(rgb * _studio(name, size)[:, None] ** (1 / 2.2), 0, 1)
    return rgb, np.asarray(shape.mask)


def scene(layers: Sequence[tuple[str, Table]], size: int, how: Seen) -> npt.NDArray[np.uint8]:
    """Return passages on their forms, one before the other, as RGBA pixels (size, size, 4).

    layers
        Form and table of each, from the one furthest back.
    """
    out = np.zeros((size, size, 4), dtype=np.uint8)
    for name, seen in layers:
        rgb, mask = picture(name, size, seen, how)
        out[mask, :3] = (rgb * 255 + 0.5).astype(np.uint8)
        out[mask, 3] = 255
    return out
