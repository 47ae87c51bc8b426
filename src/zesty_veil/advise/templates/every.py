"""All templates, in the order in which the start page shows them."""

from __future__ import annotations

from zesty_veil.advise.templates.buildup import CLOTH
from zesty_veil.advise.templates.cloth import SHEER, SKIN
from zesty_veil.advise.templates.glass import VIAL
from zesty_veil.advise.templates.glowing import FLAME, LIGHT_ON_THINGS, WITHIN
from zesty_veil.advise.templates.metal import METAL
from zesty_veil.advise.templates.model import Template
from zesty_veil.advise.templates.overwhite import CONTRAST, SPONGED
from zesty_veil.errors import InputError
from zesty_veil.tr import tr

TEMPLATES: tuple[Template, ...] = (
    FLAME, LIGHT_ON_THINGS, WITHIN, VIAL, CLOTH, SKIN, METAL, SHEER, CONTRAST, SPONGED,
)  # fmt: skip


def template(name: str) -> Template:
    """Return a template by its id; raises InputError if there is none."""
    for each in TEMPLATES:
        if each.id == name:
            return each
    known = ", ".join(each.id for each in TEMPLATES)
    raise InputError(tr("There is no template '{0}'; use one of {1}.").format(name, known))
