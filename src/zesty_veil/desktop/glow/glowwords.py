"""What is said of the coats that were found for a light."""

from __future__ import annotations

from zesty_veil.services.lighting import FoundCoats
from zesty_veil.tr import counted, tr


def effort_words(found: FoundCoats) -> str:
    """Return the passes, pots and minutes of the coats, in words."""
    answers = [one.answer for one in found.passages if one.answer]
    coats = [coat for answer in answers for coat in answer.coats]
    return tr("{0}, {1}, {2:.0f} min").format(
        counted(sum(coat.passes for coat in coats), "{0} pass", "{0} passes"),
        counted(len({coat.mixture for coat in coats}), "{0} pot", "{0} pots"),
        sum(answer.minutes for answer in answers),
    )


def found_words(found: FoundCoats) -> str:
    """Return in words how near the coats come."""
    off = [each for one in found.passages if one.answer for each in one.answer.delta_e]
    mean = sum(off) / max(len(off), 1)
    worst = max(one.answer.worst for one in found.passages if one.answer)
    near = tr("dE {0:.1f} on average, {1:.1f} at worst.").format(mean, worst)
    return f"{near} {_what_changes(found)}"


def _what_changes(found: FoundCoats) -> str:
    """Return in words what becomes of the coats that are there, before they are written over."""
    before = [found.painting.plan.passages[one.passage] for one in found.passages]
    gone = sum(len(p.coats) for p, one in zip(before, found.passages, strict=True) if not one.kept)
    if found.painting.keep:
        lost = sum(len(one.lost) for one in found.passages)
        none = tr("All coats stay.")
        said = counted(lost, "{0} of them will not show any more.", "{0} of them will not show.")
        return tr("All coats stay; {0}").format(said) if lost else none
    said = counted(gone, "Writing takes {0} coat away.", "Writing takes {0} coats away.")
    return said if gone else tr("Nothing is taken away.")
