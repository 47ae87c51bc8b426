"""Remedies are tried before they are offered."""

from __future__ import annotations

from collections.abc import Sequence

import pytest

from conftest import small_plan
from zesty_veil.advise.pressed import sure_remedies
from zesty_veil.advise.remark import Remark, RemarkKind
from zesty_veil.advise.remarks import remarks
from zesty_veil.errors import InputError
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import remove_coat, with_feather, with_span
from zesty_veil.plan.model import Ground, Passage, Plan


def remark(kind: RemarkKind, cost: float, number: float = 10.0, coat: int | None = 0) -> Remark:
    return Remark(
        kind, 0, number, "x.", coat, remedy="take it away", cost=cost,
        mend=lambda plan: remove_coat(plan, 0, 1),
    )  # fmt: skip


@pytest.mark.parametrize(
    ("after", "offered"),
    [
        ((), True),
        ((remark("harsh step", 11),), True),  # about as bad
        ((remark("harsh step", 30),), False),
        ((remark("mud", 10),), False),  # it stays as it was
        ((remark("mud", 10, number=5.0),), True),  # it is less
    ],
)
def test_a_remedy_that_makes_it_worse_is_not_offered(
    after: Sequence[Remark], offered: bool
) -> None:
    (told,) = sure_remedies(small_plan(), [remark("mud", 10)], lambda _: after)
    assert (told.mend is not None) is offered
    assert told.remedy == ("take it away" if offered else "")
    assert told.words == "x."


def test_what_was_there_before_is_not_raised_by_a_remedy() -> None:
    both = [remark("mud", 10), remark("harsh step", 40)]
    (told, _) = sure_remedies(small_plan(), both, lambda _: [remark("harsh step", 40)])
    assert told.mend is not None


def test_what_need_not_be_tried_is_not() -> None:
    def fails(_: Plan) -> Sequence[Remark]:
        raise InputError("There is no white in the rack; add one.")

    def never(_: Plan) -> Sequence[Remark]:
        raise AssertionError("tried")

    (told,) = sure_remedies(small_plan(), [remark("mud", 10)], fails)
    assert told.mend is not None  # pressed, it says what it lacks
    (left,) = sure_remedies(small_plan(), [remark("mud", 10)], never, lambda: False)
    assert left.mend is not None
    (hidden,) = sure_remedies(small_plan(), [remark("hidden", 10)], never)
    assert hidden.mend is not None  # nothing that is seen changes


def test_satin_over_what_glows_is_no_remedy_for_its_chalk() -> None:
    """Found on random plans: the satin would have dimmed what the fluorescent gives off."""
    rack = {paint.name: paint for paint in demo_rack()}
    glow = parse_coat("Signal Orange; passes 4", rack)
    green = parse_coat("Lime White 1 + Samphire Green 2; water 5; passes 2", rack)
    coats = (
        with_feather(with_span(glow, 0.0, 0.23), 0.0, 0.2),
        with_feather(with_span(green, 0.43, 1.0), 0.2, 0.0),
    )
    passage = Passage("p", 25.0, ground=Ground("black"), coats=coats)
    told = remarks(Plan("p", (passage,), demo_rack()), 0, demo_rack())
    (chalked,) = (r for r in told if r.kind == "chalked by matt")
    assert chalked.mend is None
