"""Colours with spectra as CxF3, the exchange format of ISO 17972-1.

References
----------
ISO 17972-1, Graphic technology, colour data exchange format (CxF/X), part 1; its core schema. What
is written is read back by the package colour-cxf in the tests.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import UTC, datetime
from xml.etree import ElementTree as ET

import numpy as np

from zesty_veil.errors import InputError
from zesty_veil.exchange.colours import Sample, refuse_many
from zesty_veil.exchange.spectra import as_shares, of_spectrum, on_grid
from zesty_veil.light.grid import FIRST_NM, STEP_NM, Array
from zesty_veil.light.illuminant import LIGHTS
from zesty_veil.tr import tr

_NAMESPACE = "http://colorexchangeformat.com/CxF3-core"
_SPECIFICATION = "predicted"
_MOST_BANDS = 2000
# What XML 1.0 cannot hold (its production 2), and so could not be read again.
_UNFIT = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")


def write_cxf(
    title: str, light: str, found: Sequence[Sample], when: datetime | None = None
) -> bytes:
    """Return colours as the bytes of a CxF3 file, of some moment or of now."""
    ET.register_namespace("cc", _NAMESPACE)
    moment = (datetime.now(UTC) if when is None else when).strftime("%Y-%m-%dT%H:%M:%SZ")
    root = ET.Element(_tag("CxF"))
    info = ET.SubElement(root, _tag("FileInformation"))
    for name, words in (
        ("Creator", "Zesty Veil"), ("CreationDate", moment), ("Description", _fit(title)),
    ):  # fmt: skip
        ET.SubElement(info, _tag(name)).text = words
    resources = ET.SubElement(root, _tag("Resources"))
    objects = ET.SubElement(resources, _tag("ObjectCollection"))
    for number, one in enumerate(found, 1):
        each = ET.SubElement(
            objects, _tag("Object"), ObjectType="Target", Name=_fit(one.name), Id=f"c{number}"
        )
        ET.SubElement(each, _tag("CreationDate")).text = moment
        values = ET.SubElement(each, _tag("ColorValues"))
        if one.spectrum is not None:
            spectrum = ET.SubElement(
                values, _tag("ReflectanceSpectrum"),
                ColorSpecification=_SPECIFICATION, StartWL=str(FIRST_NM),
            )  # fmt: skip
            spectrum.text = " ".join(f"{v:.6f}" for v in one.spectrum)
        lab = ET.SubElement(values, _tag("ColorCIELab"), ColorSpecification=_SPECIFICATION)
        for name, v in zip("LAB", one.lab, strict=True):
            ET.SubElement(lab, _tag(name)).text = f"{v:.4f}"
    _specify(ET.SubElement(resources, _tag("ColorSpecificationCollection")), light)
    ET.indent(root)
    return bytes(ET.tostring(root, encoding="utf-8", xml_declaration=True)) + b"\n"


def read_cxf(raw: bytes, what: str) -> tuple[Sample, ...]:
    """Return the colours of a CxF3 file that have spectra or CIELAB; `what` names it in sentences.

    Spectra on other wavelengths are brought to ours.

    Raises
    ------
    InputError
        If it is no such file, or holds no such colour.
    """
    try:
        root = ET.fromstring(raw)
    except (ET.ParseError, ValueError, LookupError) as error:
        raise InputError(tr("{0} is no XML, so it is no CxF3: {1}.").format(what, error)) from None
    if root.tag != _tag("CxF"):
        raise InputError(tr("{0} is no CxF3; export it as CxF3 from where it comes.").format(what))
    # Looked for where the format has them: to search all below each would take the square of the
    # time where a hostile file nests them.
    specs = list(root.iter(_tag("ColorSpecification")))
    objects = list(root.iter(_tag("Object")))
    refuse_many(max(len(specs), len(objects)), what)
    steps = {each.get("Id"): each.find(_path("MeasurementSpec/WavelengthRange")) for each in specs}
    lights = {
        each.get("Id"): _light(each.findtext(_path("TristimulusSpec/Illuminant"))) for each in specs
    }
    out: list[Sample] = []
    for each in objects:
        lab = each.find(_path("ColorValues/ColorCIELab"))
        name = each.get("Name") or f"colour {len(out) + 1}"
        try:
            spectrum = _spectrum(each.find(_path("ColorValues/ReflectanceSpectrum")), steps)
            if lab is None:
                if spectrum is not None:
                    out.append(of_spectrum(name, spectrum))
                continue
            numbers = np.array([float(lab.findtext(_tag(axis)) or "nan") for axis in "LAB"])
        except ValueError:
            raise InputError(
                tr("{0}: a number of “{1}” is none.").format(what, name[:40])
            ) from None
        if not np.isfinite(numbers).all():
            raise InputError(tr("{0}: a number of “{1}” is missing.").format(what, name[:40]))
        light = lights.get(lab.get("ColorSpecification"), "D50")
        out.append(Sample(name, numbers, spectrum, light))
    if not out:
        raise InputError(
            tr("{0} holds no colour with spectrum or CIELAB; export it with one.").format(what)
        )
    return as_shares(out)


def _spectrum(
    element: ET.Element | None, steps: dict[str | None, ET.Element | None]
) -> Array | None:
    if element is None or not (element.text or "").split():
        return None
    words = (element.text or "").split(None, _MOST_BANDS)
    if len(words) > _MOST_BANDS:
        raise ValueError
    values = np.array([float(v) for v in words])
    spec = steps.get(element.get("ColorSpecification"))
    given = spec.attrib if spec is not None else {}
    start = float(element.get("StartWL") or given.get("StartWL") or FIRST_NM)
    step = float(given.get("Increment") or STEP_NM)
    own: Array = start + step * np.arange(values.size, dtype=np.float64)
    if not (np.isfinite(values).all() and step > 0):
        raise ValueError
    return on_grid(own, values)


def _fit(words: str) -> str:
    """Return words without what XML cannot hold."""
    return _UNFIT.sub("\N{REPLACEMENT CHARACTER}", words)


def _light(words: str | None) -> str:
    return words if words in LIGHTS else "D50"


def _specify(collection: ET.Element, light: str) -> None:
    specification = ET.SubElement(collection, _tag("ColorSpecification"), Id=_SPECIFICATION)
    seen = ET.SubElement(specification, _tag("TristimulusSpec"))
    for name, words in (("Illuminant", light), ("Observer", "2_Degree"), ("Method", "E308_Table5")):
        ET.SubElement(seen, _tag(name)).text = words
    measured = ET.SubElement(specification, _tag("MeasurementSpec"))
    ET.SubElement(measured, _tag("MeasurementType")).text = "Spectrum_Reflectance"
    geometry = ET.SubElement(measured, _tag("GeometryChoice"))
    single = ET.SubElement(geometry, _tag("SingleAngle"))
    ET.SubElement(single, _tag("SingleAngleConfiguration")).text = "Annular"
    ET.SubElement(single, _tag("IlluminationAngle")).text = "45"
    ET.SubElement(single, _tag("MeasurementAngle")).text = "0"
    ET.SubElement(measured, _tag("WavelengthRange"), StartWL=str(FIRST_NM), Increment=str(STEP_NM))


def _path(words: str) -> str:
    return "/".join(_tag(name) for name in words.split("/"))


def _tag(name: str) -> str:
    return f"{{{_NAMESPACE}}}{name}"
