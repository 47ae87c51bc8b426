"""A campaign against the program: mutated inputs, kills, and a random hand; `./veil campaign`.

The long form takes an hour and more. A seed makes the same choices again: `--only hand --seed 7`.
"""

from __future__ import annotations

import argparse
import json
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

import killing
import mutating
from randomhand import GAP_S

HERE = Path(__file__).resolve().parent
MOST_GROWTH_MB = 2.0  # a thousand acts, after the first two thousand
PARTS = ("inputs", "kills", "hand")

Say = Callable[[str], None]


def hand(seed: int, minutes: float, acts: int = 10**9) -> dict[str, Any]:
    """Let a random hand loose in a process of its own, and return what it tells."""
    # Where it dies of a fault, that is told with the lines that led there.
    command = [sys.executable, "-X", "faulthandler", str(HERE / "randomhand.py")]
    command += ["--seed", str(seed)]
    command += ["--minutes", str(minutes), "--acts", str(acts)]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    if done.returncode or not done.stdout.strip():
        words = f"it died with {done.returncode}: {done.stderr[-3000:]}"
        nothing = {
            "acts": 0,
            "gaps": [],
            "longest": 0.0,
            "longest_own": 0.0,
            "memory": [],
            "growth": None,
        }
        return {"seed": seed, "errors": [words], **nothing}
    told: dict[str, Any] = json.loads(done.stdout.splitlines()[-1])
    return told


def faults_of(told: dict[str, Any]) -> list[str]:
    """Return what is wrong with what a hand told."""
    out = [f"hand {told['seed']}: {error}" for error in told["errors"]]
    for gap, others, what, lines in told["gaps"]:
        # What the machine gave to others in between is not the window's.
        if gap - others > GAP_S:
            out.append(f"hand {told['seed']}: {gap} s stood still at {what}{lines}")
    if told["growth"] is not None and told["growth"] > MOST_GROWTH_MB:
        out.append(f"hand {told['seed']}: grows by {told['growth']:.1f} MB a thousand acts")
    return out


def campaign(chosen: argparse.Namespace, say: Say = print) -> list[str]:
    """Do what is asked for, say how it goes, and return the faults."""
    faults: list[str] = []
    if "inputs" in chosen.only:
        found = mutating.campaign(chosen.inputs, chosen.seed, say=say)
        took, kind, number = found.slowest
        say(f"{found.tried} mutated inputs; the slowest took {took:.2f} s ({kind} {number})")
        faults += [f"{kind} {number}: {words}" for kind, number, words in found.faults]
    if "kills" in chosen.only:
        killed = killing.campaign(chosen.kills, chosen.windows, chosen.seed)
        say(
            f"{killed.kills} writers and {killed.windows} windows killed; at most "
            f"{killed.lost_s:.1f} s of unsaved edits lost"
        )
        faults += killed.faults
    if "hand" in chosen.only:
        told = hand(chosen.seed, chosen.minutes, chosen.acts)
        growth = told["growth"]
        grew = "too short for growth" if growth is None else f"{growth:.1f} MB a thousand acts"
        say(
            f"{told['acts']} acts of a random hand; the longest standstill "
            f"{told['longest']:.2f} s, {told['longest_own']:.2f} s of its own; {grew}; "
            f"memory {told['memory'][-1:]}"
        )
        faults += faults_of(told)
    return faults


def main() -> int:
    """Run a campaign and print what came of it."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--only", nargs="*", choices=PARTS, default=list(PARTS))
    asked.add_argument("--inputs", type=int, default=10_000, help="mutated inputs")
    asked.add_argument("--kills", type=int, default=450, help="writers that are killed")
    asked.add_argument("--windows", type=int, default=50, help="windows that are killed")
    asked.add_argument("--minutes", type=float, default=60.0, help="of the random hand")
    asked.add_argument("--acts", type=int, default=10**9, help="of the random hand at most")
    faults = campaign(asked.parse_args(), lambda words: print(words, flush=True))
    print(f"{len(faults)} faults")
    for fault in faults[:60]:
        print(f"--- {fault[-1500:]}")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
