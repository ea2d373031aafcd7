"""Where an engine came to rest: the last crank event of a capture that ends in silence."""

from dataclasses import dataclass

import numpy as np

from flaneur.core.book.schema import EdgeWheel, GapWheel
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.signals.crank import CrankAngle

QUIET_S = 0.3
QUIET_STEPS = 8  # so many of its last steps without another event: it does not turn any more
FEWEST = 12


@dataclass(frozen=True)
class Rest:
    """Crank degrees of the cycle at the last event, and how far it may have turned on, or rocked
    back, without another one.
    """

    crank_deg: float
    within_deg: float


def came_to_rest(
    crank: CrankAngle, wheel: GapWheel | EdgeWheel, cycle_offset_deg: float, seconds: float
) -> Rest | None:
    """Where it stands once a capture of so many ``seconds`` is over; None where it still turned,
    where its last events could not be told, or behind a reluctor, which goes silent before the
    engine stands.
    """
    times, theta = crank.times_s, crank.theta_deg
    if wheel.sensor != "hall":
        return None
    if len(times) < FEWEST or not np.isfinite(theta[-2:]).all():
        return None
    if seconds - times[-1] < max(QUIET_S, QUIET_STEPS * (times[-1] - times[-2])):
        return None
    here, events = crank.tooth[-1], crank_events_deg(wheel)
    steps = np.diff([*events, events[0] + 360.0])
    widest = max(steps[here], steps[here - 1])
    return Rest(float(theta[-1] - cycle_offset_deg) % 720.0, float(widest))
