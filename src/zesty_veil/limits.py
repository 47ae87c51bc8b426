"""Limits that stand on the types, and what is said where something is beyond them.

A field says what it may hold by `Annotated[float, between(0, 1)]`: the decoder refuses anything
else, the published schema has it, and `limit_faults` tells it of what was made otherwise, such as
an edited plan. Words for people are the title of a limit; without one it is the field's name.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from functools import cache
from typing import Any, NamedTuple

import msgspec
from msgspec import inspect

from zesty_veil.light.grid import BANDS
from zesty_veil.tr import tr

MOST_LETTERS = 200
# Beyond this no colour in CIELAB is a colour.
MOST_LAB = 300.0

_STEP = re.compile(r"\.(\w+)|\[(\d+)\]")
_LONGEST = 60


def between(low: float, high: float, words: str | None = None) -> msgspec.Meta:
    """Return the limit of a number."""
    return msgspec.Meta(ge=low, le=high, title=words)


def at_most(count: int, words: str | None = None) -> msgspec.Meta:
    """Return the limit of a list's or a text's length."""
    return msgspec.Meta(max_length=count, title=words)


def from_to(fewest: int, most: int, words: str | None = None) -> msgspec.Meta:
    """Return the limit of the length of a list that must have some."""
    return msgspec.Meta(min_length=fewest, max_length=most, title=words)


# 36 numbers, from 380 to 730 nm.
SPECTRUM = msgspec.Meta(min_length=BANDS, max_length=BANDS, extra={"spectrum": True})


class _Limit(NamedTuple):
    """What a value may be, and that of the values in it."""

    words: str
    low: float | None
    high: float | None
    fewest: int | None
    most: int | None
    text: bool
    inside: tuple[_Limit | None, ...] = ()  # by place; one for all where it is `alike`
    alike: bool = False
    spectrum: bool = False

    def faults(self, value: Any, words: str) -> Iterator[str]:
        """Yield what is beyond it, in sentences that begin with the words."""
        if value is None or value is msgspec.UNSET:
            return
        if self.low is not None and self.high is not None:
            # Compared as it is: a whole number of 400 digits cannot be written as a float.
            if not self.low <= value <= self.high:
                told = number_words(value)
                yield tr("{0} is {1}; it must be from {2:g} to {3:g}.").format(
                    words, told, self.low, self.high
                )
            return
        if self.most is not None and not (self.fewest or 0) <= len(value) <= self.most:
            yield self._count(len(value), words)
            return
        if self.inside and not self.text:
            for number, each in enumerate(value):
                one = self.inside[0 if self.alike else number]
                if one is not None:
                    yield from one.faults(each, self.each(number, words))

    def each(self, number: int, words: str) -> str:
        """Return what to call one of the values in it; `words` are what it is called itself."""
        one = self.inside[0 if self.alike else number]
        if one is not None and one.words:
            # A letter, such as the L of Lab, says nothing alone.
            return one.words if len(one.words) > 1 else f"{one.words} of {words}"
        if self.spectrum:
            return f"{words} at {380 + 10 * number} nm"
        return f"number {number + 1} of {words}"

    def _count(self, count: int, words: str) -> str:
        if self.text:
            return f"{words} has {count} letters; it may have {self.most}."
        if self.fewest == self.most:
            range_ = ", 380 to 730 nm" if self.spectrum else ""
            return f"{words} has {count} numbers; it must have {self.most}{range_}."
        if self.fewest and count < self.fewest:
            return f"{words}: there are {count}; it must have from {self.fewest} to {self.most}."
        return f"{words}: there are {count}, and at most {self.most} can be held; leave some out."


def number_words(number: float) -> str:
    """Return a number for a sentence, also one that no float can be."""
    try:
        return f"{number:g}"
    except OverflowError:
        return "beyond all measure"


def limit_faults(struct: msgspec.Struct, words: Mapping[str, str] = {}) -> Iterator[str]:
    """Yield what of a struct is beyond the limits of its type, as sentences without a place.

    Structs within it are not looked into. `words` stand in place of some fields' own.
    """
    for name, limit in _limits(type(struct)):
        value = getattr(struct, name)
        yield from limit.faults(value, words.get(name) or limit.words or f"'{name}'")


def decoder_words(raw: bytes, kind: type, message: str, ignored: str = "") -> str:
    """Turn what the decoder says is wrong into a sentence with the place first.

    Parameters
    ----------
    raw, kind
        The JSON that was decoded, and the struct it was to be.
    message
        Of the decoder.
    ignored
        The beginning of a place that need not be told, such as 'plan'.
    """
    limited = beyond(raw, kind, message)
    if limited:
        return limited
    text, _, place = message.partition(" - at `$")
    place = place.rstrip("`")
    place = place.removeprefix(f".{ignored}").lstrip(".") or "the top"
    text = text[0].lower() + text[1:].replace("`", "'")
    return f"at {place}, {text}; write what is expected there."


def beyond(raw: bytes, kind: type, message: str) -> str:
    """Return a sentence about a value beyond its limit, or nothing if that is not what is wrong.

    All as `decoder_words`.
    """
    text, _, place = message.partition(" - at `$")
    if "<=" not in text and ">=" not in text:
        return ""
    place = place.rstrip("`")
    try:
        value = msgspec.json.decode(raw)
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError):
        return ""  # there is more that is wrong, further on
    info: Any = inspect.type_info(kind)
    before, words, last = [], "", ""
    for field, number in _STEP.findall(place):
        whole, (info, _, _) = info, _plain(info)
        if field:
            found = next((f for f in info.fields if f.encode_name == field), None)
            if found is None or not isinstance(value, dict) or field not in value:
                return ""
            info, value, last, words = found.type, value[field], field, ""
        else:
            at = int(number)
            items = getattr(info, "item_types", None)
            outer = _limit(whole)
            info = items[at] if items is not None else info.item_type
            value = value[at]
            if isinstance(value, dict):
                before.append(_called(last, at, value))
            elif outer is not None:
                words = outer.each(at, outer.words or words or f"'{last}'")
    limit = _limit(info)
    words = words or (limit.words if limit is not None else "") or f"'{last}'"
    fault = next(limit.faults(value, words), "") if limit is not None else ""
    return ": ".join([*before, fault]) if fault else ""


def _called(field: str, at: int, value: dict[str, Any]) -> str:
    """Return what to call one of a list: 'Passage 'cloak'', 'coat 3'."""
    one = field.removesuffix("es") if field.endswith("sses") else field.removesuffix("s")
    name = value.get("name") or value.get("paint") or value.get("passage")
    if isinstance(name, str) and name:
        return f"{one.capitalize()} '{name[:_LONGEST]}'"
    return f"{one} {at + 1}"


@cache
def _limits(kind: type) -> tuple[tuple[str, _Limit], ...]:
    """Return the fields of a struct that are limited."""
    info = inspect.type_info(kind)
    assert isinstance(info, inspect.StructType)
    found = ((field.name, _limit(field.type)) for field in info.fields)
    return tuple((name, limit) for name, limit in found if limit is not None)


def _plain(info: Any) -> tuple[Any, str, bool]:
    """Return a type without what is said about it and without None, its title, and whether it is
    a spectrum."""
    title, spectrum = "", False
    while True:
        if isinstance(info, inspect.Metadata):
            title = str((info.extra_json_schema or {}).get("title", "")) or title
            spectrum = spectrum or bool((info.extra or {}).get("spectrum"))
            info = info.type
        elif isinstance(info, inspect.UnionType):
            info = next(t for t in info.types if not isinstance(t, inspect.NoneType))
        else:
            return info, title, spectrum


def _limit(info: Any) -> _Limit | None:
    info, words, spectrum = _plain(info)
    if isinstance(info, inspect.IntType | inspect.FloatType):
        if info.ge is None or info.le is None:
            return None
        return _Limit(words, info.ge, info.le, None, None, False)
    if isinstance(info, inspect.StrType | inspect.BytesType):
        if info.max_length is None:
            return None
        return _Limit(words, None, None, info.min_length, info.max_length, True)
    if isinstance(info, inspect.VarTupleType):
        inside: tuple[_Limit | None, ...] = (_limit(info.item_type),)
        if info.max_length is None and inside == (None,):
            return None
        inside = () if inside == (None,) else inside
        fewest, most = info.min_length, info.max_length
        return _Limit(words, None, None, fewest, most, False, inside, True, spectrum)
    if isinstance(info, inspect.TupleType):
        inside = tuple(_limit(item) for item in info.item_types)
        if any(inside):
            return _Limit(words, None, None, None, None, False, inside)
    return None
