"""Mutated inputs of every kind through every reader, in a process with limits of memory and time.

A reader may refuse an input with a sentence of our own; anything else that it raises, two seconds,
or half a gigabyte more is a fault.

    python tools/mutating.py --count 200 --seed 1
"""

from __future__ import annotations

import argparse
import contextlib
import io
import json
import os
import random
import re
import resource
import select
import signal
import subprocess
import sys
import tempfile
import time
import traceback
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

MOST_S, MOST_MB = 2.0, 500.0
_SILENT_S = 60.0  # of the clock: then nothing will come any more
_START_S = 60.0  # for what is imported first
_HOSTILE = (
    '<img src="file:///dev/zero">', "=cmd|' /C calc'!A0", "a\nb", "\x00", "\x1b[2J", "\u202e", "\\",
    "x" * 100_000, "", " ", "../../etc/passwd", "%s%n", "🎨" * 50, "\ud800", "NaN", "#", "'\"",
)  # fmt: skip
_NUMBERS = (
    "0", "-1", "1e400", "-1e400", "1" + "0" * 400, "NaN", "Infinity", "0.0000000001", "1e308",
    "9007199254740993", "-0", "2147483648", "18446744073709551616", "1e-320", "00", "true", "null",
)  # fmt: skip


@dataclass(frozen=True)
class Kind:
    """A kind of input: sound examples, the ending of its file, and what reads it."""

    name: str
    ending: str
    examples: tuple[bytes, ...]
    read: Callable[[Path], object]


def mutated(raw: bytes, chance: random.Random) -> bytes:
    """Return an input otherwise: one to four changes of bytes, numbers, text, structure or size."""
    for _ in range(chance.choice((1, 1, 1, 2, 4))):
        raw = chance.choice((_bytes, _bytes, _numbers, _texts, _structure, _sizes))(raw, chance)
    return raw[:8_000_000]


def _bytes(raw: bytes, chance: random.Random) -> bytes:
    out = bytearray(raw)
    at = chance.randrange(len(out) + 1)
    what = chance.randrange(6)
    if what == 0 and out:
        out[at % len(out)] = chance.randrange(256)
    elif what == 1:
        out[at:at] = chance.randbytes(chance.randint(1, 40))
    elif what == 2:
        del out[at : at + chance.randint(1, 200)]
    elif what == 3:
        del out[at:]
    elif what == 4:
        out[at : at + 8] = chance.choice((b"\xff" * 8, b"\x00" * 8, b"\x7f\xff\xff\xff", b"}" * 8))
    else:
        piece = out[at : at + chance.randint(1, 400)]
        out[at:at] = piece * chance.randint(1, 30)
    return bytes(out)


def _numbers(raw: bytes, chance: random.Random) -> bytes:
    found = list(re.finditer(rb"-?\d+(\.\d+)?([eE][-+]?\d+)?", raw[:400_000]))
    if not found:
        return _bytes(raw, chance)
    one = chance.choice(found)
    return raw[: one.start()] + chance.choice(_NUMBERS).encode() + raw[one.end() :]


def _texts(raw: bytes, chance: random.Random) -> bytes:
    found = list(re.finditer(rb'"[^"\n]{0,80}"|[A-Za-z][A-Za-z ]{2,30}', raw[:400_000]))
    if not found:
        return _bytes(raw, chance)
    one, words = chance.choice(found), chance.choice(_HOSTILE)
    if one[0].startswith(b'"'):
        new = (
            json.dumps(words).encode()
            if chance.random() < 0.8
            else b'"' + words.encode(errors="surrogatepass") + b'"'
        )
    else:
        new = words.encode(errors="surrogatepass")
    return raw[: one.start()] + new + raw[one.end() :]


def _structure(raw: bytes, chance: random.Random) -> bytes:
    """Change a document of JSON by its parts; something else by its lines."""
    try:
        document = json.loads(raw)
    except (ValueError, RecursionError):
        return _lines_moved(raw, chance)
    places = _places(document)
    if not places:
        return raw
    holder, key = chance.choice(places)
    what = chance.randrange(6)
    if what == 0:
        del holder[key]
    elif what == 1:
        holder[key] = chance.choice((None, True, [], {}, "x", 0, -1.5, [[[]]], {"a": 1}))
    elif what == 2 and isinstance(holder[key], list) and holder[key]:
        holder[key] = holder[key] * chance.choice((2, 50, 3000 if len(raw) < 50_000 else 20))
    elif what == 3:
        other, at = chance.choice(places)
        holder[key] = other[at]
    elif what == 4 and isinstance(holder, dict):
        holder[chance.choice(_HOSTILE)[:100]] = holder[key]
    else:
        nested: Any = []
        for _ in range(chance.choice((5, 200, 900))):
            nested = [nested]
        holder[key] = nested
    try:
        return json.dumps(document).encode()
    except (ValueError, RecursionError):  # it came to hold itself
        return raw


def _places(document: Any) -> list[tuple[Any, Any]]:
    """Return holders and keys of a document's parts."""
    places: list[tuple[Any, Any]] = []
    stack: list[Any] = [document] if isinstance(document, dict | list) else []
    while stack and len(places) < 4000:
        one = stack.pop()
        for key in list(one) if isinstance(one, dict) else range(len(one)):
            places.append((one, key))
            if isinstance(one[key], dict | list):
                stack.append(one[key])
    return places


def _lines_moved(raw: bytes, chance: random.Random) -> bytes:
    lines = raw.split(b"\n")
    at = chance.randrange(len(lines))
    what = chance.randrange(4)
    if what == 0:
        del lines[at]
    elif what == 1:
        lines[at:at] = [lines[at]] * chance.randint(1, 2000)
    elif what == 2:
        chance.shuffle(lines)
    else:
        lines[at] = lines[at][::-1]
    return b"\n".join(lines)


def _sizes(raw: bytes, chance: random.Random) -> bytes:
    what = chance.randrange(4)
    if what == 0:
        return raw * chance.choice((2, 20))
    if what == 1:
        return b"[" * chance.choice((1000, 200_000)) + raw
    if what == 2:
        return raw + bytes(chance.choice((1, 100_000)))
    return b""


def kinds(folder: Path) -> tuple[Kind, ...]:
    """Return every kind of input that the program reads."""
    from mutating_kinds import all_kinds  # noqa: PLC0415

    return all_kinds(folder)


def case(kind: Kind, seed: int, number: int) -> bytes:
    """Return one mutated input; always the same of the same numbers."""
    chance = random.Random(f"{kind.name} {seed} {number}")
    return mutated(chance.choice(kind.examples), chance)


def judged(kind: Kind, path: Path) -> str:
    """Return what is wrong with how an input is read, or nothing."""
    from zesty_veil.errors import VeilError  # noqa: PLC0415

    try:
        kind.read(path)
    except VeilError as error:
        words = str(error)
        if "\n" in words or not words.rstrip().endswith((".", "”", ")")) or len(words) > 1000:
            return f"no sentence: {words[:300]!r}"
    except MemoryError:
        return "MemoryError"
    except Exception:
        return traceback.format_exc()
    return ""


# In the child: one line a case, so that whoever watches knows which one takes too long.
def child(names: list[str], seed: int, first: int, last: int, folder: Path) -> None:
    """Read some mutated inputs, of each kind in turn, and print before and after each."""
    found = {kind.name: kind for kind in kinds(folder)}
    every = [found[name] for name in names]
    for kind in every:
        path = folder / f"case{kind.ending}"
        path.write_bytes(kind.examples[0])
        judged(kind, path)  # what is loaded once does not count
    for number in range(first, last):
        kind = every[number % len(every)]
        path = folder / f"case{kind.ending}"
        path.write_bytes(case(kind, seed, number // len(every)))
        print(f"begin {number}", flush=True)
        used = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
        resource.setrlimit(resource.RLIMIT_AS, (used + int(MOST_MB * 1e6), -1))
        start = time.process_time()  # whatever else the machine does
        with contextlib.redirect_stdout(io.StringIO()):
            fault = judged(kind, path)
        took = time.process_time() - start
        resource.setrlimit(resource.RLIMIT_AS, (-1, -1))
        print("end " + json.dumps([number, round(took, 3), fault]), flush=True)


@dataclass
class Found:
    """What came of the inputs of all kinds: how many, faults by kind, and the slowest."""

    tried: int = 0
    faults: list[tuple[str, int, str]] = field(default_factory=list)
    slowest: tuple[float, str, int] = (0.0, "", 0)


def campaign(count: int, seed: int, only: str = "", say: Callable[[str], None] = print) -> Found:
    """Read `count` mutated inputs of all kinds by turns; return what came of them."""
    out = Found()
    with tempfile.TemporaryDirectory(prefix="veil-mutants-") as name:
        folder = Path(name)
        every = [k.name for k in kinds(folder) if only in ("", k.name)]
        first = 0
        while first < count:
            first = _watched(every, seed, first, count, folder, out)
    for kind in every:
        mine = [fault for fault in out.faults if fault[0] == kind]
        say(f"{kind}: {-(-count // len(every))} inputs, {len(mine)} faults")
    return out


def _watched(every: list[str], seed: int, first: int, last: int, folder: Path, out: Found) -> int:
    """Watch a child go through some cases; return the case after the last one it came to."""
    numbers = (str(seed), str(first), str(last))
    command = [sys.executable, str(Path(__file__).resolve()), "--child", json.dumps(every)]
    command += [*numbers, os.fspath(folder)]

    def named(number: int) -> tuple[str, int]:
        return every[number % len(every)], number // len(every)

    with (
        tempfile.TemporaryFile() as complaints,
        subprocess.Popen(command, stdout=subprocess.PIPE, stderr=complaints) as process,
    ):
        number = first
        for line in _lines(process):
            what, _, rest = line.partition(" ")
            if what == "begin":
                number = int(rest)
            elif what == "end":
                _, took, fault = json.loads(rest)
                _note(out, *named(number), took, fault)
        if process.poll() is None:
            process.send_signal(signal.SIGKILL)
            process.wait()
            out.faults.append((*named(number), f"over {_SILENT_S} s, and stopped"))
            return number + 1
        if process.returncode == 0:
            return last
        complaints.seek(0)
        words = complaints.read()[-2000:].decode(errors="replace")
        out.faults.append((*named(number), f"died with {process.returncode}: {words}"))
        return number + 1


def _lines(process: subprocess.Popen[bytes]) -> Iterator[str]:
    """Yield what a process prints, until it ends or says nothing for too long."""
    assert process.stdout is not None
    handle, rest, patience = process.stdout.fileno(), b"", _START_S
    while select.select([handle], [], [], patience)[0]:
        patience = _SILENT_S
        raw = os.read(handle, 1 << 16)
        if not raw:
            process.wait()
            return
        *lines, rest = (rest + raw).split(b"\n")
        yield from (line.decode(errors="replace") for line in lines)


def _note(out: Found, kind: str, number: int, took: float, fault: str) -> None:
    out.tried += 1
    out.slowest = max(out.slowest, (took, kind, number))
    if took > MOST_S:
        fault = fault or f"over {MOST_S} s: {took}"
    if fault:
        out.faults.append((kind, number, fault))


def main() -> int:
    """Read mutated inputs and print what came of them."""
    if sys.argv[1:2] == ["--child"]:
        names, seed, first, last, folder = sys.argv[2:]
        child(json.loads(names), int(seed), int(first), int(last), Path(folder))
        return 0
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=500)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--only", default="", help="one kind")
    asked.add_argument("--write", nargs=3, metavar=("KIND", "NUMBER", "FILE"), help="write a case")
    chosen = asked.parse_args()
    if chosen.write:
        kind, number, path = chosen.write
        with tempfile.TemporaryDirectory() as folder:
            found = next(k for k in kinds(Path(folder)) if k.name == kind)
            Path(path).write_bytes(case(found, chosen.seed, int(number)))
        return 0
    found_ = campaign(chosen.count, chosen.seed, chosen.only)
    print(f"{found_.tried} inputs, slowest {found_.slowest}, {len(found_.faults)} faults")
    for kind, number, fault in found_.faults[:40]:
        print(f"--- {kind} {number}\n{fault[-1200:]}")
    return 1 if found_.faults else 0


if __name__ == "__main__":
    sys.exit(main())
