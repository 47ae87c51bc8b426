"""A passage on a form: the colour of each pixel looked up in the passage's field.

The field is worked out once over axis x relief, densely enough that looking up between its places
is as good as working out each pixel; what is looked up is light (XYZ), which mixes as light does.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from dataclasses import replace as replace_field

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from zesty_veil.kept import kept_within
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import weights
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Coat, Passage
from zesty_veil.predict.field import axis, fold
from zesty_veil.predict.forms.edges import laid_over
from zesty_veil.predict.forms.facing import facing
from zesty_veil.predict.forms.shading import studio
from zesty_veil.predict.forms.shapes import Shape, form
from zesty_veil.predict.look import ViewingConditions, on_screen, spectrum
from zesty_veil.predict.turned import nozzle_of

_PLACES, _RELIEFS = 320, 17
_FINE = (2048, 65)
# Where a spray has been at work, colours also go with how a surface faces its nozzle. What lands
# goes with the cosine, and the first of it changes the most.
_SPRAYED_PLACES, _SPRAYED_RELIEFS = 200, 21
_FACINGS: Array = np.linspace(0, 1, 9) ** 1.5

PixelRows = npt.NDArray[np.float32]


@dataclass(frozen=True, eq=False)
class Table:
    """Encoded sRGB and CIELAB of a passage over axis, relief and facing, (p, r, f, 3) each.

    `fine` is the encoded sRGB as flat rows (n, 3) float32. Without a nozzle, f is 1 and there are
    so many rows (`_FINE`) that a picture takes the nearest and needs no arithmetic of its own for
    each pixel; with one, rows are as in `rgb`, and `nozzle` is the angle that facing is from.
    """

    rgb: Array
    lab: Array
    fine: PixelRows
    nozzle: float | None


def kept_table(
    passage: Passage, paints: tuple[Paint, ...], look: ViewingConditions, grey: bool = False
) -> Table:
    """Return `table` of a passage, kept for passages whose paint has not changed.

    Where the paint lies on a form, and from where it is sprayed, is no matter of the table.
    """
    nozzle = nozzle_of(passage)
    turned = 0.0 if nozzle is None else nozzle
    plain = Passage(
        "",
        passage.length_mm,
        ground=replace(passage.ground, coats=_led_from(passage.ground.coats, turned)),
        coats=_led_from(passage.coats, turned),
    )
    return _from_nozzle(_kept(plain, paints, look, grey), nozzle)


@kept_within(4)
def _from_nozzle(table: Table, nozzle: float | None) -> Table:
    return replace_field(table, nozzle=nozzle)


def _led_from(coats: tuple[Coat, ...], turned: float) -> tuple[Coat, ...]:
    """Return coats with their nozzles turned back by some degrees."""
    return tuple(c if c.nozzle is None else replace(c, nozzle=c.nozzle - turned) for c in coats)


@kept_within(48)
def _kept(
    passage: Passage, paints: tuple[Paint, ...], look: ViewingConditions, grey: bool
) -> Table:
    return table(passage, {paint.name: paint for paint in paints}, look, grey)


def table(
    passage: Passage, paints: Mapping[str, Paint], look: ViewingConditions, grey: bool = False
) -> Table:
    """Return the table in which the colours of a passage are looked up.

    `grey` makes it that of a grey photograph, which shows value alone.
    """
    nozzle = nozzle_of(passage)
    if nozzle is None:
        places, reliefs = axis(_PLACES), np.linspace(-1, 1, _RELIEFS)
        tilted = [passage]
    else:
        places, reliefs = axis(_SPRAYED_PLACES), np.linspace(-1, 1, _SPRAYED_RELIEFS)
        turned = np.degrees(np.arccos(_FACINGS)) + nozzle
        tilted = [replace(passage, tilt=(float(t), float(t)), turns=()) for t in turned]
    eye = weights(look.light, look.observer)
    seen = [
        xyz(spectrum(fold(one, one.coats, paints, places, reliefs, look, rough=True), look), eye)
        for one in tilted
    ]
    colour = lab(np.stack(seen, axis=2), eye.sum(axis=0))
    rgb = on_screen(colour * np.array([1.0, 0.0, 0.0]) if grey else colour, look)[0]
    fine = rgb.astype(np.float32)
    return Table(rgb, colour, _refined(fine) if nozzle is None else fine.reshape(-1, 3), nozzle)


def _refined(values: PixelRows) -> PixelRows:
    """Return values (p, r, 1, 3) interpolated to the fine table, as flat rows.

    scipy.ndimage.zoom does the same, to the last digit, in twenty times as long; each edit waits.
    """
    for i, count in reversed(tuple(enumerate(_FINE))):  # the one that grows less comes first
        cell, part = _cell(np.linspace(0, values.shape[i] - 1, count), values.shape[i])
        sides = [1, 1, 1, 1]
        sides[i] = count
        share = part.astype(np.float32).reshape(sides)
        low, high = (np.take(values, cell + j, axis=i) for j in (0, 1))
        values = low + share * (high - low)
    return np.ascontiguousarray(values.reshape(-1, 3), dtype=np.float32)


def _corners(
    count: tuple[int, ...], u: Array, relief: Array, towards: Array | None
) -> Iterator[tuple[npt.NDArray[np.intp], Array]]:
    """Yield the rows of a table (p, r, f) round each place, and the share that each row has."""
    places = [u * (count[0] - 1), (relief + 1) / 2 * (count[1] - 1)]
    if count[2] > 1:
        assert towards is not None
        places.append(np.interp(towards, _FACINGS, np.arange(_FACINGS.size)))
    where = [_cell(place, most) for place, most in zip(places, count, strict=False)]
    steps = (count[1] * count[2], count[2], 1)
    for corner in np.ndindex(*(2,) * len(where)):
        row = np.zeros(u.shape, dtype=np.intp)
        share = np.ones(u.shape)
        for (cell, part), side, step in zip(where, corner, steps, strict=False):
            row += (cell + side) * step
            share = share * (part if side else 1 - part)
        yield row, share


def _cell(place: Array, count: int) -> tuple[npt.NDArray[np.intp], Array]:
    cell = np.clip(place.astype(np.intp), 0, count - 2)
    return cell, place - cell


@kept_within(24)
def _rows(worn: Shape | str, size: int) -> npt.NDArray[np.intp]:
    """Return the row of the fine table that each pixel of a form takes, (pixels in mask,)."""
    shape = form(worn, size)
    u = np.rint(shape.u[shape.mask] * (_FINE[0] - 1)).astype(np.intp)
    r = np.rint((shape.relief[shape.mask] + 1) / 2 * (_FINE[1] - 1)).astype(np.intp)
    return np.asarray(u * _FINE[1] + r)


@kept_within(64)
def _sprayed_rows(
    worn: Shape | str, size: int, count: tuple[int, ...], nozzle: float
) -> list[tuple[npt.NDArray[np.intp], PixelRows]]:
    """Return the eight rows of a sprayed table round each pixel of a form, and their shares."""
    shape = form(worn, size)
    mask = shape.mask
    towards = facing(shape.normal[mask], nozzle)
    return [
        (row, np.asarray(share[:, None], dtype=np.float32))
        for row, share in _corners(count, shape.u[mask], shape.relief[mask], towards)
    ]


@kept_within(12)
def _studio(worn: Shape | str, size: int) -> PixelRows:
    """Return by how much the studio's light changes each pixel of a form, (pixels in mask, 1)."""
    shape = form(worn, size)
    return np.asarray(studio(shape.normal[shape.mask])[:, None], dtype=np.float32)


@dataclass(frozen=True)
class FormConditions:
    """How a form is looked at besides the look: under studio light, in a mirror."""

    studio: bool = True
    mirrored: bool = False


def picture(
    worn: Shape | str, size: int, seen: Table, how: FormConditions
) -> tuple[PixelRows, npt.NDArray[np.bool_]]:
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
    if seen.nozzle is None:
        rgb = np.take(seen.fine, _rows(worn, size), axis=0)
    else:
        rgb = np.zeros((int(shape.mask.sum()), 3), dtype=np.float32)
        for row, share in _sprayed_rows(worn, size, seen.rgb.shape, seen.nozzle):
            rgb += np.take(seen.fine, row, axis=0) * share
    if how.studio:
        rgb *= _studio(worn, size)
        np.minimum(rgb, 1, out=rgb)
    return rgb, shape.mask


@kept_within(16)
def _pixels(
    worn: Shape | str, size: int, seen: Table, how: FormConditions
) -> npt.NDArray[np.uint8]:
    """Return `picture` as RGBA pixels of its mask; kept, for what stands behind an edited front."""
    rgb, _ = picture(worn, size, seen, how)
    rgb *= 255
    rgb += 0.5
    pixels = np.empty((rgb.shape[0], 4), dtype=np.uint8)
    pixels[:, :3] = rgb
    pixels[:, 3] = 255
    return pixels


def scene(
    layers: Sequence[tuple[Shape | str, Table]], size: int, how: FormConditions
) -> npt.NDArray[np.uint8]:
    """Return passages on their forms, one before the other, as RGBA pixels (size, size, 4).

    layers
        Form and table of each, from the one furthest back.
    """
    out = np.zeros((size, size, 4), dtype=np.uint8)
    for worn, seen in layers:
        laid_over(out, _pixels(worn, size, seen, how), worn)
    return np.ascontiguousarray(out[:, ::-1]) if how.mirrored else out
