"""Moves, copies and targets: as functions of the plan, and by keys in the real window."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from conftest import small_plan
from driving import coats, picture, scene
from workshop import hand_laid
from zesty_veil.advise.moves import push_ends, smooth_here
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.errors import InputError
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.clipboard import coat_text, paste_coat
from zesty_veil.plan.model import Passage, Plan, Target
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.targets import missed

CONTROL = Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


def test_the_mid_mix_lies_over_the_border() -> None:
    plan = hand_laid()
    smoothed = smooth_here(plan, 0, 2)  # orange over yellow
    check_plan(smoothed)
    new = smoothed.passages[0].coats[3]
    assert {p.paint for p in new.mixture.parts} == {"Kiln Yellow", "Ember Orange"}
    assert len({p.parts for p in new.mixture.parts}) == 1
    orange = plan.passages[0].coats[2]
    border = orange.span[0] - orange.feather[0] / 2
    assert new.span[0] < border < new.span[1]
    assert new.mixture.thinner == "medium"


def test_the_mid_mix_is_half_of_each_however_many_drops_they_have() -> None:
    plan = small_plan()
    one, other = plan.passages[0].coats
    three = edits.with_parts(one, one.mixture.parts[0].paint, 3)
    plan = edits.set_coat(plan, 0, 0, three)
    plan = edits.set_coat(plan, 0, 1, edits.with_span(other, 0.4, 1))
    parts = smooth_here(plan, 0, 1).passages[0].coats[2].mixture.parts
    assert {p.paint: p.parts for p in parts} == {"Lime White": 1, "Ember Orange": 1}
    # 60 + 7 drops of two paints meet 1 of one: in whole drops, within 5 % of each share.
    odd = edits.with_parts(edits.with_parts(one, "Lime White", 60), "Ember Orange", 7)
    plan = edits.hold(plan, next(p for p in demo_rack() if p.name == "Furnace Red"))
    red = edits.swap_paint(edits.with_span(other, 0.4, 1), "Ember Orange", "Furnace Red")
    plan = edits.set_coat(edits.set_coat(plan, 0, 0, odd), 0, 1, red)
    parts = smooth_here(plan, 0, 1).passages[0].coats[2].mixture.parts
    drops = {p.paint: p.parts for p in parts}
    assert all(n == round(n) and 1 <= n <= 24 for n in drops.values())
    whole = sum(drops.values())
    for paint, share in (("Lime White", 30 / 67), ("Ember Orange", 3.5 / 67), ("Furnace Red", 0.5)):
        assert drops[paint] / whole == pytest.approx(share, rel=0.1)


def test_what_meets_at_the_border_is_mixed_and_not_what_lies_elsewhere() -> None:
    """A touch at the light lies below orange, and is not seen where the orange begins."""
    plan = small_plan()
    white, orange = plan.passages[0].coats
    plan = edits.hold(plan, next(p for p in demo_rack() if p.name == "Flask Blue"))
    touch = edits.with_span(edits.swap_paint(orange, "Ember Orange", "Flask Blue"), 0.0, 0.2)
    plan = edits.add_coat(plan, 0, touch, 1)
    plan = edits.set_coat(plan, 0, 2, edits.with_span(orange, 0.6, 1))
    parts = smooth_here(plan, 0, 2).passages[0].coats[3].mixture.parts
    assert {p.paint for p in parts} == {white.mixture.parts[0].paint, "Ember Orange"}
    # What lies over the border's other side since then is what is seen there.
    beside = edits.with_span(touch, 0.1, 0.6)
    over = edits.add_coat(plan, 0, beside, 3)
    parts = smooth_here(over, 0, 2).passages[0].coats[3].mixture.parts
    assert {p.paint for p in parts} == {"Flask Blue", "Ember Orange"}


def test_a_coat_without_a_border_cannot_be_smoothed() -> None:
    with pytest.raises(InputError, match="no border"):
        smooth_here(small_plan(), 0, 1)


def test_pushing_the_ends_lightens_one_and_darkens_the_other() -> None:
    """Common practice: a touch of white and yellow at the light, a little black-red at the tips."""
    plan = small_plan()
    plan = edits.set_coat(plan, 0, 1, edits.with_span(plan.passages[0].coats[1], 0.3, 1))
    pushed = push_ends(plan, 0, demo_rack())
    check_plan(pushed)
    values = [predict(p.passages[0], p.rack(), axis(21)).value[:, 1] for p in (plan, pushed)]
    assert values[1][-1] < values[0][-1] - 1
    np.testing.assert_allclose(values[1][8:12], values[0][8:12])  # the middle is left alone
    assert "Ember Orange" in {p.paint for p in pushed.passages[0].coats[-1].mixture.parts}


def test_a_coat_is_carried_as_text_with_its_paints() -> None:
    text = coat_text(small_plan(), 0, 1)
    empty = Plan("other", (Passage("p"),))
    pasted = paste_coat(empty, 0, text, None)
    check_plan(pasted)
    assert pasted.passages[0].coats == (small_plan().passages[0].coats[1],)
    assert [p.name for p in pasted.paints] == ["Ember Orange"]


@pytest.mark.parametrize("text", ["", "hello", "{}", '{"format": "x"}', "[" * 50_000, "\ud800"])
def test_what_is_no_coat_is_not_pasted(text: str) -> None:
    with pytest.raises(InputError, match="copied is no coat"):
        paste_coat(small_plan(), 0, text, None)


def test_an_impossible_coat_is_not_pasted() -> None:
    text = coat_text(small_plan(), 0, 1).replace('"passes":2', '"passes":-2')
    with pytest.raises(InputError, match="'passes' is -2"):
        paste_coat(small_plan(), 0, text, None)


def test_targets_are_kept_apart_and_in_order() -> None:
    plan = small_plan()
    for place in (0.5, 0.2, 0.505):
        plan = edits.set_target(plan, 0, Target(place, (50.0, 10.0, 10.0)))
    assert [t.place for t in plan.passages[0].targets] == [0.2, 0.505]
    check_plan(plan)
    plan = edits.drop_target(plan, 0, 0.9)
    assert [t.place for t in plan.passages[0].targets] == [0.2]
    assert edits.drop_target(edits.drop_target(plan, 0, 0), 0, 0).passages[0].targets == ()
    with pytest.raises(InputError, match="target 2: its place is 2"):
        check_plan(edits.set_target(plan, 0, Target(2.0, (1, 2, 3))))


def test_how_far_a_passage_is_from_its_targets() -> None:
    plan = small_plan()
    field = predict(plan.passages[0], plan.rack(), axis(64))
    assert missed(plan.passages[0], field) is None
    L, a, b = (float(v) for v in field.lab[32, 1])
    plan = edits.set_target(plan, 0, Target(float(field.u[32]), (L, a, b)))
    plan = edits.set_target(plan, 0, Target(0.9, (L - 30, a, b)))
    found = missed(plan.passages[0], field)
    assert found is not None
    assert found.by[0] == pytest.approx(0, abs=1e-9)
    assert found.by[1] > 15
    assert found.worst == 1


def test_targets_in_the_window(small: MainWindow) -> None:
    view = small.section.view
    view.read_at(0.5)
    small.wait_until_idle()
    QTest.keyClick(view, Qt.Key.Key_K)
    now = scene(small)
    assert now.forecast.missed is not None
    assert now.forecast.missed.by[0] < 0.5
    box = now.frame.targets
    assert box.height > 0
    pixel = picture(small).pixelColor(round(box.x + 0.5 * box.width), round(box.y + box.height / 2))
    assert pixel.hslSaturation() > 100
    for _ in range(4):
        QTest.keyClick(view, Qt.Key.Key_Plus)
    after = scene(small).forecast.missed
    assert after is not None
    assert after.by[0] > 1
    QTest.keyClick(view, Qt.Key.Key_K, SHIFT)
    assert scene(small).forecast.missed is None


def test_how_far_off_stands_beside_its_own_target(small: MainWindow) -> None:
    """At the far end too the number stands under its swatch, and not in another's place."""
    view = small.section.view
    view.read_at(1.0)
    small.wait_until_idle()
    QTest.keyClick(view, Qt.Key.Key_K)
    small.wait_until_idle()
    box, shown = scene(small).frame.targets, picture(small)
    left, y = round(box.right - 16), range(round(box.y + 20), round(box.bottom))
    field = shown.pixelColor(left - 60, round(box.y + box.height / 2))

    def inked(xs: range) -> bool:
        return any(shown.pixelColor(x, row) != field for x in xs for row in y)

    assert inked(range(left + 2, left + 14))
    assert not inked(range(left - 60, left - 12))


def test_moves_by_keys(window: MainWindow) -> None:
    view, before = window.section.view, coats(window)
    window.section.choose_coat(2)
    QTest.keyClick(view, Qt.Key.Key_E)
    assert len(coats(window)[2].stagger) == coats(window)[2].passes
    QTest.keyClick(view, Qt.Key.Key_S)
    assert len(coats(window)) == len(before) + 1
    QTest.keyClick(view, Qt.Key.Key_X)
    assert len(coats(window)) == len(before) + 4
    window.wait_until_idle()
    for _ in range(3):
        window.document.undo()
    assert coats(window) == before
    window.wait_until_idle()


def test_copies_by_keys(window: MainWindow) -> None:
    view = window.section.view
    window.section.choose_coat(1)
    yellow = coats(window)[1]
    QTest.keyClick(view, Qt.Key.Key_C, CONTROL)
    window.section.choose_passage(2)
    window.section.choose_coat(0)
    QTest.keyClick(view, Qt.Key.Key_V, CONTROL)
    assert coats(window)[1] == yellow
    QTest.keyClick(view, Qt.Key.Key_D, CONTROL)
    passages = window.document.plan.passages
    assert passages[-1].name == "cobalt glass flask 2"
    assert passages[-1].coats == passages[2].coats
    from PySide6.QtGui import QGuiApplication  # noqa: PLC0415

    QGuiApplication.clipboard().setText("no coat")
    QTest.keyClick(view, Qt.Key.Key_V, CONTROL)
    assert "copied is no coat" in window.line.words.text()
    window.wait_until_idle()
