"""Where a coat lies, as painters say it: 'from a quarter on', 'the inner half', 'ridges only'."""

from __future__ import annotations

from collections.abc import Sequence

from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.plan.model import Coat
from zesty_veil.tr import listed, tr

# Shares of the axis that have a name, as a place and as a piece.
_SHARES = (
    (0.05, "a twentieth"), (0.1, "a tenth"), (0.167, "a sixth"), (0.2, "a fifth"),
    (0.25, "a quarter"), (0.333, "a third"), (0.4, "two fifths"), (0.5, "half-way"),
    (0.6, "three fifths"), (0.667, "two thirds"), (0.75, "three quarters"), (0.8, "four fifths"),
    (0.9, "nine tenths"),
)  # fmt: skip
_PIECES = {
    "a twentieth": "twentieth", "a tenth": "tenth", "a sixth": "sixth", "a fifth": "fifth",
    "a quarter": "quarter", "a third": "third", "half-way": "half",
}  # fmt: skip
# A piece up to this is 'the last fifth'; an end this near is the end; a feather below this is none.
_LAST, _END, _SOFT = 0.27, 0.03, 0.03


def place_words(coat: Coat) -> str:
    """Return where a coat lies, without where it ends in millimetres."""
    where = _where(coat)
    if coat.sites == SITES:
        return where
    sites = tr("{0} only").format(site_words(coat.sites))
    return sites if coat.span == (0.0, 1.0) else f"{sites}, {where}"


def site_words(sites: Sequence[Site]) -> str:
    """Return sites as painters call them: 'ridges and flats'."""
    return listed([tr(_SITES[site]) for site in sites])


_SITES = {"recess": "recesses", "flat": "flats", "ridge": "ridges"}


def place_mm(coat: Coat, length_mm: float) -> str:
    """Return from where to where a coat reaches: '8 to 20 mm, in full from 10'."""
    (low, high), (start, end) = _reach(coat), coat.span
    words = tr("{0} to {1} mm").format(_mm(low * length_mm), _mm(high * length_mm))
    full = [_mm(place * length_mm) for place in (start, end)]
    if low < start and high > end:
        return tr("{0}, in full {1} to {2}").format(words, *full)
    if low < start:
        return tr("{0}, in full from {1}").format(words, full[0])
    return tr("{0}, in full to {1}").format(words, full[1]) if high > end else words


def _reach(coat: Coat) -> tuple[float, float]:
    """Return from where to where a coat is on the axis, with its feathers, 0-1."""
    return max(coat.span[0] - coat.feather[0], 0.0), min(coat.span[1] + coat.feather[1], 1.0)


def _where(coat: Coat) -> str:
    (start, end), (low, high) = coat.span, _reach(coat)
    if start <= _END and end >= 1 - _END:
        return tr("over all of it")
    if end >= 1 - _END:
        return _far(start, low)
    if start <= _END:
        return _light(end, high)
    words = tr("from {0} to {1}").format(share_words(start), share_words(end))
    if end - start < _END:
        words = tr("round {0}").format(share_words(start))
    soft = [low < start - _SOFT, high > end + _SOFT]
    if all(soft):
        return tr("{0}, soft at both ends").format(words)
    return tr("{0}, soft at one end").format(words) if any(soft) else words


def _far(start: float, low: float) -> str:
    """Return the words for what lies to the far end, and begins at a place."""
    if start >= 1 - _END:
        piece = tr("the last {0}").format(_piece(1 - low)) if 1 - low <= _LAST else ""
        begins = piece or tr("from {0} on").format(share_words(low))
        return tr("{0}, full only at the far end").format(begins)
    last = 1 - start <= _LAST
    words = (
        tr("the last {0}").format(_piece(1 - start))
        if last
        else tr("from {0} on").format(share_words(start))
    )
    if start - low < _SOFT:
        return words
    return tr("{0}, fading in from {1}").format(words, share_words(low))


def _light(end: float, high: float) -> str:
    """Return the words for what lies at the light, and ends at a place."""
    if end <= _END:
        return tr("at the light alone, faded out by {0}").format(share_words(high))
    words = tr("the inner {0}").format(_piece(end))
    if high - end < _SOFT:
        return words
    return tr("{0}, faded out by {1}").format(words, share_words(high))


def share_words(place: float) -> str:
    """Return what painters call a place on the axis: 'a quarter', 'two thirds', 'half-way'."""
    if place < _END:
        return tr("the light")
    if place > 1 - _END:
        return tr("the far end")
    return tr(min(_SHARES, key=lambda share: abs(share[0] - place))[1])


def _piece(share: float) -> str:
    name = min(_SHARES, key=lambda each: abs(each[0] - share))[1]
    return tr(_PIECES.get(name, name))


def _mm(number: float) -> str:
    return f"{number:.1f}".removesuffix(".0")
