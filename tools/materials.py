"""How the shipped materials look, measured as the targets in material_targets.json ask for it.

A target names a stack of coats over a primer in the words that the command line uses, what to
measure of it, and from where to where that should lie. `tests/test_material_targets.py` holds the
shipped table to it, and `tools/tune_materials.py` fits the table.
"""

from __future__ import annotations

import json
import warnings
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from pathlib import Path
from typing import Any

import numpy as np

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, lch, xyz
from zesty_veil.light.grid import Array
from zesty_veil.light.srgb import lab_of, srgb
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.predict.field import axis, fold
from zesty_veil.predict.layer import StackOptics
from zesty_veil.predict.look import ViewingConditions, colours, spectrum
from zesty_veil.predict.solid import solid_after

TARGETS = Path(__file__).parent / "material_targets.json"
Rack = Mapping[str, Paint]
# Lightness between which Pointer's table is fine enough.
_MIDDLE = (30.0, 85.0)


@dataclass(frozen=True)
class Target:
    """What is wanted of a stack: something measured of it that lies within two bounds.

    `tolerance` is how far out counts as one; a target without weight is tested, not fitted.
    """

    name: str
    of: str  # what is measured: see `MEASURES`
    wanted: tuple[float, float]
    tolerance: float
    source: str
    stacks: tuple[tuple[str, ...], ...]  # each a primer with coats upon it
    weight: float = 1.0
    finish: str = "as painted"
    angle: str = "shade"
    open: str = ""  # why it is not met, if it is not

    @property
    def paints(self) -> frozenset[str]:
        """Names of the paints in it."""
        words = [coat.split(";")[0] for stack in self.stacks for coat in stack[1:]]
        parts = [part.strip() for each in words for part in each.split("+")]
        return frozenset(_without_number(part) for part in parts)

    def measured(self, rack: Rack) -> float:
        """Return what is measured of it with the paints of a rack."""
        return float(MEASURES[self.of](self, rack))

    def off(self, value: float) -> float:
        """Return how many tolerances a value lies outside of what is wanted, with its sign."""
        low, high = self.wanted
        return (min(value - low, 0.0) + max(value - high, 0.0)) / self.tolerance

    def inward(self, value: float, margin: float = 0.25) -> float:
        """Return the same, but from a little within the bounds, where they are wide enough."""
        low, high = self.wanted
        inside = min(margin * self.tolerance, (high - low) / 4)
        return (min(value - low - inside, 0.0) + max(value - high + inside, 0.0)) / self.tolerance


def _without_number(part: str) -> str:
    words = part.split()
    return " ".join(words[:-1]) if words[-1].replace(".", "").isdigit() else part


@cache
def targets() -> tuple[Target, ...]:
    """Return all targets."""
    out = []
    for entry in json.loads(TARGETS.read_text("utf-8")):
        stacks = entry.pop("stacks", None) or [entry.pop("stack")]
        out.append(
            Target(
                stacks=tuple(tuple(s) for s in stacks), wanted=tuple(entry.pop("wanted")), **entry
            )
        )
    return tuple(out)


@dataclass
class _Seen:
    """One stack at a site."""

    target: Target
    rack: Rack
    which: int = 0
    site: str = "flat"

    @cached_property
    def state(self) -> StackOptics:
        primer, *coats = self.target.stacks[self.which]
        laid = tuple(parse_coat(words, self.rack) for words in coats)
        passage = Passage("target", ground=Ground(primer), coats=laid)  # type: ignore[arg-type]
        relief = np.array([RELIEF[self.site]])  # type: ignore[index]
        return fold(passage, laid, self.rack, axis(1), relief)

    @cached_property
    def lab(self) -> Array:
        look = ViewingConditions("D65", 2, self.target.finish, self.target.angle)  # type: ignore[arg-type]
        return np.asarray(colours(self.state, look)[0][0, 0])

    @property
    def lch(self) -> Array:
        return lch(self.lab)

    def shown(self) -> Array:
        """Return L, C, h of what a screen shows of it."""
        return lch(lab_of(srgb(self.lab)[0]))


def _all(target: Target, rack: Rack) -> list[_Seen]:
    return [_Seen(target, rack, i) for i in range(len(target.stacks))]


def _lch(place: int) -> Any:
    return lambda target, rack: _Seen(target, rack).lch[place]


def _hue(target: Target, rack: Rack) -> float:
    """Hue nearest to the middle of what is wanted, so that 359 and 1 are neighbours."""
    middle = sum(target.wanted) / 2
    return middle + (float(_Seen(target, rack).lch[2]) - middle + 180) % 360 - 180


def _shown(place: int) -> Any:
    return lambda target, rack: _Seen(target, rack).shown()[place]


def _difference(target: Target, rack: Rack) -> float:
    one, other = _all(target, rack)
    return float(ciede2000(one.lab, other.lab))


def _steps(place: int, shown: bool = False) -> Any:
    """The least step up from each stack to the next."""

    def measure(target: Target, rack: Rack) -> float:
        each = [(s.shown() if shown else s.lch)[place] for s in _all(target, rack)]
        return float(np.diff(each).min())

    return measure


def _falls(place: int, shown: bool = False) -> Any:
    """The least step down from each stack to the next."""

    def measure(target: Target, rack: Rack) -> float:
        each = [(s.shown() if shown else s.lch)[place] for s in _all(target, rack)]
        return float(-np.diff(each).max())

    return measure


def _sites(target: Target, rack: Rack) -> float:
    recess, ridge = (_Seen(target, rack, site=site).lab for site in ("recess", "ridge"))
    return float(ciede2000(recess, ridge))


def _ridge_over_recess(target: Target, rack: Rack) -> float:
    recess, ridge = (_Seen(target, rack, site=site).lab for site in ("recess", "ridge"))
    return float(ridge[0] - recess[0])


def _turn(target: Target, rack: Rack) -> float:
    """How far the hue of a mixture lies from one paint towards the other: 0 to 1."""
    one, mixed, other = (float(s.lch[2]) for s in _all(target, rack))
    whole = (other - one + 180) % 360 - 180
    return ((mixed - one + 180) % 360 - 180) / whole


def _chroma_over(target: Target, rack: Rack) -> float:
    """Chroma of the first stack above the greatest of the others."""
    first, *others = (float(s.lch[1]) for s in _all(target, rack))
    return first - max(others)


def _passes(target: Target, rack: Rack) -> float:
    """After how many passes the one coat is solid to the eye; 99 if never."""
    primer, words = target.stacks[0]
    labs = []
    for n in range(13):
        stack = (primer, f"{words}; passes {n}") if n else (primer,)
        one = Target("", "L", (0, 0), 1, "", (stack,), finish=target.finish)
        labs.append(_Seen(one, rack).lab)
    after = solid_after(np.array(labs))
    return 99.0 if after is None else float(after)


def _excess(target: Target, rack: Rack) -> float:
    """Return the greatest excess of chroma over Pointer's gamut of real surfaces, in CIE C.

    Measured process inks (FOGRA39L) lie up to 4 outside it in the middle tones, and up to 7 where
    they are very light or very dark: there 2 are taken off.
    """
    look = ViewingConditions(finish=target.finish)  # type: ignore[arg-type]
    return max(above_pointer(spectrum(each.state, look)[0, 0]) for each in _all(target, rack))


def above_pointer(R: Array) -> float:
    """Return how much more chroma a reflectance (36,) has than any real surface of its L and h.

    M. R. Pointer, "The gamut of real surface colours", Color Research & Application 5 (1980),
    145-155; the table as the package colour-science has it, for illuminant C.
    """
    eye, table = _illuminant_c()
    L, C, h = lch(lab(xyz(R, eye), eye.sum(axis=0)))
    lightness, hues, most = table
    h = float(h) % 360
    row = np.array([np.interp(h, hues, each) for each in most])
    fair = 0.0 if _MIDDLE[0] <= L <= _MIDDLE[1] else 2.0
    return float(C) - float(np.interp(L, lightness, row)) - fair


@cache
def _illuminant_c() -> tuple[Array, tuple[Array, Array, Array]]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # that it could draw with another package
        import colour  # noqa: PLC0415 - only the targets and the tuner need it

    nm = np.arange(380, 740, 10)
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    light = colour.SDS_ILLUMINANTS["C"].copy().interpolate(colour.SpectralShape(360, 780, 5))
    power = np.interp(nm, light.wavelengths, light.values)
    eye = np.array([cmfs[float(n)] for n in nm]) * power[:, None]
    eye /= eye[:, 1].sum()
    volume = np.asarray(colour.models.DATA_POINTER_GAMUT_VOLUME)
    lightness = np.unique(volume[:, 0])
    hues = np.unique(volume[:, 2])
    most = np.array(
        [
            [volume[(volume[:, 0] == L) & (volume[:, 2] == h), 1].max() for h in hues]
            for L in lightness
        ]
    )
    hues = np.concatenate([hues, [360.0]])
    most = np.concatenate([most, most[:, :1]], axis=1)
    # There is no colour at all in white; what is darker than the table is held to its first row.
    lightness = np.concatenate([lightness, [100.0]])
    most = np.concatenate([most, np.zeros((1, hues.size))])
    eye, lightness, hues, most = (
        np.asarray(x, dtype=np.float64) for x in (eye, lightness, hues, most)
    )
    return eye, (lightness, hues, most)


MEASURES: dict[str, Any] = {
    "L": _lch(0),
    "C": _lch(1),
    "h": _hue,
    "L shown": _shown(0),
    "C shown": _shown(1),
    "h shown": _shown(2),
    "dE": _difference,
    "L rises": _steps(0),
    "C rises": _steps(1),
    "L falls": _falls(0),
    "C falls": _falls(1),
    "L shown falls": _falls(0, shown=True),
    "dE recess to ridge": _sites,
    "L ridge over recess": _ridge_over_recess,
    "hue between": _turn,
    "C over others": _chroma_over,
    "passes to solid": _passes,
    "over Pointer": _excess,
}
