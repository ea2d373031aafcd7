"""The normal distribution on arrays, with types."""

import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr, ndtr, ndtri

Floats = NDArray[np.float64]
Z90 = float(ndtri(0.95))  # half of a 90 % interval in standard deviations, 1.6449
FAR_OUT = 8.0  # standard deviations


def cdf(x: Floats) -> Floats:
    """Φ(x), any shape."""
    return np.asarray(ndtr(x), dtype=np.float64)


def log_cdf(x: Floats) -> Floats:
    """ln Φ(x), any shape, far out as well."""
    return np.asarray(log_ndtr(x), dtype=np.float64)


def above(least: Floats, u: Floats) -> Floats:
    """Standard normal values above ``least``, by the share ``u`` in (0, 1) of what lies there; far
    out as Marsaglia (1964) draws them, √(a² − 2 ln u).
    """
    near = -quantile(np.clip(cdf(-least) * (1 - u), 1e-300, 1 - 1e-16))
    tail = np.sqrt(np.maximum(least, FAR_OUT) ** 2 - 2 * np.log(np.clip(1 - u, 1e-16, 1)))
    return np.where(least > FAR_OUT, tail, near)


def quantile(p: Floats) -> Floats:
    """Φ⁻¹(p), any shape."""
    return np.asarray(ndtri(p), dtype=np.float64)


def log_odds(p: float) -> float:
    """ln(p / (1 − p))."""
    return math.log(p / (1 - p))


def chance(odds: float) -> float:
    """The probability of log odds: 1 / (1 + e^−odds)."""
    return 1 / (1 + math.exp(-odds))
