"""Edge times of a square sensor signal, to a small fraction of a sample.

Coarse crossings of the middle level are found in one pass; each is then fitted by Gauss-Newton with
the channel's own edge shape (a Gaussian step whose width is estimated from the signal). For white
noise that fit reaches the Cramér–Rao bound σ²/Σs′² of an edge time.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.errors import CaptureError
from flaneur.core.gauss import cdf
from flaneur.core.signals.baseline import check_finite, sample_noise, without_drift
from flaneur.core.signals.interference import without_hum

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
_WIDTHS = np.geomspace(0.35, 30, 24)
BLIP = 0.3  # of the shortest vane, what is none
SHORT, NOISE_SAMPLES = 0.08, 12  # of the usual spacing; longest burst that noise makes


@dataclass(frozen=True)
class Edges:
    """Event times in seconds (sorted), which of them rise, noise (1σ) and swing in volts, chatter
    removed, drift in volts, and by what share the levels move.

    ``sigma_s`` is each time's standard error as the sample noise alone makes it.
    """

    times_s: Floats
    rising: Bools
    sigma_s: Floats
    noise_v: float
    swing_v: float
    chatter: int
    drift_v: float = 0.0
    height_change: float = 0.0
    hum_v: float = 0.0
    spikes: int = 0


@dataclass(frozen=True)
class CoarseEdges:
    """Crossings of the middle level, in samples (linear between two), on the signal freed of
    drift.
    """

    x: NDArray[np.float32]
    at: Floats
    rising: Bools
    low: float
    high: float
    noise_v: float
    chatter: int
    drift_v: float
    height_change: float
    hum_v: float = 0.0
    spikes: int = 0

    def refined(self, rate_hz: float, keep: Bools | None = None) -> Edges:
        """Exact times of the edges kept (all by default)."""
        at, rising = (self.at, self.rising) if keep is None else (self.at[keep], self.rising[keep])
        swing = self.high - self.low
        times, gain = (
            _refine(self.x, at, rising, self.low, self.high)
            if len(at) > 1
            else (at, np.ones(len(at)))
        )
        sigma = sample_noise(self.x) / swing / np.sqrt(np.maximum(gain, 1e-12))
        return Edges(
            times / rate_hz,
            rising,
            sigma / rate_hz,
            self.noise_v,
            swing,
            self.chatter,
            self.drift_v,
            self.height_change,
            self.hum_v,
            self.spikes,
        )


def coarse_edges(
    x: NDArray[np.float32], rate_hz: float, name: str, shortest_s: float | None = None
) -> CoarseEdges:
    """Every crossing of a channel; ``shortest_s`` is how long a vane lasts at the least, where that
    is known. Raises CaptureError when it carries no square signal or holds NaN.
    """
    check_finite(x, name)
    x, hum = without_hum(x, rate_hz, "hall")
    x, drift, change = without_drift(x, "hall")
    low, high, noise = _levels(x, name)
    middle = np.float32((low + high) / 2)
    above = x > middle
    crossing = np.flatnonzero(above[1:] != above[:-1])
    crossing, rising, chatter, spikes = _without_blips(
        crossing, above, shortest_s * rate_hz if shortest_s else None
    )
    a, b = x[crossing].astype(float), x[crossing + 1].astype(float)
    with np.errstate(divide="ignore", invalid="ignore"):
        at = crossing + np.clip(np.nan_to_num((middle - a) / (b - a), nan=0.5), 0, 1)
    return CoarseEdges(
        x, at, rising, low, high, noise, chatter, drift, change, hum_v=hum, spikes=spikes
    )


def find_edges(x: NDArray[np.float32], rate_hz: float, name: str) -> Edges:
    """Every edge of a channel, exactly timed. Raises CaptureError as ``coarse_edges`` does."""
    return coarse_edges(x, rate_hz, name).refined(rate_hz)


def _levels(x: NDArray[np.float32], name: str) -> tuple[float, float, float]:
    """Low and high level and noise, from a thin sample of the channel."""
    thin = np.sort(x[:: max(1, len(x) // 8192)].astype(float))
    if len(thin) < 16:
        raise CaptureError(
            f"Channel {name} is too short.",
            read=f"{len(x)} samples",
            expected="at least one engine cycle",
        )
    bottom, top = thin[int(0.01 * len(thin))], thin[int(0.99 * len(thin)) - 1]
    middle = (bottom + top) / 2
    lower, upper = thin[thin <= middle], thin[thin > middle]
    if len(upper) == 0 or top - bottom < 1e-6:
        raise CaptureError(
            f"Channel {name} does not move.",
            read=f"{bottom:.3f} to {top:.3f} V",
            expected="a sensor signal",
            advice="Check the lead and the sensor's supply.",
        )
    low, high = float(np.median(lower)), float(np.median(upper))
    noise = 1.4826 * float(min(np.median(np.abs(lower - low)), np.median(np.abs(upper - high))))
    if high - low < 4 * noise:
        raise CaptureError(
            f"Channel {name} cannot be told from noise.",
            read=f"swing {high - low:.2f} V, noise {noise:.2f} V",
            expected="a swing of at least four times the noise",
            advice="Check the sensor's earth and screen, then capture again.",
        )
    return low, high, noise


def _without_blips(
    crossing: NDArray[np.int64], above: Bools, shortest: float | None
) -> tuple[NDArray[np.int64], Bools, int, int]:
    """Merge bursts of crossings that no tooth is short enough to make: an odd burst is one edge, an
    even one none. Returns positions, direction, how many were dropped that noise makes, and how
    many bursts were too long for noise.
    """
    if len(crossing) < 3:
        return crossing, above[crossing + 1], 0, 0
    spacing = np.diff(crossing)
    limit = _shortest(spacing) if shortest is None else max(1.0, BLIP * shortest)
    group = np.concatenate([[0], np.cumsum(spacing > limit)])
    counts = np.bincount(group)
    first = np.concatenate([[0], np.cumsum(counts)[:-1]])
    odd = counts % 2 == 1
    middle = first + counts // 2
    for at in np.flatnonzero(odd & (counts > 1)).tolist():
        middle[at] = first[at] + _likeliest(crossing[first[at] : first[at] + counts[at]])
    rising = above[crossing[first + counts - 1] + 1][odd]
    lasts = crossing[first + counts - 1] - crossing[first]
    bursts = int(np.sum((counts > 1) & (lasts > NOISE_SAMPLES)))
    merged = int(np.sum((counts - odd)[lasts <= NOISE_SAMPLES]))
    return crossing[middle[odd]], rising, merged, bursts


def _shortest(spacing: NDArray[np.int64]) -> Floats:
    """Under how many samples each spacing is none of a tooth: a share of what most of the time is
    spent in, near by; spikes are many and short.
    """
    size = min(len(spacing), 64)
    count = -(-len(spacing) // size)
    starts = np.minimum(np.arange(count) * size, len(spacing) - size)
    blocks = np.sort(spacing[starts[:, None] + np.arange(size)], axis=1)
    spent = np.cumsum(blocks, axis=1)
    half = np.argmax(spent >= spent[:, -1:] / 2, axis=1)
    usual = blocks[np.arange(count), half].astype(np.float64)
    least = np.where(usual > 10, 2.0, 1.0)
    limit = np.maximum(least, SHORT * usual)
    return np.repeat(limit, size)[: len(spacing)]


def _likeliest(burst: NDArray[np.int64]) -> int:
    """Which crossing of an odd burst is the edge: the one that leaves the fewest samples on the
    wrong side.
    """
    gaps = np.diff(burst)
    after = np.concatenate([[0], np.cumsum(np.where(np.arange(len(gaps)) % 2 == 0, gaps, 0))])
    before = np.concatenate([[0], np.cumsum(np.where(np.arange(len(gaps)) % 2 == 1, gaps, 0))])
    wrong = after + (before[-1] - before)
    return int(2 * np.argmin(wrong[::2]))


def _refine(
    x: NDArray[np.float32], coarse: Floats, rising: Bools, low: float, high: float
) -> tuple[Floats, Floats]:
    """Fit each edge with the channel's own shape. ``coarse`` in samples; returns times in samples
    and Σslope² of each fit.
    """
    room = float(np.percentile(np.diff(coarse), 2)) / 2 if len(coarse) > 1 else 60.0
    width = _edge_width(x, coarse, rising, low, high, min(room, 60.0))
    low, high = _window_levels(x, coarse, rising, width, (low, high))
    # ±2.7σ of the edge holds more than 99 % of what its samples say of its time.
    reach = int(max(2, min(np.ceil(2.7 * width), room - 1)))
    centre = np.round(coarse).astype(np.int64)
    inside = (centre - reach >= 0) & (centre + reach < len(x))
    index = np.where(inside, centre, reach)[:, None] + np.arange(-reach, reach + 1)
    if index.max(initial=0) >= len(x):
        return coarse, np.ones(len(coarse))
    y = (x[index].astype(float) - low) / (high - low)
    y = np.where(rising[:, None], y, 1 - y)
    tau, steep = coarse.copy(), np.ones(len(coarse))
    unsettled = np.flatnonzero(inside)
    for _ in range(3):
        u = (index[unsettled] - tau[unsettled][:, None]) / width
        slope = np.exp(-0.5 * u * u) / (np.sqrt(2 * np.pi) * width)
        steep[unsettled] = np.maximum(np.sum(slope * slope, axis=1), 1e-12)
        gain = np.clip(
            np.sum(slope * (y[unsettled] - cdf(u)), axis=1) / steep[unsettled], -1.5, 1.5
        )
        # A sample above the model means the edge came earlier than assumed.
        tau[unsettled] -= gain
        unsettled = unsettled[
            np.abs(gain) > 0.15 * width
        ]  # Gauss-Newton squares its error: the rest is settled
        if len(unsettled) == 0:
            break
    return tau, steep


def _window_levels(
    x: NDArray[np.float32], coarse: Floats, rising: Bools, width: float, rough: tuple[float, float]
) -> tuple[float, float]:
    """Levels from the clean ends of windows round some edges: medians of the whole lean towards
    edges in transit.
    """
    reach, near = int(np.ceil(4.5 * width)) + 2, int(np.ceil(3.6 * width))
    spans = np.diff(coarse, prepend=-np.inf, append=np.inf)
    # Where the engine is fast its edges crowd: levels come from where it is slow enough.
    roomy = np.flatnonzero(np.minimum(spans[1:], spans[:-1]) > 2 * reach)
    if len(roomy) < 30:
        return rough
    pick = roomy[np.linspace(0, len(roomy) - 1, min(4000, len(roomy))).astype(int)]
    centre, up = np.round(coarse[pick]).astype(np.int64), rising[pick]
    inside = (centre - reach >= 0) & (centre + reach < len(x))
    if not inside.any():
        return rough
    ends = np.arange(near, reach + 1)
    before: Floats = x[centre[inside][:, None] - ends].astype(np.float64).mean(axis=1)
    after: Floats = x[centre[inside][:, None] + ends].astype(np.float64).mean(axis=1)
    up = up[inside]
    low, high = (
        float(np.median(np.where(up, before, after))),
        float(np.median(np.where(up, after, before))),
    )
    return (low, high) if high - low > 0.5 * (rough[1] - rough[0]) else rough


def _edge_width(
    x: NDArray[np.float32], coarse: Floats, rising: Bools, low: float, high: float, room: float
) -> float:
    """Standard deviation, in samples, of the Gaussian step that fits a few hundred edges best."""
    pick = np.linspace(0, len(coarse) - 1, min(120, len(coarse))).astype(int)
    reach = int(max(3, min(room, 24)))
    index = np.round(coarse[pick]).astype(np.int64)[:, None] + np.arange(-reach, reach + 1)
    keep = (index[:, 0] >= 0) & (index[:, -1] < len(x))
    index, at, up = index[keep], coarse[pick][keep], rising[pick][keep]
    if len(index) == 0:
        return 1.0
    y = (x[index].astype(float) - low) / (high - low)
    y = np.where(up[:, None], y, 1 - y)
    u = index - at[:, None]
    misfit = [float(np.sum((y - cdf(u / w)) ** 2)) for w in _WIDTHS]
    return float(max(0.35, _WIDTHS[int(np.argmin(misfit))]))
