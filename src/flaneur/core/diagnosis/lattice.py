"""Evenly spread points in the unit cube: the Richtmyer lattice, frac(n·√prime), as Genz (1992) uses
it.
"""

import numpy as np
from numpy.typing import NDArray

_PRIMES = np.array(
    [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71, 73, 79, 83, 89, 97]
)


def lattice(points: int, size: int) -> NDArray[np.float64]:
    """Points of shape (points, size) in (0, 1); the same every time. ``size`` at most 25."""
    count: NDArray[np.float64] = np.arange(1, points + 1, dtype=np.float64)
    steps: NDArray[np.float64] = count[:, None] * np.sqrt(_PRIMES[:size])
    return np.clip((steps + 0.5) % 1.0, 1e-9, 1 - 1e-9)
