"""Unseen stacks predicted from cards: what the simulated painter's acceptance comes to."""

from __future__ import annotations

import dataclasses
from functools import cache

import numpy as np
from msgspec.structs import replace

import cardphoto as camera
from simulated import HAND_CV, POTS, RATIO_CV, card_of, lay, read, seen, true_paint
from truepaint import TruePaint
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lch
from zesty_veil.log.card import Card
from zesty_veil.log.fit import fitted_lab
from zesty_veil.log.measured import measured
from zesty_veil.log.photo.reading import read_photograph
from zesty_veil.paint.mixture import Mixture, Part
from zesty_veil.paint.primer import primer
from zesty_veil.plan.model import Coat, Ground, Passage
from zesty_veil.predict.field import predict
from zesty_veil.predict.sure import sureness

AT, FLAT = np.array([0.5]), np.zeros(1)
BANDS_OF = 60  # stacks whose band is worked out too, as that takes longest
THINNED = {"ink": 2.0, "transparent": 1.0, "opaque": 0.5, "wash": 0.0}


@dataclasses.dataclass
class Outcome:
    """How far unseen stacks came out from what was predicted."""

    as_laid: np.ndarray  # dE00 by the hand that strays
    at_mean: np.ndarray  # dE00 had the hand laid its mean film
    hand: np.ndarray  # dE00 that the hand alone makes
    held: float  # share inside the stated band


@cache
def true_pots() -> tuple[TruePaint, ...]:
    """The pots as they really are."""
    rng = np.random.default_rng(1)
    pots = (true_paint(rng, kind, amounts, scatter) for kind, amounts, scatter in POTS)
    return tuple(dataclasses.replace(pot, name=f"{pot.name} {i}") for i, pot in enumerate(pots))


@cache
def true_stacks(stacks: int) -> list[tuple[Passage, np.ndarray, np.ndarray]]:
    """Passages of those pots with what came, and what a hand of mean films would have made.

    They are what takes longest to work out, and every way to read cards is asked for the same.
    """
    rng, pots, out = np.random.default_rng(101), true_pots(), []
    for _ in range(stacks):
        ground = str(rng.choice(["white", "grey", "black"]))
        coats, laid, mean = [], [], []
        for _ in range(int(rng.integers(1, 6))):
            pot = pots[int(rng.integers(len(pots)))]
            thinning = float(rng.choice([0.5, 1, 2, 3, 5] if pot.kind != "wash" else [0, 1.0]))
            tool, passes = "glaze" if thinning >= 2 else "loaded", int(rng.integers(1, 4))
            laid.append(lay(rng, pot, tool, passes, thinning, HAND_CV, RATIO_CV))
            mean.append(lay(rng, pot, tool, passes, thinning, 0, 0))
            coats.append(Coat(Mixture((Part(pot.name),), "water", thinning), tool, passes))
        came, meant = (fitted_lab(seen(primer(ground), films)) for films in (laid, mean))
        out.append((Passage("x", ground=Ground(ground), coats=tuple(coats)), came, meant))
    return out


@cache
def outcome(source: str, white_only: bool = False, stacks: int = 200) -> Outcome:
    """Measure 14 pots from one card each, and predict stacks of them."""
    rng = np.random.default_rng(2)
    rack = {}
    for i, pot in enumerate(true_pots()):
        patches = card_of(rng, pot, THINNED[pot.kind], "loaded")
        if white_only:
            patches = [p for p in patches if p[0] == "white" and p[1] == 1]
        card = read(rng, pot, patches, THINNED[pot.kind], "loaded", source)
        if source == "photograph":
            card = photographed(card, patches, i)
        rack[pot.name] = measured([card]).paint
    rows, held = [], []
    for number, (passage, came, meant) in enumerate(true_stacks(200)[:stacks]):
        said = predict(passage, rack, AT, FLAT).lab[0, 0]
        pairs = ((said, came), (said, meant), (came, meant))
        rows.append([float(ciede2000(*pair)) for pair in pairs])
        if number >= BANDS_OF:
            continue
        band = sureness(passage, rack, AT, FLAT)
        polar = lch(came)
        polar[2] = band.low[0, 0, 2] + (polar[2] - band.low[0, 0, 2]) % 360
        held.append((band.low[0, 0] <= polar) & (polar <= band.high[0, 0]))
    as_laid, at_mean, hand = np.array(rows).T
    return Outcome(as_laid, at_mean, hand, float(np.mean(held)))


def photographed(card: Card, painted: list[tuple], number: int) -> Card:
    """Return a card as it is read off a rendered photograph, each taken another way."""
    rng = np.random.default_rng([7, number])
    shot = camera.Shot(
        tilt=rng.uniform(0, 30), towards=rng.uniform(0, 360), roll=rng.uniform(-8, 8),
        curve=camera.CURVES[number % 3], gains=tuple(rng.uniform(0.8, 1.2, 3)), fill=0.68,
        seed=number, size=(960, 720),
    )  # fmt: skip
    pixels = camera.photograph({(b, n): R for b, n, R in painted}, shot)
    return replace(card, patches=read_photograph(pixels).patches)
