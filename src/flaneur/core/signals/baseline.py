"""Offset and slow drift of a channel, found from a thin sample of it."""

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import maximum_filter1d, median_filter, minimum_filter1d

from flaneur.core.errors import CaptureError

Floats = NDArray[np.float64]
BLOCKS = 256
WORTH_TAKING_OUT = 0.03


def check_finite(x: NDArray[np.float32], name: str) -> None:
    """Raise CaptureError naming the first sample that is not a number."""
    if not np.isfinite(x.sum()):
        bad = np.flatnonzero(~np.isfinite(x))
        if bad.size == 0:  # the sum overflowed: values beyond any voltage
            bad = np.array([int(np.argmax(np.abs(x)))])
        row = int(bad[0])
        raise CaptureError(
            f"Channel {name} holds a value that is not a number.",
            read=f"{x[row]} at sample {row + 1}",
            expected="a finite voltage in every row",
            advice="Leave that stretch out or capture again.",
        )


def _thin_blocks(x: NDArray[np.float32]) -> tuple[Floats, Floats]:
    """About 256 samples from each of up to 256 even stretches, and the stretches' middles in
    samples.
    """
    stride = max(1, len(x) // (BLOCKS * 256))
    thin = x[::stride]
    size = max(16, len(thin) // BLOCKS)
    count = len(thin) // size
    blocks = thin[: count * size].reshape(count, size).astype(np.float64)
    middles: Floats = (np.arange(count, dtype=np.float64) + 0.5) * size * stride
    return blocks, middles


def _height_change(blocks: Floats) -> float:
    """How much a square channel's levels move during the capture, as a share of its swing.

    Highest and lowest level of every fifth of the capture, so that each holds both levels even when
    cranking.
    """
    if len(blocks) < 20:
        return 0.0
    size = len(blocks) // 5
    order = np.sort(blocks, axis=1)
    high = median_filter(order[:, -max(2, blocks.shape[1] // 50)], size=3, mode="nearest")
    low = median_filter(order[:, max(1, blocks.shape[1] // 50)], size=3, mode="nearest")
    inner = slice(size // 2, len(blocks) - size // 2)
    top, bottom = maximum_filter1d(high, size)[inner], minimum_filter1d(low, size)[inner]
    swing = float(np.max(top) - np.min(bottom))
    return float(max(np.ptp(top), np.ptp(bottom)) / swing) if swing > 0 else 0.0


def without_drift(x: NDArray[np.float32], kind: str) -> tuple[NDArray[np.float32], float, float]:
    """The channel with its slow drift taken out, how far it drifted (volts), and by what share its
    height changes.

    Unchanged when it hardly drifts.

    For a square signal (``hall``) the middle between both levels is followed, over the stretches in
    which both show; for a reluctor (``vr``) its resting level, which is brought to zero.
    """
    blocks, middles = _thin_blocks(x)
    if len(blocks) < 4:
        return x, 0.0, 0.0
    # Not the extremes themselves: a spike reaches further than any level.
    spared = min(blocks.shape[1] // 4, max(1, blocks.shape[1] // 40))
    order = np.partition(blocks, (spared, blocks.shape[1] - 1 - spared), axis=1)
    low, high = order[:, spared], order[:, -1 - spared]
    # Few stretches hold an edge when the engine turns slowly, and spikes must not count: the fifth
    # largest.
    swing = float(np.sort(high - low)[-min(5, len(low))])
    if kind == "hall":
        shows = high - low > 0.6 * swing
        level = (high + low) / 2
    else:
        shows = np.ones(len(blocks), bool)
        quiet = np.median(
            np.abs(blocks - np.median(blocks, axis=1, keepdims=True)), axis=1
        ) < 0.1 * np.maximum(swing, 1e-12)
        level = np.where(quiet, np.median(blocks, axis=1), blocks.mean(axis=1))
    if shows.sum() < 4 or swing <= 0:
        return x, 0.0, 0.0
    level = median_filter(level[shows], size=5, mode="nearest")
    if kind == "vr":
        level = median_filter(level, size=9, mode="nearest")
    drift = float(np.percentile(level, 98) - np.percentile(level, 2))
    rest = float(np.median(level))
    steady = drift <= WORTH_TAKING_OUT * swing
    if steady and (kind == "hall" or abs(rest) <= 0.002 * swing):
        return x, 0.0, _height_change(blocks) if kind == "hall" else 0.0
    if steady:
        return x - np.float32(rest), 0.0, 0.0
    grid = np.arange(0, len(x) + 256, 256)
    coarse = np.interp(grid, middles[shows], level).astype(np.float32)
    line = np.interp(np.arange(len(x), dtype=np.float32), grid.astype(np.float32), coarse).astype(
        np.float32
    )
    centre = np.float32(rest if kind == "hall" else 0.0)
    return np.asarray(x - (line - centre), dtype=np.float32), drift, 0.0


def sample_noise(x: NDArray[np.float32]) -> float:
    """White noise of a channel (1σ, volts) from second differences, which smooth signals hardly
    touch.
    """
    count = max(1, min(64, len(x) // 64))
    starts = np.linspace(0, max(0, len(x) - 256), count).astype(int)
    pieces = [x[s : s + 256].astype(np.float64) for s in starts]
    second = np.concatenate([np.abs(p[2:] - 2 * p[1:-1] + p[:-2]) for p in pieces if len(p) > 2])
    return 1.4826 * float(np.median(second)) / np.sqrt(6.0) if second.size else 0.0


def _share(x: NDArray[np.float32], value: float) -> float:
    return float(np.count_nonzero(x == np.float32(value))) / max(1, len(x))


def clipped_share(x: NDArray[np.float32], kind: str) -> float:
    """Share of samples that stand exactly at the recorder's rail, nought when nothing points to
    clipping.

    A Hall signal rests on its levels anyway: there, a level without noise beside one with noise is
    the sign.
    """
    thin = x[:: max(1, len(x) // 16384)]
    top, bottom = float(thin.max()), float(thin.min())
    at_top, at_bottom = _share(thin, top), _share(thin, bottom)
    if kind == "vr":
        return at_top + at_bottom if max(at_top, at_bottom) > 0.004 else 0.0
    middle = (top + bottom) / 2
    upper, lower = thin[thin > middle], thin[thin <= middle]
    if len(upper) < 8 or len(lower) < 8:
        return 0.0
    rails = [_share(upper, top), _share(lower, bottom)]
    return max(rails) if max(rails) > 0.3 and min(rails) < 0.05 else 0.0
