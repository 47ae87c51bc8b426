"""Thresholds of judgement: what counts as seen, hidden, harsh, muddy, tiring.

None of them is a law of nature: each says what painters and those who look at figures call by
that word. `source` is where it is from. Limits of what can be held at all stand on the types, and
numbers of the optics beside their formulas.
"""

from __future__ import annotations

from typing import NamedTuple, TypeVar


class Threshold(NamedTuple):
    """What a number means: its unit, in words what is judged by it, and its source."""

    value: float
    unit: str
    says: str
    source: str


Number = TypeVar("Number", int, float)
_ALL: dict[str, Threshold] = {}


def _said(
    name: str, value: Number, unit: str, says: str, source: str = "common practice"
) -> Number:
    """Write down what a number means, and return the plain number: it may go into plans."""
    _ALL[name] = Threshold(value, unit, says, source)
    return value


# Seeing
HIDDEN_DE00 = _said("HIDDEN_DE00", 1.0, "dE00", "what a coat must add to be seen at all")
NEARLY_HIDDEN_DE00 = _said(
    "NEARLY_HIDDEN_DE00", 2.5, "dE00", "an opaque coat under others that adds less is hardly seen"
)
MET_DE00 = _said(
    "MET_DE00", 3.0, "dE00", "a colour this near to the one wanted is that, at arm's length"
)
CLOSE_DE00 = _said("CLOSE_DE00", 2.0, "dE00", "two colours that nobody parts at arm's length")
BROKEN_DE00 = _said(
    "BROKEN_DE00", 4.0, "dE00", "a match that gets so far apart under another light breaks"
)
DIFFER_DE00 = _said("DIFFER_DE00", 3.0, "dE00", "colours so far apart are seen to be two")
WORDY_DE00 = _said("WORDY_DE00", 0.3, "dE00", "a change below this is not worth words")
SMALL_PART_DE00 = _said(
    "SMALL_PART_DE00", 0.5, "dE00", "parts of a difference below this are not worth words"
)
HARSH_DE00 = _said(
    "HARSH_DE00", 12.0, "dE00", "a blend looks abrupt when it changes by more over `HARSH_OVER_MM`"
)
HARSH_OVER_MM = _said("HARSH_OVER_MM", 0.5, "mm", "how far a change is looked at for that")
ALIKE_VALUES = _said(
    "ALIKE_VALUES", 0.8, "values", "neighbours closer than this read as one thing when squinted at"
)
APART_VALUES = _said("APART_VALUES", 1.5, "values", "what brings such neighbours apart")
NO_GAIN_VALUES = _said(
    "NO_GAIN_VALUES", 0.1, "values", "a surround that changes less than this changes nothing"
)
NO_GAIN_COLOUR = _said(
    "NO_GAIN_COLOUR", 0.04, "of the colourfulness", "a surround that changes less changes nothing"
)
SMALL_GAIN_VALUES = _said("SMALL_GAIN_VALUES", 0.5, "values", "up to here it helps a little")
GREAT_GAIN_VALUES = _said("GREAT_GAIN_VALUES", 1.2, "values", "from here on it helps much")
MILKY_L = _said("MILKY_L", 2.0, "L", "latex that lightens wet paint by more makes a painter wonder")

NEARER_DE00 = _said(
    "NEARER_DE00", 0.3, "dE00", "a coat may lead a place it covers so much away from what is wanted"
)
AS_NEAR_DE00 = _said(
    "AS_NEAR_DE00", 1.5, "dE00", "of ways that are as near as this, the plainest stands first"
)
GAINED_DE00 = _said(
    "GAINED_DE00", 0.5, "dE00", "a coat of a recipe must bring some place so much nearer in the end"
)
FACING_HUES = _said(
    "FACING_HUES", 105.0, "degrees", "a paint this far from the hue that is wanted lies against it"
)
WARM_UNDER_HUES = _said(
    "WARM_UNDER_HUES",
    80.0,
    "degrees",
    "a warm tone further from what is wanted is no ground for it",
)
BELONGS_CHROMA = _said("BELONGS_CHROMA", 40.0, "C", "a colour this strong is of pots of its hue")
BELONGS_HUES = _said(
    "BELONGS_HUES", 60.0, "degrees", "a pot further from a strong colour does not belong in it"
)
CLEAR_CHROMA = _said("CLEAR_CHROMA", 60.0, "C", "a colour this strong must come as clear as that")
CLEAR_SHARE = _said("CLEAR_SHARE", 0.95, "of the chroma", "what is less than this of it is dull")
DULL_CHROMA = _said("DULL_CHROMA", 1.2, "C for a dE00", "so much less counts as one dE00 more")
RISES_VALUES = _said(
    "RISES_VALUES",
    0.25,
    "values",
    "between two places so much lighter again is seen as a second light",
)
RISES_L = _said("RISES_L", 2.0, "L", "what gets so much lighter again outshines what is before it")
MILD_CHROMA = _said("MILD_CHROMA", 15.0, "C", "a colour this strong has a hue of its own")
MILD_HUES = _said(
    "MILD_HUES", 65.0, "degrees", "a pot further from the hue of such a colour greys it"
)
CLEAN_CHROMA = _said("CLEAN_CHROMA", 50.0, "C", "no skin or earth belongs in a colour this strong")
EARTH_CHROMA = _said("EARTH_CHROMA", 46.5, "C", "skins, leathers and earths are no stronger")
HUED_CHROMA = _said("HUED_CHROMA", 5.0, "C", "a colour with less may be stirred of opposites")
DULLS_CHROMA = _said("DULLS_CHROMA", 3.0, "C", "a film that takes so much dulls what it lies on")
GREYISH_CHROMA = _said("GREYISH_CHROMA", 12.0, "C", "a colour with less has no opposite")
DARKER_L = _said("DARKER_L", 3.0, "L", "so much darker than wanted a coat may make a place")

# Grounds and tones
BLACK_VALUE = _said("BLACK_VALUE", 2.6, "value", "below this a tip is black")
BLACK_CHROMA = _said("BLACK_CHROMA", 15.0, "C", "and below this")
TIPS_SHARE = _said("TIPS_SHARE", 0.15, "of the length", "so much of it black tips may take")
DARK_SHARE = _said("DARK_SHARE", 0.5, "of a coat", "so much of it over too dark a ground is told")
CHALKED_CHROMA = _said(
    "CHALKED_CHROMA", 6.0, "C", "a coat of white that takes so much has chalked the colour"
)
CHALKED_GLINT = _said(
    "CHALKED_GLINT", 0.5, "values", "a matt surface that takes so much from metal has dulled it"
)
GLINT_SHARE = _said("GLINT_SHARE", 0.52, "of the glint", "what keeps so much of it is metal still")
GREYED_SHARE = _said(
    "GREYED_SHARE", 0.2, "of the chroma", "a red that loses more to a grey below it than to white"
)
GLOWS_ON_VALUE = _said(
    "GLOWS_ON_VALUE", 7.0, "value", "a fluorescent by brush wants white or yellow of this below"
)
COVERED_VALUES = _said(
    "COVERED_VALUES", 0.4, "values", "a film over the brightest spot that takes more dims it"
)
GRADED_VALUES = _said(
    "GRADED_VALUES", 2.0, "values", "what is so much lighter at the light has a brightest spot"
)
RUNNY = _said("RUNNY", 1.5, "parts of water", "from here on water on a sponge runs")
OPPOSITE_HUES = _said("OPPOSITE_HUES", 140.0, "degrees", "hues this far apart are opposites")
MUD_HUES = _said("MUD_HUES", 130.0, "degrees", "of what is laid by the program, a little before")
MUDDY_SHARE = _said(
    "MUDDY_SHARE", 0.5, "of the chroma", "a glaze of the opposite that takes so much has made mud"
)
STRONG_CHROMA = _said("STRONG_CHROMA", 25.0, "C", "from here on there is a colour to lose")
LEAST_SHARE_OF_PASS = _said(
    "LEAST_SHARE_OF_PASS",
    0.07,
    "of all that was changed",
    "one more pass that does less has made it solid",
)
WHITE_COVER_L = _said(
    "WHITE_COVER_L", 80.0, "L", "opaque paints at least this light cover as white does"
)
MUDDY_MIDDLE = _said(
    "MUDDY_MIDDLE", 0.6, "of the chroma", "a pair of pots that keeps less in the middle goes to mud"
)
DARK_BELOW_L = _said("DARK_BELOW_L", 40.0, "L", "on what is darker no light colour looks clean")
LIGHT_OVER_L = _said("LIGHT_OVER_L", 70.0, "L", "a colour this light is a light one")
SKETCHED_L = _said("SKETCHED_L", 30.0, "L", "what is to be darker needs no white sketched below it")
STAYS_DARK_DE00 = _said(
    "STAYS_DARK_DE00", 8.0, "dE00", "a dark ground this near to what is wanted stays as it is"
)
LIFTS_L = _said(
    "LIFTS_L", 2.0, "L", "a white or ivory that lightens by less pays for no other coat"
)
WARM_GROUND_L = _said("WARM_GROUND_L", 62.0, "L", "a warm tone this light may lie below others")

# Work
MANY_PASSES = _said("MANY_PASSES", 8, "passes", "so many tire anybody")
FEW_PASSES = _said("FEW_PASSES", 4, "passes", "and so many of a stronger mix do the same")
MANY_MIXES = _said(
    "MANY_MIXES", 4, "pots", "so many of two paints or more are kept wet at once without haste"
)
NEAT_PASSES = _said("NEAT_PASSES", 2, "passes", "an opaque laid neat more often hides detail")
PILED_UM = _said("PILED_UM", 140.0, "um", "more neat paint on one place, before it dries, does too")
THICK_UM = _said("THICK_UM", 180.0, "um", "so much neat paint on one place is told as too thick")
WASTED_SHARE = _said(
    "WASTED_SHARE",
    0.4,
    "of what it would add",
    "a film that keeps less over what hides it is wasted",
)
UNDER_OPAQUE_SHARE = _said(
    "UNDER_OPAQUE_SHARE", 0.6, "of its length", "a film is under an opaque coat that covers so much"
)
MOST_WHITE_PASSES = _said(
    "MOST_WHITE_PASSES", 8, "passes", "more of white are a case for white primer"
)
MOST_GLAZE_PASSES = _said("MOST_GLAZE_PASSES", 24, "passes", "more of a glaze are no remedy")

# Light
OUTSHONE_VALUES = _said(
    "OUTSHONE_VALUES", 0.5, "values", "a place lighter than the light by so much outshines it"
)
UNDER_SOURCE_VALUES = _said(
    "UNDER_SOURCE_VALUES", 0.3, "values", "what is lit stays so much below the light"
)
BRIGHT_SOURCE_VALUE = _said(
    "BRIGHT_SOURCE_VALUE", 8.5, "value", "a light darker than this may itself be lightened"
)
AWAY_VALUE = _said(
    "AWAY_VALUE",
    3.5,
    "value",
    "the quarter turned away must be this dark, or the glow does not read",
)
AWAY_FROM = _said("AWAY_FROM", 0.75, "of the axis", "where that quarter begins")
TWO_HUES = _said("TWO_HUES", 60.0, "degrees", "lights of two colours are so far apart")
TWO_CHROMA = _said("TWO_CHROMA", 20.0, "C", "and each has so much")
LIT_VALUE = _said("LIT_VALUE", 3.5, "value", "a place this light is lit")
GAP_VALUES = _said("GAP_VALUES", 1.0, "values", "between two lights it must be so much darker")
OPPOSITE_WITHIN = _said("OPPOSITE_WITHIN", 50.0, "degrees", "what counts as the opposite of a glow")
OPPOSITE_CHROMA = _said("OPPOSITE_CHROMA", 12.0, "C", "from where on a surround has a colour")
GLOW_CHROMA = _said("GLOW_CHROMA", 25.0, "C", "and a glow")
LIGHT_MARGIN_VALUES = _said(
    "LIGHT_MARGIN_VALUES", 0.4, "values", "a remedy goes so much beyond the border"
)
DIMMED_SHARE = _said(
    "DIMMED_SHARE", 0.15, "of the light", "a glow that later films dim by more is wasted"
)
HELD_BACK = _said(
    "HELD_BACK",
    0.8,
    "of the strength",
    "so much of a light may be held back; beyond, it is too strong for paint",
)
FAINT_VALUES = _said("FAINT_VALUES", 1.0, "values", "a glow that lightens by less is faint")

# Value that must lie below a coat for its colour to come clean: by hue over white, to and from in
# degrees, and the value; common practice.
CLEAN_ABOVE = ((105.0, 75.0, 6.5), (75.0, 50.0, 5.0), (50.0, 18.0, 2.75))


def all_thresholds() -> dict[str, Threshold]:
    """Return what all thresholds mean, by name."""
    return dict(_ALL)
