"""The plan as a file: JSON with a schema number, self-contained, saved whole or not at all."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import msgspec
from msgspec.structs import replace

from zesty_veil.errors import FileError, InputError, PlanFileError
from zesty_veil.files import read_limited, write_atomically
from zesty_veil.kept import one_of_equals
from zesty_veil.limits import MOST_LETTERS, at_most, decoder_words
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.edits import used_only
from zesty_veil.plan.model import Lab, Plan
from zesty_veil.tr import tr

PLAN_FORMAT = "zesty-veil plan"
# Raised with every field that comes or goes: a test holds their fingerprint against it. 1 was never
# released. 2 did not tell how a plan looked when it was saved.
PLAN_SCHEMA = 6
_FIRST_SCHEMA = 2
_LOOKS_SINCE = 3  # files note how the plan looked
SUFFIX = ".veil"
MOST_PLAN_BYTES = 32_000_000
MOST_LOOK_PLACES = 101


class _Head(msgspec.Struct):
    """What is read first: enough to tell whether the rest can be read."""

    format: str = ""
    schema: int = 0


class SavedLook(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """How a passage looked when its plan was saved: CIELAB along the axis on the flat, dry."""

    passage: Annotated[str, at_most(MOST_LETTERS, "the name of a look")]
    lab: Annotated[tuple[Lab, ...], at_most(MOST_LOOK_PLACES, "the places of a look")]


class PlanFile(msgspec.Struct, forbid_unknown_fields=True):
    """A plan's file as it is read."""

    format: str
    schema: int
    plan: Plan
    looks: tuple[SavedLook, ...] = ()

    @property
    def earlier(self) -> bool:
        """Whether a version wrote it that did not note how it looked."""
        return self.schema < _LOOKS_SINCE


def dump(plan: Plan, looks: tuple[SavedLook, ...] = ()) -> bytes:
    """Return a plan as the bytes of its file, holding just the paints that it uses."""
    file = PlanFile(PLAN_FORMAT, PLAN_SCHEMA, used_only(plan), looks)
    return msgspec.json.format(msgspec.json.encode(file), indent=1) + b"\n"


def parse(raw: bytes, where: str = "The plan") -> Plan:
    """Return the plan in the bytes of a file; raises PlanFileError as `parse_file`."""
    return parse_file(raw, where).plan


def parse_file(raw: bytes, where: str = "The plan") -> PlanFile:
    """Return what the bytes of a plan's file hold.

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
        raise _newer(where)
    if head.schema < _FIRST_SCHEMA:
        raise PlanFileError(
            tr(
                "{0} is of schema {1}, which no released version wrote; open another copy of it."
            ).format(where, head.schema)
        )
    try:
        file = msgspec.json.decode(raw, type=PlanFile)
    except msgspec.ValidationError as error:
        if head.schema == PLAN_SCHEMA and "unknown field" in str(error):
            raise _newer(where) from None
        words = decoder_words(raw, PlanFile, str(error), "plan")
        raise PlanFileError(f"{where}: {words}") from None
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError):
        raise _not_a_plan(where) from None
    try:
        check_plan(file.plan)
    except InputError as error:
        raise PlanFileError(f"{where}: {error}") from None
    paints, sculpts = (
        tuple(map(one_of_equals, held)) for held in (file.plan.paints, file.plan.sculpts)
    )
    return replace(file, plan=replace(file.plan, paints=paints, sculpts=sculpts))


def file_schema() -> bytes:
    """Return the JSON Schema (draft 2020-12) of a whole `.veil` file."""
    return msgspec.json.format(msgspec.json.encode(msgspec.json.schema(PlanFile)), indent=1) + b"\n"


def said_of_earlier(name: str) -> str:
    """Return what is said of a file that an earlier version wrote."""
    return tr(
        "{0} was saved by an earlier version, which didn't note how it looked. Its colours may "
        "look different now."
    ).format(name)


def load(path: Path, tell: Callable[[str], object] | None = None) -> Plan:
    """Return the plan in a file; `tell` is called with a sentence if an earlier version wrote it.

    Raises
    ------
    PlanFileError
        If it cannot be read, or is not a plan.
    """
    raw = read_plan_bytes(path)
    file = parse_file(raw, str(path))
    if tell is not None and file.earlier:
        tell(said_of_earlier(path.name))
    return file.plan


def read_plan_bytes(path: Path) -> bytes:
    """Return the bytes of a plan's file; raises PlanFileError."""
    try:
        return read_limited(path, MOST_PLAN_BYTES, "plan")
    except FileError as error:
        raise PlanFileError(str(error)) from None


def checked_dump(plan: Plan, looks: tuple[SavedLook, ...] = ()) -> bytes:
    """Return `dump` of a plan that can be opened again; raises InputError if it could not."""
    check_plan(plan)
    return dump(plan, looks)


def save(plan: Plan, path: Path, looks: tuple[SavedLook, ...] = ()) -> None:
    """Write a plan so that the file is always whole: the old one or the new one.

    Raises
    ------
    InputError
        If it could not be opened again; nothing is written.
    FileError
        If it cannot be written; the old file is then as it was.
    """
    write_atomically(path, checked_dump(plan, looks))


def _newer(where: str) -> PlanFileError:
    return PlanFileError(
        tr("{0} was saved by a newer version of this program. Open it with that version.").format(
            where
        )
    )


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
