"""The normal distribution on arrays, with types."""

import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

Floats = NDArray[np.float64]
Z90 = float(ndtri(0.95))  # half of a 90 % interval in standard deviations, 1.6449


def cdf(x: Floats) -> Floats:
    """Φ(x), any shape."""
    return np.asarray(ndtr(x), dtype=np.float64)


def quantile(p: Floats) -> Floats:
    """Φ⁻¹(p), any shape."""
    return np.asarray(ndtri(p), dtype=np.float64)


def log_odds(p: float) -> float:
    """ln(p / (1 − p))."""
    return math.log(p / (1 - p))


def chance(odds: float) -> float:
    """The probability of log odds: 1 / (1 + e^−odds)."""
    return 1 / (1 + math.exp(-odds))
