"""What the log teaches: paints a little otherwise than measured, a hand that leaves more or less.

Every observed colour says, to first order, where the paints of its stack and the films of the hand
must lie: the prediction is made linear round what is known, and all observations are solved at
once with what is known before (the paints' spread, the hand's). One bad photograph does not spoil
a paint: what lies far from the rest counts less (Student's t). What is older counts less.

References
----------
A. Tarantola, Inverse Problem Theory (SIAM, 2005), section 3.2: least squares with a prior.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

import numpy as np
from msgspec.structs import replace

from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.grid import BANDS, Array, wavelengths
from zesty_veil.log.fit import metric
from zesty_veil.log.record import SEEN_NOISE, ObservedColour, Record
from zesty_veil.log.spread import modes_of
from zesty_veil.paint.laydown import RELIEF
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import OwnTool, Passage
from zesty_veil.predict.draws import Draws, sample_colours
from zesty_veil.predict.look import DAYLIGHT
from zesty_veil.predict.sure import FILM_CV, PAINT_CV

# Half of what a record weighs is gone after so many days: pots dry, hands and lots change.
HALF_LIFE_DAYS = 240.0
# So many records of each paint, the newest, settle what can be known of it: one more would narrow
# its spread by less than a hundredth, and each weighs less the older it is.
RECORDS_A_PAINT, MOST_RECORDS = 48, 1000
_FREEDOM = 4.0
_ROUNDS = 8
_STEP = 0.05
_HAND_SD = 0.25  # how far a hand's films may lie from a tool's usual ones
_SHAPE_SD, _SHAPE_NM = 0.15, 60.0  # of the spectra of a paint that nobody measured


@dataclass(frozen=True, eq=False)
class Learnt:
    """What records teach.

    paints : refined paints by name, each with its narrower spread. films : by tool, how much more
    the hand leaves than the tool's usual film. weights : by record number, how much it counted
    (0-1, the mean over its colours). before, after : median dE00 of the colours that count.
    """

    paints: dict[str, Paint]
    films: dict[str, float]
    weights: dict[int, float]
    before: float
    after: float


@dataclass(frozen=True, eq=False)
class _Told:
    """One observed colour, made linear: residual (3,) and slopes (3, unknowns) in its noise."""

    record: int
    residual: Array
    slopes: dict[str, Array]
    predicted: Array
    seen: Array
    trust: float


def learnt(
    records: Iterable[Record],
    paints: Mapping[str, Paint],
    now: datetime | None = None,
    hand: Sequence[OwnTool] = (),
) -> Learnt:
    """Return what records teach of some paints; see `lesson`."""
    *_, last = lesson(records, paints, now, hand)
    assert isinstance(last, Learnt)
    return last


def lesson(
    records: Iterable[Record],
    paints: Mapping[str, Paint],
    now: datetime | None = None,
    hand: Sequence[OwnTool] = (),
    total: int = 0,
) -> Iterator[tuple[int, int] | Learnt]:
    """Yield records done and in all, colour by colour, and at last what the records teach.

    Records are taken one by one and let go, as all together may be more than memory holds.

    Parameters
    ----------
    records
        Those that do not count are left out.
    paints
        As measured, by name; paints of a record that are not among them are taken as they are.
    now
        From when age is counted.
    hand
        The hand as its strips tell, from which films are counted. What a plan took over from
        earlier lessons does not count, or each lesson would take back the one before.
    total
        How many records there are, for those who wait.
    """
    now = datetime.now(UTC) if now is None else now
    known = {name: (paint, modes_for(paint)) for name, paint in paints.items()}
    told = []
    for done, record in enumerate(records):
        for seen in record.seen if record.counts else ():
            yield done, total
            one = _linear(record, seen, known, now, tuple(hand))
            if one is not None:
                told.append(one)
    yield _solved(told, known)


def modes_for(paint: Paint) -> Array:
    """Return the spread of a paint as modes (k, 72): its own, or what nobody knows of any paint."""
    if paint.spread:
        return np.array(paint.spread)
    nm = wavelengths()
    alike = np.exp(-0.5 * ((nm[:, None] - nm) / _SHAPE_NM) ** 2)
    one = PAINT_CV**2 + _SHAPE_SD**2 * alike + 1e-6 * np.eye(BANDS)
    covariance = np.zeros((2 * BANDS, 2 * BANDS))
    covariance[:BANDS, :BANDS] = covariance[BANDS:, BANDS:] = one
    spectra = np.log(np.maximum([*paint.mu_a, *paint.mu_s], 1e-3))
    return modes_of(spectra, covariance)


def shifted(paint: Paint, modes: Array, z: Array) -> Paint:
    """Return a paint moved along its modes by z (k,)."""
    off = np.exp(np.clip(z @ modes, -3, 3))
    mu_a, mu_s = np.array(paint.mu_a) * off[:BANDS], np.array(paint.mu_s) * off[BANDS:]
    return replace(paint, mu_a=tuple(mu_a.tolist()), mu_s=tuple(mu_s.tolist()))


def _linear(
    record: Record,
    seen: ObservedColour,
    known: Mapping[str, tuple[Paint, Array]],
    now: datetime,
    hand: tuple[OwnTool, ...],
) -> _Told | None:
    passage = next((p for p in record.plan.passages if p.name == seen.passage), None)
    if passage is None or not seen.coats:
        return None
    passage = replace(passage, coats=passage.coats[: seen.coats], own_hand=hand)
    rack = {**record.plan.rack(), **{name: paint for name, (paint, _) in known.items()}}
    used = {part.paint for coat in passage.coats for part in coat.mixture.parts}
    names = sorted(used & set(known))
    labs = _varied(passage, rack, known, names, seen)
    at = labs[0]
    by: dict[str, Array] = {}
    first = 1
    for name in names:
        last = first + len(known[name][1])
        by[f"paint {name}"] = ((labs[first:last] - at) / _STEP).T
        first = last
    noise = (SEEN_NOISE[seen.how]) ** 2 * np.eye(3)
    scale = metric(at)
    for index, coat in enumerate(passage.coats):
        slope = (at - labs[first + index]) / _STEP
        key = f"hand {coat.tool}"
        by[key] = by.get(key, np.zeros((3, 1))) + slope[:, None]
        moved = scale @ slope
        # The hand strays from pass to pass, which no record can take back.
        noise = noise + FILM_CV[record.plan.hand] ** 2 / coat.passes * np.outer(moved, moved)
    age = max((now - _moment(record.when)).total_seconds() / 86400, 0.0)
    trust = 0.5 ** (age / HALF_LIFE_DAYS)
    whiten = np.linalg.inv(np.linalg.cholesky(noise)) @ scale * np.sqrt(trust)
    lab = np.array(seen.lab)
    slopes = {key: whiten @ slope for key, slope in by.items()}
    return _Told(record.number, whiten @ (lab - at), slopes, at, lab, trust)


def _varied(
    passage: Passage,
    rack: Mapping[str, Paint],
    known: Mapping[str, tuple[Paint, Array]],
    names: Sequence[str],
    seen: ObservedColour,
) -> Array:
    """Return the colour as it is, by each mode of each paint, and by each coat laid thinner.

    (1 + modes of `names` + coats, 3), all at once.
    """
    modes = [known[name][1] for name in names]
    count = 1 + sum(len(m) for m in modes) + len(passage.coats)
    tints = {name: (np.ones((count, 1)), np.ones((count, 1))) for name in rack}
    first = 1
    for name, own in zip(names, modes, strict=True):
        both = np.ones((count, 2 * BANDS))
        both[first : first + len(own)] = np.exp(_STEP * own)
        tints[name] = (both[:, :BANDS], both[:, BANDS:])
        first += len(own)
    thinnings = []
    for index, coat in enumerate(passage.coats):
        # As much thinner as makes its film thinner by a step.
        thinning = np.full(count, coat.mixture.thinning)
        thinning[first + index] = (1 + coat.mixture.thinning) / (1 - _STEP) - 1
        thinnings.append(thinning)
    films = [np.ones((count, coat.passes)) for coat in passage.coats]
    u, relief = np.array([seen.place]), np.array([RELIEF[seen.site]])
    draws = Draws(tints, thinnings, films)
    return sample_colours(passage, rack, u, relief, draws, DAYLIGHT)[:, 0, 0]


def _moment(when: str) -> datetime:
    moment = datetime.fromisoformat(when)
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


def _solved(told: list[_Told], known: Mapping[str, tuple[Paint, Array]]) -> Learnt:
    sizes = {key: slope.shape[1] for one in told for key, slope in one.slopes.items()}
    keys = sorted(sizes)
    starts = dict(zip(keys, np.cumsum([0, *(sizes[key] for key in keys)])[:-1], strict=True))
    total = sum(sizes.values())
    prior = np.ones(total)
    for key in keys:
        if key.startswith("hand "):
            prior[starts[key]] = 1 / _HAND_SD**2
    J = np.zeros((3 * len(told), total))
    r = np.concatenate([one.residual for one in told]) if told else np.zeros(0)
    for i, one in enumerate(told):
        for key, slope in one.slopes.items():
            J[3 * i : 3 * i + 3, starts[key] : starts[key] + sizes[key]] = slope
    x, weight = np.zeros(total), np.ones(len(told))
    H = np.diag(prior)
    for _ in range(_ROUNDS):
        off = (r - J @ x).reshape(-1, 3)
        weight = (_FREEDOM + 3) / (_FREEDOM + (off**2).sum(axis=1))
        row = np.repeat(weight, 3)
        H = J.T @ (row[:, None] * J) + np.diag(prior)
        x = np.linalg.solve(H, J.T @ (row * r))
    covariance = np.linalg.inv(H)
    paints, films = {}, {}
    for key in keys:
        some = slice(starts[key], starts[key] + sizes[key])
        kind, name = key.split(" ", 1)
        if kind == "hand":
            films[name] = float(np.exp(x[some][0]))
            continue
        paint, modes = known[name]
        kept = np.linalg.cholesky(covariance[some, some]).T @ modes
        refined = shifted(paint, modes, x[some])
        paints[name] = replace(
            refined,
            mu_a=_rounded(refined.mu_a),
            mu_s=_rounded(refined.mu_s),
            spread=tuple(_rounded(mode) for mode in kept),
        )
    return Learnt(paints, films, _by_record(told, weight), *_better(told, J @ x))


def _by_record(told: list[_Told], weight: Array) -> dict[int, float]:
    found: dict[int, list[float]] = {}
    for one, w in zip(told, weight, strict=True):
        found.setdefault(one.record, []).append(float(min(w, 1.0)) * one.trust)
    return {number: float(np.mean(ws)) for number, ws in found.items()}


def _better(told: list[_Told], moved: Array) -> tuple[float, float]:
    """Return the median dE00 of all colours before, and after to first order."""
    if not told:
        return 0.0, 0.0
    before = np.array([float(ciede2000(one.predicted, one.seen)) for one in told])
    left = np.array(
        [
            np.linalg.norm(one.residual - m) / max(float(np.linalg.norm(one.residual)), 1e-9)
            for one, m in zip(told, moved.reshape(-1, 3), strict=True)
        ]
    )
    return float(np.median(before)), float(np.median(before * left))


def _rounded(values: Sequence[float]) -> tuple[float, ...]:
    return tuple(float(f"{v:.5g}") for v in values)
