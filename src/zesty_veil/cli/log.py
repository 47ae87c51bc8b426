"""The command line's rack and log: fitting cards, racks in and out, records."""

from __future__ import annotations

import argparse
import re
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
from msgspec.structs import replace

from zesty_veil.aside import aside
from zesty_veil.errors import InputError, LogError
from zesty_veil.exchange.cardfile import patches_of, percent_words, read_samples
from zesty_veil.exchange.logfile import write_log
from zesty_veil.exchange.picturefile import open_photograph
from zesty_veil.exchange.rackfile import read_rack, write_rack
from zesty_veil.files import write_atomically
from zesty_veil.log.athand import paints_at_hand
from zesty_veil.log.card import Card, load_card
from zesty_veil.log.hand import hand_from
from zesty_veil.log.judge import delta_components, predicted_at
from zesty_veil.log.learn import MOST_RECORDS, RECORDS_A_PAINT, learnt
from zesty_veil.log.learning import Learning
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.measured import measured
from zesty_veil.log.racks import Rack, Racks, free_name
from zesty_veil.log.record import Conditions, How, ObservedColour, Record
from zesty_veil.log.store import Store
from zesty_veil.paint.laydown import SITES, Site
from zesty_veil.plan.fileformat import load
from zesty_veil.predict.named import region_of
from zesty_veil.services.colours import seen_in_words

_RACK_DOES = ("list", "import", "export", "use")
_LOG_DOES = ("list", "add", "export", "count", "ignore", "remove")


def fit_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of fitting a card."""
    job.add_argument("card", nargs="+", type=Path, metavar="CARD.json", help="of one paint")
    job.add_argument("-o", "--out", type=Path, metavar="PAINT.json", help="write the paint there")
    job.add_argument("--measurements", type=Path, metavar="FILE", help="take the patches of the "
                     "first card from an instrument's file: CxF3, CGATS or CSV")  # fmt: skip
    job.add_argument("--rack", action="store_true", help="keep the paint in the rack in use")
    job.add_argument("--hand", action="store_true", help="learn the hand from strips of a paint "
                     "of the rack that was measured before")  # fmt: skip
    job.add_argument("--json", action="store_true")


def rack_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of the rack."""
    job.add_argument("does", nargs="?", default="list", choices=_RACK_DOES)
    job.add_argument("what", nargs="?", metavar="FILE", help="JSON or CSV in; JSON, CSV or GPL "
                     "out; for 'use' the name of a rack")  # fmt: skip
    job.add_argument("--json", action="store_true")


def log_arguments(job: argparse.ArgumentParser) -> None:
    """Give a parser the arguments of the log."""
    job.add_argument("does", choices=_LOG_DOES)
    job.add_argument("what", nargs="?", help="words to find; a plan; a file; or a number")
    job.add_argument("--seen", action="append", default=[], metavar='"PASSAGE; MM; SITE; COLOUR"',
                     help="a colour that came out (#rrggbb, L a b or in words)")  # fmt: skip
    job.add_argument("--words", default="", help="a few words")
    job.add_argument("--step", default="", help="what of the plan was painted")
    job.add_argument("--minutes", type=float)
    job.add_argument("--celsius", type=float)
    job.add_argument("--humidity", type=float, metavar="PERCENT")
    job.add_argument("--photo", type=Path, metavar="FILE")
    job.add_argument("--json", action="store_true")


def fitted_paint(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Return what cards tell of a paint, for JSON and as text; raises VeilErrors."""
    cards, note = [load_card(path) for path in chosen.card], ""
    if chosen.measurements is not None:
        samples = read_samples(chosen.measurements)
        patches = patches_of(samples, chosen.measurements.name)
        cards[0] = replace(cards[0], patches=patches, source="instrument")
        note = percent_words(samples)
    if chosen.hand:
        return _hand(tuple(cards))
    found = measured(cards)
    paint, (white, black) = found.paint, found.sure_de
    text = (
        f"{paint.name}: {len(found.fit.de)} patches fit within dE {float(found.fit.de.max()):.1f}; "
        f"drawdowns are sure within dE {white:.1f} over white, {black:.1f} over black.\n"
    )
    text += "".join(f"{words}\n" for words in (*found.unknown, *filter(None, (note,))))
    if chosen.out is not None:
        raw = msgspec.json.format(msgspec.json.encode(paint), indent=1)
        write_atomically(chosen.out, raw + b"\n")
        text += f"Wrote {chosen.out}\n"
    if chosen.rack:
        text += _keep(tuple(cards), found.paint)
    rows = {
        "paint": msgspec.to_builtins(paint),
        "de00": [round(float(v), 3) for v in found.fit.de],
        "sure_de00": {"white": round(white, 3), "black": round(black, 3)},
        "unknown": list(found.unknown),
    }
    return rows, text


def _keep(cards: tuple[Card, ...], paint: Any) -> str:
    with _store() as store:
        racks = Racks(store)
        name = racks.current()
        racks.measure(name, paint, cards)
    return f"Kept in the rack {name}.\n"


def _hand(cards: tuple[Card, ...]) -> tuple[Any, str]:
    with _store() as store:
        racks = Racks(store)
        found = hand_from(cards, racks.get().find(cards[0].paint).paint)
        Learning(store).set_strips((found.own,))
    own = found.own
    text = (
        f"{own.tool}: {own.film:.2f} times the usual film a pass, straying by "
        f"{100 * (own.cv or 0):.0f} % ({found.strips} strips).\n"
    )
    return {**msgspec.to_builtins(own), "strips": found.strips}, text


def racked(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Do something to racks; return what to say for JSON and as text; raises VeilErrors."""
    if chosen.does == "list":
        paints = paints_at_hand()
        rows = [
            {"name": p.name, "maker": p.maker, "kind": p.kind, "pigments": list(p.pigments),
             "measured": bool(p.spread)}
            for p in paints
        ]  # fmt: skip
        return rows, "".join(f"{p.name:24}{p.kind:14}{', '.join(p.pigments)}\n" for p in paints)
    if not chosen.what:
        raise InputError(f"'rack {chosen.does}' needs the name of a file, or of a rack to use.")
    if chosen.does == "import":
        with _store() as store:
            racks = Racks(store)
            rack = read_rack(Path(chosen.what), racks.get())
            rack = Rack(free_name(rack.name, racks.names()), rack.paints)
            racks.put(rack)
            racks.choose(rack.name)
        count = len(rack.paints)
        said = f"Took {count} paints from {chosen.what}; the rack {rack.name} is in use.\n"
        return {"rack": rack.name, "paints": count}, said
    with _store() as store:
        racks = Racks(store)
        if chosen.does == "use":
            racks.choose(chosen.what)
            return {"rack": chosen.what}, f"The rack {chosen.what} is in use.\n"
        rack = Learning(store).known(racks.get())
    write_rack(rack, Path(chosen.what))
    return {"file": chosen.what}, f"Wrote {chosen.what}\n"


def logged(chosen: argparse.Namespace) -> tuple[Any, str]:
    """Do something to the log; return what to say for JSON and as text; raises VeilErrors."""
    with _store() as store:
        book = Logbook(store)
        if chosen.does == "list":
            return _listed(book, chosen.what or "")
        if not chosen.what:
            raise InputError(f"'log {chosen.does}' needs a plan, a file or a number after it.")
        if chosen.does == "add":
            number = _add(book, chosen)
            _learn(store, book)
            return {"record": number}, f"Wrote record {number}.\n"
        if chosen.does == "export":
            count = write_log(book.each(book.numbers()[::-1]), Path(chosen.what))
            return {"records": count}, f"Wrote {count} records to {chosen.what}\n"
        number = _number(chosen.what)
        if chosen.does == "remove":
            book.remove(number)
        else:
            book.count(number, chosen.does == "count")
        _learn(store, book)
        done = {"remove": "is out of the log", "count": "counts", "ignore": "counts no more"}
        return {"record": number}, f"Record {number} {done[chosen.does]}.\n"


def _listed(book: Logbook, words: str) -> tuple[Any, str]:
    rows, text = [], ""
    for line in book.lines(words):
        try:
            record = book.get(line.number)
        except LogError as error:
            text += f"{line.number:4}  {error}\n"
            continue
        far = [delta_components(seen) for seen in record.seen]
        middle = float(np.median([one.de for one in far])) if far else None
        rows.append(
            {"record": line.number, "when": line.when, "plan": line.title, "step": line.step,
             "words": line.words, "counts": line.counts,
             "de00": None if middle is None else round(middle, 2)}
        )  # fmt: skip
        came = "" if middle is None else f"  dE {middle:.1f}"
        note = "" if line.counts else "  (not learnt from)"
        text += f"{line.number:4}  {line.when[:10]}  {line.title}{came}{note}\n"
        for seen, one in zip(record.seen, far, strict=True):
            text += f"      {seen.passage}: dE {one.de:.1f}, {one.words}\n"
    return rows, text or "No records.\n"


def _add(book: Logbook, chosen: argparse.Namespace) -> int:
    plan = load(Path(chosen.what), aside)
    seen = []
    for words in chosen.seen:
        parts = [part.strip() for part in words.split(";")]
        if len(parts) != 4:
            raise InputError(f'--seen "{words}": write "PASSAGE; MM; SITE; COLOUR".')
        name, mm, site, colour = parts
        passage = next((p for p in plan.passages if p.name.casefold() == name.casefold()), None)
        if passage is None:
            names = ", ".join(p.name for p in plan.passages)
            raise InputError(f"--seen \"{words}\": there is no passage '{name}'; it has {names}.")
        place, where = _place(words, mm, passage.length_mm), _site(words, site)
        L, a, b = predicted_at(plan, passage.name, place, where, len(passage.coats))
        predicted = (float(L), float(a), float(b))
        lab = seen_in_words(colour, predicted)
        how: How = "typed" if region_of(colour) is None else "words"
        seen.append(
            ObservedColour(passage.name, place, where, len(passage.coats), lab, predicted, how)
        )
    air = Conditions(chosen.celsius, None if chosen.humidity is None else chosen.humidity / 100)
    record = Record(
        datetime.now(UTC).isoformat(timespec="seconds"), plan, chosen.step, tuple(seen),
        chosen.words, chosen.minutes, air,
    )  # fmt: skip
    photo = None
    if chosen.photo is not None:
        photo = (chosen.photo.suffix, open_photograph(chosen.photo))
    return book.add(record, photo)


def _place(words: str, mm: str, length_mm: float) -> float:
    try:
        place = float(mm.removesuffix("mm")) / length_mm
    except ValueError:
        place = -1.0
    if not 0 <= place <= 1:
        raise InputError(f'--seen "{words}": {mm} must be millimetres from 0 to {length_mm:g}.')
    return place


def _site(words: str, site: str) -> Site:
    for one in SITES:
        if one == site:
            return one
    raise InputError(f'--seen "{words}": {site} must be one of {", ".join(SITES)}.')


def _learn(store: Store, book: Logbook) -> None:
    """Work out anew what the records teach of the rack in use."""
    base = Racks(store).get()
    paints = {kept.paint.name: kept.paint for kept in base.paints}
    learning = Learning(store)
    numbers = book.that_teach(RECORDS_A_PAINT, MOST_RECORDS)
    found = learnt(book.each(numbers), paints, hand=learning.strips())
    learning.keep(base.name, paints, found)


def _number(words: str) -> int:
    # Of all digits there are only those of the keyboard, and no more than the file counts to.
    if not re.fullmatch(r"[0-9]{1,18}", words):
        raise InputError(f"'{words}' is no record's number; 'log list' shows them.")
    return int(words)


@contextmanager
def _store() -> Iterator[Store]:
    store = Store()
    try:
        yield store
    finally:
        store.close()
