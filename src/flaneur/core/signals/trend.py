"""What a cam's deviation does within one capture: settles after a cold start, follows the speed,
repeats every second turn.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
FEWEST = 12


@dataclass(frozen=True)
class Settling:
    """Δ(t) = settled + amplitude·exp(−t/decay), least squares, t from the capture's start; standard
    error of the amplitude.
    """

    settled_deg: float
    amplitude_deg: float
    decay_s: float
    stderr_deg: float

    def at_deg(self, time_s: float) -> float:
        """The fitted course at a time from the capture's start, crank degrees."""
        return self.settled_deg + self.amplitude_deg * float(np.exp(-time_s / self.decay_s))


@dataclass(frozen=True)
class SpeedSlope:
    """Change of Δ per 1000 rpm with its standard error, over the speeds seen."""

    deg_per_krpm: float
    stderr: float
    low_rpm: float
    high_rpm: float


@dataclass(frozen=True)
class HalfOrder:
    """Once-per-cycle part of the edges' own deviations: an eccentric or shaken wheel. Degrees and
    phase of its peak.
    """

    amplitude_deg: float
    peak_deg: float
    stderr_deg: float


def settling(times_s: Floats, deviation_deg: Floats) -> Settling | None:
    """Fit an exponential over a scan of decay times; None unless it beats a constant clearly
    (amplitude over 4σ and 0.3°).
    """
    if len(times_s) < FEWEST:
        return None
    length = float(times_s[-1] - times_s[0])
    best: tuple[float, Settling] | None = None
    for decay in np.geomspace(max(0.15, length / 60), length / 1.5, 40):
        shape = np.exp(-times_s / decay)
        design = np.column_stack([np.ones_like(shape), shape])
        answer, *_ = np.linalg.lstsq(design, deviation_deg, rcond=None)
        left = deviation_deg - design @ answer
        cost = float(left @ left)
        if best is None or cost < best[0]:
            cov = np.linalg.pinv(design.T @ design) * cost / max(1, len(left) - 3)
            best = (
                cost,
                Settling(
                    float(answer[0]), float(answer[1]), float(decay), float(np.sqrt(cov[1, 1]))
                ),
            )
    assert best is not None
    found = best[1]
    total = float(np.sum((deviation_deg - deviation_deg.mean()) ** 2))
    clear = abs(found.amplitude_deg) > max(0.3, 4 * found.stderr_deg) and best[0] < 0.6 * total
    return found if clear and abs(found.amplitude_deg) < 60 else None


def speed_slope(rpm: Floats, deviation_deg: Floats) -> SpeedSlope | None:
    """Straight line of Δ over speed; None when the speed hardly changes (less than 30 % and 150
    rpm).
    """
    low, high = float(np.percentile(rpm, 5)), float(np.percentile(rpm, 95))
    if len(rpm) < FEWEST or high - low < max(150.0, 0.3 * low):
        return None
    x = (rpm - rpm.mean()) / 1000.0
    slope = float(x @ (deviation_deg - deviation_deg.mean()) / (x @ x))
    left = deviation_deg - deviation_deg.mean() - slope * x
    return SpeedSlope(slope, float(np.sqrt(left @ left / (len(x) - 2) / (x @ x))), low, high)


def half_order(
    edges_deg: Floats, edge_mean_deg: Floats, edge_stderr_deg: Floats
) -> HalfOrder | None:
    """Least-squares c·cos(θ/2) + s·sin(θ/2) through the edges' mean deviations; None under five
    edges.
    """
    if len(edges_deg) < 5:
        return None
    phase = np.radians(edges_deg / 2)
    design = np.column_stack([np.ones(len(phase)), np.cos(phase), np.sin(phase)])
    answer, *_ = np.linalg.lstsq(design, edge_mean_deg, rcond=None)
    spread = np.linalg.pinv(design.T @ design)
    error = float(np.sqrt((spread[1, 1] + spread[2, 2]) / 2) * np.sqrt(np.mean(edge_stderr_deg**2)))
    peak = float(np.degrees(np.arctan2(answer[2], answer[1])) * 2 % 720)
    return HalfOrder(float(np.hypot(answer[1], answer[2])), peak, error)
