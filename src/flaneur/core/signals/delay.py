"""What a sensor's delay adds to a reading, and telling it from lateness by what it does with speed.

An edge comes late by its sensor's delay: a deviation gains 6·rpm·(τ_cam − τ_crank) crank degrees.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.signals.trend import speed_varies

Floats = NDArray[np.float64]
DEG_PER_RPM_US = 6e-6
DRIVE_DEG = 0.03
CLEAR = 3.0  # standard errors of a delay that is taken off


@dataclass(frozen=True)
class Delay:
    """How much later a cam's sensor answers than the crank's, µs, with its standard error; ``told``
    when the speeds of the capture say so, and not the book alone.
    """

    delay_us: float
    stderr_us: float
    told: bool


def delay_by_book(book: EngineBook, wheel: VaneWheel) -> tuple[float, float]:
    """How much later a cam's sensor answers than the crank's by the book, and its tolerance, µs."""
    crank = book.crank_wheel
    return (
        wheel.delay_us - crank.delay_us,
        math.hypot(wheel.delay_tolerance_us, crank.delay_tolerance_us),
    )


def without_slope(values: Floats, rpm: Floats) -> Floats:
    """Cycles' deviations (crank degrees) without what follows the speed, about the same mean; as
    they are where the speed hardly varies.
    """
    if not speed_varies(rpm):
        return values
    along = rpm - rpm.mean()
    return values - along * float(along @ values / (along @ along))


def delay_beyond(
    values: Floats, rpm: Floats, stderr_deg: float, tolerance_us: float
) -> tuple[float, float, Delay]:
    """What a delay beyond the book's takes off the mean of the cycles' deviations (crank degrees),
    the standard error of what is left, and that delay. ``values`` and ``rpm`` of every cycle, freed
    of the book's delay; ``stderr_deg`` of their mean, were there no delay.

    Least squares, the tolerance known beforehand. A delay the speeds do not show clearly is not
    taken off: it is in the error.
    """
    x = DEG_PER_RPM_US * rpm  # degrees a µs
    middle = float(x.mean())
    if not speed_varies(rpm):
        error = math.hypot(stderr_deg, middle * tolerance_us)
        return 0.0, error, Delay(0.0, tolerance_us, told=False)
    # What a drive itself does with speed is not known to less than this.
    spread = math.hypot(stderr_deg, DRIVE_DEG) * math.sqrt(len(values))  # of one cycle
    along = x - middle
    known = 1.0 / max(tolerance_us, 1e-3) ** 2
    precision = float(along @ along) / spread**2 + known
    delay_us = float(along @ (values - values.mean())) / spread**2 / precision
    error_us = 1.0 / math.sqrt(precision)
    told = abs(delay_us) > CLEAR * error_us
    left_us = error_us if told else math.hypot(error_us, delay_us)
    error = math.hypot(stderr_deg, middle * left_us)
    return middle * delay_us * told, error, Delay(delay_us, error_us, told)
