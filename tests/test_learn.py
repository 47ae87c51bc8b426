"""Learning from the log: robust, recent first, undone record by record; a plan only told."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.advise.refined import refined
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.log.judge import predicted_at
from zesty_veil.log.learn import Learnt, learnt, lesson
from zesty_veil.log.learning import Learning
from zesty_veil.log.racks import DEMO, Racks
from zesty_veil.log.record import ObservedColour, Record
from zesty_veil.log.store import Store
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.model import Ground, OwnTool, Passage, Plan
from zesty_veil.plan.refining import in_hand, with_paints
from zesty_veil.predict.field import predict

NOW = datetime(2026, 6, 1, tzinfo=UTC)
NAMES = ("Ember Orange", "Kiln Yellow", "Harbour Violet")


def strong(rack: Mapping[str, Paint]) -> dict[str, Paint]:
    """The same paints as they truly are: stronger, and less hiding."""
    return {
        name: replace(p, mu_a=tuple(1.35 * k for k in p.mu_a), mu_s=tuple(0.8 * s for s in p.mu_s))
        for name, p in rack.items()
    }


def plans(rack: Mapping[str, Paint], count: int, seed: int = 1) -> list[Plan]:
    rng = np.random.default_rng(seed)
    out = []
    for _ in range(count):
        coats = tuple(
            parse_coat(
                f"{NAMES[rng.integers(3)]}; water {rng.choice([1, 2, 3])}; "
                f"passes {rng.integers(1, 4)}; tool {rng.choice(['glaze', 'loaded'])}",
                rack,
            )
            for _ in range(rng.integers(1, 3))
        )
        ground = Ground(str(rng.choice(["white", "grey", "black"])))  # type: ignore[arg-type]
        passage = Passage("p", ground=ground, coats=coats)
        out.append(Plan("x", (passage,), tuple(rack[name] for name in NAMES)))
    return out


def painted(plan: Plan, true: Mapping[str, Paint], days: float = 0.0, number: int = 1,
            noise: np.ndarray | None = None) -> Record:  # fmt: skip
    """Return the record of a plan that was painted with other paints than it knows."""
    count = len(plan.passages[0].coats)
    came = predict(plan.passages[0], true, np.array([0.5]), np.zeros(1)).lab[0, 0]
    came = came + (np.zeros(3) if noise is None else noise)
    said = predicted_at(plan, "p", 0.5, "flat", count)
    seen = ObservedColour("p", 0.5, "flat", count, tuple(came.tolist()), tuple(said.tolist()))
    when = (NOW - timedelta(days=days)).isoformat()
    return Record(when, plan, seen=(seen,), number=number)


def off(plan: Plan, true: Mapping[str, Paint], found: Learnt | None = None) -> float:
    """Return how far a plan's prediction is off, as it is or with what was learnt."""
    came = predict(plan.passages[0], true, np.array([0.5]), np.zeros(1)).lab[0, 0]
    if found is not None:
        plan = with_paints(plan, found.paints)
        plan = in_hand(plan, [OwnTool(tool, film) for tool, film in found.films.items()])
    return float(ciede2000(came, predicted_at(plan, "p", 0.5, "flat", 9)))


def taught(rack: Mapping[str, Paint], records: list[Record]) -> Learnt:
    return learnt(records, {name: rack[name] for name in NAMES}, NOW)


def test_records_refine_paints_and_hand_for_stacks_that_were_never_seen(
    rack: dict[str, Paint],
) -> None:
    true, rng = strong(rack), np.random.default_rng(2)
    shown = plans(rack, 10)
    records = [painted(p, true, i, i, rng.normal(0, 0.7, 3)) for i, p in enumerate(shown)]
    found = taught(rack, records)
    unseen = plans(rack, 20, seed=9)
    before = np.median([off(plan, true) for plan in unseen])
    after = np.median([off(plan, true, found) for plan in unseen])
    assert after < 0.6 * before
    assert found.after < found.before
    for name in NAMES:
        assert found.paints[name].spread
        assert np.median(np.array(found.paints[name].mu_a) / np.array(rack[name].mu_a)) > 1.03


def test_one_bad_photograph_does_not_spoil_a_paint(rack: dict[str, Paint]) -> None:
    true = strong(rack)
    good = [painted(p, true, i, i) for i, p in enumerate(plans(rack, 8))]
    bad = painted(plans(rack, 9)[8], true, 0.0, 99, np.array([25.0, -40.0, 30.0]))
    clean, spoilt = taught(rack, good), taught(rack, [*good, bad])
    assert spoilt.weights[99] < 0.3
    assert min(spoilt.weights[i] for i in range(8)) > 2 * spoilt.weights[99]
    unseen = plans(rack, 16, seed=9)
    harm = [off(p, true, spoilt) - off(p, true, clean) for p in unseen]
    assert np.median(np.abs(harm)) < 0.6


def test_recent_records_count_more(rack: dict[str, Paint]) -> None:
    """Last year's pot was weaker, this year's is stronger: the new one is believed."""
    weak = {n: replace(p, mu_a=tuple(0.7 * k for k in p.mu_a)) for n, p in rack.items()}
    shown = plans(rack, 8)
    old = [painted(p, weak, 700 + i, i) for i, p in enumerate(shown)]
    new = [painted(p, strong(rack), i, 100 + i) for i, p in enumerate(shown)]
    both = taught(rack, old + new)
    assert max(both.weights[i] for i in range(8)) < min(both.weights[100 + i] for i in range(8))
    unseen = plans(rack, 16, seed=9)
    towards_new = np.median([off(p, strong(rack), both) for p in unseen])
    towards_old = np.median([off(p, weak, both) for p in unseen])
    assert towards_new < towards_old


def test_a_lesson_that_was_taken_over_is_not_taken_back(rack: dict[str, Paint]) -> None:
    """The hand is richer than usual; plans that know it come out as predicted, and it stays so."""
    rich = (OwnTool("glaze", 1.5), OwnTool("loaded", 1.5))

    def came(plan: Plan, number: int) -> Record:
        true = in_hand(plan, rich)
        lab = predict(true.passages[0], rack, np.array([0.5]), np.zeros(1)).lab[0, 0]
        record = painted(plan, rack, number, number)
        return replace(record, seen=(replace(record.seen[0], lab=tuple(lab.tolist())),))

    first = [came(plan, i) for i, plan in enumerate(plans(rack, 8))]
    found = taught(rack, first)
    assert found.films["glaze"] > 1.1
    known = [OwnTool(tool, film) for tool, film in found.films.items()]
    later = [came(in_hand(plan, known), 20 + i) for i, plan in enumerate(plans(rack, 8))]
    again = taught(rack, [*first, *later])
    assert again.films["glaze"] > found.films["glaze"] - 0.05
    # What strips told already is not counted twice.
    strips = learnt(first, {name: rack[name] for name in NAMES}, NOW, rich)
    assert strips.films["glaze"] == pytest.approx(1.0, abs=0.05)


def test_what_does_not_count_teaches_nothing(rack: dict[str, Paint]) -> None:
    records = [painted(p, strong(rack), i, i) for i, p in enumerate(plans(rack, 6))]
    silent = taught(rack, [replace(r, counts=False) for r in records])
    assert not silent.paints
    assert not silent.films
    alone = taught(rack, records[:5])
    undone = taught(rack, [*records[:5], replace(records[5], counts=False)])
    assert undone.paints == alone.paints
    assert undone.films == alone.films


def test_learning_tells_how_far_it_is(rack: dict[str, Paint]) -> None:
    records = [painted(p, strong(rack), i, i) for i, p in enumerate(plans(rack, 6))]
    *steps, last = lesson(records, dict(rack), NOW, total=6)
    assert steps == [(done, 6) for done in range(6)]
    assert isinstance(last, Learnt)


def test_a_measured_paint_moves_less_than_one_that_was_only_guessed(
    rack: dict[str, Paint],
) -> None:
    sure = {
        name: replace(p, spread=(tuple([0.02] * 72), tuple([0.01] * 36 + [-0.01] * 36)))
        for name, p in rack.items()
    }
    records = [painted(p, strong(rack), i, i) for i, p in enumerate(plans(rack, 8))]
    moved = []
    for known in (rack, sure):
        found = learnt(records, {name: known[name] for name in NAMES}, NOW)
        ratio = np.array(found.paints["Ember Orange"].mu_a) / np.array(rack["Ember Orange"].mu_a)
        moved.append(abs(float(np.log(np.median(ratio)))))
    assert moved[1] < 0.5 * moved[0]


def test_what_was_learnt_holds_until_the_paint_is_measured_anew(rack: dict[str, Paint]) -> None:
    store = Store()
    racks, learning = Racks(store), Learning(store)
    records = [painted(p, strong(rack), i, i) for i, p in enumerate(plans(rack, 6))]
    found = taught(rack, records)
    learning.keep(DEMO, rack, found)
    known = learning.known(racks.get())
    assert known.find("Ember Orange").paint == found.paints["Ember Orange"]
    assert known.find("Lamp Black").paint == rack["Lamp Black"]
    assert learning.weights(DEMO) == pytest.approx(found.weights)
    hand = {own.tool: own.film for own in learning.hand(DEMO)}
    assert hand == pytest.approx(
        {t: f for t, f in found.films.items() if abs(round(f, 3) - 1) > 0.03}, abs=0.01
    )
    anew = replace(rack["Ember Orange"], mu_a=tuple(2 * k for k in rack["Ember Orange"].mu_a))
    racks.measure(DEMO, anew, ())
    assert learning.known(racks.get()).find("Ember Orange").paint == anew
    learning.set_strips((OwnTool("glaze", 1.3, 0.2),))
    (glaze,) = (own for own in learning.hand(DEMO) if own.tool == "glaze")
    assert glaze.cv == 0.2
    assert glaze.film == pytest.approx(1.3 * found.films["glaze"], abs=0.01)
    learning.forget_strips()
    assert not learning.strips()


def test_a_plan_is_told_what_would_change_and_changes_only_when_asked(
    rack: dict[str, Paint],
) -> None:
    plan = plans(rack, 1)[0]
    assert not refined(plan, 0, tuple(rack.values()), ())
    (remark,) = refined(plan, 0, tuple(strong(rack).values()), ())
    assert "known better now" in remark.words
    assert remark.mend is not None
    mended = remark.mend(plan)
    assert plan.paints == tuple(rack[name] for name in NAMES)
    came, said = (predicted_at(p, "p", remark.place or 0.0, "flat", 9) for p in (mended, plan))
    assert float(ciede2000(came, said)) <= remark.number + 1e-9
    assert remark.number > 0.5
    assert not refined(mended, 0, tuple(strong(rack).values()), ())
    (rich,) = refined(plan, 0, tuple(rack.values()),
                      (OwnTool("glaze", 1.6), OwnTool("loaded", 1.6)))  # fmt: skip
    assert "your hand" in rich.words
    assert rich.mend is not None
    assert rich.mend(plan).own_hand[0].film == 1.6
