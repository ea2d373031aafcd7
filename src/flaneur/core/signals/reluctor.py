"""Zero crossings of a variable-reluctance sensor, to a small fraction of a sample.

The voltage follows the speed: a tooth gives one swing up and one down, as tall as the wheel is
fast, and the event is the crossing between them. A channel wired the other way round swings down
first.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from flaneur.core.errors import CaptureError
from flaneur.core.signals.baseline import check_finite, sample_noise, without_drift
from flaneur.core.signals.edges import Edges
from flaneur.core.signals.interference import without_hum, without_spikes

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
BLOCK = 1024
LOWEST = 0.1  # of the tallest swing near by, that still is one
KEPT = 0.9  # of a signal's effective volts that smoothing must leave
REACH = 2.4  # half widths of the pulse used by the fit
_WIDTHS_DEG = np.geomspace(0.15, 20, 60)


@dataclass(frozen=True)
class CoarseCrossings:
    """Crossings from up to down and from down to up, each as samples. ``compact`` says which of the
    two is the sharp crossing over a tooth; None when both are alike.
    """

    x: NDArray[np.float32]
    down: Floats
    up: Floats
    compact: str | None
    noise_v: float
    peak_v: float
    drift_v: float
    hum_v: float = 0.0
    spikes: int = 0

    def events(self, direction: str) -> Floats:
        """Sample numbers of the crossings of one direction."""
        return self.down if direction == "down" else self.up

    def refined(self, direction: str, rate_hz: float, speed_deg_s: Floats) -> Edges:
        """Exact times of the crossings of one direction, given the crank's speed at each."""
        at = self.events(direction)
        times, gain = _refine(self.x, at, speed_deg_s / rate_hz, -1.0 if direction == "up" else 1.0)
        sigma = self.noise_v / np.sqrt(np.maximum(gain, 1e-12))
        return Edges(
            times / rate_hz,
            np.ones(len(at), bool),
            sigma / rate_hz,
            self.noise_v,
            2 * self.peak_v,
            0,
            self.drift_v,
            hum_v=self.hum_v,
            spikes=self.spikes,
        )


def coarse_crossings(x: NDArray[np.float32], rate_hz: float, name: str) -> CoarseCrossings:
    """Every crossing between a clear swing up and a clear swing down. Raises CaptureError for a
    dead or drowned channel.
    """
    check_finite(x, name)
    if len(x) < 4 * BLOCK:
        raise CaptureError(
            f"Channel {name} is too short.",
            read=f"{len(x)} samples",
            expected="at least one engine cycle",
        )
    x, spikes = without_spikes(x, rate_hz)
    x, hum = without_hum(x, rate_hz, "vr")
    x, drift, _ = without_drift(x, "vr")
    noise = sample_noise(x)
    smooth, over = _smoothed(x, noise)
    blocks = len(x) // BLOCK
    peak = _peaks(smooth)
    top = float(np.percentile(peak, 90))
    if top < 1e-6:
        raise CaptureError(
            f"Channel {name} does not move.",
            read=f"{float(x.min()):.3f} to {float(x.max()):.3f} V",
            expected="a sensor signal",
            advice="Check the lead and the sensor's supply.",
        )
    if top < 6 * noise / over**0.5:
        raise CaptureError(
            f"Channel {name} cannot be told from noise.",
            read=f"peaks of {top:.2f} V, noise {noise / over**0.5:.2f} V",
            expected="peaks of at least six times the noise",
            advice="Check the sensor's gap, earth and screen, then capture again.",
        )
    reach = 2 * round(0.6 * rate_hz / BLOCK) + 1
    tall = maximum_filter1d(peak, min(reach, 2 * blocks - 1))
    limit = np.maximum(LOWEST * tall, 5 * noise / over**0.5).astype(np.float32)
    body = smooth[: blocks * BLOCK].reshape(blocks, BLOCK)
    state = (body > limit[:, None]).astype(np.int8) - (body < -limit[:, None]).astype(np.int8)
    state = state.ravel()
    change = np.flatnonzero(state[1:] != state[:-1]) + 1
    starts = np.concatenate([[0], change])
    ends = np.concatenate([change, [len(state)]]) - 1
    sign = state[starts]
    clear = sign != 0
    starts, ends, sign = starts[clear], ends[clear], sign[clear]
    turn = np.flatnonzero(sign[1:] != sign[:-1])
    middle, zone = (
        (ends[turn] + starts[turn + 1]) / 2.0,
        (starts[turn + 1] - ends[turn]).astype(float),
    )
    down = sign[turn] > 0
    return CoarseCrossings(
        x,
        middle[down],
        middle[~down],
        _compact(smooth, middle, zone, down),
        noise,
        top,
        drift,
        hum_v=hum,
        spikes=spikes,
    )


def _compact(x: NDArray[np.float32], at: Floats, zone: Floats, down: Bools) -> str | None:
    """Which crossings are the sharp ones: where the voltage goes furthest in like times.
    ``zone`` is how long each takes, samples.
    """
    if min(np.count_nonzero(down), np.count_nonzero(~down)) < 3:
        return None
    near = max(1.0, min(float(np.median(zone[down])), float(np.median(zone[~down]))) / 4)
    before = np.clip(np.round(at - near).astype(np.int64), 0, len(x) - 1)
    after = np.clip(np.round(at + near).astype(np.int64), 0, len(x) - 1)
    goes = np.abs(x[after] - x[before])
    a, b = float(np.median(goes[down])), float(np.median(goes[~down]))
    return "down" if b < 0.75 * a else "up" if a < 0.75 * b else None


def _peaks(x: NDArray[np.float32]) -> Floats:
    """Tallest swing of each block, volts."""
    blocks = len(x) // BLOCK
    body = x[: blocks * BLOCK].reshape(blocks, BLOCK)
    return np.maximum(body.max(axis=1), -body.min(axis=1)).astype(np.float64)


def _smoothed(x: NDArray[np.float32], noise: float) -> tuple[NDArray[np.float32], int]:
    """The channel as a running mean over so many samples as hardly lower its pulses: a slow crank
    gives wide and low ones, and noise must not hide them. What the mean takes from the noise is no
    loss.
    """
    smooth, over, whole = x, 1, _strength(x, noise)
    for wider in (3, 7, 15, 31, 63):
        tried = uniform_filter1d(x, wider)
        left = _strength(tried, noise / wider**0.5)
        if left < KEPT * whole:
            break
        smooth, over = tried, wider
    return smooth, over


def _strength(x: NDArray[np.float32], noise: float) -> float:
    """Effective volts of the blocks where the wheel is fast, without the noise's part."""
    blocks = len(x) // BLOCK
    body = x[: blocks * BLOCK].reshape(blocks, BLOCK)
    power = np.einsum("ij,ij->i", body, body) / BLOCK
    return float(max(np.percentile(power, 90) - noise * noise, 0.0)) ** 0.5


def _refine(
    x: NDArray[np.float32], at: Floats, step_deg: Floats, sign: float
) -> tuple[Floats, Floats]:
    """Fit −a·u·exp(−u²/2) about each crossing by Gauss-Newton. ``step_deg``: crank degrees per
    sample at each.

    Returns times in samples and Σslope² of each fit, (volts per sample)².
    """
    if len(at) == 0:
        return at, at
    width = _pulse_width_deg(x, at, step_deg, sign) / np.maximum(step_deg, 1e-9)
    reach = np.clip(np.ceil(REACH * width), 2, 4000).astype(int)
    tau, height, steep = at.copy(), np.zeros(len(at)), np.ones(len(at))
    # Groups of like reach, so that a sweep from slow to fast does not pad every window to the
    # slowest.
    size_class = np.ceil(np.log2(reach) * 2)
    groups = [np.flatnonzero(size_class == c) for c in np.unique(size_class)]
    for turn in range(4):
        before = tau.copy()
        for pick in groups:
            size = int(reach[pick].max())
            centre = np.round(at[pick]).astype(np.int64)
            inside = (centre - size >= 0) & (centre + size < len(x))
            pick, centre = pick[inside], centre[inside]
            index = centre[:, None] + np.arange(-size, size + 1)
            y = sign * x[index].astype(float)
            if turn:  # neighbours' tails, as they were found the turn before
                for other in (pick - 1, pick + 1):
                    there = (other >= 0) & (other < len(at))
                    near = np.clip(other, 0, len(at) - 1)
                    u = (index - before[near][:, None]) / width[near][:, None]
                    y += np.where(
                        there[:, None],
                        height[near][:, None] * u * np.exp(-0.5 * np.minimum(u * u, 80.0)),
                        0.0,
                    )
            u = (index - tau[pick][:, None]) / width[pick][:, None]
            bell = np.where(np.abs(u) <= REACH, np.exp(-0.5 * u * u), 0.0)
            shape = -u * bell
            height[pick] = np.sum(shape * y, axis=1) / np.maximum(
                np.sum(shape * shape, axis=1), 1e-12
            )
            slope = (1 - u * u) * bell / width[pick][:, None] * height[pick][:, None]
            steep[pick] = np.maximum(np.sum(slope * slope, axis=1), 1e-12)
            gain = np.sum(slope * (y - height[pick][:, None] * shape), axis=1) / steep[pick]
            tau[pick] += np.clip(gain, -0.5 * width[pick], 0.5 * width[pick])
    return np.where(np.abs(tau - at) < 2 * width, tau, at), steep


def _pulse_width_deg(x: NDArray[np.float32], at: Floats, step_deg: Floats, sign: float) -> float:
    """Half width (middle to peak, crank degrees) of the pulse that fits a hundred crossings
    best.
    """
    pick = np.linspace(0, len(at) - 1, min(120, len(at))).astype(int)
    grid = np.linspace(-1, 1, 41)
    best, width = np.inf, float(_WIDTHS_DEG[0])
    for candidate in _WIDTHS_DEG:
        samples = (
            at[pick][:, None]
            + grid * (REACH * candidate / np.maximum(step_deg[pick], 1e-9))[:, None]
        )
        keep = (samples[:, 0] >= 0) & (samples[:, -1] < len(x) - 1)
        if keep.sum() < 3:
            break
        whole = samples[keep].astype(np.int64)
        y = sign * (x[whole] + (samples[keep] - whole) * (x[whole + 1] - x[whole]))
        u = grid * REACH
        shape = -u * np.exp(-0.5 * u * u)
        height = y @ shape / (shape @ shape)
        misfit = float(np.sum((y - height[:, None] * shape) ** 2) / np.sum(y**2))
        if misfit < best:
            best, width = misfit, float(candidate)
    return width
