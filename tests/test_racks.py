"""Racks: several of them, in and out, drawdowns compared as films; and the eye's tally."""

from __future__ import annotations

import csv
import io
import json
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from palettes import read_gpl
from zesty_veil.errors import InputError, LogError, PaintError
from zesty_veil.exchange.rackfile import rack_schema, read_rack, write_rack
from zesty_veil.exchange.rackfile import usual_colour as drawn_once
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.srgb import srgb
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.log.drawn import (
    ORDERS,
    DrawdownMix,
    PaintDrawdown,
    nearest_drawdowns,
    ordered,
    paint_drawdown,
)
from zesty_veil.log.guess import CHOICES, Guess, Guesses, question, tally
from zesty_veil.log.racks import DEMO, Kept, Rack, Racks, check_rack
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import log_path
from zesty_veil.plan.model import Ground


@pytest.fixture
def racks() -> Racks:
    return Racks(Store())


def named(name: str) -> Paint:
    return next(paint for paint in demo_rack() if paint.name == name)


def test_the_demo_rack_is_there_from_the_start(racks: Racks) -> None:
    assert racks.names() == (DEMO,)
    assert tuple(kept.paint for kept in racks.get().paints) == demo_rack()


def test_nothing_is_written_by_asking_what_is_at_hand() -> None:
    assert paints_at_hand() == demo_rack()
    assert not log_path().exists()


def test_empty_and_wanted_pots_are_not_at_hand(racks: Racks) -> None:
    for name, status in (("Kiln Yellow", "empty"), ("Ember Orange", "wanted")):
        racks.change(DEMO, name, lambda kept, s=status: replace(kept, status=s))
    at_hand = {paint.name for paint in paints_at_hand()}
    assert {"Kiln Yellow", "Ember Orange"}.isdisjoint(at_hand)
    assert len(at_hand) == len(demo_rack()) - 2


def test_several_racks(racks: Racks) -> None:
    racks.put(Rack("Travel", (Kept(named("Kiln Yellow"), notes="half full"),)))
    racks.choose("Travel")
    assert racks.current() == "Travel"
    assert [paint.name for paint in paints_at_hand()] == ["Kiln Yellow"]
    racks.add("Travel", Kept(named("Lamp Black")))
    with pytest.raises(InputError, match="already"):
        racks.add("Travel", Kept(named("Lamp Black")))
    racks.drop("Travel", "Kiln Yellow")
    assert [kept.paint.name for kept in racks.get("Travel").paints] == ["Lamp Black"]
    racks.remove("Travel")
    assert racks.current() == DEMO
    with pytest.raises(LogError, match="only rack"):
        racks.remove(DEMO)
    with pytest.raises(LogError, match="no rack 'Travel'"):
        racks.choose("Travel")
    with pytest.raises(PaintError, match="no paint 'Nothing'"):
        racks.change(DEMO, "Nothing", lambda kept: kept)


def test_a_measurement_can_be_taken_back(racks: Racks) -> None:
    first = named("Kiln Yellow")
    for factor in (1.2, 1.5):
        racks.measure(DEMO, replace(first, mu_a=tuple(factor * k for k in first.mu_a)), ())
    assert racks.get().find("Kiln Yellow").paint.mu_a[0] == pytest.approx(1.5 * first.mu_a[0])
    assert racks.unmeasure(DEMO, "Kiln Yellow").paint == first
    with pytest.raises(InputError, match="nothing to undo"):
        racks.unmeasure(DEMO, "Kiln Yellow")
    new = replace(first, name="New pot")
    assert racks.measure(DEMO, new, ()).paint == new
    assert racks.get().paints[-1].paint == new


@pytest.mark.parametrize(
    ("rack", "words"),
    [
        (Rack(" "), "needs a name"),
        (Rack("x", (Kept(named("Lamp Black")),) * 2), "two paints 'Lamp Black'"),
    ],
)
def test_an_impossible_rack_is_refused(racks: Racks, rack: Rack, words: str) -> None:
    with pytest.raises(InputError, match=words):
        check_rack(rack)
    with pytest.raises(InputError, match=words):
        racks.put(rack)
    assert racks.names() == (DEMO,)


def whole() -> Rack:
    return Rack("Mine", tuple(Kept(paint, notes="a note") for paint in demo_rack()))


def test_a_rack_goes_round_as_json(tmp_path: Path) -> None:
    write_rack(whole(), tmp_path / "mine.json")
    assert read_rack(tmp_path / "mine.json") == whole()
    schema = json.loads(rack_schema())
    assert set(schema["$defs"]["_File"]["required"]) == {"format", "schema", "rack"}


def test_a_rack_goes_round_as_csv_as_far_as_colours_tell(tmp_path: Path) -> None:
    """Usual coats over white and black come back; what films cannot carry comes from a rack."""
    write_rack(whole(), tmp_path / "mine.csv")
    rows = list(csv.DictReader(io.StringIO((tmp_path / "mine.csv").read_text())))
    assert [row["name"] for row in rows] == [paint.name for paint in demo_rack()]
    back = read_rack(tmp_path / "mine.csv", whole())
    assert back.name == "mine"
    assert [kept.paint.name for kept in back.paints] == [paint.name for paint in demo_rack()]
    far = []
    for kept in back.paints:
        before = named(kept.paint.name)
        assert (kept.paint.kind, kept.paint.pigments) == (before.kind, before.pigments)
        if kept.cards and not any(patch.doubt for patch in kept.cards[0].patches):
            far += [
                float(ciede2000(drawn_once(kept.paint, ground), drawn_once(before, ground)))
                for ground in ("white", "black")
            ]
    assert np.median(far) < 2.5
    assert len(far) > 20
    # What was given out can be taken in where none of its paints is known, whatever its kind.
    for kind in ("fluorescent", "metallic", "varnish"):
        same = [kept for kept in whole().paints if kept.paint.kind == kind]
        assert same
        write_rack(Rack("Odd", tuple(same)), tmp_path / "odd.csv")
        alone = read_rack(tmp_path / "odd.csv")
        assert [kept.paint for kept in alone.paints] == [kept.paint for kept in same]
    text = "name,kind\nGlow,fluorescent\n"
    (tmp_path / "hand.csv").write_text(text)
    with pytest.raises(InputError, match="line 2: the kind 'fluorescent'"):
        read_rack(tmp_path / "hand.csv")


def test_a_rack_goes_out_as_a_palette(tmp_path: Path) -> None:
    write_rack(Rack("Two", whole().paints[:2]), tmp_path / "two.gpl")
    found = read_gpl((tmp_path / "two.gpl").read_text(), "two.gpl")
    assert [one.name for one in found][:2] == ["Lime White over white", "Lime White over black"]
    rgb = (srgb(drawn_once(named("Lime White"), "white"))[0] * 255).round()
    assert found[0].rgb == tuple(int(v) for v in rgb)
    with pytest.raises(InputError, match="must end in one of"):
        write_rack(whole(), tmp_path / "two.txt")
    assert not (tmp_path / "two.txt").exists()


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [
        ("x.json", "{", "no JSON"),
        ("x.json", '{"format": "a", "schema": 1, "rack": {"name": "x"}}', "no rack of schema"),
        ("x.json", '{"format": 1}', "expected 'str'"),
        ("x.csv", "a,b\n1,2\n", "needs a header"),
        ("x.csv", "name,kind\n,ink\n", "line 2: the paint has no name"),
        ("x.csv", "name,kind\nA,glue\n", "line 2: the kind 'glue'"),
        ("x.csv", "name,kind,white\nA,ink,red\n", "line 2: 'red' is no colour"),
        ("x.csv", "name,kind,status\nA,ink,lost\n", "the status 'lost'"),
        ("x.csv", "name,kind,finish\nA,ink,wet\n", "the finish 'wet'"),
        ("x.csv", "name,kind\nA,ink\nA,ink\n", "two paints 'A'"),
    ],
)
def test_a_file_that_is_no_rack_gets_a_sentence(
    tmp_path: Path, name: str, text: str, words: str
) -> None:
    (tmp_path / name).write_text(text)
    with pytest.raises(InputError, match=words) as caught:
        read_rack(tmp_path / name)
    assert str(caught.value).startswith(name)


@given(st.data())
def test_a_spoilt_rack_gets_a_sentence(
    tmp_path_factory: pytest.TempPathFactory, data: st.DataObject
) -> None:
    path = tmp_path_factory.mktemp("racks") / "x.json"
    write_rack(Rack("Two", whole().paints[4:5]), path)
    raw = path.read_bytes()
    at, cut = data.draw(st.integers(0, len(raw))), data.draw(st.integers(0, 40))
    path.write_bytes(raw[:at] + data.draw(st.binary(max_size=5)) + raw[at + cut :])
    try:
        said = "x.json" if len(read_rack(path).paints) <= 1 else ""
    except InputError as error:
        said = str(error)
    assert said.startswith("x.json")


def test_drawdowns_show_what_a_painter_knows() -> None:
    """Common practice: white and rust hide, yellow and inks do not; yellow over black is olive."""
    rust, yellow, ink = (
        paint_drawdown(named(name), DrawdownMix())
        for name in ("Anchor Rust", "Kiln Yellow", "Clinker Red Ink")
    )
    assert rust.passes_to_hide() in (1, 2)
    assert yellow.passes_to_hide() is None
    assert ink.passes_to_hide() is None
    assert rust.hiding > 0.8 > yellow.hiding > ink.hiding
    assert ink.strength > paint_drawdown(named("Driftbone Ivory"), DrawdownMix()).strength
    thin = paint_drawdown(named("Kiln Yellow"), DrawdownMix(thinning=5.0))
    assert thin.strength < yellow.strength


def test_racks_are_sorted_as_painters_ask() -> None:
    found = [paint_drawdown(paint, DrawdownMix()) for paint in demo_rack()]
    names = {order: [found[i].paint.name for i in ordered(found, order)] for order in ORDERS}
    assert names["rack"] == [paint.name for paint in demo_rack()]
    assert names["name"] == sorted(names["name"], key=str.casefold)
    light = names["value"].index
    assert light("Lime White") < light("Ember Orange") < light("Hull Umber")
    assert names["value"][-1] in ("Lamp Black", "Dusk Violet Ink", "Harbour Violet")
    hues = names["hue"]
    assert hues.index("Furnace Red") < hues.index("Ember Orange") < hues.index("Kiln Yellow")
    assert hues.index("Kiln Yellow") < hues.index("Kelp Green") < hues.index("Flask Blue")
    assert hues.index("Flask Blue") < hues.index("Lamp Black")
    assert names["hiding"].index("Anchor Rust") < names["hiding"].index("Dusk Violet Ink")
    assert names["strength"][-1].endswith(("Varnish", "White", "Medium"))


def test_the_nearest_paint_is_the_one_that_lies_alike() -> None:
    """As films: an opaque and a transparent red of one hue over white part over black."""
    red = named("Furnace Red")
    same = replace(red, name="Twin", mu_a=tuple(1.05 * k for k in red.mu_a))
    over_white = replace(red, name="Opaque twin", mu_s=tuple(s * 12 for s in red.mu_s),
                         mu_a=tuple(k * 3 for k in red.mu_a))  # fmt: skip
    others = [paint_drawdown(paint, DrawdownMix()) for paint in (*demo_rack(), same, over_white)]
    near = nearest_drawdowns(paint_drawdown(red, DrawdownMix()), others)
    assert near[0].paint.name == "Twin"
    assert near[0].words == "much the same"
    assert near[0].de < near[1].de
    far = next(
        n
        for n in nearest_drawdowns(paint_drawdown(red, DrawdownMix()), others, 99)
        if n.paint.name == "Opaque twin"
    )
    assert "hides more" in far.words


def test_paints_that_part_over_black_alone_are_not_near() -> None:
    """Two that agree over white to the last digit, and a third a little off on both."""
    grey = np.linspace(90, 50, 5)
    lab = np.stack([np.stack([grey, np.zeros(5), np.zeros(5)], 1)] * 2)
    lab[1, :, 0] -= 5.0
    glaze, off = lab.copy(), lab + np.array([3.0, 0, 0])
    glaze[1, 1:, 0] = 20.0
    one, other, third = (
        PaintDrawdown(replace(named("Lamp Black"), name=name), where)
        for name, where in (("one", lab), ("glaze", glaze), ("third", off))
    )
    assert [near.paint.name for near in nearest_drawdowns(one, (one, other, third))] == [
        "third",
        "glaze",
    ]


def test_questions_have_one_right_answer_and_four_that_are_plainly_otherwise() -> None:
    rng = np.random.default_rng(8)
    for _ in range(40):
        asked = question(demo_rack(), (Ground("grey"),), rng)
        assert asked.choices.shape == (CHOICES, 3)
        right = asked.choices[asked.right]
        others = [c for i, c in enumerate(asked.choices) if i != asked.right]
        assert min(float(ciede2000(right, other)) for other in others) > 3
        assert srgb(np.array(others))[1].sum() >= 2
        assert len(asked.words) == len(asked.coats) <= 3
    spots = {question(demo_rack(), (), rng).right for _ in range(60)}
    assert spots == set(range(CHOICES))
    with pytest.raises(InputError, match="no paint at hand"):
        question((), (), rng)


def test_the_tally_tells_how_an_eye_errs() -> None:
    right = (50.0, 20.0, 10.0)
    cases = (((58.0, 20.0, 10.0), "too light"), ((42.0, 20.0, 10.0), "too dark"),
             ((50.0, 24.0, 17.0), "too warm"), ((50.0, 12.0, 3.0), "too cold"))  # fmt: skip
    for picked, words in cases:
        told = tally([Guess("2026", ("x",), right, picked)] * 4 + [Guess("2026", (), right, right)])
        assert told.right == 1
        assert words in told.words
    assert "no side" in tally([Guess("2026", (), right, right)]).words
    guesses = Guesses(Store())
    asked = question(demo_rack(), (), np.random.default_rng(1))
    kept = guesses.add(asked, asked.right, datetime(2026, 3, 1, tzinfo=UTC))
    assert guesses.all() == (kept,)
    assert tally(guesses.all()).right == 1
    guesses.forget()
    assert not guesses.all()
