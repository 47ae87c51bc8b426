"""The command line's fires and glows."""

from __future__ import annotations

import argparse
from typing import Any

import numpy as np

from zesty_veil.advise.fire import COLD_K, HOT_K, SCHOOLS, fire
from zesty_veil.light.cielab import lch, xyz_from_lab
from zesty_veil.light.grid import Array
from zesty_veil.light.illuminant import white
from zesty_veil.light.srgb import hexadecimal, srgb
from zesty_veil.light.value import value
from zesty_veil.predict.words import describe


def fire_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of a fire."""
    job.add_argument("--school", default="deep", choices=SCHOOLS)
    job.add_argument("--steps", type=int, default=6, metavar="N")
    job.add_argument("--hot", type=float, default=HOT_K, metavar="K", help="at the light")
    job.add_argument("--cold", type=float, default=COLD_K, metavar="K", help="at the tips")
    job.add_argument("--hue", type=float, default=140.0, metavar="DEGREES", help="for single")
    job.add_argument("--json", action="store_true", help="as match --ramp reads it")


def fired(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return a fire as something for JSON and as text; raises InputError with one sentence."""
    made = fire(chosen.school, chosen.steps, chosen.hot, chosen.cold, chosen.hue)
    rows = [_row(place, lab) for place, lab in zip(np.linspace(0, 1, len(made)), made, strict=True)]
    text = "".join(
        f"{100 * row['place']:3.0f} %  {row['target']}  value {row['value']:.1f}  {row['words']}\n"
        for row in rows
    )
    return rows, text


def _row(place: float, lab: Array) -> dict[str, Any]:
    seen = float(value(xyz_from_lab(lab, white())[1]))
    return {
        "place": round(float(place), 4),
        "target": hexadecimal(srgb(lab)[0]),
        "lab": [round(float(v), 3) for v in lab],
        "value": round(seen, 2),
        "words": describe(lch(lab), seen),
    }
