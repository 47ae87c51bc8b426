"""Paint while it is wet: milky by its latex, glossy, and clear when it has dried."""

from __future__ import annotations

import numpy as np
import pytest

from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.predict.field import Field, axis, predict
from zesty_veil.predict.look import ViewingConditions
from zesty_veil.predict.sure import sureness


def wet_over_black(coat: str) -> tuple[Field, Field, Field]:
    rack = {paint.name: paint for paint in demo_rack()}
    passage = Passage("p", ground=Ground("black"), coats=(parse_coat(coat, rack),))
    looks = (
        ViewingConditions(finish="wet"),
        ViewingConditions(finish="gloss"),
        ViewingConditions(),
    )
    wet, clear, dry = (predict(passage, rack, axis(3), np.zeros(1), look) for look in looks)
    return wet, clear, dry


def test_wet_varnish_over_black_is_a_haze_that_clears() -> None:
    """Common practice: fresh acrylic is milky, as its latex scatters until it is a film."""
    wet, clear, _ = wet_over_black("Gloss Varnish")
    assert 3 < float((wet.lab - clear.lab)[0, 0, 0]) < 25
    assert np.abs(wet.lab[0, 0, 1:]).max() < 4  # a haze has hardly a colour
    thin, thin_clear, _ = wet_over_black("Gloss Varnish; water 4")
    assert float((thin.lab - thin_clear.lab)[0, 0, 0]) < float((wet.lab - clear.lab)[0, 0, 0])


def test_a_wet_dark_glaze_looks_paler_than_it_dries_under_gloss() -> None:
    wet, clear, _ = wet_over_black("Harbour Violet; medium 2")
    assert float(wet.lab[0, 0, 0]) > float(clear.lab[0, 0, 0]) + 1


def test_how_milky_wet_paint_is_nobody_knows_well() -> None:
    rack = {paint.name: paint for paint in demo_rack()}
    passage = Passage("p", ground=Ground("black"), coats=(parse_coat("Gloss Varnish", rack),))
    bands = [
        sureness(passage, rack, axis(1), np.zeros(1), look=ViewingConditions(finish=finish))
        for finish in ("wet", "gloss")
    ]
    wide, narrow = (float((one.high - one.low)[0, 0, 0]) for one in bands)
    assert wide > narrow + 2
    wet = wet_over_black("Gloss Varnish")[0].lch[0, 0, 0]
    assert bands[0].low[0, 0, 0] < float(wet) < bands[0].high[0, 0, 0]


def test_only_the_last_pass_is_wet() -> None:
    """Three passes of varnish, of which two have dried, are as milky as one."""
    one, three = (wet_over_black(f"Gloss Varnish; passes {n}") for n in (1, 3))
    haze = [float((wet.lab - clear.lab)[0, 0, 0]) for wet, clear, _ in (one, three)]
    assert haze[1] == pytest.approx(haze[0], abs=0.5)
