"""Mixtures, thinner, tools, relief and the rack."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from zesty_veil.errors import InputError, PaintError
from zesty_veil.optics.surface import FINISHES
from zesty_veil.paint.laydown import SITES, covered, pool, reach
from zesty_veil.paint.mixture import (
    Mixture,
    Part,
    blend,
    dry_share,
    pooling,
    starved,
    strength,
)
from zesty_veil.paint.paint import Paint, spectra
from zesty_veil.paint.pigment import pigments
from zesty_veil.paint.primer import PRIMERS, primer
from zesty_veil.paint.rack import demo_rack, find
from zesty_veil.paint.tool import tool_name, tools

RELIEFS = np.linspace(-1, 1, 41)


def test_a_mixture_is_the_volume_weighted_sum(rack: dict[str, Paint]) -> None:
    # Duncan (1940): K and S of a mixture are sums over its parts by volume.
    mixed = blend(Mixture((Part("Kiln Yellow", 3), Part("Ember Orange", 1))), rack)
    yellow, orange = spectra(rack["Kiln Yellow"]), spectra(rack["Ember Orange"])
    np.testing.assert_allclose(mixed.mu_a, 0.75 * yellow[0] + 0.25 * orange[0])
    np.testing.assert_allclose(mixed.mu_s, 0.75 * yellow[1] + 0.25 * orange[1])


@given(st.floats(0.1, 50))
def test_only_the_ratio_of_parts_counts(times: float) -> None:
    rack = {paint.name: paint for paint in demo_rack()}
    one, many = (
        blend(Mixture((Part("Flask Blue", n), Part("Lime White", 2 * n))), rack) for n in (1, times)
    )
    np.testing.assert_allclose(one.mu_a, many.mu_a, rtol=1e-12)
    np.testing.assert_allclose(one.mu_s, many.mu_s, rtol=1e-12)


@pytest.mark.parametrize("parts", [(), (Part("Kiln Yellow", 0),), (Part("Kiln Yellow", math.nan),)])
def test_an_empty_mixture_is_refused(parts: tuple[Part, ...], rack: dict[str, Paint]) -> None:
    with pytest.raises(InputError, match="needs at least one paint"):
        blend(Mixture(parts), rack)


def test_a_paint_that_is_not_there_is_named(rack: dict[str, Paint]) -> None:
    with pytest.raises(PaintError, match="'Moon Dust' is not held"):
        blend(Mixture((Part("Moon Dust"),)), rack)


def test_thinning_is_parts_to_one() -> None:
    three = Mixture((Part("x"),), "water", 3.0)
    assert strength(three) == 0.25
    assert dry_share(three) == 0.25  # water leaves
    medium = Mixture((Part("x"),), "medium", 3.0)
    assert strength(medium) == 0.25
    assert dry_share(medium) == 1.0  # medium stays


def test_much_water_starves_the_binder_and_goes_matt_without_a_jump() -> None:
    gloss, matt = FINISHES["gloss"], FINISHES["matt"]
    dried = [starved(gloss, Mixture((), "water", d)) for d in (0, 3, 3.001, 6, 40)]
    assert dried[0] == dried[1] == gloss
    assert dried[2] == pytest.approx(gloss, abs=1e-4)
    assert dried[1] < dried[3] < dried[4] <= matt
    assert starved(gloss, Mixture((), "medium", 40)) == gloss


def test_thinner_changes_pooling_as_painters_say() -> None:
    def of(thinner: str, parts: float, p: float = 0.9) -> float:
        return pooling(p, Mixture((), thinner, parts))  # type: ignore[arg-type]

    assert of("water", 3) > of("water", 0) == 0.9
    assert of("thick medium", 2) < of("medium", 2) == 0.9
    # A blotted film hardly runs, however thin the paint.
    assert of("water", 10, 0.06) - 0.06 < 0.01


@given(st.floats(0, 2.5))
def test_pooling_neither_makes_nor_loses_paint(p: float) -> None:
    mean, _ = quad(lambda r: float(pool(p, np.array(r))), -1, 1)
    assert mean / 2 == pytest.approx(1, abs=1e-9)
    factors = pool(p, RELIEFS)
    assert (np.diff(factors) <= 1e-15).all()  # never more on a ridge than in a recess


def test_sites_share_the_relief_without_gap_or_overlap() -> None:
    np.testing.assert_allclose(reach(SITES, RELIEFS), 1)
    parts = sum(reach((site,), RELIEFS) for site in SITES)
    np.testing.assert_allclose(parts, 1)
    assert reach(("recess",), np.array([-1.0, 0.0, 1.0])).tolist() == [1, 0, 0]
    assert (reach((), RELIEFS) == 0).all()


def test_a_dry_brush_touches_what_stands_out() -> None:
    share = covered(tools()["drybrush"], RELIEFS)
    assert (share[RELIEFS <= 0.3] == 0).all()
    assert share[-1] == tools()["drybrush"].cover
    assert (np.diff(share) >= 0).all()
    # Sponge and stippling brush reach all, ridges most; an even blow touches all of it alike.
    for name in ("sponge", "stipple"):
        share = covered(tools()[name], RELIEFS)
        assert (np.diff(share) > 0).all()
        assert share[0] > 0
        assert float(share[RELIEFS == 0][0]) == pytest.approx(tools()[name].cover)
    assert (covered(tools()["airbrush"], RELIEFS) == 1).all()


def test_tools_answer_to_the_words_of_painters() -> None:
    assert tool_name("Dry  Brush") == "drybrush"
    assert tool_name("blotted") == "glaze"
    with pytest.raises(InputError, match="no tool 'trowel'; use one of loaded, glaze"):
        tool_name("trowel")


def test_finding_a_paint() -> None:
    rack = demo_rack()
    assert find("KILN  yellow", rack).name == "Kiln Yellow"
    assert find("kiln", rack).name == "Kiln Yellow"
    with pytest.raises(PaintError, match="fits more than one paint"):
        find("violet", rack)
    for nothing in ("", "moon dust"):
        with pytest.raises(PaintError, match="no paint"):
            find(nothing, rack)


def test_pigments_and_paints_are_possible_materials() -> None:
    for pigment in pigments().values():
        assert (pigment.mu_a() >= 0).all()
        assert (pigment.mu_s() > 0).all()
    for paint in demo_rack():
        K, S = spectra(paint)
        assert K.shape == S.shape == (36,)
        assert (K >= 0).all()
        assert (S >= 0).all()
        assert set(paint.pigments) <= set(pigments())
        with pytest.raises(ValueError, match="read-only"):
            K[0] = 1


def test_primers_are_in_order_and_possible() -> None:
    means = [primer(name).mean() for name in PRIMERS]
    assert means[0] > means[1] > means[2] > 0
    assert all((primer(name) <= 1).all() for name in PRIMERS)
    with pytest.raises(InputError, match="no ground 'pink'"):
        primer("pink")
