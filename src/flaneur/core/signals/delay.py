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
TELLS = 0.7  # of the book's tolerance, under which the speeds have said something


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


def without_delay(
    values: Floats, rpm: Floats, stderr_deg: float, by_book: tuple[float, float]
) -> tuple[float, float, Delay]:
    """Deviation at no speed, its standard error, and the delay, from every cycle's deviation
    (crank degrees) and speed. ``stderr_deg``: of the cycles' mean, were there no delay.

    Least squares with the book's delay and tolerance as what is known beforehand.
    """
    told_us, tolerance_us = by_book
    x = DEG_PER_RPM_US * rpm  # degrees a µs
    if not speed_varies(rpm):
        middle = float(x.mean())
        stderr = math.hypot(stderr_deg, middle * tolerance_us)
        at_rest = float(values.mean()) - middle * told_us
        return at_rest, stderr, Delay(told_us, tolerance_us, told=False)
    # What a drive itself does with speed is not known to less than this.
    weight = 1.0 / math.hypot(stderr_deg, DRIVE_DEG) ** 2 / len(values)  # of one cycle
    known = 1.0 / max(tolerance_us, 1e-3) ** 2
    matrix = np.array(
        [[weight * len(x), weight * x.sum()], [weight * x.sum(), weight * x @ x + known]]
    )
    right = np.array([weight * values.sum(), weight * x @ values + known * told_us])
    answer, spread = np.linalg.solve(matrix, right), np.linalg.inv(matrix)
    error_us = math.sqrt(spread[1, 1])
    delay = Delay(float(answer[1]), error_us, error_us < TELLS * tolerance_us)
    return float(answer[0]), math.sqrt(spread[0, 0]), delay
