"""The normal distribution on arrays, with types."""

import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr, ndtr, ndtri

Floats = NDArray[np.float64]
Z90 = float(ndtri(0.95))  # half of a 90 % interval in standard deviations, 1.6449
FAR_OUT = 8.0  # standard deviations
LEAST = 1e-300


def cdf(x: Floats) -> Floats:
    """Φ(x), any shape."""
    return np.asarray(ndtr(x), dtype=np.float64)


def log_cdf(x: Floats) -> Floats:
    """ln Φ(x), any shape, far out as well."""
    return np.asarray(log_ndtr(x), dtype=np.float64)


def above(least: Floats, u: Floats) -> tuple[Floats, Floats]:
    """Standard normal values above ``least``, by the share ``u`` in (0, 1) of what lies there, and
    the log of how much that is; far out as Marsaglia (1964) draws them, √(a² − 2 ln u).
    """
    there = cdf(-least)
    found = -quantile(np.clip(there * (1 - u), LEAST, 1 - 1e-16))
    much = np.log(np.maximum(there, LEAST))
    far = least > FAR_OUT
    if far.any():
        far_u, far_least = np.broadcast_to(u, far.shape)[far], least[far]
        found[far] = np.sqrt(far_least**2 - 2 * np.log(np.clip(1 - far_u, 1e-16, 1)))
        much[far] = log_cdf(-far_least)
    return found, much


def quantile(p: Floats) -> Floats:
    """Φ⁻¹(p), any shape."""
    return np.asarray(ndtri(p), dtype=np.float64)


def log_odds(p: float) -> float:
    """ln(p / (1 − p))."""
    return math.log(p / (1 - p))


def chance(odds: float) -> float:
    """The probability of log odds: 1 / (1 + e^−odds)."""
    return 1 / (1 + math.exp(-odds))
