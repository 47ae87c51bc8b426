"""Cards from instruments' files, and the simulated bench meter.

Outside the project: files that the packages colour-science and colour-cxf carry, written by other
programs (read where they are installed, not copied), and colour-science's own readers of them.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_veil.errors import FileError, InputError
from zesty_veil.exchange.cardfile import patches_of, read_samples, samples_in
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.colours import Sample
from zesty_veil.exchange.cxf import write_cxf
from zesty_veil.exchange.spectra import of_spectrum
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import wavelengths
from zesty_veil.log.card import Patch
from zesty_veil.log.meter import TILE, SimulatedMeter
from zesty_veil.services.colours import parse_colour

COLOUR = pytest.importorskip("colour")
HOME = Path(COLOUR.__file__).parent


def test_cgats_text_of_another_program() -> None:
    """Fields nm380 …, no CIELAB, tabs, comments; colour-science reads the same numbers."""
    path = HOME / "io/tests/resources/X-Rite_Digital_Colour_Checker.txt"
    theirs = COLOUR.read_sds_from_xrite_file(str(path))
    ours = {sample.name: sample for sample in read_samples(path)}
    assert set(ours) == set(theirs)
    for name, spectrum in theirs.items():
        found = ours[name].spectrum
        assert found is not None
        np.testing.assert_allclose(found, [spectrum[nm] for nm in wavelengths()], atol=1e-9)


@pytest.mark.parametrize("name", ["colorchecker_n_ohta.csv", "colorchecker_n_ohta_transposed.csv"])
def test_spectra_as_csv_of_another_program(name: str) -> None:
    """Samples across or down, 5 nm; the chart's spectra by N. Ohta as colour-science has them."""
    ours = read_samples(HOME / "io/tests/resources" / name)
    theirs = COLOUR.SDS_COLOURCHECKERS["ColorChecker N Ohta"]
    assert len(ours) == len(theirs) == 24
    for sample, spectrum in zip(ours, theirs.values(), strict=True):
        found = sample.spectrum
        assert found is not None
        np.testing.assert_allclose(found, [spectrum[nm] for nm in wavelengths()], atol=5e-4)


def test_cxf_of_an_instrument() -> None:
    colour_cxf = pytest.importorskip("colour_cxf")
    path = Path(colour_cxf.__file__).parent / "tests/resources/sample.cxf"
    found = read_samples(path)
    assert len(found) == 144
    assert {sample.light for sample in found} == {"D50"}


def named(light: str = "D65") -> list[Sample]:
    return [
        Sample(of_spectrum(name, R).name, of_spectrum(name, R).lab, R, light)
        for name, R in (
            ("white 0", np.full(36, 0.88)),
            ("White_1", np.linspace(0.2, 0.7, 36)),
            ("B4 lower", np.linspace(0.05, 0.3, 36)),
        )
    ]


@pytest.mark.parametrize("kind", ["cgats", "cxf"])
def test_a_card_goes_round_by_way_of_a_file(kind: str, tmp_path: Path) -> None:
    path = tmp_path / "measured.dat"
    if kind == "cgats":
        path.write_text(write_cgats("card", "D65", named()))
    else:
        path.write_bytes(write_cxf("card", "D65", named()))
    patches = patches_of(read_samples(path), path.name)
    assert [(p.backing, p.passes) for p in patches] == [("white", 0), ("white", 1), ("black", 4)]
    for patch, sample in zip(patches, named(), strict=True):
        np.testing.assert_allclose(patch.spectrum, sample.spectrum, atol=1e-6)
        assert ciede2000(patch.colour, sample.lab) < 1e-3


def test_colours_without_names_come_in_the_cards_order() -> None:
    plain = tuple(Sample(f"colour {i}", np.array([50.0 + i, 0.0, 0.0])) for i in range(8))
    found = patches_of(plain, "x.csv")
    assert [(p.backing, p.passes) for p in found[:5]] == [
        ("white", 0), ("white", 1), ("white", 2), ("white", 4), ("black", 0)
    ]  # fmt: skip
    with pytest.raises(InputError, match=r"x\.csv holds 5 colours"):
        patches_of(plain[:5], "x.csv")
    pairs = patches_of((Sample("2 over black", np.array([30.0, 0.0, 0.0])),), "x")
    assert (pairs[0].backing, pairs[0].passes) == ("black", 2)


def test_lab_under_another_white_is_brought_to_daylight() -> None:
    """A grey is grey under both; a colour moves, and not far."""
    grey, red = (
        patches_of((Sample("white 1", np.array(lab), None, "D50"),), "x")[0].colour
        for lab in ((60.0, 0.0, 0.0), (45.0, 60.0, 30.0))
    )
    assert ciede2000(grey, np.array([60.0, 0.0, 0.0])) < 0.3
    assert 0.3 < ciede2000(red, np.array([45.0, 60.0, 30.0])) < 6


def test_csv_in_per_cent_with_semicolons_and_lab() -> None:
    bands = ";".join(f"{nm} nm" for nm in range(400, 710, 20))
    row = ";".join(str(20 + i) for i in range(16))
    (one,) = samples_in(f"name;{bands}\nwhite 2;{row}\n".encode(), "x.csv")
    assert one.name == "white 2"
    assert one.spectrum is not None
    assert one.spectrum[2] == pytest.approx(0.20)
    (two,) = samples_in(b"name,L,a,b\nwhite 1,50,10,-20\n", "x.csv")
    np.testing.assert_allclose(two.lab, (50, 10, -20))
    (three,) = samples_in("name,L,a,b\nWei\xdf 1,50,10,-20\n".encode("latin-1"), "x.csv")
    assert three.name.startswith("Wei")


@given(st.data())
def test_a_spoilt_measurement_gets_a_sentence(data: st.DataObject) -> None:
    samples = named()
    texts = (
        write_cgats("card", "D65", samples).encode(),
        write_cxf("card", "D65", samples),
        ("name," + ",".join(str(nm) for nm in range(380, 740, 10)) + "\n"
         + "\n".join(s.name + "," + ",".join("0.3" for _ in range(36)) for s in samples)).encode(),
        b"name,L,a,b\nwhite 1,50,10,-20\nblack 1,30,5,5\n",
    )  # fmt: skip
    raw = data.draw(st.sampled_from(texts))
    at, cut = data.draw(st.integers(0, len(raw))), data.draw(st.integers(0, 40))
    spoilt = raw[:at] + data.draw(st.binary(max_size=6)) + raw[at + cut :]
    try:
        found = patches_of(samples_in(spoilt, "x.dat"), "x.dat")
        said = "x.dat" if all(np.isfinite(patch.colour).all() for patch in found) else ""
    except InputError as error:
        said = str(error)
    assert said.startswith("x.dat")


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        (b"", "no table of colours"),
        (b"hello\nthere\n", "neither spectra"),
        (b"<cxf/>", "no CxF3"),
        (b"<cxf", "no XML"),
        (b"name,L,a,b\nwhite 1,50,10\n", "must have 4 cells"),
        (b"name,L,a,b\nwhite 1,50,10,blue\n", "must be 4 cells of numbers"),
    ],
)
def test_what_is_no_measurement_gets_a_sentence(raw: bytes, words: str) -> None:
    with pytest.raises(InputError, match=words):
        samples_in(raw, "x")


def test_a_file_that_is_not_there_gets_a_sentence(tmp_path: Path) -> None:
    with pytest.raises(FileError, match="cannot be read"):
        read_samples(tmp_path / "none.cxf")


def test_colours_as_they_are_typed() -> None:
    for measured in (False, True):
        assert parse_colour("50 10 -20", measured) == (50, 10, -20)
        assert parse_colour("50,10,-20", measured) == (50, 10, -20)
        assert parse_colour("50, 10, -20", measured) == (50, 10, -20)
        assert parse_colour("50;10;-20", measured) == (50, 10, -20)
        assert parse_colour("50,5 10 -20,1", measured) == (50.5, 10, -20.1)
        for white in ("#ffffff", "FFFFFF"):
            np.testing.assert_allclose(parse_colour(white, measured), (100, 0, 0), atol=0.05)
        for bad in ("", "mud", "#12", "150 0 0", "1 2", "1,2", "50 x 0", "50 nan 0", "50,0,201"):
            with pytest.raises(InputError, match="is no colour"):
                parse_colour(bad, measured)
    assert parse_colour("red")[1] > 30
    with pytest.raises(InputError, match="three numbers"):
        parse_colour("red", measured=True)


def warm_meter() -> tuple[SimulatedMeter, list[float]]:
    now = [0.0]
    meter = SimulatedMeter(lambda: now[0], seed=3)
    now[0] = 90.0
    return meter, now


def test_a_meter_must_warm_and_be_calibrated() -> None:
    now = [0.0]
    meter = SimulatedMeter(lambda: now[0])
    with pytest.raises(InputError, match="not warm yet; wait 60 s"):
        meter.calibrate()
    now[0] = 61.0
    with pytest.raises(InputError, match="not calibrated"):
        meter.measure()
    meter.put_on(np.full(36, 0.3))
    with pytest.raises(InputError, match="not its white tile"):
        meter.calibrate()
    meter.put_on(TILE)
    meter.calibrate()
    assert meter.state().calibrated
    now[0] += SimulatedMeter.FORGETS_S + 1
    assert not meter.state().calibrated


def test_a_meter_that_is_used_rightly_is_right() -> None:
    meter, _ = warm_meter()
    meter.put_on(TILE)
    meter.calibrate()
    truth = 0.1 + 0.6 / (1 + np.exp((wavelengths() - 560) / -12))
    meter.put_on(truth)
    found = [meter.measure() for _ in range(20)]
    np.testing.assert_allclose(np.mean(found, axis=0), truth, atol=0.004)
    assert 0.0003 < np.std(found, axis=0).mean() < 0.003
    one = Patch("white", 1, spectrum=tuple(found[0]))
    assert ciede2000(one.colour, of_spectrum("", truth).lab) < 0.5


def test_a_meter_that_does_not_lie_flat_says_so() -> None:
    meter, _ = warm_meter()
    meter.put_on(TILE)
    meter.calibrate()
    meter.put_on(np.full(36, 0.5), distance_mm=2.0)
    with pytest.raises(InputError, match="does not lie flat"):
        meter.measure()
    meter.put_on(np.full(36, 0.5), distance_mm=0.4)
    try:
        tilted = float(meter.measure().mean())
    except InputError:
        tilted = 0.0
    assert tilted < 0.49
