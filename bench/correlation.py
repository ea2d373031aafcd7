"""Deviation error against the Cramér–Rao bound, and decoding time against one pass of abs-max.

The bound takes the crank's motion as free at every tooth and straight between two teeth: a cam edge's angle
then has variance ω²(σ_e² + ((1−f)² + f²)·σ_c²) with σ² = σ_noise²/(fs·∫s′²dt) per edge, f its place between
the teeth. Cycle scatter is off, so the noise injected in the samples is all there is.
"""

import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import numpy as np

from bench.figure import Figure, at_most
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.motion import Conditions
from flaneur.core.signals.synthesis import RISE_TO_SIGMA, gap_wheel_edges, synthesise, true_deviation_deg

CAPTURES = 50
BOOK = Path(__file__).parents[1] / "engines" / "ostrey-tansy.yaml"


def bound_deg(book: EngineBook, conditions: Conditions, cam: str, cycles: int) -> float:
    """Cramér–Rao bound of a cam's mean deviation over ``cycles``, crank degrees."""
    swing = book.signals.high_v - book.signals.low_v
    sigma_s = book.signals.edge_rise_us * 1e-6 / RISE_TO_SIGMA
    energy = conditions.rate_hz * swing**2 / (2 * np.sqrt(np.pi) * sigma_s)
    edge_var = conditions.noise_v**2 / energy
    teeth = np.sort(gap_wheel_edges(book.crank_wheel)[0])
    total = 0.0
    flat = [e for vane in book.cam_wheel(cam).vanes_deg for e in vane]
    for edge in flat:
        i = int(np.searchsorted(teeth, edge % 360.0))
        left, right = teeth[i - 1] - (360 if i == 0 else 0), teeth[i % len(teeth)] + (360 if i == len(teeth) else 0)
        f = (edge % 360.0 - left) / (right - left)
        total += edge_var * (1 + (1 - f) ** 2 + f**2)
    omega = 6 * conditions.rpm
    return float(omega * np.sqrt(total) / len(flat) / np.sqrt(cycles))


def draw_faults(rng: np.random.Generator) -> Faults:
    """A random worn engine for decoding: every kind of lateness at once, moderate."""
    return Faults(
        elongation_pct={"primary": rng.uniform(0, 0.8), "chain_a": rng.uniform(0, 0.9), "chain_b": rng.uniform(0, 0.9)},
        jumped_teeth={"chain_a/cam_a_in": int(rng.integers(-1, 2))},
        phaser_offset_deg={"phaser_b": -float(rng.uniform(0, 30))},
    )


def run() -> Iterator[Figure]:
    book = parse_book(BOOK.read_text())
    conditions = Conditions(seconds=20, rate_hz=100_000, cycle_scatter_deg=0.0)
    errors: list[float] = []
    scaled: list[float] = []
    ratios: list[float] = []
    for seed in range(CAPTURES):
        rng = np.random.default_rng(seed)
        faults = draw_faults(rng)
        capture = synthesise(book, faults, conditions, rng)
        truth = true_deviation_deg(book, faults)
        samples = np.stack(list(capture.channels.values()))
        decode = min(_timed(partial(correlate, capture, book)) for _ in range(2))
        scan = min(_timed(partial(_scan, samples)) for _ in range(2))
        ratios.append(decode / scan)
        for cam in correlate(capture, book).cams:
            error = cam.deviation_deg - truth[cam.cam]
            errors.append(error)
            scaled.append(error / bound_deg(book, conditions, cam.cam, cam.cycles))
    yield at_most("correlation", "absolute bias, degrees", abs(float(np.mean(errors))), 0.05)
    yield at_most("correlation", "RMSE over Cramér–Rao bound", float(np.sqrt(np.mean(np.square(scaled)))), 1.3)
    yield at_most("correlation", "decoding time over one abs-max pass", float(np.median(ratios)), 10)


def _scan(samples: np.ndarray) -> float:
    return float(np.abs(samples).max())


def _timed(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start
