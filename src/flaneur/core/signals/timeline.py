"""A capture along time: crank angle and speed at any moment, and where the book expects each cam
edge.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.wheels import cam_events_deg

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Timeline:
    """Crank event times (s) and cycle angle (degrees, unwrapped, 0 = firing top dead centre of
    cylinder 1).
    """

    times_s: Floats
    theta_deg: Floats

    def theta(self, times_s: Floats) -> Floats:
        """Angle at given times, straight between teeth; NaN outside."""
        return np.interp(times_s, self.times_s, self.theta_deg, left=np.nan, right=np.nan)

    def rpm(self, times_s: Floats) -> Floats:
        """Speed over about a third of a turn round each time."""
        span = 60.0
        theta = np.interp(times_s, self.times_s, self.theta_deg)
        before = np.interp(theta - span, self.theta_deg, self.times_s)
        after = np.interp(theta + span, self.theta_deg, self.times_s)
        reached = np.interp(after, self.times_s, self.theta_deg) - np.interp(
            before, self.times_s, self.theta_deg
        )
        return reached / np.maximum(after - before, 1e-9) / 6.0

    def expected(
        self, book: EngineBook, channel: str, start_s: float, stop_s: float
    ) -> tuple[Floats, Floats, list[bool]]:
        """Times at which the book expects a cam channel's edges, their angle in the cycle, and
        which rise.
        """
        events = cam_events_deg(book.cam_wheels[channel])
        a, b = (float(v) for v in np.interp([start_s, stop_s], self.times_s, self.theta_deg))
        cycles: Floats = np.arange(
            math.floor(a / 720.0) - 1, math.ceil(b / 720.0) + 1, dtype=np.float64
        )
        angles = np.array([angle for angle, _ in events])
        theta: Floats = (cycles[:, None] * 720.0 + angles).ravel()
        rising = np.tile([r for _, r in events], len(cycles))
        inside = (theta >= max(a, self.theta_deg[0])) & (theta <= min(b, self.theta_deg[-1]))
        times = np.interp(theta[inside], self.theta_deg, self.times_s)
        return times, np.tile(angles, len(cycles))[inside], [bool(r) for r in rising[inside]]
