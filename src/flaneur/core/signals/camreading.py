"""What one cam's table of edges says: each edge, each cycle, and the cam."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.signals.camwheel import CamTable, Match, wheel_events
from flaneur.core.signals.crank import CrankAngle
from flaneur.core.signals.delay import (
    DEG_PER_RPM_US,
    Delay,
    delay_beyond,
    delay_by_book,
    without_slope,
)
from flaneur.core.signals.edges import Edges
from flaneur.core.signals.robust import huber_mean
from flaneur.core.signals.trend import (
    HalfOrder,
    Moved,
    Settling,
    SpeedSlope,
    half_order,
    moved,
    settling,
    speed_slope,
)
from flaneur.core.signals.wandering import mean_stderr

Floats = NDArray[np.float64]
EDGE_OFF_DEG = 0.6
SIMPLER = 1.15  # a course of fewer figures is taken while it fits nearly as well
FEWEST_AFTER = 4  # cycles after a move that say where it ended
MAD_TO_SD, MEDIAN_TO_MEAN = 1.4826, 1.2533  # of a normal distribution
CRANK_SHARE = 0.6  # variance of the crank's six-point interpolation, as a share of one tooth's


@dataclass(frozen=True)
class EdgeReading:
    """One edge of a cam wheel: its own deviation against the cam's mean; ``is_off`` when it alone
    stands apart.
    """

    expected_deg: float
    rising: bool
    deviation_deg: float | None
    stderr_deg: float | None
    is_off: bool


@dataclass(frozen=True)
class CamCorrelation:
    """One cam's reading: deviation, its standard error and the cycle scatter, crank degrees, late
    positive.

    The deviation is the robust mean over cycles, what it settles to where it settles, or where it
    stands at the end where it moved; at no speed, what the sensors' delays add taken out.
    ``per_cycle_deg``, ``cycle_s`` and ``cycle_rpm`` hold every whole cycle, its begin in the
    capture, and its speed.
    """

    cam: str
    deviation_deg: float
    stderr_deg: float
    scatter_deg: float
    cycles: int
    per_cycle_deg: tuple[float, ...]
    cycle_s: tuple[float, ...] = ()
    cycle_rpm: tuple[float, ...] = ()
    edges: tuple[EdgeReading, ...] = ()
    settling: Settling | None = None
    speed: SpeedSlope | None = None
    half_order: HalfOrder | None = None
    moved: Moved | None = None
    delay: Delay | None = None
    is_inverted: bool = False


def _edge_readings(wheel: VaneWheel, table: CamTable) -> tuple[EdgeReading, ...]:
    """Every edge against the others' median: one that stands apart alone is the wheel, not the
    cam.
    """
    book, direction = wheel_events(wheel)
    means, stderr = _edge_medians(table.deviation_deg)
    result: list[EdgeReading] = []
    for k in range(book.size):
        others = np.delete(means, k)[np.delete(table.edges_used, k)]
        if not np.isfinite(means[k]) or not table.edges_used[k]:
            result.append(EdgeReading(float(book[k]), bool(direction[k]), None, None, True))
            continue
        # Two edges cannot say which of them is wrong.
        apart = abs(means[k] - np.median(others)) if len(others) >= 2 else 0.0
        typical = float(np.median(np.abs(others - np.median(others)))) if len(others) >= 2 else 0.0
        off = bool(apart > max(EDGE_OFF_DEG, 5 * stderr[k], 6 * typical))
        result.append(
            EdgeReading(float(book[k]), bool(direction[k]), float(means[k]), float(stderr[k]), off)
        )
    return tuple(result)


def _edge_medians(values: Floats) -> tuple[Floats, Floats]:
    """Median of every edge over the cycles with its standard error, (edges,) each; NaN for an edge
    never seen. ``values`` (cycles, edges).
    """
    count = np.isfinite(values).sum(axis=0)
    means, spread = np.full(values.shape[1], np.nan), np.full(values.shape[1], np.nan)
    for k in np.flatnonzero(count):
        means[k] = np.nanmedian(values[:, k])
        spread[k] = MAD_TO_SD * np.nanmedian(np.abs(values[:, k] - means[k]))
    return means, MEDIAN_TO_MEAN * spread / np.sqrt(np.maximum(count, 1))


def read_cam_table(
    book: EngineBook,
    wheel: VaneWheel,
    table: CamTable,
    match: Match,
    crank: CrankAngle,
    crank_edges: Edges,
) -> CamCorrelation:
    """Mean over sound edges per cycle, Huber mean over cycles, and what it does over time, speed
    and the cycle.
    """
    each = _edge_readings(wheel, table)
    sound = np.array([not e.is_off and e.deviation_deg is not None for e in each])  # (edges,)
    if sound.sum() == 0:
        sound = table.edges_used
    weights = table.edge_weight[sound]
    as_read = np.average(table.deviation_deg[:, sound], axis=1, weights=weights)  # (cycles,)
    rpm = crank.speed_deg_s(table.start_s) / 6.0  # (cycles,)
    book_us, tolerance_us = delay_by_book(book, wheel)
    freed = as_read - DEG_PER_RPM_US * rpm * book_us
    course = _course(table.start_s, freed)
    here = course.counts
    steady = (freed - course.away_deg)[here]
    timing = _timing_deg(table, crank_edges, rpm, int(sound.sum()))
    # What follows the speed is neither scatter nor wander.
    level = without_slope(steady, rpm[here])
    mean, stderr, scatter = huber_mean(level, timing[here])
    stderr = max(stderr, mean_stderr(level)) if len(level) > 1 else stderr
    about = np.clip(level, mean - 3 * scatter, mean + 3 * scatter) + steady - level
    beyond_deg, stderr, beyond = delay_beyond(about, rpm[here], stderr, tolerance_us)
    if not beyond.told:
        mean, _, _ = huber_mean(steady, timing[here])
    means = np.array([e.deviation_deg or 0.0 for e in each])[sound]  # (sound edges,)
    errors = np.array([e.stderr_deg or 0.0 for e in each])[sound]
    angles = np.array([e.expected_deg for e in each])[sound]
    return CamCorrelation(
        cam=wheel.shaft,
        deviation_deg=mean - beyond_deg,
        stderr_deg=stderr,
        scatter_deg=scatter,
        cycles=len(steady),
        per_cycle_deg=tuple(float(v) for v in as_read),
        cycle_s=tuple(round(float(t), 4) for t in table.start_s),
        cycle_rpm=tuple(round(float(v), 1) for v in rpm),
        edges=_about(each, float(np.median(means))),
        settling=course.settling,
        moved=course.moved,
        delay=replace(beyond, delay_us=book_us + beyond.delay_us),
        speed=speed_slope(rpm, as_read),
        half_order=half_order(angles, means - means.mean(), errors),
        is_inverted=match.inverted,
    )


def _timing_deg(table: CamTable, crank_edges: Edges, rpm: Floats, edges: int) -> Floats:
    """How exactly each cycle can be timed, (cycles,) degrees. A fast cycle is timed less exactly in
    degrees; its weight says so where timing, not the engine, makes the scatter.
    """
    crank_sigma_s = np.interp(table.start_s, crank_edges.times_s, crank_edges.sigma_s)
    variance = (table.sigma_s**2 + CRANK_SHARE * crank_sigma_s**2) / max(1, edges)
    return 6 * rpm * np.sqrt(variance)


def _about(each: tuple[EdgeReading, ...], middle_deg: float) -> tuple[EdgeReading, ...]:
    """Edges against the cam's own middle: what is left is the wheel."""
    return tuple(
        e if e.deviation_deg is None else replace(e, deviation_deg=e.deviation_deg - middle_deg)
        for e in each
    )


@dataclass(frozen=True)
class _Course:
    """What a cam did in the course of a capture: how far each cycle stood from where it came to
    (crank degrees), and which cycles count for that, (cycles,) each.
    """

    settling: Settling | None
    moved: Moved | None
    away_deg: Floats
    counts: NDArray[np.bool_]


def _course(times_s: Floats, deviation_deg: Floats) -> _Course:
    """Whether a cam stood, settled or moved; what fits best, and nothing beyond what was seen."""
    every = np.ones(len(times_s), dtype=bool)
    settles, move = settling(times_s, deviation_deg), moved(times_s, deviation_deg)
    if settles is not None:
        dying = settles.amplitude_deg * np.exp(-times_s / settles.decay_s)
        left = deviation_deg - settles.settled_deg - dying
        other = np.inf
        if move is not None:
            other = float(np.sum((deviation_deg - move.at_deg(times_s)) ** 2))
        if float(left @ left) <= SIMPLER * other:
            return _Course(settles, None, dying, every)
    if move is None:
        return _Course(None, None, np.zeros(len(times_s)), every)
    after = times_s > move.to_s
    if after.sum() >= FEWEST_AFTER:
        return _Course(None, move, np.zeros(len(times_s)), after)
    # Still moving at the end: where it was last seen is all that can be said.
    after[-FEWEST_AFTER:] = True
    return _Course(None, move, np.zeros(len(times_s)), after)
