"""How well a mean over cycles is known when neighbouring cycles resemble each other."""

import math

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
MOST, FEWEST = 160, 8  # values looked at one by one: longer runs are brought together first
_CYCLES = np.array([1.5, 3.0, 6.0, 12.0, 24.0, 48.0])
_SHARES = np.array([0.15, 0.4, 0.7, 0.9, 0.98])
CLIPPED = 3.5  # spreads


def mean_stderr(values: Floats) -> float:
    """Standard error of the mean of a run of cycles that may wander: (cycles,) in, one figure out.

    The run is white noise, or white noise and a first-order walk that comes back; how much of it is
    walk and how long it remembers are averaged over by their likelihood (flat mean, scale
    integrated out), and so is the mean.
    """
    n = len(values)
    if n < FEWEST:
        return float(values.std(ddof=1) / math.sqrt(n)) if n > 1 else 0.0
    centre = float(np.median(values))
    spread = 1.4826 * float(np.median(np.abs(values - centre)))
    if spread <= 0:
        return float(values.std(ddof=1) / math.sqrt(n))
    y = np.clip((values - centre) / spread, -CLIPPED, CLIPPED)
    size = -(-n // MOST)
    if size > 1:
        y = y[: n // size * size].reshape(-1, size).mean(axis=1)
    keeps = np.append(np.repeat(np.exp(-size / _CYCLES), len(_SHARES)), 0.0)
    share = np.append(np.tile(_SHARES, len(_CYCLES)), 0.0)
    prior = np.append(np.full(len(keeps) - 1, 0.5 / (len(keeps) - 1)), 0.5)
    one, cross, square, log_det = _filtered(y, keeps, share)
    left = np.maximum(square - cross**2 / one, 1e-12)
    count = len(y)
    likely = -0.5 * (log_det + np.log(one) + (count - 1) * np.log(left)) + np.log(prior)
    weight = np.exp(likely - likely.max())
    weight /= weight.sum()
    means, variance = cross / one, left / max(1, count - 3) / one
    middle = float(weight @ means)
    return spread * math.sqrt(float(weight @ (variance + (means - middle) ** 2)))


def _filtered(y: Floats, keeps: Floats, share: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """Kalman filters of a run and of ones, one for each pair of memory and share of the walk: sums
    of 1·1, 1·y and y·y in the metric of the run's covariance, and its log determinant.
    """
    size = len(keeps)
    walk, noise = share.copy(), 1.0 - share
    said, level = np.zeros(size), np.zeros(size)  # predicted for y, and for ones
    one, cross, square, log_det = (np.zeros(size) for _ in range(4))
    for value in y.tolist():
        total = np.maximum(walk + noise, 1e-9)
        gain = walk / total
        off, off_one = value - said, 1.0 - level
        one += off_one**2 / total
        cross += off_one * off / total
        square += off * off / total
        log_det += np.log(total)
        said, level = keeps * (said + gain * off), keeps * (level + gain * off_one)
        walk = keeps**2 * (1 - gain) * walk + share * (1 - keeps**2)
    return one, cross, square, log_det
