"""All templates, in the order in which the start page shows them."""

from __future__ import annotations

from zesty_veil.advise.templates.cloth import CLOTH, SHEER, SKIN
from zesty_veil.advise.templates.glowing import FLAME, LIGHT_ON_THINGS, VIAL, WITHIN
from zesty_veil.advise.templates.metal import METAL
from zesty_veil.advise.templates.model import Template
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

TEMPLATES: tuple[Template, ...] = (FLAME, LIGHT_ON_THINGS, WITHIN, VIAL, CLOTH, SKIN, METAL, SHEER)


def template(name: str) -> Template:
    """Return a template by its id; raises InputError if there is none."""
    for each in TEMPLATES:
        if each.id == name:
            return each
    known = ", ".join(each.id for each in TEMPLATES)
    raise InputError(tr("There is no template '{0}'; use one of {1}.").format(name, known))
