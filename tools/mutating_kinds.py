"""Every kind of input that the program reads: sound examples of it, and what reads it.

What is read is also used once, as the window would: shown, written again, and read back.
"""

from __future__ import annotations

import os
import sqlite3
import struct
import time
from collections.abc import Callable
from pathlib import Path

import msgspec
import numpy as np
from PySide6.QtGui import QColor, QImage, QImageReader

from mutating import Kind
from zesty_veil.bench import sitting as bench
from zesty_veil.bench.air import Air
from zesty_veil.bench.steps import steps
from zesty_veil.cli.match import _ramp
from zesty_veil.desktop.kit.photos import read_picture
from zesty_veil.desktop.session import recent
from zesty_veil.errors import DroppedError
from zesty_veil.exchange.cardfile import patches_of, read_samples
from zesty_veil.exchange.cgats import write_cgats
from zesty_veil.exchange.colours import samples
from zesty_veil.exchange.cxf import write_cxf
from zesty_veil.exchange.meshfile import read_mesh
from zesty_veil.exchange.rackfile import read_rack, write_rack
from zesty_veil.log.card import Card, Patch, dump_card, load_card
from zesty_veil.log.learning import Learning
from zesty_veil.log.logbook import Logbook
from zesty_veil.log.measured import measured
from zesty_veil.log.photo.reading import read_photograph
from zesty_veil.log.racks import Kept, Rack, Racks
from zesty_veil.log.record import ObservedColour, Record
from zesty_veil.log.store import Store
from zesty_veil.paint.rack import demo_rack
from zesty_veil.paths import recent_path
from zesty_veil.plan.clipboard import coat_text, paste_coat
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import dump, load, parse
from zesty_veil.plan.model import Passage, Plan
from zesty_veil.plan.samples import sample, sample_bytes
from zesty_veil.predict.field import axis, predict
from zesty_veil.services.colours import parse_colour

_PATIENCE_S = 1.0


def all_kinds(folder: Path) -> tuple[Kind, ...]:
    """Return all kinds; `folder` is where examples may be made."""
    os.environ["XDG_STATE_HOME"] = str(folder / "state")
    os.environ["XDG_DATA_HOME"] = str(folder / "data")
    small = _small()
    sheet = samples(small, 4)
    return (
        Kind("plan", ".veil", (dump(small), sample_bytes("diver")), _plan),
        Kind("rack json", ".json", (_made(folder / "r.json"),), _rack),
        Kind("rack csv", ".csv", (_made(folder / "r.csv"),), _rack),
        Kind("card", ".json", (dump_card(_card()),), _measure),
        Kind("ramp", ".json", (b'[{"place": 0, "target": "#ffd040"}, {"place": 1, "target": '
                               b'"50,20,-30", "site": "ridge"}]',), _ramp),
        Kind("cxf", ".cxf", (write_cxf("a", "D50", sheet),), _patches),
        Kind("cgats", ".txt", (write_cgats("a", "D50", sheet).encode(),), _patches),
        Kind("spectra", ".csv", _tables(), _patches),
        Kind("stl", ".stl", (_stl(), _stl_text()), read_mesh),
        Kind("obj", ".obj", (_obj(),), read_mesh),
        Kind("png", ".png", (_picture(folder / "p.png"),), _picture_read),
        Kind("jpeg", ".jpg", (_picture(folder / "p.jpg"),), _picture_read),
        Kind("sitting", ".json", (_sitting(folder / "s.json"),), bench.kept_sitting),
        Kind("recent", ".json", (b'["/tmp/a.veil", "/tmp/b.veil"]',), _recent),
        Kind("clipboard", ".txt", (coat_text(small, 0, 1).encode(),), _paste),
        Kind("coat", ".txt", (b"Furnace Red 3 + Lamp Black 1; water 3; passes 2; tool glaze",
                              b"Ember Orange; medium 2; sites recess flat; nozzle 20"), _coat),
        Kind("colour", ".txt", (b"#ff8a1e", b"70,40,60", b"strong orange", b"50 10 -20"), _colour),
        Kind("log", ".sqlite", (_log(folder / "log.sqlite"),), _open_log),
        Kind("documents of a log", ".json", (msgspec.json.encode(_record()),), _log_document),
    )  # fmt: skip


def _small() -> Plan:
    rack = {paint.name: paint for paint in demo_rack()}
    coats = tuple(
        parse_coat(words, rack)
        for words in ("Lime White; water 0.5; passes 2", "Ember Orange; water 3; tool glaze")
    )
    held = tuple(rack[name] for name in ("Lime White", "Ember Orange"))
    return Plan("A small plan", (Passage("flame", 10.0, 60.0, coats=coats),), held)


def _plan(path: Path) -> None:
    plan = load(path)
    assert parse(dump(plan)) is not None
    steps(plan)
    for passage in plan.passages[:2]:
        predict(passage, plan.rack(), axis(9))


def _made(path: Path) -> bytes:
    paints = demo_rack()
    write_rack(Rack("Mine", tuple(Kept(paints[i]) for i in (0, 5, 22, 26, 30))), path)
    return path.read_bytes()


def _rack(path: Path) -> None:
    end = time.monotonic() + _PATIENCE_S

    def tell(done: int, total: int) -> None:
        # A table of two thousand paints takes half a minute to fit, is told of, and can be stopped.
        if time.monotonic() > end:
            raise DroppedError

    rack = read_rack(path, tell=tell)
    write_rack(rack, path.with_name("again.json"))
    assert len(read_rack(path.with_name("again.json")).paints) == len(rack.paints)


def _card() -> Card:
    patches = tuple(Patch("white", n, (80.0 - 8 * n, 10.0 + 6 * n, 30.0)) for n in (0, 1, 2))
    return Card("My red", "transparent", patches, ("PR254",), tool="loaded")


def _measure(path: Path) -> None:
    measured([load_card(path)])


def _patches(path: Path) -> None:
    patches_of(read_samples(path), path.name)


def _tables() -> tuple[bytes, ...]:
    bands = range(380, 740, 10)
    head = "name," + ",".join(map(str, bands))
    rows = "\n".join(f"white {k}," + ",".join(f"{0.1 * k:.3f}" for _ in bands) for k in (1, 2))
    across = "nm,white 1,white 2\n" + "\n".join(f"{nm},0.5,0.6" for nm in bands)
    return (f"{head}\n{rows}\n".encode(), across.encode(), b"name,L,a,b\nwhite 1,60,30,40\n")


def _stl() -> bytes:
    rng = np.random.default_rng(1)
    out = bytes(80) + struct.pack("<I", 12)
    for _ in range(12):
        out += struct.pack("<12fH", *rng.uniform(-9, 9, 12), 0)
    return out


def _stl_text() -> bytes:
    corners = "vertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\n"
    facet = f"facet normal 0 0 1\nouter loop\n{corners}endloop\nendfacet\n"
    return f"solid x\n{facet * 3}endsolid x\n".encode()


def _obj() -> bytes:
    corners = b"o x\nv 0 0 0\nv 9 0 0\nv 0 9 0\nv 0 0 9\nvn 0 0 1\n"
    return corners + b"f 1//1 2//1 3//1\nf 1 3 4\nf -1 -2 -3\n"


def _picture(path: Path) -> bytes:
    image = QImage(90, 60, QImage.Format.Format_RGB888)
    for x in range(90):
        for y in range(60):
            image.setPixelColor(x, y, QColor(2 * x, 4 * y, (x * y) % 255))
    assert image.save(str(path))
    return path.read_bytes()


def _picture_read(path: Path) -> None:
    QImageReader.setAllocationLimit(256)
    read_photograph(read_picture(path).pixels)


def _sitting(path: Path) -> bytes:
    one = bench.begun(_small(), Air(), 0.0)
    assert one is not None
    bench.keep_sitting(bench.lay_pass(one, 60.0), path)
    return path.read_bytes()


def _recent(path: Path) -> None:
    store = recent_path()
    store.parent.mkdir(parents=True, exist_ok=True)
    store.write_bytes(path.read_bytes())
    recent.recent()
    recent.remember(path)


def _text(path: Path) -> str:
    return path.read_bytes().decode(errors="surrogateescape")


def _paste(path: Path) -> None:
    paste_coat(_small(), 0, _text(path), None)


def _coat(path: Path) -> None:
    parse_coat(_text(path), {paint.name: paint for paint in demo_rack()})


def _colour(path: Path) -> None:
    reads: tuple[Callable[[str], object], ...] = (parse_colour,)
    refused = None
    for read in reads:
        try:
            read(_text(path))
        except ValueError:
            raise
        except Exception as error:
            refused = error
    if refused is not None:
        raise refused


def _record() -> Record:
    plan = sample("diver")
    passage = next(p for p in plan.passages if p.coats)
    seen = ObservedColour(
        passage.name, 0.5, "flat", len(passage.coats), (60.0, 1.0, 2.0), (61.0, 1.0, 2.0)
    )
    return Record("2026-03-01T20:00:00+00:00", plan, "all", (seen,), "words", 90.0)


def _log(path: Path) -> bytes:
    store = Store(path)
    Racks(store)
    Logbook(store).add(_record())
    store.close()
    return path.read_bytes()


def _open_log(path: Path) -> None:
    for beside in path.parent.glob(f"{path.name}*"):
        if beside != path:
            beside.unlink()
    store = Store(path)
    try:
        _use(store)
    finally:
        store.close()


def _log_document(path: Path) -> None:
    """Put the bytes into every column that holds documents, and read the log."""
    log = path.with_name("documents.sqlite")
    if not log.exists():
        _log(log)
    raw = path.read_bytes()
    with sqlite3.connect(log) as db:
        for table, where in (("record", "1"), ("racked", "paint = 'Lime White'"), ("learnt", "1")):
            db.execute(f"UPDATE {table} SET document = ? WHERE {where}", (raw,))
        db.execute("INSERT OR REPLACE INTO setting VALUES ('hand', ?)", (raw,))
    _open_log(log)


def _use(store: Store) -> None:
    book, racks = Logbook(store), Racks(store)
    Learning(store).known(racks.get())
    Learning(store).hand("Brackwater")
    book.lines("glass")
    book.trend()
    book.titles()
    book.reckon()
    for record in book.all():
        assert record.plan is not None
