"""A card's patches out of a file that an instrument wrote, whichever of the open formats it is."""

from __future__ import annotations

import re
from pathlib import Path

from zesty_veil.bench.card import patches
from zesty_veil.errors import InputError
from zesty_veil.exchange.cgats import read_cgats
from zesty_veil.exchange.colours import Sample
from zesty_veil.exchange.cxf import read_cxf
from zesty_veil.exchange.spectra import read_spectra
from zesty_veil.light.cielab import lab, xyz, xyz_from_lab
from zesty_veil.light.illuminant import weights, white
from zesty_veil.light.recovery import recover_reflectance
from zesty_veil.log.card import Backing, Patch
from zesty_veil.log.files import read_whole
from zesty_veil.tr import tr

_MOST_MB = 20
_NAME = re.compile(r"[\W_]*(white|w|black|b|k)[\W_]*(\d{1,2})(?!\d).*", re.IGNORECASE)
_PAIR = re.compile(r".*?(\d{1,2})\D*\b(?:over|on)\W+(white|black).*", re.IGNORECASE)


def read_samples(path: Path) -> tuple[Sample, ...]:
    """Return the colours of a file: CxF3, CGATS text, or a CSV of spectra or CIELAB.

    What it is shows in its content, not in its name.

    Raises
    ------
    InputError
        If it cannot be read, with one sentence that begins with its name.
    """
    return samples_in(read_whole(path, _MOST_MB, "measurement"), path.name)


def samples_in(raw: bytes, what: str) -> tuple[Sample, ...]:
    """Return the colours in the bytes of a file; raises as `read_samples`."""
    if raw.lstrip()[:1] == b"<" or raw[:4].startswith(b"\xef\xbb\xbf<"):
        return read_cxf(raw, what)
    # Measuring programs still write Latin-1; every byte is a letter there.
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = raw.decode("latin-1")
    return read_cgats(text, what) if "BEGIN_DATA" in text else read_spectra(text, what)


def percent_words(samples: tuple[Sample, ...]) -> str:
    """Return a sentence where the spectra of a file were taken for per cent, or nothing."""
    if any(sample.percent for sample in samples):
        return "Its spectra were taken as per cent, as some of their numbers are above 2."
    return ""


def patches_of(samples: tuple[Sample, ...], what: str) -> tuple[Patch, ...]:
    """Return colours as the patches of a card.

    Names tell which is which ("white 2", "B4", "2 over black"); without names there must be as
    many as the card has, in its order.

    Raises
    ------
    InputError
        If they cannot be told apart.
    """
    places = [_place(sample.name) for sample in samples]
    named = [(place, s) for place, s in zip(places, samples, strict=True) if place is not None]
    if named:
        return tuple(_patch(*place, sample) for place, sample in named)
    own = [area.name.split() for area in patches()]
    if len(samples) != len(own):
        raise InputError(
            tr(
                "{0} holds {1} colours and none is called like a patch; name them “white 1”, "
                "“black 4” and so on, or measure all {2} in the card's order."
            ).format(what, len(samples), len(own))
        )
    return tuple(
        _patch(backing, int(passes), sample)
        for (backing, passes), sample in zip(own, samples, strict=True)
    )


def _place(name: str) -> tuple[str, int] | None:
    found = _NAME.fullmatch(name)
    if found:
        return ("white" if found[1].casefold() in {"white", "w"} else "black"), int(found[2])
    pair = _PAIR.fullmatch(name)
    return (pair[2].casefold(), int(pair[1])) if pair else None


def _patch(backing: str, passes: int, sample: Sample) -> Patch:
    kind: Backing = "white" if backing == "white" else "black"
    if sample.spectrum is not None:
        return Patch(kind, passes, spectrum=tuple(float(v) for v in sample.spectrum))
    colour = sample.lab
    if sample.light != "D65":
        # Under another light the same paint has other numbers: through the smoothest spectrum.
        light = xyz_from_lab(colour, white(sample.light))
        eye = weights()
        colour = lab(xyz(recover_reflectance(light, weights(sample.light)), eye), eye.sum(axis=0))
    L, a, b = (float(v) for v in colour)
    return Patch(kind, passes, (L, a, b))
