"""Named colours with their spectra, as they go out into other programs' files and come back."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.light.adapt import by_day
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import srgb
from zesty_veil.plan.model import Plan
from zesty_veil.predict.field import axis
from zesty_veil.predict.folding import fold_coats
from zesty_veil.predict.lay import ground, prepare
from zesty_veil.predict.look import ViewingConditions, colours, spectrum
from zesty_veil.tr import tr

SAMPLE_PLACES = 11
# More colours than this are no card's, and no palette's that anybody made.
MOST_SAMPLES = 5000


@dataclass(frozen=True, eq=False)
class Sample:
    """A colour with a name: CIELAB (3,) and, where it is known, its radiance factor (36,).

    `light` is the illuminant whose white the CIELAB is relative to; `from_spectrum`, whether it
    was reckoned from the spectrum; `percent`, whether its file had spectra in per cent.
    """

    name: str
    lab: Array
    spectrum: Array | None = None
    light: str = "D65"
    from_spectrum: bool = False
    percent: bool = False

    @property
    def rgb(self) -> tuple[int, int, int]:
        """Encoded sRGB, 0-255."""
        r, g, b = (round(255 * float(v)) for v in srgb(by_day(self.lab, self.light))[0])
        return r, g, b


def refuse_many(count: int, what: str) -> None:
    """Refuse a file of more colours than can be meant; raises InputError."""
    if count > MOST_SAMPLES:
        raise InputError(
            tr("{0} holds over {1} colours; export only those of the card.").format(
                what, MOST_SAMPLES
            )
        )


def samples(plan: Plan, places: int = SAMPLE_PLACES) -> tuple[Sample, ...]:
    """Return the predicted colours of every passage on its flats, from the light to the far end."""
    rack, look = plan.rack(), ViewingConditions(plan.light)
    u, flat = axis(places), np.zeros(1)
    out = []
    for passage in plan.passages:
        state = fold_coats(
            ground(passage, rack, u, flat), prepare(passage.coats, rack, passage, u, flat)
        )
        labs, spectra = colours(state, look)[0][:, 0], spectrum(state, look)[:, 0]
        for place, lab, R in zip(u, labs, spectra, strict=True):
            mm = f"{place * passage.length_mm:.1f}".removesuffix(".0")
            out.append(Sample(f"{passage.name}, {mm} mm", lab, R))
    return tuple(out)
