"""What the few draws of a verdict give against sixteen times as many of the same engines: width of
the intervals, and how well the odds score. With so many draws what is sampled is the posterior
itself; the tests hold that against going through everything.
"""

from collections.abc import Iterator

import numpy as np

from bench.campaign import log_score
from bench.engines import books, draw, read
from bench.figure import Figure, at_most
from flaneur.core.diagnosis.evidence import USUAL
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.statistics import shares, wear_estimates

ENGINES, TIMES = 100, 16


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    """Figures of the same readings, judged shortly and at length."""
    every_book, widths, scores, apart = books(), list[list[float]](), list[list[float]](), [0.0]
    for seed in range(2 if is_tiny else ENGINES * times):
        rng = np.random.default_rng(20_000 + seed)
        drawn = draw(every_book[seed % len(every_book)], rng)
        readings = read(drawn, rng)
        short, long = (
            solve_readings(drawn.book, readings, points) for points in (USUAL, TIMES * USUAL)
        )
        now, then = shares(short), shares(long)
        apart.append(max(abs(now[key] - then[key]) for key in now))
        for one, other in zip(wear_estimates(short), wear_estimates(long), strict=True):
            if other.is_read:
                is_over = drawn.wear[one.key] > one.limit
                each = [(e.high - e.low) / e.limit for e in (one, other)]
                widths.append(each)
                scores.append([log_score(e.over, is_over) for e in (one, other)])
    wide, score = np.mean(widths, axis=0), np.mean(scores, axis=0)
    yield at_most("diagnosis", "mean width of intervals against long run", wide[0] / wide[1], 1.05)
    yield at_most("diagnosis", "mean log score under long run's, nat", score[1] - score[0], 0.02)
    mean = float(np.mean(apart[1:]))
    yield at_most("diagnosis", "furthest of an engine's odds from long run, mean", mean, 0.01)
