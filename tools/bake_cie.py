"""Bake the CIE tables that ship with the program.

Run once, by hand, when the grid changes: `.venv/bin/python tools/bake_cie.py`. The shipped tables
are compared with the package colour-science by tests/test_light.py, so they cannot drift unseen.

Lamps with spectral lines (F11) are badly served by sampling every 10 nm. So the sums are done on
CIE's own 5 nm steps over the whole visible range, with the reflectance taken as linear between the
program's bands and constant beyond the first and last one; what comes out are weights per band.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import colour
import numpy as np

DATA = Path(__file__).resolve().parents[1] / "src/zesty_veil/data"
ILLUMINANTS = {"D65": "D65", "D50": "D50", "A": "A", "LED-B3": "LED-B3", "F11": "FL11"}
OBSERVERS = {
    "2": "CIE 1931 2 Degree Standard Observer",
    "10": "CIE 1964 10 Degree Standard Observer",
}
BANDS = np.arange(380, 731, 10)
FINE = colour.SpectralShape(360, 780, 5)


def kernel() -> np.ndarray:
    """Share of each fine wavelength that belongs to each band, (fine, bands); rows sum to 1."""
    return np.stack([np.interp(FINE.wavelengths, BANDS, row) for row in np.eye(BANDS.size)], axis=1)


def fine(sd: Any) -> np.ndarray:
    """Return a table on the fine steps, zero where its publication stops."""
    aligned = sd.copy().align(
        FINE, extrapolator_kwargs={"method": "Constant", "left": 0, "right": 0}
    )
    return np.asarray(aligned.values)


def write(name: str, columns: dict[str, np.ndarray]) -> None:
    """Write one CSV with the bands in its first column."""
    with (DATA / name).open("w", encoding="ascii") as out:
        out.write(",".join(["nm", *columns]) + "\n")
        for i, nm in enumerate(BANDS):
            out.write(",".join([str(nm), *(f"{c[i]:.10g}" for c in columns.values())]) + "\n")


def main() -> None:
    """Write the power of each light per band and the weights of each light with each observer."""
    share = kernel()
    power = {}
    weights = {}
    for light, key in ILLUMINANTS.items():
        spectrum = fine(colour.SDS_ILLUMINANTS[key])
        band = share.T @ spectrum
        power[light] = band / band.mean()
        for degrees, observer in OBSERVERS.items():
            eye = fine(colour.MSDS_CMFS[observer])
            table = share.T @ (spectrum[:, None] * eye)
            table /= table[:, 1].sum()
            for i, axis in enumerate("XYZ"):
                weights[f"{light}/{degrees}/{axis}"] = table[:, i]
    write("cie_power.csv", power)
    write("cie_weights.csv", weights)


if __name__ == "__main__":
    main()
