"""The crank wheel's own tooth errors, estimated over many turns: the engine's fingerprint.

Each tooth is compared with the six-point polynomial through its neighbours. The mean over turns of
what is left is a known linear mixture of the errors, which is inverted where it can be. Errors that
change more slowly round the wheel than the crank's own motion does cannot be told from that motion
and are left at zero.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.signals.crank import CrankAngle

Floats = NDArray[np.float64]
REACH = 3
FEWEST_TURNS, FINE = 12, 24
BENT_DEG, MOST_BENT = 0.25, 4  # left over at a tooth that is bent; how many at most
SEEN = 0.25  # least gain of the mixture that is inverted


@dataclass(frozen=True)
class ToothErrors:
    """Degrees by which each tooth comes later than the book says, with the standard error;
    ``is_clear`` when it is no noise.
    """

    error_deg: Floats
    stderr_deg: float
    turns: int
    is_clear: bool


def tooth_errors(crank: CrankAngle, angles: Floats) -> ToothErrors | None:
    """Estimate over all whole turns; None under twelve turns or eight teeth. ``angles``: the
    book's, one turn, degrees.
    """
    count = len(angles)
    left, tooth = _left_over(crank)
    if count < 8 or len(left) < FEWEST_TURNS * count:
        return None
    order = np.argsort(tooth, kind="stable")
    bounds = np.searchsorted(tooth[order], np.arange(count + 1))
    groups = [left[order[bounds[k] : bounds[k + 1]]] for k in range(count)]
    if min(len(g) for g in groups) < FEWEST_TURNS // 2:
        return None
    mean = np.array([float(np.median(g)) for g in groups])
    spread = np.array(
        [
            1.2533 * 1.4826 * float(np.median(np.abs(g - np.median(g)))) / np.sqrt(len(g))
            for g in groups
        ]
    )
    mixture = _mixture(angles)
    u, s, vt = np.linalg.svd(mixture)
    gain = np.where(s > SEEN, 1 / np.maximum(s, 1e-9), 0.0)
    # Between the teeth of a coarse wheel the crank's own motion leaves as much.
    bent = _bent(mean, mixture) if count >= FINE else np.zeros(count)
    error = bent + vt.T @ (gain * (u.T @ (mean - mixture @ bent)))
    noise = float(np.sqrt(np.mean(spread**2) * np.mean(gain**2)))
    # Motion at the firing order leaves a smooth trace of a few thousandths; a tooth must stand out
    # of it.
    clear = bool(
        np.max(np.abs(mean)) > 6 * float(np.median(spread))
        and np.max(np.abs(error)) > max(6 * noise, 0.02)
    )
    return ToothErrors(error - error.mean(), noise, len(left) // count, clear)


def _bent(mean: Floats, mixture: Floats) -> Floats:
    """Errors of the few teeth that stand far off by themselves, (teeth,) degrees: one after the
    other, whichever explains most of what is left over, all of them fitted anew each time.
    """
    error, left, size = np.zeros(len(mean)), mean, np.linalg.norm(mixture, axis=0)
    chosen: list[int] = []
    while float(np.max(np.abs(left))) > BENT_DEG and len(chosen) < MOST_BENT:
        chosen.append(int(np.argmax(np.abs(mixture.T @ left) / size)))
        fitted, *_ = np.linalg.lstsq(mixture[:, chosen], mean, rcond=None)
        error[chosen] = fitted
        left = mean - mixture @ error
    # A wheel that is uneven all round has no bent teeth.
    return error if float(np.max(np.abs(left))) <= BENT_DEG else np.zeros(len(mean))


def without_errors(crank: CrankAngle, errors: ToothErrors) -> CrankAngle:
    """The same events at their true angles: a tooth that comes late by e stands e further on."""
    return replace(crank, theta_deg=crank.theta_deg + errors.error_deg[crank.tooth])


def _weights(nodes: Floats, at: Floats) -> Floats:
    """Lagrange weights of ``nodes`` (n, k) for the points ``at`` (n,), nodes already centred and
    scaled.
    """
    weights = np.ones_like(nodes)
    for i in range(nodes.shape[1]):
        for j in range(nodes.shape[1]):
            if i != j:
                weights[:, i] *= (at - nodes[:, j]) / (nodes[:, i] - nodes[:, j])
    return weights


def _left_over(crank: CrankAngle) -> tuple[Floats, NDArray[np.int64]]:
    """Per tooth: book angle less the angle its neighbours give at its time; and the tooth's
    number.
    """
    offsets = np.array([o for o in range(-REACH, REACH + 1) if o])
    middle = np.arange(REACH, len(crank.times_s) - REACH)
    index = middle[:, None] + offsets
    whole = np.isfinite(crank.theta_deg[middle]) & np.isfinite(crank.theta_deg[index]).all(axis=1)
    middle, index = middle[whole], index[whole]
    if len(middle) == 0:
        return np.zeros(0), np.zeros(0, dtype=np.int64)
    scale = crank.times_s[index[:, -1]] - crank.times_s[index[:, 0]]
    nodes = (crank.times_s[index] - crank.times_s[middle][:, None]) / scale[:, None]
    around = crank.theta_deg[index] - crank.theta_deg[middle][:, None]
    return np.sum(_weights(nodes, np.zeros(len(middle))) * around, axis=1), crank.tooth[middle]


def _mixture(angles: Floats) -> Floats:
    """What one degree of error on each tooth leaves over on every tooth, at even speed: shape
    (teeth, teeth).

    Left over = (angle by the neighbours) − own book angle. A tooth late by e is timed when the
    crank stands e further, so its own row gains e, and its neighbours' rows lose their weight of
    it.
    """
    count = len(angles)
    matrix = np.eye(count)
    offsets = np.array([o for o in range(-REACH, REACH + 1) if o])
    for k in range(count):
        turn, place = np.divmod(k + offsets, count)
        around = angles[place] + 360.0 * turn - angles[k]
        span = around[-1] - around[0]
        weights = _weights((around / span)[None, :], np.zeros(1))[0]
        np.add.at(matrix[k], place, -weights)
    return matrix
