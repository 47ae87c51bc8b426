"""Applying the remedies of remarks, also of those on a plan that has moved on meanwhile."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from zesty_veil.advise.remark import Remark
from zesty_veil.tr import tr


class Remedies:
    """Applies what is pressed to the plan as it is, as soon as it is known what holds of it.

    Parameters
    ----------
    known
        Returns the remarks on the plan as it is now; none while they are not known.
    mend, complain
        Applies the remedy of a remark; told why nothing is applied.
    """

    def __init__(
        self,
        known: Callable[[], Sequence[Remark] | None],
        mend: Callable[[Remark], object],
        complain: Callable[[str], object],
    ) -> None:
        self._known, self._mend, self._complain = known, mend, complain
        self._wanted: Remark | None = None

    def apply(self, remark: Remark) -> None:
        """Apply the remedy of a remark, or say that it no longer holds."""
        self._wanted = remark
        self.look()

    def look(self) -> None:
        """Go on with what is wanted, if it is known by now whether it still holds."""
        remark, remarks = self._wanted, self._known()
        if remark is None or remarks is None:
            return
        self._wanted = None
        now = _as_now(remark, remarks)
        if now is not None:
            self._mend(now)
        else:
            self._complain(tr("The plan has changed: this remark no longer holds."))

    def forget(self) -> None:
        """Apply nothing: another plan is there."""
        self._wanted = None


def _as_now(remark: Remark, remarks: Sequence[Remark]) -> Remark | None:
    """Return a remark as it is on another state of its plan; none if it no longer holds."""
    like = [
        own for own in remarks
        if (own.kind, own.passage) == (remark.kind, remark.passage) and own.mend is not None
    ]  # fmt: skip
    same = [own for own in like if own is remark or own.coat == remark.coat]
    return same[0] if same else like[0] if len(like) == 1 else None
