"""Speed and memory, each as a ratio to a yardstick measured in the same run.

`./veil bench` prints one line per figure: what, how long, the yardstick, the ratio. Figures are
the best of several runs, so that a busy machine disturbs them little.
"""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from functools import partial
from itertools import count
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from bench_kept import kept
from bench_window import windowed
from figure import figure, save_stl
from zesty_veil.advise.glow.painting import painted
from zesty_veil.advise.glow.usual import usual_glow
from zesty_veil.advise.match.choices import first_coats
from zesty_veil.advise.match.context import MatchContext
from zesty_veil.advise.match.limits import USUAL_TOOLS, Limits
from zesty_veil.advise.match.ramp import ramp_ways
from zesty_veil.advise.match.spots import Spot, even
from zesty_veil.advise.match.stacks import Stacks
from zesty_veil.bench.air import Air
from zesty_veil.bench.tasks import planned
from zesty_veil.exchange.sculptjob import Opened, opening
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import xyz
from zesty_veil.light.illuminant import weights
from zesty_veil.light.srgb import lab_of, parsed
from zesty_veil.memory import keep_freed_memory
from zesty_veil.optics.film import film
from zesty_veil.paint.rack import demo_rack
from zesty_veil.plan.coatwords import parse_coat
from zesty_veil.plan.edits import set_coat, with_feather, with_span
from zesty_veil.plan.model import Ground, Passage
from zesty_veil.plan.samples import sample
from zesty_veil.predict.contribution import contributions
from zesty_veil.predict.field import axis, predict
from zesty_veil.predict.forms.mesh import heights
from zesty_veil.predict.forms.onform import FormConditions, kept_table, scene, table
from zesty_veil.predict.lay import ground
from zesty_veil.predict.look import ViewingConditions, colours
from zesty_veil.predict.sure import sureness
from zesty_veil.services.forecast import Request, forecasts
from zesty_veil.services.lighting import LightRequest, lighting
from zesty_veil.services.turning import Pose

PLACES, RELIEFS, COATS, BANDS = 128, 33, 12, 36
_BESIDE = 100  # stacks that coats are tried on side by side
HERE = Path(__file__).resolve().parent

BARE_WINDOW = """
import sys
from PySide6.QtWidgets import QApplication, QMainWindow
from PySide6.QtCore import QTimer
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, app.quit)
app = QApplication([]); window = Window(); window.resize(1280, 800); window.show()
sys.exit(app.exec())
"""

OUR_WINDOW = """
import sys
from PySide6.QtWidgets import QApplication
from PySide6.QtCore import QTimer
from zesty_veil.desktop.kit.theme import dress
from zesty_veil.desktop.shell.window import MainWindow
from zesty_veil.plan.samples import sample
app = QApplication([]); dress(app); window = MainWindow(sample("glasswright")); window.show()
view = window.section.view
draw = view.paintEvent
def painted(event):
    draw(event)
    if view.scene is not None:
        QTimer.singleShot(0, app.quit)
view.paintEvent = painted
code = app.exec(); window.section.stop()
import resource
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
sys.exit(code)
"""


def best(work: Callable[[], object], runs: int = 12) -> float:
    """Return the shortest of several runs, in seconds."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def line(what: str, ours: float, yardstick: str, theirs: float) -> None:
    """Print one figure."""
    mine, measure = f"{ours * 1e3:8.1f} ms", f"{theirs * 1e3:8.1f} ms"
    print(f"{what:44} {mine}   {yardstick:30} {measure}   x{ours / theirs:.2f}")


def flame() -> Passage:
    """Return a passage of twelve feathered coats."""
    rack = {paint.name: paint for paint in demo_rack()}
    names = ("Lime White", "Kiln Yellow", "Ember Orange", "Furnace Red")
    coats = []
    for i in range(COATS):
        coat = parse_coat(f"{names[i % 4]}; water {i % 5}; passes {1 + i % 4}; tool glaze", rack)
        coats.append(with_feather(with_span(coat, i / 20, 1 - i / 40), 0.1, 0.1))
    return Passage("flame", 20.0, coats=tuple(coats))


def core() -> None:
    """Time the field and what each coat adds against plain exponentials."""
    rack = {paint.name: paint for paint in demo_rack()}
    passage, u, relief = flame(), axis(PLACES), np.linspace(-1, 1, RELIEFS)
    numbers = np.random.default_rng(1).uniform(-5, 0, PLACES * RELIEFS * COATS * BANDS)
    exponentials = best(lambda: np.exp(numbers))
    field = best(lambda: predict(passage, rack, u, relief))
    line(
        f"field {PLACES} x {RELIEFS} x {COATS} coats",
        field,
        "numpy.exp, as many elements",
        exponentials,
    )
    ribbons = best(lambda: predict(passage, rack, axis(256)))
    line("ribbons 256 x 3 sites x 12 coats", ribbons, "numpy.exp, as above", exponentials)
    # Each time another passage by a hair: what was told of one is kept.
    others = (replace(passage, length_mm=passage.length_mm + 1e-6 * n) for n in count(1))
    adds = best(lambda: contributions(next(others), rack), 3)
    line("what each of 12 coats adds", adds, "numpy.exp, as above", exponentials)


def optics() -> None:
    """Time fluorescence and sureness, and single steps against general-purpose libraries."""
    rack = {paint.name: paint for paint in demo_rack()}
    passage, u, relief = flame(), axis(PLACES), np.linspace(-1, 1, RELIEFS)
    plain = best(lambda: predict(passage, rack, u, relief))
    glow = with_feather(with_span(parse_coat("Signal Orange; water 2", rack), 0.1, 0.5), 0.1, 0.1)
    coats = (*passage.coats[:5], glow, *passage.coats[6:])
    glowing = replace(passage, coats=coats)
    fluorescent = best(lambda: predict(glowing, rack, u, relief), 3)
    line("the same field, one coat fluorescent", fluorescent, "without fluorescence", plain)
    spread = best(lambda: sureness(passage, rack, u, np.zeros(1)), 3)
    ramp = best(lambda: predict(passage, rack, u, np.zeros(1)))
    line(f"64 draws of a ramp of {PLACES} places", spread, "one prediction of it", ramp)

    fixed = {"plan": sample("glasswright")}

    def edit() -> object:
        coat = fixed["plan"].passages[0].coats[3]
        moved = with_span(coat, coat.span[0] - 0.001, coat.span[1])
        fixed["plan"] = set_coat(fixed["plan"], 0, 3, moved)
        request = Request(fixed["plan"], 0, demo_rack(), ViewingConditions())
        return next(forecasts(request, lambda: False))

    edit()
    pixels = np.random.default_rng(2).uniform(-5, 0, 256 * 3 * 5 * BANDS)
    line("edit to the new field of the demo flame", best(edit), "numpy.exp, as many elements",
         best(lambda: np.exp(pixels)))  # fmt: skip

    K, S, X = np.full(1, 4.0), np.full(1, 20.0), np.linspace(0.01, 0.05, 1000)
    ours = best(lambda: film(K, S, X)) / 1000
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import iadpython  # noqa: PLC0415

        slab = iadpython.Sample(a=0.99, b=2.0, g=0.5, n=1.0, quad_pts=8)
        doubled = best(slab.rt)
    times(f"one film ({ours * 1e9:.0f} ns)", ours, "adding-doubling", doubled)
    spectra = np.random.default_rng(3).uniform(0, 1, (1000, BANDS))
    eye = weights()
    ours = best(lambda: xyz(spectra, eye))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour  # noqa: PLC0415

        shape = colour.SpectralShape(380, 730, 10)
        names = [str(i) for i in range(len(spectra))]
        tables = colour.MultiSpectralDistributions(spectra.T, shape.wavelengths, labels=names)
        theirs = best(lambda: colour.msds_to_XYZ(tables, method="Integration"), 2)
    times(f"1000 spectra to XYZ ({ours * 1e6:.0f} us)", ours, "colour-science", theirs)


def forms() -> None:
    """Time a passage on its form after an edit, and a sculpt of a million triangles."""
    shown = sample("glasswright")

    def on_form() -> object:
        # A passage that has just been edited: its table is made anew, the form itself is kept.
        layers = [("folds", kept_table(shown.passages[1], shown.paints, ViewingConditions()))]
        layers.append(("flame", table(shown.passages[0], shown.rack(), ViewingConditions())))
        return scene(layers, 600, FormConditions())

    on_form()
    pixels = np.random.default_rng(4).uniform(-5, 0, 600 * 600 * 3)
    line("flame before folds, 600 x 600 pixels", best(on_form, 5), "numpy.exp, as many elements",
         best(lambda: np.exp(pixels)))  # fmt: skip

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "million.stl"
        triangles = figure(226)
        save_stl(triangles, path)
        opened: list[Opened] = []

        def open_it() -> None:
            *_, last = opening(path, lambda: True)
            assert isinstance(last, Opened)
            opened[:] = [last]

        read = best(open_it, 2)
        # Joining corners is sorting them, by two numbers of 64 bits each.
        corners = np.random.default_rng(5).integers(0, 1 << 60, 3 * len(triangles))
        measure = best(lambda: [np.sort(corners) for _ in range(2)], 3)
        line(
            f"STL of {len(triangles):,} triangles, read", read, "numpy.sort of its corners", measure
        )
        view = Pose(20, 10).view(opened[0])
        for words, mesh, size in (
            ("the same, drawn at 512 x 512", opened[0].mesh, 512),
            ("its draft while it is turned", opened[0].draft, 256),
        ):
            drawn = best(partial(heights, mesh, view, size), 3)
            line(words, drawn, "numpy.sort, as above", measure)


def matching() -> None:
    """Time the search for coats, against a general-purpose search for the same colour."""
    more = [
        replace(p, name=f"{p.name} again", mu_a=tuple(1.1 * a for a in p.mu_a)) for p in demo_rack()
    ]
    rack = tuple(p for p in (*demo_rack(), *more) if p.kind != "varnish")[:40]
    passage = Passage("bench", ground=Ground("black"))
    state = ground(passage, {}, axis(1), np.zeros(1))
    usable = [p for p in rack if p.kind not in {"fluorescent", "metallic"}]
    look = ViewingConditions()
    options = MatchContext(state, usable, Limits(), look).bank(first_coats(usable, USUAL_TOOLS))
    start = time.perf_counter()
    beside = Stacks.of([state] * _BESIDE)
    tried = beside.every(options, look, [[]] * _BESIDE, rough=True)
    count = sum(labs.shape[0] * labs.shape[1] for _, _, labs in tried)
    pace = count / (time.perf_counter() - start)
    numbers = np.random.default_rng(6).uniform(-5, 0, 36 * 100_000)
    exponentials = 100_000 / best(lambda: np.exp(numbers), 5)
    print(f"{'stacks evaluated per second':44} {pace:8.0f}   numpy.exp, spectra per second  "
          f"{exponentials:8.0f}   x{exponentials / pace:.2f}")  # fmt: skip
    wanted = ("#fff6d0", "#ffd020", "#ff8a1e", "#b02020", "#301818")
    labs = np.array([lab_of(parsed(words)) for words in wanted])
    places = (0.0, 0.3, 0.55, 0.8, 1.0)
    ramp = best(
        lambda: list(ramp_ways(even(state, places, labs), rack, Limits(), ViewingConditions())), 2
    )
    line("ramp of 5, 40 paints, 4 coats", ramp, "numpy.exp, 100 000 spectra",
         100_000 / exponentials)  # fmt: skip

    target = lab_of(parsed("#c86a50"))

    def ours() -> float:
        spot = Spot(0.5, target, state)
        *_, ways = ramp_ways((spot,), usable, Limits(coats=3), ViewingConditions())
        return min(way.mean for way in ways)

    bench = MatchContext(state, usable, Limits(coats=3), ViewingConditions())

    def objective(x: np.ndarray) -> float:
        coats = tuple(options.coats[min(int(v), len(options.coats) - 1)] for v in x)
        lab = colours(bench.on(coats, state), ViewingConditions())[0][0, 0]
        return float(ciede2000(lab, target))

    def theirs() -> None:
        from scipy.optimize import differential_evolution  # noqa: PLC0415

        reached = ours()
        differential_evolution(
            objective, [(0, len(options.coats))] * 3, seed=1, maxiter=400, polish=False,
            callback=lambda x, convergence=0: objective(x) <= reached,
        )  # fmt: skip

    mine = best(ours, 2)
    times(f"one colour, 3 coats ({mine:.1f} s)", mine, "scipy's differential_evolution",
          best(theirs, 1))  # fmt: skip


def glowing() -> None:
    """Time a light that is dragged before a form, and the coats for all that it lights."""
    plan = sample("glasswright")
    glow = usual_glow(plan)
    places = iter(np.linspace(-0.9, 0.9, 40))

    def drag() -> None:
        surface = replace(glow.surfaces[0], place=(float(next(places)), 0.3, 0.6))
        moved = replace(glow, surfaces=(surface, *glow.surfaces[1:]))
        list(lighting(LightRequest(plan, moved, 0), lambda: True))

    numbers = np.random.default_rng(7).uniform(size=1_000_000)
    yardstick = best(lambda: np.sort(numbers), 5)
    line("a light dragged before a form", best(drag, 12), "numpy.sort of a million", yardstick)
    rack, limits = demo_rack(), Limits(coats=5)
    whole = best(lambda: list(painted(plan, glow, "inward", rack, limits)), 1)
    line("coats for its three surfaces", whole, "numpy.sort of a million", yardstick)


def scheduling() -> None:
    """Time the order of all passes of three figures, and how near it comes to the bound."""
    plan = sample("glasswright")
    numbers = np.random.default_rng(7).uniform(size=1_000_000)
    yardstick = best(lambda: np.sort(numbers), 5)
    found = planned(plan, Air(), 3)
    ours = best(lambda: planned(plan, Air(), 3), 1)
    line(f"{len(found.placed)} passes of three figures in order", ours, "numpy.sort of a million",
         yardstick)  # fmt: skip
    print(f"{'their time, by the bound that none can beat':44} {found.makespan / found.bound:8.2f}")
    print(f"{'minutes idle, of so many':44} {found.idle:8.0f} of {found.makespan:.0f}")


def times(what: str, ours: float, yardstick: str, theirs: float) -> None:
    """Print how many times faster than a general-purpose library a step is."""
    print(f"{what:44} {theirs / ours:8.0f} times as fast as {yardstick}")


def windows() -> None:
    """Time the start until the first window with a section in it, and its peak memory."""
    # The log of whoever runs this is left alone.
    away = {"QT_QPA_PLATFORM": "offscreen", "XDG_DATA_HOME": tempfile.mkdtemp()}
    environment = {**os.environ, **away}
    peak = 0

    def run(code: str) -> None:
        nonlocal peak
        command = [sys.executable, "-c", code]
        done = subprocess.run(command, env=environment, check=True, capture_output=True, text=True)
        if done.stdout.strip():
            peak = int(done.stdout)

    bare = best(lambda: run(BARE_WINDOW), 5)
    ours = best(lambda: run(OUR_WINDOW), 5)
    line("start to the first painted section", ours, "a bare Qt window", bare)
    print(f"{'peak memory of the window':44} {peak / 1024:8.0f} MB")


def main() -> None:
    """Print all figures."""
    keep_freed_memory()
    windows()  # first, as a process counts the memory of the one that started it as its own
    core()
    optics()
    forms()
    matching()
    glowing()
    scheduling()
    kept(best, line)
    windowed(best, line)
    own = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{'peak memory of the core':44} {own:8.0f} MB")


if __name__ == "__main__":
    main()
