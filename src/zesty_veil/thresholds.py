"""Thresholds of judgement: what counts as seen, hidden, harsh, muddy, tiring.

None of them is a law of nature: each says what painters and those who look at figures call by
that word. `source` is where it is from. Limits of what can be held at all stand on the types, and
numbers of the optics beside their formulas.
"""

from __future__ import annotations


class Threshold(float):
    """A number with what it means: its unit, in words what is judged by it, and its source."""

    unit: str
    says: str
    source: str

    def __new__(cls, value: float, unit: str, says: str, source: str) -> Threshold:
        new = super().__new__(cls, value)
        new.unit, new.says, new.source = unit, says, source
        return new


class Count(int):
    """A whole number of such a kind."""

    unit: str
    says: str
    source: str

    def __new__(cls, value: int, unit: str, says: str, source: str) -> Count:
        new = super().__new__(cls, value)
        new.unit, new.says, new.source = unit, says, source
        return new


_PRACTICE = "common practice"

# Seeing
HIDDEN_DE00 = Threshold(1.0, "dE00", "what a coat must add to be seen at all", _PRACTICE)
MET_DE00 = Threshold(
    3.0, "dE00", "a colour this near to the one wanted is that, at arm's length", _PRACTICE
)
CLOSE_DE00 = Threshold(2.0, "dE00", "two colours that nobody parts at arm's length", _PRACTICE)
BROKEN_DE00 = Threshold(
    4.0, "dE00", "a match that gets so far apart under another light breaks", _PRACTICE
)
DIFFER_DE00 = Threshold(3.0, "dE00", "colours so far apart are seen to be two", _PRACTICE)
WORDY_DE00 = Threshold(0.3, "dE00", "a change below this is not worth words", _PRACTICE)
SMALL_PART_DE00 = Threshold(
    0.5, "dE00", "parts of a difference below this are not worth words", _PRACTICE
)
HARSH_DE00 = Threshold(
    12.0, "dE00", "a blend looks abrupt when it changes by more over `HARSH_OVER_MM`", _PRACTICE
)
HARSH_OVER_MM = Threshold(0.5, "mm", "how far a change is looked at for that", _PRACTICE)
ALIKE_VALUES = Threshold(
    0.8, "values", "neighbours closer than this read as one thing when squinted at", _PRACTICE
)
APART_VALUES = Threshold(1.5, "values", "what brings such neighbours apart", _PRACTICE)
NO_GAIN_VALUES = Threshold(
    0.1, "values", "a surround that changes less than this changes nothing", _PRACTICE
)
SMALL_GAIN_VALUES = Threshold(0.5, "values", "up to here it helps a little", _PRACTICE)
GREAT_GAIN_VALUES = Threshold(1.2, "values", "from here on it helps much", _PRACTICE)
MILKY_L = Threshold(
    2.0, "L", "latex that lightens wet paint by more makes a painter wonder", _PRACTICE
)

# Grounds and tones
BLACK_VALUE = Threshold(2.6, "value", "below this a tip is black", _PRACTICE)
BLACK_CHROMA = Threshold(15.0, "C", "and below this", _PRACTICE)
TIPS_SHARE = Threshold(0.15, "of the length", "so much of it black tips may take", _PRACTICE)
DARK_SHARE = Threshold(0.5, "of a coat", "so much of it over too dark a ground is told", _PRACTICE)
CHALKED_CHROMA = Threshold(
    6.0, "C", "a coat of white that takes so much has chalked the colour", _PRACTICE
)
OPPOSITE_HUES = Threshold(140.0, "degrees", "hues this far apart are opposites", _PRACTICE)
MUDDY_SHARE = Threshold(
    0.5, "of the chroma", "a glaze of the opposite that takes so much has made mud", _PRACTICE
)
STRONG_CHROMA = Threshold(25.0, "C", "from here on there is a colour to lose", _PRACTICE)
LEAST_SHARE_OF_PASS = Threshold(
    0.07, "of all that was changed", "one more pass that does less has made it solid", _PRACTICE
)
WHITE_COVER_L = Threshold(
    80.0, "L", "opaque paints at least this light cover as white does", _PRACTICE
)

# Work
MANY_PASSES = Count(8, "passes", "so many tire anybody", _PRACTICE)
FEW_PASSES = Count(4, "passes", "and so many of a stronger mix do the same", _PRACTICE)
MANY_MIXES = Count(
    4, "pots", "so many of two paints or more are kept wet at once without haste", _PRACTICE
)
WASTED_SHARE = Threshold(
    0.4, "of what it would add", "a film that keeps less over what hides it is wasted", _PRACTICE
)
UNDER_OPAQUE_SHARE = Threshold(
    0.6, "of its length", "a film is under an opaque coat that covers so much", _PRACTICE
)
MOST_WHITE_PASSES = Count(8, "passes", "more of white are a case for white primer", _PRACTICE)
MOST_GLAZE_PASSES = Count(24, "passes", "more of a glaze are no remedy", _PRACTICE)

# Light
OUTSHONE_VALUES = Threshold(
    0.5, "values", "a place lighter than the light by so much outshines it", _PRACTICE
)
UNDER_SOURCE_VALUES = Threshold(
    0.3, "values", "what is lit stays so much below the light", _PRACTICE
)
BRIGHT_SOURCE_VALUE = Threshold(
    8.5, "value", "a light darker than this may itself be lightened", _PRACTICE
)
AWAY_VALUE = Threshold(
    3.5, "value", "the quarter turned away must be this dark, or the glow does not read", _PRACTICE
)
AWAY_FROM = Threshold(0.75, "of the axis", "where that quarter begins", _PRACTICE)
TWO_HUES = Threshold(60.0, "degrees", "lights of two colours are so far apart", _PRACTICE)
TWO_CHROMA = Threshold(20.0, "C", "and each has so much", _PRACTICE)
LIT_VALUE = Threshold(3.5, "value", "a place this light is lit", _PRACTICE)
GAP_VALUES = Threshold(1.0, "values", "between two lights it must be so much darker", _PRACTICE)
OPPOSITE_WITHIN = Threshold(50.0, "degrees", "what counts as the opposite of a glow", _PRACTICE)
OPPOSITE_CHROMA = Threshold(12.0, "C", "from where on a surround has a colour", _PRACTICE)
GLOW_CHROMA = Threshold(25.0, "C", "and a glow", _PRACTICE)
LIGHT_MARGIN_VALUES = Threshold(0.4, "values", "a remedy goes so much beyond the border", _PRACTICE)
DIMMED_SHARE = Threshold(
    0.15, "of the light", "a glow that later films dim by more is wasted", _PRACTICE
)
HELD_BACK = Threshold(
    0.8,
    "of the strength",
    "so much of a light may be held back; beyond, it is too strong for paint",
    _PRACTICE,
)
FAINT_VALUES = Threshold(1.0, "values", "a glow that lightens by less is faint", _PRACTICE)

# Value that must lie below a coat for its colour to come clean: by hue over white, to and from in
# degrees, and the value; common practice.
CLEAN_ABOVE = ((105.0, 75.0, 6.5), (75.0, 50.0, 5.0), (50.0, 18.0, 2.75))


def all_thresholds() -> dict[str, Threshold | Count]:
    """Return all thresholds by name."""
    found = globals().items()
    return {name: value for name, value in found if isinstance(value, Threshold | Count)}
