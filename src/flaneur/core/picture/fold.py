"""All cycles of a capture laid over each other on crank angle, for looking at."""

from dataclasses import dataclass

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.wheels import cam_events_deg, crank_events_deg
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation


@dataclass(frozen=True)
class FoldedTrace:
    """One channel over 0-720°: lowest and highest volts per bin (same length), and the book's edges
    in degrees.
    """

    channel: str
    cam: str | None
    low_v: list[float]
    high_v: list[float]
    expected_deg: list[float]
    expected_rising: list[bool]
    deviation_deg: float | None


def fold(
    capture: Capture,
    found: Correlation,
    book: EngineBook,
    bins: int = 720,
    most_samples: int = 600_000,
) -> list[FoldedTrace]:
    """Fold every channel on crank angle; bins without samples are NaN-free by taking their
    neighbour's value.
    """
    count = min(capture.samples, most_samples)
    times = np.arange(count) / capture.rate_hz
    good = np.isfinite(found.crank.theta_deg)
    knots, theta = found.crank.times_s[good], found.crank.theta_deg[good]
    angle = np.interp(times, knots, theta, left=np.nan, right=np.nan) - found.cycle_offset_deg
    keep = np.flatnonzero(np.isfinite(angle))
    index = ((angle[keep] % 720.0) / 720.0 * bins).astype(int) % bins
    order = np.argsort(index, kind="stable")
    filled, starts = np.unique(index[order], return_index=True)
    deviations = {c.cam: c.deviation_deg for c in found.cams}
    traces: list[FoldedTrace] = []
    for wheel in book.tone_wheels.values():
        values = capture.channels[wheel.channel][:count][keep][order].astype(float)
        low = np.interp(np.arange(bins), filled, np.minimum.reduceat(values, starts))
        high = np.interp(np.arange(bins), filled, np.maximum.reduceat(values, starts))
        if wheel.kind == "vanes":
            edges, rising = (
                [a for a, _ in cam_events_deg(wheel)],
                [r for _, r in cam_events_deg(wheel)],
            )
        else:
            edges = sorted(
                (a + turn) % 720.0 for turn in (0.0, 360.0) for a in crank_events_deg(wheel)
            )
            rising = [True] * len(edges)
        traces.append(
            FoldedTrace(
                wheel.channel,
                wheel.shaft if wheel.kind == "vanes" else None,
                [round(float(v), 3) for v in low],
                [round(float(v), 3) for v in high],
                [float(e) for e in edges],
                rising,
                deviations.get(wheel.shaft),
            )
        )
    return traces
