"""A sitting under a fake clock: what comes next, what dries, and that nothing is lost."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from zesty_veil.bench import sitting as s
from zesty_veil.bench.air import Air
from zesty_veil.bench.tasks import Pass, tasks
from zesty_veil.errors import InputError, PlanFileError
from zesty_veil.plan.edits import set_coat, with_passes
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.plan.samples import sample
from zesty_veil.predict.field import axis, predict
from zesty_veil.services.sittingcard import Telling, telling

NOON = 1_000_000.0


@pytest.fixture(scope="module")
def fresh() -> s.Sitting:
    made = s.begun(replace(sample("diver"), figures=2), Air(), NOON)
    assert made is not None
    return made


def test_a_whole_sitting_keeps_order_and_drying(fresh: s.Sitting) -> None:
    now, one = NOON, fresh
    dry = dict.fromkeys(range(len(s.chains_of(one))), NOON)
    for _ in range(len(one.order)):
        where = s.current(one, now)
        assert where is not None
        left = s.seconds_left(one, where[0], now)
        if left:
            # Nothing else is dry either; the clock goes on until it is.
            assert (where[0], left) in s.drying(one, now)
            now += left
            assert s.current(one, now) == where
        assert now >= dry[where[0]] - 1e-6
        work = s.work_at(one, where)
        one = s.taken(one, now)
        assert one.in_hand == where
        now += 60 * work.hand
        # Whatever is dry by now, what is in the hand is what is laid.
        assert s.current(one, now) == where
        one = s.lay_pass(one, now)
        dry[where[0]] = now + 60 * work.wait
    assert s.current(one, now) is None
    assert s.lay_pass(one, now) is one
    assert s.put_off(one, now) is one
    assert s.minutes_of_work_left(one) == pytest.approx(0)
    assert sorted(each.where for each in one.laid) == sorted(fresh.order)
    late = [s.work_at(one, each.where).late for each in one.laid]
    figures = [s.work_at(one, each.where).figure for each in one.laid]
    for figure in (0, 1):
        mine = [k for k, f in zip(late, figures, strict=True) if f == figure]
        assert mine == sorted(mine)


def test_redo_put_off_and_pause(fresh: s.Sitting) -> None:
    first = s.current(fresh, NOON)
    one = s.lay_pass(fresh, NOON + 30)
    assert s.current(one, NOON + 31) != first
    assert s.redo(one).laid == ()
    assert s.redo(one).in_hand == first
    assert s.redo(fresh).laid == ()
    other = s.put_off(fresh, NOON)
    assert s.current(other, NOON) != first
    assert s.current(s.lay_pass(other, NOON + 5), NOON + 6) == first  # it is first again
    held = s.pause(one, NOON + 40)
    assert s.lay_pass(held, NOON + 50) is held
    # Films dry while the hand rests.
    chain = one.laid[0].where[0]
    assert s.seconds_left(held, chain, NOON + 100) == pytest.approx(
        s.seconds_left(one, chain, NOON + 40) - 60
    )
    assert s.pause(held, NOON + 100) == one


def test_what_is_kept_comes_back_to_the_second(fresh: s.Sitting, tmp_path: Path) -> None:
    one = s.lay_pass(s.lay_pass(fresh, NOON + 20.5), NOON + 90.25)
    path = tmp_path / "deep" / "sitting.json"
    assert s.kept_sitting(path) is None
    s.keep_sitting(one, path)
    back = s.kept_sitting(path)
    assert back == one
    assert back is not None
    assert s.drying(back, NOON + 100) == s.drying(one, NOON + 100)
    path.write_bytes(path.read_bytes()[:-40])
    with pytest.raises(PlanFileError, match="is damaged"):
        s.kept_sitting(path)
    s.keep_sitting(replace(one, order=((99, 0),)), path)
    with pytest.raises(PlanFileError, match="is damaged"):
        s.kept_sitting(path)


def test_a_process_that_is_killed_while_it_writes_leaves_a_whole_sitting(
    fresh: s.Sitting, tmp_path: Path
) -> None:
    path = tmp_path / "sitting.json"
    s.keep_sitting(fresh, path)
    script = (
        "import sys; from pathlib import Path; from zesty_veil.bench import sitting as s\n"
        "path = Path(sys.argv[1]); one = s.kept_sitting(path); now = one.begun\n"
        "print('on', flush=True)\n"
        "while True:\n"
        "    now += 60; one = s.lay_pass(one, now); s.keep_sitting(one, path)\n"
    )
    process = subprocess.Popen(
        [sys.executable, "-c", script, str(path)], stdout=subprocess.PIPE, env=dict(os.environ)
    )
    assert process.stdout is not None
    assert process.stdout.readline() == b"on\n"
    for _ in range(20_000):
        seen = s.kept_sitting(path)
        if seen is not None and len(seen.laid) > 5:
            break
    process.send_signal(signal.SIGKILL)
    process.wait()
    process.stdout.close()
    found = s.kept_sitting(path)
    assert found is not None
    assert len(found.laid) > 5
    assert found.plan == fresh.plan


def test_evenings_follow_each_other_in_one_order() -> None:
    plan = sample("diver")
    whole = s.begun(plan, Air(), NOON)
    parted = s.begun(plan, Air(), NOON, evening=60)
    assert whole is not None
    assert parted is not None
    assert whole.evenings == (len(whole.order),)
    assert len(parted.evenings) > 1
    assert sum(parted.evenings) == len(parted.order)
    assert sorted(parted.order) == sorted(whole.order)
    assert parted.pots <= whole.pots + 3
    # Each passage goes on where it was.
    for chain in {c for c, _ in parted.order}:
        places = [k for c, k in parted.order if c == chain]
        assert places == sorted(places)
    assert s.evening_of(parted) == (1, False)
    one, now = parted, NOON
    for _ in range(parted.evenings[0]):
        now += 3600
        one = s.lay_pass(s.taken(one, now), now)
    assert s.evening_of(one) == (1, True)
    assert s.evening_of(s.lay_pass(s.taken(one, now + 9999), now + 9999)) == (2, False)


def test_the_card_tells_how_it_looks_before_and_after_a_pass() -> None:
    plan, c = sample("glasswright"), 2
    four = with_passes(plan.passages[1].coats[c], 4)
    plan = set_coat(plan, 1, c, four)
    passage = plan.passages[1]
    coat = passage.coats[c]
    (told,) = telling(Telling(plan, Pass(1, c, 2)), lambda: True)
    for seen, passes in ((told.before, 2), (told.dry, 3)):
        coats = (*passage.coats[:c], replace(coat, passes=passes))
        field = predict(replace(passage, coats=coats), plan.rack(), axis(49), np.zeros(1))
        np.testing.assert_allclose(seen, field.rgb[:, 0], atol=1e-9)
    assert not np.allclose(told.wet, told.dry)
    assert told.pot.mixture == coat.mixture
    # The films so far, the coat in hand on top, thinning out to nothing at the far end.
    assert told.strata.shape == (c + 1, 49)
    assert told.strata[-1, 0] > 0
    assert told.strata[-1, -1] == pytest.approx(0, abs=1e-9)
    assert (told.strata[0] > 0).all()
    # A sprayed ground has the caution of sprays, and its first pass stands on bare primer.
    (told,) = telling(Telling(plan, Pass(5, 0, 0)), lambda: True)
    assert "respirator" in told.caution
    assert np.ptp(told.before) < 0.1
    assert list(telling(Telling(plan, Pass(5, 0, 0)), lambda: False)) == []


def test_there_must_be_something_to_lay() -> None:
    with pytest.raises(InputError, match="nothing to lay"):
        s.begun(Plan("empty", (Passage("p"),)), Air(), NOON)
    assert s.begun(sample("diver"), Air(), NOON, should_continue=lambda: False) is None
    whats = [w.what for chain in tasks(sample("diver"), Air()) for w in chain]
    assert all(isinstance(what, Pass) for what in whats)
