"""What painters would laugh at: single colours and templates as they were once laid."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from painterjobs import Job
from test_recipes import found
from test_templates import plan_of
from zesty_veil.advise.match.recipe import Recipe
from zesty_veil.advise.match.solve import solve
from zesty_veil.advise.remarks import remarks
from zesty_veil.advise.remedies import until
from zesty_veil.paint.paint import Paint
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Coat, Ground, Passage, Plan, Primer
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.recalled import alone
from zesty_veil.services.colours import target_of

RACK: dict[str, Paint] = {paint.name: paint for paint in demo_rack()}

pytestmark = pytest.mark.common_practice


def pots(coats: Recipe | Passage) -> list[set[str]]:
    """Return the pots of each coat, from the ground up."""
    return [{part.paint for part in coat.mixture.parts} for coat in coats.coats]


def laid(colour: str, primer: Primer) -> list[set[str]]:
    return pots(found(Job(colour, primer, (colour,), ""))[0])


def test_a_dark_brown_is_of_browns_and_reds_and_no_lost_orange() -> None:
    for primer in ("white", "black"):
        for each in laid("24,14,18", primer):  # type: ignore[arg-type]
            bright = {"Ember Orange", "Slipway Orange", "Lantern Amber", "Kiln Yellow"}
            assert not each <= bright, each


def test_no_brown_lies_below_blue() -> None:
    assert not {"Tarred Oakum", "Hull Umber", "Saggar Brown"} & set().union(
        *laid("#204080", "white")
    )


def test_no_orange_lies_below_a_green() -> None:
    for each in laid("#305030", "white"):
        assert not {"Lantern Amber", "Ember Orange", "Slipway Orange"} & each


def test_soot_lies_under_no_golden_yellow() -> None:
    assert "Soot Wash" not in set().union(*laid("#e0a020", "white"))


def test_golden_yellow_in_words_is_one_yellow_pot_and_no_green() -> None:
    """A word is all that is so called, so a pot of that name is exact."""
    for primer in ("white", "black"):
        target = target_of("golden yellow", 0.5)
        request = Job("golden", primer, ("50,0,0",), "").request(demo_rack())
        *_, last = solve(replace(request, targets=(target,), reasons=False))
        (only,) = pots(last.ways[0])
        assert only in ({"Lantern Amber"}, {"Saffron Buoy"}, {"Kiln Yellow"})


def test_yellow_cloth_shades_into_ochre_and_is_glazed_down_from_white() -> None:
    (cloth,) = plan_of("cloth", "demo", ("colour", "yellow")).passages
    first, *_ = pots(cloth)
    assert first <= {"Lime White", "Driftbone Ivory", "Cuttlebone"}
    assert any("Dune Ochre" in each for each in pots(cloth))
    assert not any(RACK[pot].pigments == ("PG7",) for each in pots(cloth) for pot in each)


def test_dark_skin_is_of_browns() -> None:
    (skin,) = plan_of("skin", "demo", ("tone", "dark"), ("spots", "none")).passages
    assert {"Saggar Brown", "Hull Umber", "Tarred Oakum"} & set().union(*pots(skin))
    assert not any(
        each <= {"Ember Orange", "Slipway Orange", "Lantern Amber"} for each in pots(skin)
    )


def test_the_tips_of_a_flame_have_no_white_below_and_soot_is_of_greys() -> None:
    (deep,) = plan_of("flame").passages
    assert deep.coats[0].span[1] < 0.9
    (sooty,) = plan_of("flame", "demo", ("school", "sooty")).passages
    assert {"Soot Grey", "Soot Wash", "Lamp Black", "Pewter Grey"} & pots(sooty)[-1]


def hues(passage: Passage) -> set[str]:
    """Return the pots that show a hue in a thin film."""
    thin = {p: alone(parse_coat(f"{p}; water 3", RACK), RACK, "white") for p in every(passage)}
    return {pot for pot, (_, C, _) in thin.items() if C > 16}


def every(passage: Passage) -> set[str]:
    return set().union(*pots(passage))


def test_yellow_straight_on_black_stands_behind_white_first_and_says_why() -> None:
    first, *others = found_by_word("yellow", "black")
    assert pots(first)[0] <= {"Lime White", "Driftbone Ivory"}
    assert "tinted" not in first.words
    direct = [way for way in others if len(way.coats) == 1]
    assert direct
    for way in direct:
        assert "It stays tinted: the dark below shows through." in way.words
        once = way.coats[0].passes == 1
        assert ("A single pass looks patchy." in way.words) is once
    # On white none of that is said, and one coat is enough.
    (only, *_) = found_by_word("yellow", "white")
    assert only.words == "Yellow."


def found_by_word(colour: str, primer: Primer) -> tuple[Recipe, ...]:
    target = target_of(colour, 0.5)
    request = Job(colour, primer, ("50,0,0",), "").request(demo_rack())
    *_, last = solve(replace(request, targets=(target,), reasons=False))
    return last.ways


def test_grey_black_and_white_are_of_greys_in_every_template() -> None:
    for name, said in (
        ("cloth", (("colour", "grey"), ("school", "layers"))),
        ("cloth", (("colour", "black"), ("school", "layers"), ("thing", "armour"))),
        ("cloth", (("colour", "white"),)),
        ("flame", (("colour", "grey"), ("school", "single"))),
        ("within", (("colour", "white"), ("thing", "blade"))),
    ):
        (passage,) = plan_of(name, "demo", *said).passages
        # Ivories are whites, and a dark violet in black makes the deepest.
        # White has cold shadows.
        fine = {"Dusk Violet Ink", "Harbour Violet", "Cuttlebone", "Driftbone Ivory"}
        fine |= {"Brash Ice Blue"} if ("colour", "white") in said else set()
        assert hues(passage) <= fine, (name, said, hues(passage))


def test_bone_and_brown_by_layers_are_of_bones_and_browns() -> None:
    (bone,) = plan_of("cloth", "demo", ("colour", "bone"), ("school", "layers")).passages
    assert not any("Green" in pot for pot in every(bone))
    (brown,) = plan_of("cloth", "demo", ("colour", "brown"), ("school", "layers")).passages
    seen = predict(brown, RACK, axis(9), np.zeros(1)).lch[:, 0]
    assert seen[:, 1].max() < 45  # no red, no orange


def test_no_remedy_lays_a_film_over_an_edge() -> None:
    """What shades is laid below the last lights, and edges hide nothing that lies on the flat."""
    words = (
        "Pilot Red; passes 2", "Flood Crimson; passes 2; tool contrast",
        "Lime White; water 1; passes 2; tool glaze; sites ridge; meant edge",
    )  # fmt: skip
    coats = tuple(parse_coat(each, RACK) for each in words)
    plan = Plan("p", (Passage("plate", 20.0, ground=Ground("white"), coats=coats),), demo_rack())
    for remark in remarks(plan, 0, demo_rack()):
        assert remark.kind != "wasted below"
    film = parse_coat("Soot Wash; tool wash", RACK)
    shaded = until(plan, 0, film, lambda _: True).passages[0].coats
    assert [coat.meant for coat in shaded] == ["", "", "", "edge"]


def test_a_robe_of_any_colour_has_base_wash_base_again_and_two_lights() -> None:
    """White begins with an ivory, black and grey are washed and lifted with no colour."""
    for colour in ("red", "yellow", "green", "violet", "brown", "white", "black", "grey"):
        said = (("colour", colour), ("thing", "robe"))
        (robe,) = plan_of("cloth", "demo", *said).passages
        washes = [c for c in robe.coats if {RACK[p].kind for p in names(c)} & {"wash", "contrast"}]
        assert len(washes) == 1, colour
        assert len([c for c in robe.coats if len(c.mixture.parts) > 1]) == 2, colour
        if colour in ("white", "black", "grey"):
            assert not hues(robe) - {"Driftbone Ivory", "Cuttlebone"}, (colour, hues(robe))
        if colour == "white":
            assert names(robe.coats[0]) == {"Driftbone Ivory"}


def names(coat: Coat) -> set[str]:
    return {part.paint for part in coat.mixture.parts}


def test_soft_ends_do_not_pile_paint_up() -> None:
    """A sooty flame's yellow was laid eight times, all but neat, for the sake of its ends."""
    for primer in ("white", "black"):
        plan = plan_of("flame", "five", ("school", "sooty"), ("primer", primer))
        assert not [r for r in remarks(plan, 0, plan.paints) if r.kind == "piled up"]
