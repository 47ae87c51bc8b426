"""What a template asks, and what it gives: a whole plan, and what it took for granted."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from zesty_veil.advise.templates.tidying import check_sound, tidied
from zesty_veil.errors import InputError
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Ground, Passage, Plan, Primer
from zesty_veil.tr import tr

Colour = tuple[float, float, float]
# What a thing measures, in words; length in mm and area in mm2.
SIZES: dict[str, tuple[float, float]] = {
    "small": (6.0, 30.0),
    "middle": (14.0, 120.0),
    "large": (30.0, 500.0),
}

_PRIMERS: dict[str, Primer] = {"white": "white", "grey": "grey", "black": "black"}


@dataclass(frozen=True)
class Asks:
    """One thing that a template asks.

    key : its name on the command line. words : as it is asked. answers : what may be chosen, with
    what stands on screen; none for a colour. optional : whether `NOTHING` may be answered.
    """

    key: str
    words: str
    usual: str
    answers: Mapping[str, str] = field(default_factory=dict)
    colour: bool = False
    optional: bool = False


NOTHING = "none"


@dataclass(frozen=True)
class Answered:
    """What was answered.

    said : by the keys of questions. colour : reads a colour in words as CIELAB. paints : at hand.
    """

    said: Mapping[str, str]
    colour: Callable[[str], Colour]
    paints: tuple[Paint, ...]

    def __getitem__(self, key: str) -> str:
        """Return an answer."""
        return self.said[key]

    def lab(self, key: str) -> Colour:
        """Return an answer that is a colour, as CIELAB."""
        return self.colour(self.said[key])

    def ground(self) -> Ground:
        """Return the primer that was answered."""
        return Ground(_PRIMERS[self.said["primer"]])

    def size(self) -> tuple[float, float]:
        """Return length in mm and area in mm2 for the answer to `size`."""
        return SIZES[self.said["size"]]


@dataclass(frozen=True)
class TemplateMade:
    """A plan so far.

    share : how much of it is done, 0-1. plan : when it is done. assumed : what was taken for
    granted, in sentences.
    """

    share: float
    plan: Plan | None = None
    assumed: tuple[str, ...] = ()


Build = Callable[[Answered, Callable[[], bool]], Iterator[TemplateMade]]


@dataclass(frozen=True)
class Template:
    """A plan to begin with."""

    id: str
    title: str
    words: str
    questions: tuple[Asks, ...]
    lay: Build

    def build(
        self, answers: Answered, should_continue: Callable[[], bool]
    ) -> Iterator[TemplateMade]:
        """Yield the plan for some answers, as far as it is; the last is whole.

        Raises
        ------
        InputError, PaintError
            If the paints at hand do not do, with the one that is wanting.
        """
        for made in self.lay(answers, should_continue):
            plan = made.plan
            if plan is not None:
                plan = tidied(plan, answers.paints)
                check_sound(plan, answers.paints)
            yield replace(made, plan=plan)

    def answered(
        self,
        said: Mapping[str, str],
        colour: Callable[[str], Colour],
        paints: Sequence[Paint],
    ) -> Answered:
        """Return answers with the usual one for each question that has none.

        Raises
        ------
        InputError
            If something is answered that is not asked, or not to be chosen.
        """
        known = {question.key: question for question in self.questions}
        for key in said:
            if key not in known:
                raise InputError(
                    tr("'{0}' does not ask for '{1}'; it asks for {2}.").format(
                        self.id, key, ", ".join(known)
                    )
                )
        out = {}
        for key, question in known.items():
            answer = said.get(key) or question.usual
            if question.answers and answer not in question.answers:
                raise InputError(
                    tr("{0} cannot be '{1}'; use one of {2}.").format(
                        key, answer, ", ".join(question.answers)
                    )
                )
            if question.colour and not (question.optional and answer == NOTHING):
                colour(answer)  # says so if it is none
            out[key] = answer
        return Answered(out, colour, tuple(paints))


LARGE = Asks(
    "size", "How large is it?", "middle",
    {"small": "small, 6 mm", "middle": "middle, 14 mm", "large": "large, 30 mm"},
)  # fmt: skip
FIGURES = Asks("figures", "How many figures?", "1", {str(n): str(n) for n in (1, 2, 3, 5, 10)})
PRIMER = Asks(
    "primer", "Which primer is on it?", "black",
    {"white": "white", "grey": "grey", "black": "black"},
)  # fmt: skip


def plan_with(title: str, answers: Answered, passages: Sequence[Passage]) -> Plan:
    """Return a plan of some passages that holds the paints it uses."""
    named = {paint.name: paint for paint in answers.paints}
    used: dict[str, Paint] = {}
    for passage in passages:
        for coat in (*passage.ground.coats, *passage.coats):
            for part in coat.mixture.parts:
                used[part.paint] = named[part.paint]
    figures = int(answers.said.get("figures", "1"))
    return Plan(title, tuple(passages), tuple(used.values()), figures)
