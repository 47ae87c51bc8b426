"""Reading cards and fitting paints, away from the interface thread."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from zesty_veil.desktop.kit.photos import Picture, read_picture
from zesty_veil.exchange.cardfile import patches_of, percent_words, read_samples
from zesty_veil.light.grid import Array
from zesty_veil.light.picture import Pixels
from zesty_veil.log.card import Patch
from zesty_veil.log.photo.reading import Reading, read_photograph


@dataclass(frozen=True, eq=False)
class Photograph:
    """A photograph to be read, with the corners if they were picked."""

    pixels: Pixels
    corners: Array | None = None


@dataclass(frozen=True)
class FromFile:
    """An instrument's file: its name, the patches in it, and what was taken for granted."""

    name: str
    patches: tuple[Patch, ...]
    note: str


def measurements(path: Path, should_continue: Callable[[], bool]) -> Iterator[FromFile]:
    """Yield what an instrument's file holds."""
    samples = read_samples(path)
    yield FromFile(path.name, patches_of(samples, path.name), percent_words(samples))


def photographs(
    asked: Path | Photograph, should_continue: Callable[[], bool]
) -> Iterator[Picture | Reading]:
    """Yield the photograph in a file, so that it can be shown, and then what it tells."""
    if isinstance(asked, Path):
        picture = read_picture(asked)
        yield picture
        asked = Photograph(picture.pixels)
    if should_continue():
        yield read_photograph(asked.pixels, asked.corners)
