"""How likely an engine fails by a part worn so and so far."""

import numpy as np
from numpy.typing import NDArray

from flaneur.core.gauss import cdf

Floats = NDArray[np.float64]
FAILS = {  # once worn through: how often within the hours; at which share of the limit half do
    "chain": (0.6, 2.0, 0.4),
    "guide": (0.4, 2.1, 0.4),
    "arm": (0.3, 2.1, 0.4),
}


def fails(kind: str, share: Floats) -> Floats:
    """How likely an engine fails within the hours a repair is answered for, by wear as a share of
    the limit at their end; same shape.
    """
    most, half, spread = FAILS[kind]
    return np.asarray(most * cdf((share - half) / spread))
