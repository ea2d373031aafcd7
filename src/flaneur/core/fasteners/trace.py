"""A torque–angle trace: how a bolt turned in, reduced to what can be judged."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.errors import ReadingError

Floats = NDArray[np.float64]
BIN_DEG = 1.0
FEWEST = 30
AFTER_PAUSE_DEG = 2.0  # a bolt that was let stand breaks loose with a peak of its own
WINDOW_DEG = 7.0
SLOW = 0.35  # of the usual speed: it stands
LOOK_DEG = 1.0  # turned at the usual speed: over so much is it told whether a bolt turns
LET_GO = 0.3  # of the torque it had
BACK_DEG = 0.5  # noise of an angle; more is a ratchet swung back
AROUND = 4


@dataclass(frozen=True)
class Trace:
    """Samples of one bolt: seconds, degrees turned (on is positive), newton metres."""

    name: str
    time_s: Floats
    angle_deg: Floats
    torque_nm: Floats

    @classmethod
    def of(cls, name: str, time_s: Floats, angle_deg: Floats, torque_nm: Floats) -> "Trace":
        """A trace whose clock runs on. Raises ReadingError for one that cannot be judged."""
        columns = np.column_stack([time_s, angle_deg, torque_nm])
        if len(columns) < FEWEST or not np.isfinite(columns).all():
            raise ReadingError(
                f"{name} is no trace that can be judged.",
                read=f"{len(columns)} samples"
                + ("" if np.isfinite(columns).all() else ", some of them no numbers"),
                expected=f"at least {FEWEST} samples of time, angle and torque",
                advice="Record the whole tightening, from the first turns on.",
            )
        back = np.flatnonzero(np.diff(time_s) < 0)
        if back.size:
            raise ReadingError(
                f"The clock of {name} jumps back.",
                read=f"{time_s[back[0] + 1]:g} s after {time_s[back[0]]:g} s",
                expected="times that rise",
                advice="Record it again; parts of two traces cannot be told apart.",
            )
        return cls(name, time_s, angle_deg, torque_nm)


@dataclass(frozen=True)
class Curve:
    """Torque over the angle turned on, a value a degree, with its slope (Nm a degree): pauses of a
    ratchet, what was turned back, and the jerk after a pause are left out. ``end_deg`` is where it
    was let go.
    """

    angle_deg: Floats
    torque_nm: Floats
    slope: Floats
    end_deg: float

    @property
    def peak_nm(self) -> float:
        """The most it was turned with; where it still rose when it was let go, at that angle."""
        most, last = float(self.torque_nm.max()), float(self.torque_nm[-1])
        return max(most, last + max(0.0, float(self.slope[-1])) * self.short_deg)

    @property
    def short_deg(self) -> float:
        """From the last value to where it was let go."""
        return min(max(0.0, self.end_deg - float(self.angle_deg[-1])), LOOK_DEG + BIN_DEG)

    def reaches(self, torque_nm: float) -> int | None:
        """Where the torque is reached the first time, as an index; None where it never is."""
        over = np.flatnonzero(self.torque_nm >= torque_nm)
        return int(over[0]) if over.size else None


def curve_of(trace: Trace) -> Curve:
    """The curve of a trace. Raises ReadingError for one in which nothing was turned."""
    moving = _turning_on(trace)
    angle, torque = trace.angle_deg[moving], trace.torque_nm[moving]
    if angle.size < FEWEST or angle[-1] - angle[0] < WINDOW_DEG * 2:
        turned = 0.0 if angle.size == 0 else float(angle[-1] - angle[0])
        raise ReadingError(
            f"Nothing was tightened in {trace.name}.",
            read=f"{turned:.0f}° turned on",
            expected=f"at least {WINDOW_DEG * 2:g}°",
            advice="Is it a trace of this bolt, with the angle in degrees?",
        )
    begins = angle.min()
    place = np.floor((angle - begins) / BIN_DEG).astype(int)
    count = np.bincount(place)
    known = count > 0
    middle = begins + (np.arange(count.size) + 0.5) * BIN_DEG
    mean = np.bincount(place, torque)[known] / count[known]
    met = np.bincount(place, angle)[known] / count[known]
    middle[[0, -1]] = met[[0, -1]]  # the outermost are not full
    even = interpolated(middle, met, mean)
    return Curve(middle, even, slopes(middle, even), float(np.sort(trace.angle_deg)[-3]))


def _turning_on(trace: Trace) -> NDArray[np.bool_]:
    """Samples in which the bolt turns further than it was, but for the first degrees after it was
    let go.
    """
    usual = float(np.quantile(_speed(trace, AROUND), 0.75))
    every = float(np.median(np.diff(trace.time_s)))
    around = int(np.ceil(LOOK_DEG / usual / every)) if usual > 0 and every > 0 else AROUND
    speed = _speed(trace, min(max(AROUND, around), trace.time_s.size // 10))
    turns = speed > SLOW * usual if usual > 0 else np.zeros(speed.size, dtype=bool)
    furthest = np.maximum.accumulate(trace.angle_deg)
    peak = np.maximum.accumulate(trace.torque_nm)
    let_go = ~turns & (trace.torque_nm < LET_GO * peak) & (peak > LET_GO * trace.torque_nm.max())
    resumed = np.maximum.accumulate(np.where(let_go, furthest + AFTER_PAUSE_DEG, -np.inf))
    is_new = (trace.angle_deg > furthest - BACK_DEG) & (trace.angle_deg > resumed)
    return turns & is_new


def _speed(trace: Trace, around: int) -> Floats:
    """Degrees a second over a few samples before or after, whichever is slower."""
    n = trace.time_s.size
    here = np.arange(n)
    before, after = np.maximum(here - around, 0), np.minimum(here + around, n - 1)

    def between(low: NDArray[np.int64], high: NDArray[np.int64]) -> Floats:
        taken = np.maximum(trace.time_s[high] - trace.time_s[low], 1e-9)
        return (trace.angle_deg[high] - trace.angle_deg[low]) / taken

    return np.minimum(between(before, here), between(here, after))


def interpolated(at: Floats, x: Floats, y: Floats) -> Floats:
    """Straight lines between known points."""
    return np.interp(at, x, y)  # pyright: ignore[reportUnknownVariableType]


def slopes(angle: Floats, torque: Floats, window_deg: float = WINDOW_DEG) -> Floats:
    """Slope of the straight line through each stretch of ``window_deg``, Nm a degree; towards the
    ends the stretch is cut.
    """
    half = max(1, round(window_deg / BIN_DEG / 2))
    n = len(angle)
    low = np.maximum(np.arange(n) - half, 0)
    high = np.minimum(np.arange(n) + half + 1, n)

    def summed(values: Floats) -> Floats:
        total = np.concatenate([[0.0], np.cumsum(values)])
        return total[high] - total[low]

    x = angle - angle[0]
    count = (high - low).astype(float)
    sx, sy, sxx, sxy = summed(x), summed(torque), summed(x * x), summed(x * torque)
    return (count * sxy - sx * sy) / np.maximum(count * sxx - sx * sx, 1e-12)
