"""The campaign's short form with fixed seeds, and what it found before."""

from __future__ import annotations

import os
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tools"))

import campaign  # noqa: E402
import killing  # noqa: E402
import mutating  # noqa: E402

REGRESSIONS = Path(__file__).parent / "data" / "regressions"


@pytest.fixture(scope="module")
def kinds(tmp_path_factory: pytest.TempPathFactory) -> dict[str, mutating.Kind]:
    before = dict(os.environ)
    found = mutating.kinds(tmp_path_factory.mktemp("examples"))
    os.environ.clear()
    os.environ.update(before)
    return {kind.name: kind for kind in found}


def test_mutated_inputs_get_a_sentence(monkeypatch: pytest.MonkeyPatch) -> None:
    # Time is judged by the campaign alone: here other tests share the machine.
    monkeypatch.setattr(mutating, "MOST_S", 60.0)
    said: list[str] = []
    found = mutating.campaign(300, 7, say=said.append)
    assert not found.faults
    assert found.tried == 300
    assert len(said) == 19


def test_the_same_numbers_make_the_same_input(kinds: dict[str, mutating.Kind]) -> None:
    made = [mutating.case(kinds["plan"], 3, n) for n in range(30)]
    assert made == [mutating.case(kinds["plan"], 3, n) for n in range(30)]
    assert len(set(made)) > 20
    assert sum(raw not in kinds["plan"].examples for raw in made) > 20


def test_a_reader_that_fails_is_found_out(tmp_path: Path) -> None:
    """The judge itself: anything but a sentence of our own is a fault."""
    from zesty_veil.errors import InputError  # noqa: PLC0415

    def raising(error: Exception) -> mutating.Kind:
        def read(path: Path) -> None:
            raise error

        return mutating.Kind("x", ".x", (b"x",), read)

    for error in (ValueError("x"), KeyError("x"), MemoryError(), InputError("no end")):
        assert mutating.judged(raising(error), tmp_path), error
    assert not mutating.judged(raising(InputError("It is so; do that.")), tmp_path)


@pytest.mark.parametrize("path", sorted(REGRESSIONS.iterdir()), ids=lambda path: path.name)
def test_what_was_found_before(path: Path, kinds: dict[str, mutating.Kind], tmp_path: Path) -> None:
    """Files are named by the kind that reads them, and what was wrong."""
    kind = kinds[path.name.partition("--")[0].replace("_", " ")]
    copy = tmp_path / f"case{kind.ending}"
    copy.write_bytes(path.read_bytes())
    assert not mutating.judged(kind, copy)


def test_kills_lose_nothing_that_was_confirmed() -> None:
    found = killing.Killed()
    killing.kill_writers(8, 5, found)
    killing.kill_windows(1, 5, found)
    assert not found.faults
    assert (found.kills, found.windows) == (8, 1)


def test_a_loss_would_be_seen(tmp_path: Path) -> None:
    """Told of a write that is not there, the look at what is left says so."""
    from zesty_veil.plan.fileformat import save  # noqa: PLC0415
    from zesty_veil.plan.model import Plan  # noqa: PLC0415

    save(Plan("number 3"), tmp_path / "plan.veil")
    assert killing._looked_at(tmp_path, [5, 0, 0, 0]) == ["the plan is not the last one saved"]
    assert "records are missing: [1, 2]" in killing._looked_at(tmp_path, [3, 2, 0, 0])


def test_a_random_hand_breaks_nothing() -> None:
    """In all stations; time is not judged here, where other tests share the machine."""
    told = campaign.hand(1, 2.0, 120)
    assert told["errors"] == []
    assert told["acts"] == 120


def test_what_a_hand_tells_is_judged() -> None:
    fine = {"seed": 1, "errors": [], "gaps": [], "growth": 1.0}
    assert campaign.faults_of(fine) == []
    # The machine let others run for most of that.
    assert campaign.faults_of({**fine, "gaps": [[0.4, 0.3, "key", " [view.py:1]"]]}) == []
    worst = {"gaps": [[0.4, 0.1, "key", " [view.py:1]"]]}
    for worse in ({"errors": ["x"]}, worst, {"growth": 40.0}):
        assert len(campaign.faults_of({**fine, **worse})) == 1
