"""Deviation error against the Cramér–Rao bound over fifty idling engines, and decoding time against
one pass of abs-max.

Cycle scatter is off, so the noise injected in the samples is all there is. The bound is the one of
``bench.readings``.
"""

from collections.abc import Iterator
from functools import partial

import numpy as np

from bench import dirty
from bench.figure import Figure, at_most, for_information, ratio
from bench.readings import bound_deg, draw_faults, scan_once
from bench.variants import tansy
from flaneur.core.signals.correlation import correlate
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise, true_deviation_deg

CAPTURES = 50


def run(is_tiny: bool = False) -> Iterator[Figure]:
    book = tansy()
    conditions = Conditions(seconds=2 if is_tiny else 20, rate_hz=100_000, cycle_scatter_deg=0.0)
    errors: list[float] = []
    scaled: list[float] = []
    ratios: list[float] = []
    for seed in range(2 if is_tiny else CAPTURES):
        rng = np.random.default_rng(seed)
        faults = draw_faults(rng)
        capture = synthesise(book, faults, conditions, rng)
        truth = true_deviation_deg(book, faults)
        samples = np.stack(list(capture.channels.values()))
        decode, scan = partial(correlate, capture, book), partial(scan_once, samples)
        ratios.append(ratio(decode, scan, 1 if is_tiny else 2))
        for cam in correlate(capture, book).cams:
            error = cam.deviation_deg - truth[cam.cam]
            errors.append(error)
            scaled.append(
                error / bound_deg(book, conditions, cam.cam, np.full(cam.cycles, conditions.rpm))
            )
    yield at_most("correlation", "absolute bias, degrees", abs(float(np.mean(errors))), 0.05)
    yield at_most(
        "correlation", "RMSE over Cramér–Rao bound", float(np.sqrt(np.mean(np.square(scaled)))), 1.3
    )
    yield for_information(
        "correlation", "decoding time over one warm abs-max pass", float(np.median(ratios))
    )
    yield from dirty.run(is_tiny)
