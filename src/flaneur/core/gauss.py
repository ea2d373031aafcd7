"""The normal distribution on arrays, with types."""

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
