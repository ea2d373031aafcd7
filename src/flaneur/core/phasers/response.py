"""How a phaser answers commands: what the book expects at that oil, and the curve of a model.

Model: after a dead time the phaser runs at a constant rate (out, or back) towards its command plus
a steady error, and arrives there with a short lag. What is left once it has arrived is hunting.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import Phaser

Floats = NDArray[np.float64]
LAG_S = 0.08


@dataclass(frozen=True)
class Expected:
    """What the book expects at a temperature and pressure: dead time (s), rates (crank degrees per
    second).
    """

    dead_time_s: float
    rate_out_deg_s: float
    rate_back_deg_s: float


def expected_response(phaser: Phaser, oil_c: float, oil_kpa: float) -> Expected:
    """Rates go with (p/p_ref)**exponent and fall by ``cold_factor`` per 10 K of colder oil; dead
    time grows likewise.
    """
    r = phaser.response
    thick = r.cold_factor ** max(0.0, (r.oil_c - oil_c) / 10.0)
    gain = (max(oil_kpa, 1.0) / r.oil_kpa) ** r.pressure_exponent * thick
    return Expected(
        r.dead_time_s / max(thick, 1e-3), r.rate_out_deg_s * gain, r.rate_back_deg_s * gain
    )


def follow(
    times_s: Floats,
    targets: Sequence[tuple[float, float]],
    dead_s: float,
    out: float,
    back: float,
    start: float,
    lag_s: float = LAG_S,
) -> Floats:
    """Angle of a phaser sent to ``targets`` (time, degrees), each heard after the dead time.

    Solution of x′ = clip((target − x)/lag, −back, out), stretch by stretch: a straight run, then an
    exponential arrival.
    """
    angle = np.full(len(times_s), float(start))
    at = float(start)
    for k, (begin, target) in enumerate(targets):
        t0 = begin + dead_s
        t1 = targets[k + 1][0] + dead_s if k + 1 < len(targets) else np.inf
        inside = (times_s >= t0) & (times_s < t1)
        rate = out if target > at else back
        gap, sign = abs(target - at), 1.0 if target > at else -1.0
        run = max(0.0, gap - rate * lag_s) / rate
        left = min(gap, rate * lag_s)

        def reached(
            u: Floats,
            at: float = at,
            run: float = run,
            sign: float = sign,
            rate: float = rate,
            left: float = left,
            target: float = target,
        ) -> Floats:
            arriving = target - sign * left * np.exp(-np.maximum(u - run, 0.0) / lag_s)
            return np.where(u < run, at + sign * rate * u, arriving)

        angle[inside] = reached(times_s[inside] - t0)
        if np.isfinite(t1):
            at = float(reached(np.array([t1 - t0]))[0])
    return angle


def command_steps(times_s: Floats, command: Floats) -> list[tuple[float, float]]:
    """When the command changed and to what. A change shows first at the row after it: on average
    half a row late.
    """
    changed = np.flatnonzero(np.abs(np.diff(command)) > 0.5) + 1
    half = 0.5 * float(np.median(np.diff(times_s)))
    return [(float(times_s[i]) - half, float(command[i])) for i in changed]
