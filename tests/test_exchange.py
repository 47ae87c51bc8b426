"""Files for other programs: they say what was predicted, are read back, and refuse the rest.

Sources: CGATS.17 / ISO 28178 and ISO 17972-1 (CxF3); CxF3 is read by the package colour-cxf.
"""

from __future__ import annotations

import csv
import io
import json
import struct
import zlib
from pathlib import Path

import colour_cxf
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtGui import QColorSpace, QImage

from conftest import small_plan
from palettes import read_gpl
from test_cli import run
from zesty_veil.bench.air import Air
from zesty_veil.cli import main as cli
from zesty_veil.errors import InputError
from zesty_veil.exchange.cgats import read_cgats, write_cgats
from zesty_veil.exchange.colours import SAMPLE_PLACES, Sample, samples
from zesty_veil.exchange.cxf import read_cxf, write_cxf
from zesty_veil.exchange.palette import write_gpl
from zesty_veil.exchange.png import ribbons, write_png
from zesty_veil.exchange.tables import colours_table, steps_table
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.illuminant import weights
from zesty_veil.plan.fileformat import dump, file_schema, save
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import axis, predict
from zesty_veil.services.export import FORMATS


@pytest.fixture(scope="module")
def made() -> tuple[Sample, ...]:
    return samples(small_plan())


def test_samples_are_what_is_predicted_and_their_spectra_agree(made: tuple[Sample, ...]) -> None:
    plan = small_plan()
    field = predict(plan.passages[0], plan.rack(), axis(SAMPLE_PLACES), np.zeros(1))
    assert len(made) == SAMPLE_PLACES
    eye = weights()
    for one, seen in zip(made, field.lab[:, 0], strict=True):
        np.testing.assert_allclose(one.lab, seen, atol=1e-9)
        assert one.spectrum is not None
        np.testing.assert_allclose(lab(xyz(one.spectrum, eye), eye.sum(axis=0)), seen, atol=1e-6)
    assert made[0].name == "flame, 0 mm"
    assert made[-1].name == "flame, 10 mm"


def test_a_palette_round_trips(made: tuple[Sample, ...]) -> None:
    text = write_gpl("A small plan", made)
    assert text.splitlines()[:3] == ["GIMP Palette", "Name: A small plan", "Columns: 11"]
    back = read_gpl(text, "x.gpl")
    assert [one.name for one in back] == [one.name for one in made]
    assert [one.rgb for one in back] == [one.rgb for one in made]
    for bad, words in (
        ("hello", "first line must be"),
        ("GIMP Palette\n300 0 0 red", "line 2"),
        ("GIMP Palette\nName: x\n# only this\n", "holds no colour"),
    ):
        with pytest.raises(InputError, match=words):
            read_gpl(bad, "x.gpl")


def test_cgats_round_trips(made: tuple[Sample, ...]) -> None:
    back = read_cgats(write_cgats('A "small" plan', "D65", made), "x.cgats")
    for one, again in zip(made, back, strict=True):
        assert one.name == again.name
        np.testing.assert_allclose(one.lab, again.lab, atol=1e-4)
        assert again.spectrum is not None
        np.testing.assert_allclose(one.spectrum, again.spectrum, atol=1e-6)


def test_plain_readers_of_the_documented_formats_read_both(made: tuple[Sample, ...]) -> None:
    """By the standard's words alone, with a table reader of the standard library."""
    lines = write_cgats("A small plan", "D65", made).splitlines()
    assert lines[0] == "CGATS.17"
    count = {}
    for line in lines:
        key, _, value = line.partition(" ")
        if key.startswith("NUMBER_OF"):
            count[key] = int(value)
    fields = lines[lines.index("BEGIN_DATA_FORMAT") + 1].split(" ")
    data = lines[lines.index("BEGIN_DATA") + 1 : lines.index("END_DATA")]
    rows = list(csv.reader(data, delimiter=" ", quotechar='"'))
    assert count == {"NUMBER_OF_FIELDS": len(fields), "NUMBER_OF_SETS": len(rows)}
    assert all(len(row) == len(fields) for row in rows)
    at = fields.index("SPECTRAL_NM550")
    for row, one in zip(rows, made, strict=True):
        assert row[fields.index("SAMPLE_NAME")] == one.name
        assert one.spectrum is not None
        assert float(row[at]) == pytest.approx(one.spectrum[17], abs=1e-6)
    # A palette line is three numbers and whatever follows.
    body = write_gpl("x", made).splitlines()[4:]
    for line, one in zip(body, made, strict=True):
        r, g, b, name = line.split(maxsplit=3)
        assert ((int(r), int(g), int(b)), name) == (one.rgb, one.name)


def test_cgats_of_another_program_is_read() -> None:
    """Per cent, 20 nm, other names of the fields, and no names of the samples."""
    bands = range(380, 740, 20)
    text = (
        "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID\tLAB_L\tLAB_A\tLAB_B\t"
        + "\t".join(f"SPECTRAL_NM_{nm}" for nm in bands)
        + "\nEND_DATA_FORMAT\nBEGIN_DATA\nA1\t50.0\t1.0\t-2.0\t"
        + "\t".join(str(10 + i) for i, _ in enumerate(bands))
        + "\nEND_DATA\n"
    )
    (one,) = read_cgats(text, "x")
    assert one.name == "A1"
    assert one.spectrum is not None
    np.testing.assert_allclose(one.spectrum[[0, 1, 2]], [0.10, 0.105, 0.11])
    bare = text.replace("LAB_L", "XYZ_X")
    (alone,) = read_cgats(bare, "x")
    np.testing.assert_allclose(alone.spectrum, one.spectrum)
    with pytest.raises(InputError, match="no LAB_L"):
        read_cgats(bare.replace("SPECTRAL_NM_", "BAND"), "x")


@settings(max_examples=150, deadline=None)
@given(st.data())
def test_a_spoilt_file_gets_a_sentence(data: st.DataObject) -> None:
    plan = [Sample("one", np.array([50.0, 10.0, 10.0]), np.full(36, 0.2))]
    for text, read in (
        (write_cgats("t", "D65", plan), read_cgats),
        (write_gpl("t", plan), read_gpl),
    ):
        at = data.draw(st.integers(0, len(text)))
        cut = data.draw(st.integers(0, 30))
        spoilt = text[:at] + data.draw(st.text(max_size=6)) + text[at + cut :]
        try:
            found = read(spoilt, "x")
        except InputError as error:
            said = str(error)
        else:
            said = "x"
            assert all(np.isfinite(one.lab).all() for one in found)
        assert said.startswith("x")


def test_cxf_is_read_by_another_reader(made: tuple[Sample, ...], tmp_path: Path) -> None:
    path = tmp_path / "colours.cxf"
    path.write_bytes(write_cxf("A small plan", "D65", made))
    file = colour_cxf.read_cxf_from_file(str(path))
    found = file.resources.object_collection.object_value
    assert [each.name for each in found] == [one.name for one in made]
    for each, one in zip(found, made, strict=True):
        values = {type(v).__name__: v for v in each.color_values.choice}
        spectrum = values["ReflectanceSpectrum"]
        assert spectrum.start_wl == 380
        np.testing.assert_allclose([float(v) for v in spectrum.value], one.spectrum, atol=1e-6)
        seen = values["ColorCielab"] if "ColorCielab" in values else values["ColorCIELab"]
        found_lab = [float(v) for v in (seen.l, seen.a, seen.b)]
        np.testing.assert_allclose(found_lab, one.lab, atol=1e-4)


def test_cxf_is_read_back_and_so_is_that_of_another_program(made: tuple[Sample, ...]) -> None:
    back = read_cxf(write_cxf("A small plan", "D65", made), "x.cxf")
    assert [one.name for one in back] == [one.name for one in made]
    for one, again in zip(made, back, strict=True):
        np.testing.assert_allclose(one.lab, again.lab, atol=1e-4)
        assert one.spectrum is not None
        assert again.spectrum is not None
        np.testing.assert_allclose(one.spectrum, again.spectrum, atol=1e-6)
    # The sample that the package colour-cxf carries was measured with a real instrument.
    path = Path(colour_cxf.__file__).parent / "tests/resources/sample.cxf"
    theirs = read_cxf(path.read_bytes(), "sample.cxf")
    file = colour_cxf.read_cxf_from_file(str(path))
    objects = file.resources.object_collection.object_value
    assert {one.name for one in theirs} <= {each.name for each in objects}
    assert len(theirs) > 50
    assert all(one.spectrum is not None and 0 <= one.spectrum.min() < 1.2 for one in theirs)


@settings(max_examples=100, deadline=None)
@given(st.integers(0, 5000), st.integers(0, 40), st.binary(max_size=6))
def test_a_spoilt_cxf_gets_a_sentence(at: int, cut: int, junk: bytes) -> None:
    one = Sample("one", np.array([50.0, 10.0, 10.0]), np.full(36, 0.2))
    raw = write_cxf("t", "D65", [one])
    at = min(at, len(raw))
    said = "x"
    try:
        found = read_cxf(raw[:at] + junk + raw[at + cut :], "x")
    except InputError as error:
        said = str(error)
    else:
        assert all(np.isfinite(each.lab).all() for each in found)
    assert said.startswith("x")


def test_tables_hold_every_coat_and_colour() -> None:
    plan = sample("glasswright")
    rows = list(csv.DictReader(io.StringIO(steps_table(plan, Air()))))
    coats = [c for p in plan.passages for c in (*p.ground.coats, *p.coats)]
    assert [int(row["passes"]) for row in rows] == [coat.passes for coat in coats]
    assert [int(row["step"]) for row in rows] == list(range(1, len(coats) + 1))
    assert all(float(row["dry from min"]) <= float(row["dry to min"]) for row in rows)
    assert {row["sites"] for row in rows} >= {"all", "ridge", "recess"}
    colours = list(csv.DictReader(io.StringIO(colours_table(plan))))
    assert len(colours) == SAMPLE_PLACES * len(plan.passages)
    first = colours[0]
    chroma = np.hypot(float(first["a"]), float(first["b"]))
    assert float(first["C"]) == pytest.approx(chroma, abs=0.02)


def test_a_picture_is_read_back_and_says_that_it_is_srgb() -> None:
    plan = small_plan()
    pixels = ribbons(plan)
    raw = write_png(pixels)
    # Chunks by the specification: length, name, data, and a checksum over name and data.
    at, names = 8, []
    while at < len(raw):
        (length,) = struct.unpack(">I", raw[at : at + 4])
        body = raw[at + 4 : at + 8 + length]
        assert struct.unpack(">I", raw[at + 8 + length : at + 12 + length]) == (zlib.crc32(body),)
        names.append(body[:4])
        at += 12 + length
    assert names == [b"IHDR", b"sRGB", b"IDAT", b"IEND"]
    image = QImage.fromData(raw)
    assert (image.height(), image.width()) == pixels.shape[:2]
    assert image.colorSpace() == QColorSpace(QColorSpace.NamedColorSpace.SRgb)
    field = predict(plan.passages[0], plan.rack(), axis(2), np.array([1.0, 0.0, -1.0]))
    for k in range(3):
        pixel = image.pixelColor(0, 20 + 40 * k)
        seen = np.array([pixel.red(), pixel.green(), pixel.blue()])
        np.testing.assert_allclose(seen, 255 * field.rgb[0, k], atol=1)


def test_the_schema_describes_plans() -> None:
    made = json.loads(file_schema())
    whole = made["$defs"]["PlanFile"]
    assert set(whole["required"]) == {"format", "schema", "plan"}
    assert set(json.loads(dump(small_plan()))) == set(whole["properties"])
    plan = made["$defs"]["Plan"]
    assert set(plan["required"]) == {"title"}
    assert {"passages", "paints", "glow", "figures"} <= set(plan["properties"])


@pytest.mark.parametrize("ending", sorted(FORMATS))
def test_exports_from_the_command_line(
    ending: str, capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path, out = tmp_path / "small.veil", tmp_path / f"out{ending}"
    save(small_plan(), path)
    assert run(capsys, "export", str(path), "-o", str(out)) == f"Wrote {out}\n"
    assert len(out.read_bytes()) > 100
    assert cli.run(["export", str(path), "-o", str(tmp_path / "out.xyz")]) == 2
    said = capsys.readouterr().err
    assert "does not end in a format that is known" in said
    assert not (tmp_path / "out.xyz").exists()
