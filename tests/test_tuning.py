"""What a recipe may lose when it is tuned, and what it may not."""

from __future__ import annotations

from painterjobs import RAMPS
from test_recipes import RACK, laid, problem
from zesty_veil.advise.match.problem import Problem
from zesty_veil.advise.match.tuning import Allowed, Tuning
from zesty_veil.plan.thickness import neat_um


def test_a_ground_that_must_stay_may_be_thinned_and_laid_less_often() -> None:
    bench = problem(next(job for job in RAMPS if job.name == "blue glow on black"))
    white = laid("Lime White; water 0.5; passes 4", 0, bench.last, ground=True)
    blue = laid("Flask Blue; water 2; passes 2", 0, bench.last)
    tuning = Tuning(
        Problem(bench.spots, bench.contexts, [white.coat, blue.coat]),
        Allowed(("far",), (white,), bare=False),
        1.0,
    )
    ground = tuning.tuned((white, blue), lambda: True)[0]
    assert ground.ground
    assert ground.coat.mixture.parts == white.coat.mixture.parts
    assert neat_um(ground.coat, RACK) <= neat_um(white.coat, RACK)
    # Without it nothing is better, however little it takes.
    assert not tuning.better((blue,), (white, blue))
