"""What follows from the form of a passage: its length on a sculpt, and its tilt to a nozzle."""

from __future__ import annotations

from msgspec.structs import replace

from zesty_veil.plan import edits
from zesty_veil.plan.model import Plan
from zesty_veil.predict.forms.facing import tilt, turns
from zesty_veil.predict.forms.sculpted import axis_mm, usual_axis
from zesty_veil.predict.forms.shapes import form, shape_of
from zesty_veil.predict.turned import nozzle_of

_TILT_PIXELS = 128


def lengthened(plan: Plan, index: int) -> Plan:
    """Return the plan with a passage on a sculpt as long as its axis."""
    passage = plan.passages[index]
    for sculpt in plan.sculpts:
        if sculpt.name == passage.form:
            length = max(round(axis_mm(sculpt, passage.axis), 1), 0.1)
            return edits.set_passage(plan, index, replace(passage, length_mm=length))
    return plan


def with_usual_axis(plan: Plan, index: int) -> Plan:
    """Return the plan with a passage's axis from the top to the bottom of its sculpt, if any."""
    for sculpt in plan.sculpts:
        if sculpt.name == plan.passages[index].form:
            return edits.set_axis(plan, index, usual_axis(sculpt))
    return plan


def faced(plan: Plan, index: int) -> Plan:
    """Return the plan with a passage that is sprayed tilted as its form is.

    So the section shows along the axis what the spray does on the form.
    """
    passage = plan.passages[index] if 0 <= index < len(plan.passages) else None
    nozzle = nozzle_of(passage) if passage is not None else None
    if passage is None or nozzle is None:
        return plan
    made = form(shape_of(plan, passage), _TILT_PIXELS, rough=False)
    turned = replace(passage, tilt=tilt(made, nozzle), turns=turns(made, nozzle))
    return edits.set_passage(plan, index, turned)
