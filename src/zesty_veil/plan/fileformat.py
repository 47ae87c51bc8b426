"""The plan as a file: JSON with a schema number, self-contained, saved whole or not at all."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path

import msgspec

from zesty_veil.errors import FileError, InputError, PlanFileError
from zesty_veil.files import read_limited, write_atomically
from zesty_veil.limits import decoder_words
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.model import Plan
from zesty_veil.tr import tr

PLAN_FORMAT = "zesty-veil plan"
# 1: paints had the K and S of two-flux theory, which are carried over where they are read.
PLAN_SCHEMA = 2
SUFFIX = ".veil"
MOST_PLAN_BYTES = 32_000_000


class _Head(msgspec.Struct):
    """What is read first: enough to tell whether the rest can be read."""

    format: str = ""
    schema: int = 0


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    schema: int
    plan: Plan


def dump(plan: Plan) -> bytes:
    """Return a plan as the bytes of its file, holding just the paints that it uses."""
    file = _File(PLAN_FORMAT, PLAN_SCHEMA, used_only(plan))
    return msgspec.json.format(msgspec.json.encode(file), indent=1) + b"\n"


def parse(raw: bytes, where: str = "The plan") -> Plan:
    """Return the plan in the bytes of a file.

    Raises
    ------
    PlanFileError
        With one sentence that starts with `where`.
    """
    if not raw.strip():
        raise PlanFileError(tr("{0} is empty; open another file or an older copy.").format(where))
    try:
        head = msgspec.json.decode(raw, type=_Head)
    except msgspec.ValidationError:
        raise _not_a_plan(where) from None
    except msgspec.DecodeError as error:
        raise PlanFileError(f"{where} {_syntax(raw, str(error))}") from None
    except RecursionError:
        raise _not_a_plan(where) from None
    except UnicodeDecodeError:
        raise _not_a_plan(where) from None
    if head.format != PLAN_FORMAT:
        raise _not_a_plan(where)
    if head.schema > PLAN_SCHEMA:
        raise PlanFileError(
            tr(
                "{0} is of schema {1}, and this program reads up to {2}; open it with a newer "
                "version."
            ).format(where, head.schema, PLAN_SCHEMA)
        )
    if head.schema < 1:
        raise PlanFileError(
            tr("{0} is of schema {1}, which does not exist; use {2}.").format(
                where, head.schema, PLAN_SCHEMA
            )
        )
    try:
        plan = msgspec.json.decode(raw, type=_File).plan
    except msgspec.ValidationError as error:
        raise PlanFileError(f"{where}: {decoder_words(raw, _File, str(error), 'plan')}") from None
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError):
        raise _not_a_plan(where) from None
    try:
        check_plan(plan)
    except InputError as error:
        raise PlanFileError(f"{where}: {error}") from None
    return plan


def file_schema() -> bytes:
    """Return the JSON Schema (draft 2020-12) of a whole `.veil` file."""
    return msgspec.json.format(msgspec.json.encode(msgspec.json.schema(_File)), indent=1) + b"\n"


def older(raw: bytes) -> bool:
    """Tell whether the bytes of a plan's file are of an older schema."""
    return msgspec.json.decode(raw, type=_Head).schema < PLAN_SCHEMA


def carried_over(name: str) -> str:
    """Return what is said of a file of an older schema once it is read."""
    return (
        f"{name} is from before this program knew a film's surface: its paints were carried over, "
        "and colours may differ a little from what they were."
    )


def load(path: Path, tell: Callable[[str], object] | None = None) -> Plan:
    """Return the plan in a file; `tell` is called with a sentence if it had to be carried over.

    Raises
    ------
    PlanFileError
        If it cannot be read, or is not a plan.
    """
    raw = read_plan_bytes(path)
    plan = parse(raw, str(path))
    if tell is not None and older(raw):
        tell(carried_over(path.name))
    return plan


def read_plan_bytes(path: Path) -> bytes:
    """Return the bytes of a plan's file; raises PlanFileError."""
    try:
        return read_limited(path, MOST_PLAN_BYTES, "plan")
    except FileError as error:
        raise PlanFileError(str(error)) from None


def checked_dump(plan: Plan) -> bytes:
    """Return `dump` of a plan that can be opened again; raises InputError if it could not."""
    check_plan(plan)
    return dump(plan)


def save(plan: Plan, path: Path) -> None:
    """Write a plan so that the file is always whole: the old one or the new one.

    Raises
    ------
    InputError
        If it could not be opened again; nothing is written.
    FileError
        If it cannot be written; the old file is then as it was.
    """
    write_atomically(path, checked_dump(plan))


def _not_a_plan(where: str) -> PlanFileError:
    return PlanFileError(
        tr("{0} is not a Zesty Veil plan; open a file that ends in {1}.").format(where, SUFFIX)
    )


def _syntax(raw: bytes, message: str) -> str:
    # A plan ends in a brace; one that was cut may also end inside a word such as null.
    whole = raw.rstrip().endswith(b"}")
    if "truncated" in message or (raw.lstrip()[:1] == b"{" and not whole):
        return "stops in the middle: the file was cut short; open an older copy."
    place = re.search(r"byte (\d+)", message)
    at = int(place[1]) if place else 0
    if raw.lstrip()[:1] != b"{":
        return f"is not a Zesty Veil plan; open a file that ends in {SUFFIX}."
    line = raw[:at].count(b"\n") + 1
    found = re.match(rb"-?(NaN|Infinity|nan|inf)", raw[max(at - 1, 0) :]) or re.match(
        rb"-?(NaN|Infinity|nan|inf)", raw[at:]
    )
    if found:
        word = found[0].decode()
        return f"holds {word} in line {line}, which is not a number; write a number there."
    return f"is damaged in line {line}; mend that line or open an older copy."
