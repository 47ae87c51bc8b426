"""A coat as text, to carry from one passage or plan to another: JSON, with the paints it uses."""

from __future__ import annotations

import msgspec

from zesty_veil.errors import InputError
from zesty_veil.kept import one_of_equals
from zesty_veil.limits import beyond
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.check import check_plan
from zesty_veil.plan.edits import add_coat, hold, used_only
from zesty_veil.plan.model import Coat, Passage, Plan
from zesty_veil.tr import tr

_FORMAT = "zesty-veil coat"


class _Carried(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    format: str
    coat: Coat
    paints: tuple[Paint, ...]


def coat_text(plan: Plan, passage: int, index: int) -> str:
    """Return a coat of a plan as text."""
    coat = plan.passages[passage].coats[index]
    alone = used_only(Plan("x", (Passage("x", coats=(coat,)),), plan.paints))
    return msgspec.json.encode(_Carried(_FORMAT, coat, alone.paints)).decode()


def paste_coat(plan: Plan, passage: int, text: str, at: int | None) -> Plan:
    """Return the plan with a carried coat put into a passage.

    Raises
    ------
    InputError
        If the text is no coat, or one that cannot be.
    """
    try:
        raw = text.encode()
        carried = msgspec.json.decode(raw, type=_Carried)
    except msgspec.ValidationError as error:
        fault = beyond(raw, _Carried, str(error))
        if fault:
            raise InputError(tr("The copied coat: {0}").format(fault)) from None
        raise InputError(tr("What was copied is no coat; copy one with Ctrl+C first.")) from None
    except (msgspec.DecodeError, RecursionError, UnicodeEncodeError):
        raise InputError(tr("What was copied is no coat; copy one with Ctrl+C first.")) from None
    check_plan(Plan("x", (Passage("x", coats=(carried.coat,)),), carried.paints))
    for paint in carried.paints:
        plan = hold(plan, one_of_equals(paint))
    return add_coat(plan, passage, carried.coat, at)
