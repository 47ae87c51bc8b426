"""Draw the pictures in docs/screenshots from the demo plans, offscreen, in a size that loads soon.

Run `.venv/bin/python tools/screenshots.py [FOLDER]` after a view changed, and look at them.
"""

from __future__ import annotations

import argparse
import os
import tempfile
import time
from dataclasses import replace as replace_sheet
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
# Nothing of a sitting under way on this machine is shown, or touched.
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = tempfile.mkdtemp()

import numpy as np
from msgspec.structs import replace
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from figure import figure, save_stl
from kept_pictures import SIZE, shoot_kept
from zesty_veil.advise.glow.usual import off_figure
from zesty_veil.bench.air import Air
from zesty_veil.desktop.glow.station import LightStation
from zesty_veil.desktop.kit.paintmenu import PaintMenu
from zesty_veil.desktop.kit.paper.flow import Paper
from zesty_veil.desktop.kit.paper.sheet import draw_sheet
from zesty_veil.desktop.kit.theme import dress, wear
from zesty_veil.desktop.match.station import MatchStation
from zesty_veil.desktop.session.recent import remember
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.desktop.sitting.station import SittingStation
from zesty_veil.desktop.start.station import StartStation
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan import edits
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.fileformat import save
from zesty_veil.plan.grounds import prepared_ground
from zesty_veil.plan.model import Ground, Passage, Plan, Primer, Target
from zesty_veil.plan.samples import sample
from zesty_veil.services.sheet import sheet_of
from zesty_veil.services.turning import Pose

_SHIRT = 5
_BLENDS = {"form-large"}
FOLDER = Path(__file__).resolve().parents[1] / "docs/screenshots"


def shoot(
    folder: Path,
    name: str,
    plan: str | Plan,
    passage: int,
    coat: int,
    place: float,
    surround: str,
    turned_on: tuple[str, ...] = (),
) -> None:
    """Draw one picture of the Section, with some of the looks turned on."""
    window = MainWindow(sample(plan) if isinstance(plan, str) else plan)
    window.resize(*SIZE)
    window.show()
    window.section.choose_passage(passage)
    window.section.set_surround(surround)
    window.section.choose_coat(coat)
    window.wait_until_idle()
    for look in turned_on:
        window.menus.actions[look].trigger()
    window.wait_until_idle()
    window.section.view.read_at(place)
    QApplication.processEvents()
    window.grab().save(str(folder / f"{name}.png"), "PNG", 0)
    window.close()


def shoot_sculpt(folder: Path) -> None:
    """Draw a sculpt while it is turned."""
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.section.choose_passage(_SHIRT)
    router = window.router
    with tempfile.TemporaryDirectory() as place:
        path = Path(place) / "lantern-bearer.stl"
        save_stl(figure(96), path)
        router.forms.open_sculpt(path)
        router.sculpt.wait_until_idle()
    router.sculpt.hold(Pose(-25, 8))
    router.sculpt.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "sculpt.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_sitting(folder: Path) -> None:
    """Draw a sitting with two figures, some passes in, and then while all of them dry."""
    now = [1.0e9]
    window = MainWindow(replace(sample("diver"), figures=2))
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    view = window.router.at(SittingStation).view
    view.now = lambda: now[0]
    window.menus.actions["to sitting"].trigger()
    view.wait_until_idle()
    for _ in range(27):
        view.lay()
        now[0] += 40
        view.tick()
    view.wait_until_idle()
    view.tick()
    window.say("")
    QApplication.processEvents()
    window.grab().save(str(folder / "sitting.png"), "PNG", 0)
    view.go()
    window.document.forget()
    window.close()


def unaimed(passage: int) -> Plan:
    """Return the demo plan with nothing wanted on one of its passages."""
    plan = sample("glasswright")
    for target in plan.passages[passage].targets:
        plan = edits.drop_target(plan, passage, target.place)
    return plan


def shoot_match(folder: Path) -> None:
    """Draw the ways that are found to a flame's targets."""
    plan = unaimed(0)
    wanted = ("#fff6d0", "#ffd020", "#ff8a1e", "#b02020", "#301818")
    for place, words in zip((0.0, 0.3, 0.55, 0.8, 1.0), wanted, strict=True):
        L, a, b = (round(float(v), 2) for v in lab_of(parsed(words)))
        plan = edits.set_target(plan, 0, Target(place, (L, a, b)))
    window = MainWindow(plan)
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    window.menus.actions["match"].trigger()
    match = window.router.at(MatchStation).view
    match.limits.coats.setValue(5)
    match.wait_until_idle()
    window.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "match-ramp.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_rescue(folder: Path) -> None:
    """Draw the ways on from an apron that came out too dark, one of them kept."""
    plan = edits.set_target(unaimed(1), 1, Target(0.4, (58.0, 38.0, 48.0)))
    window = MainWindow(plan)
    window.resize(*SIZE)
    window.show()
    window.section.choose_passage(1)
    window.wait_until_idle()
    window.menus.actions["match"].trigger()
    match = window.router.at(MatchStation).view
    match.limits.coats.setValue(3)
    match.wanted.start.setCurrentIndex(1)
    match.wanted.start.activated.emit(1)
    match.wait_until_idle()
    match.list.take(1)
    match.keep_way()
    match.limits.coats.setValue(2)
    match.wait_until_idle()
    window.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "match-rescue.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_fire(folder: Path) -> None:
    """Draw a fire before red armour, over the coats that are there."""
    red = laid_plan("armour", "orb", "black", "Furnace Red; water 0.5; passes 3")
    shoot_light(folder, "glow", edits.set_glow(red, off_figure(red, [0])), keep=True)


def shoot_lamp(folder: Path) -> None:
    """Draw a blue lamp over black armour, whose own colour wins, in five rings."""
    black = laid_plan("black armour", "plate", "black")
    glow = replace(off_figure(black, [0]), colour=(45.0, 10.0, -60.0), wins=1.0)
    shoot_light(folder, "glow-lamp", edits.set_glow(black, glow), keep=False)


def crystal() -> Plan:
    """Return a crystal underpainted in pink, blue and violet, with yellow and violet over that."""
    plan = laid_plan(
        "crystal", "facet", "black", "Kiln Yellow; water 2; passes 2",
        "Harbour Violet; water 3; passes 2",
    )  # fmt: skip
    yellow, violet = plan.passages[0].coats
    yellow = edits.with_feather(edits.with_span(yellow, 0.0, 0.15), 0.0, 0.3)
    violet = edits.with_feather(edits.with_span(violet, 0.7, 1.0), 0.25, 0.0)
    for at, coat in enumerate((yellow, violet)):
        plan = edits.set_coat(plan, 0, at, coat)
    return prepared_ground(plan, 0, "underpaint", plan.paints)


def laid_plan(name: str, form: str, primer: Primer, *coats: str) -> Plan:
    """Return a plan of one passage with some coats of demo paints."""
    rack = demo_rack()
    paints = {paint.name: paint for paint in rack}
    laid = tuple(parse_coat(words, paints) for words in coats)
    passage = Passage(name, 30.0, 900.0, ground=Ground(primer), coats=laid, form=form)
    return Plan(name, (passage,), rack)


def shoot_light(folder: Path, name: str, plan: Plan, keep: bool) -> None:
    """Draw a light with the coats for it found."""
    window = MainWindow(plan)
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    window.menus.actions["glow"].trigger()
    glow = window.router.at(LightStation).view
    glow.wait_until_idle()
    glow.keep.setCurrentIndex(glow.keep.findData(keep))
    glow.keep.activated.emit(glow.keep.currentIndex())
    glow.paint()
    glow.wait_until_idle()
    window.wait_until_idle()
    for _ in range(5):
        QApplication.processEvents()  # what is said is laid out in turns
    window.grab().save(str(folder / f"{name}.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_template(folder: Path) -> None:
    """Draw the questions of a template, and the plan that it makes."""
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.menus.actions["to start"].trigger()
    station = window.router.at(StartStation)
    station.view.made[2].click()
    station.template.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "template.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_ladder(folder: Path) -> None:
    """Draw five steps between two pots."""
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    window.menus.actions["match"].trigger()
    station = window.router.at(MatchStation)
    station.view.bar.ladder.click()
    for name in ("Furnace Red", "Kiln Yellow"):
        station.ladder.take(name)
    station.ladder.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "ladder.png"), "PNG", 0)
    window.document.forget()
    window.close()


def shoot_start(folder: Path) -> None:
    """Draw the start page, with the demo plans open last."""
    plans = Path(tempfile.mkdtemp())
    for name in ("diver", "glasswright"):
        save(sample(name), plans / f"{name}.veil")
        remember(plans / f"{name}.veil")
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.wait_until_idle()
    window.menus.actions["to start"].trigger()
    window.user_store.writes.wait_until_idle()
    window.router.at(StartStation).view.wait_until_idle()
    QApplication.processEvents()
    window.grab().save(str(folder / "start.png"), "PNG", 0)
    window.close()


def shoot_picker(folder: Path, app: QApplication) -> None:
    """Draw the picker open over the section, by night."""
    wear(app, "night")
    window = MainWindow(sample("glasswright"))
    window.resize(*SIZE)
    window.show()
    window.section.choose_passage(2)
    window.section.choose_coat(2)
    window.wait_until_idle()
    window.section.view.read_at(0.4)
    menu = window.section.head.paints
    assert isinstance(menu, PaintMenu)
    window.section.open_rack()
    menu.jobs.wait_until_idle()
    menu.picker.search.setText("blue")
    QApplication.processEvents()
    window.grab().save(str(folder / "picker.png"), "PNG", 0)
    menu.close()
    window.close()
    wear(app, "day")


def shoot_sheet(folder: Path) -> None:
    """Draw the first passage as it is printed."""
    plan = sample("glasswright")
    sheet = sheet_of(plan, Air())
    dpi, width, height = 104, 182.0, 225.0
    page = QImage(round(196 * dpi / 25.4), round(height * dpi / 25.4), QImage.Format.Format_RGB32)
    page.fill(0xFFFFFFFF)
    painter = QPainter(page)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(7 * dpi / 25.4, 4 * dpi / 25.4)
    first = replace_sheet(sheet, pots=sheet.pots[:6], passages=sheet.passages[:1])
    # What comes on later pages is drawn far beside the picture.
    draw_sheet(
        Paper(painter, dpi), (width, height - 8), first, lambda: painter.translate(0, 10_000)
    )
    painter.end()
    page.save(str(folder / "sheet.png"), quality=0)


def smaller(path: Path) -> None:
    """Write a picture again in 64 levels a channel, which nobody tells apart and packs far better.

    Blends are drawn in all 256, where hardly two neighbours are alike.
    """
    image = QImage(str(path)).convertToFormat(QImage.Format.Format_RGB888)
    rows = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), -1)
    # A form at large is all blend: 32 levels of it are still hardly told apart.
    coarse = rows & 0xF8 | rows >> 5 if path.stem in _BLENDS else rows & 0xFC | rows >> 6
    coarse = np.ascontiguousarray(coarse)
    QImage(
        coarse.data, image.width(), image.height(), coarse.shape[1], QImage.Format.Format_RGB888
    ).save(str(path))


def main() -> None:
    """Draw all pictures."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", nargs="?", type=Path, default=FOLDER)
    folder = parser.parse_args().folder
    folder.mkdir(parents=True, exist_ok=True)
    begun = time.time()
    app = QApplication([])
    dress(app)
    shoot_start(folder)
    shoot(folder, "section-flame", "glasswright", 0, 1, 0.62, "middle")
    shoot(folder, "section-ground", crystal(), 0, 1, 0.3, "light", ("ground in hand",))
    shoot(folder, "form-large", "glasswright", 0, 3, 0.5, "dark", ("form",))
    shoot_picker(folder, app)
    shoot_sheet(folder)
    shoot_sculpt(folder)
    shoot_match(folder)
    shoot_rescue(folder)
    shoot_fire(folder)
    shoot_lamp(folder)
    shoot_template(folder)
    shoot_ladder(folder)
    shoot_sitting(folder)
    shoot_kept(folder)
    for path in folder.glob("*.png"):
        if path.stat().st_mtime >= begun:  # others are not drawn here
            smaller(path)


if __name__ == "__main__":
    main()
