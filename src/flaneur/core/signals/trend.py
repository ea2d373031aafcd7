"""What a cam's deviation does within one capture: settles after a cold start, follows the speed,
repeats every second turn.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
FEWEST = 12
MOST_PLACES, LEAST_SIDE = 96, 4  # looked at for a move's begin and end; on its sides
LEAST_MOVE_DEG, MOST_LEFT, MOST_ALIKE = 1.2, 0.4, 0.5
LONGEST = 0.5  # of a capture: what takes longer to settle was not seen to


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
class Moved:
    """A cam that stood at one deviation and then at another, crank degrees: when it left the first
    and when it had reached the second, seconds; the same for a step.
    """

    from_deg: float
    to_deg: float
    from_s: float
    to_s: float

    def at_deg(self, times_s: Floats) -> Floats:
        """Where the cam stood at these times, as far as it is known."""
        return np.interp(
            times_s, [self.from_s, max(self.to_s, self.from_s + 1e-6)], [self.from_deg, self.to_deg]
        )


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
    best: tuple[float, float, Floats, Floats] | None = None
    for decay in np.geomspace(max(0.15, length / 60), LONGEST * length, 40):
        shape = np.exp(-times_s / decay)
        design = np.column_stack([np.ones_like(shape), shape])
        answer, *_ = np.linalg.lstsq(design, deviation_deg, rcond=None)
        left = deviation_deg - design @ answer
        cost = float(left @ left)
        if best is None or cost < best[0]:
            best = (cost, float(decay), design, np.asarray(answer, dtype=np.float64))
    assert best is not None
    cov = np.linalg.pinv(best[2].T @ best[2]) * best[0] / max(1, len(times_s) - 3)
    settled, amplitude = (float(v) for v in best[3])
    found = Settling(settled, amplitude, best[1], float(np.sqrt(cov[1, 1])))
    total = float(np.sum((deviation_deg - deviation_deg.mean()) ** 2))
    clear = abs(found.amplitude_deg) > max(0.3, 4 * found.stderr_deg) and best[0] < 0.6 * total
    left = deviation_deg - found.settled_deg
    left = left - found.amplitude_deg * np.exp(-times_s / found.decay_s)
    clear = clear and _alike(left) < MOST_ALIKE
    return found if clear and abs(found.amplitude_deg) < 60 else None


def _alike(left: Floats) -> float:
    """How much what is left over resembles itself from one cycle to the next: what wanders is no
    course.
    """
    return float(left[1:] @ left[:-1] / max(float(left @ left), 1e-18))


def moved(times_s: Floats, deviation_deg: Floats) -> Moved | None:
    """Fit one move, at once or in a straight line, over a scan of when it begins and ends; None
    unless it is large, explains most of the spread, and leaves nothing that wanders.
    """
    n = len(times_s)
    if n < FEWEST:
        return None
    size = -(-n // MOST_PLACES)
    cut = n // size * size
    t = times_s[:cut].reshape(-1, size).mean(axis=1)
    y = deviation_deg[:cut].reshape(-1, size).mean(axis=1)
    centre, count = y - y.mean(), len(y)
    places = np.arange(LEAST_SIDE - 1, count - 1)
    begin, end = (p.ravel() for p in np.meshgrid(places, places + 1, indexing="ij"))
    keep = end > begin
    begin, end = begin[keep], end[keep]
    run = np.clip((t[None, :] - t[begin][:, None]) / (t[end] - t[begin])[:, None], 0, 1)
    run = run - run.mean(axis=1, keepdims=True)
    along = run @ centre
    gain = along**2 / np.maximum(np.sum(run**2, axis=1), 1e-12)
    best = int(np.argmax(gain))
    shape = run[best]
    by = float(along[best] / (shape @ shape))
    left = centre - by * shape
    total, rest = float(centre @ centre), float(left @ left)
    if abs(by) < LEAST_MOVE_DEG or rest > MOST_LEFT * total or _alike(left) > MOST_ALIKE:
        return None
    a, b = int(begin[best]), int(end[best])
    before = float(np.median(y[: a + 1]))
    return Moved(before, before + by, float(t[a]), float(t[b]))


def speed_varies(rpm: Floats) -> bool:
    """Whether the speed changes enough for what follows it to show."""
    low, high = float(np.percentile(rpm, 5)), float(np.percentile(rpm, 95))
    return len(rpm) >= FEWEST and high - low >= max(150.0, 0.3 * low)


def speed_slope(rpm: Floats, deviation_deg: Floats) -> SpeedSlope | None:
    """Straight line of Δ over speed; None when the speed hardly changes (less than 30 % and 150
    rpm).
    """
    low, high = float(np.percentile(rpm, 5)), float(np.percentile(rpm, 95))
    if not speed_varies(rpm):
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
