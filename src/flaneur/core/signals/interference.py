"""What rides on a sensor's signal and is not of the engine: mains hum, and spikes of ignition,
injectors and starters.
"""

import math

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d, maximum_filter1d, median_filter

from flaneur.core.signals.baseline import sample_noise

Floats = NDArray[np.float64]
Samples = NDArray[np.float32]
MAINS_HZ = (45.0, 66.0)
THINNED_HZ = 8000.0
SERIES_HZ = 1000.0  # rate of the thinned series in which hum is looked for
WORTH, STANDS_OUT = 0.03, 12.0  # of the swing; times what stands beside it in the spectrum
SMOOTH_S = 0.5  # over which hum keeps its height and phase
SPIKE_S = 130e-6  # half the width of the median that a spike does not survive
STEEP, BLOCK = 3.0, 512  # times the steepest slope there usually is; samples


def without_hum(x: Samples, rate_hz: float, kind: str) -> tuple[Samples, float]:
    """The channel without mains hum, and how high it stood (volts, nought where there is none to
    speak of).

    A square signal (``hall``) is first freed of its own two levels, a reluctor's (``vr``) has next
    to nothing at so low a frequency.
    """
    total, swing, rest = 0.0, 0.0, x
    for turn in range(3):
        # Without its levels a square channel may be thinned; a reluctor's pulses would be aliased.
        every = max(1, int(rate_hz / THINNED_HZ)) if kind == "hall" else 1
        left, swing = _left_over(rest[::every], kind)
        size = max(1, round(rate_hz / every / SERIES_HZ))
        count = len(left) // size
        if count < SERIES_HZ:
            return x, 0.0
        series = left[: count * size].reshape(count, size).mean(axis=1, dtype=np.float64)
        step_s = size * every / rate_hz
        hertz = _line(series, step_s, swing)
        if hertz is None:
            break
        hum = _hum(series, step_s, hertz, len(x), rate_hz)
        rest = rest - hum
        total = max(total, float(np.percentile(np.abs(hum), 98)))
        if kind == "vr" and turn:
            break
    return (rest, total) if total > WORTH * swing else (x, 0.0)


def _left_over(x: Samples, kind: str) -> tuple[Samples, float]:
    """The channel without what the wheel makes of it, and its swing."""
    thin = np.sort(x[:: max(1, len(x) // 8192)])
    bottom, top = float(thin[len(thin) // 100]), float(thin[-1 - len(thin) // 100])
    if kind == "vr":
        return np.clip(x, np.float32(bottom), np.float32(top)), top - bottom
    middle = (bottom + top) / 2
    lower, upper = thin[thin <= middle], thin[thin > middle]
    if len(lower) == 0 or len(upper) == 0:
        return x - np.float32(np.median(thin)), top - bottom
    low, high = np.float32(np.median(lower)), np.float32(np.median(upper))
    reach = np.float32(0.5 * (high - low))
    left = x - np.where(x > np.float32(middle), high, low)
    return np.clip(left, -reach, reach), float(high - low)


def _line(series: Floats, step_s: float, swing: float) -> float | None:
    """Frequency of a line that stands out among the mains frequencies; None where none does."""
    window = np.hanning(len(series))
    padded = 1 << (4 * len(series) - 1).bit_length()
    height = np.abs(np.fft.rfft((series - series.mean()) * window, padded)) * 2 / window.sum()
    hertz = np.fft.rfftfreq(padded, step_s)
    near = (hertz > MAINS_HZ[0]) & (hertz < MAINS_HZ[1])
    peak = int(np.flatnonzero(near)[np.argmax(height[near])])
    wide = 3.0 / (len(series) * step_s)
    beside = (np.abs(hertz - hertz[peak]) < 12) & (np.abs(hertz - hertz[peak]) > max(wide, 0.5))
    if height[peak] < WORTH / 2 * swing or height[peak] < STANDS_OUT * np.median(height[beside]):
        return None
    return float(hertz[peak])


def _hum(series: Floats, step_s: float, hertz: float, samples: int, rate_hz: float) -> Samples:
    """The line as it goes on through the capture, its height and phase followed slowly, (samples,)
    volts.
    """
    when = (np.arange(len(series)) + 0.5) * step_s
    turned = series * np.exp(-2j * math.pi * hertz * when)
    spread = SMOOTH_S / step_s
    slow = gaussian_filter1d(turned.real, spread) + 1j * gaussian_filter1d(turned.imag, spread)
    # A mean over one step of the series lowers the line a little.
    slow = 2 * slow / np.sinc(hertz * step_s)
    knots = np.arange(0.0, samples / rate_hz + 0.05, 0.05)
    real, imaginary = np.interp(knots, when, slow.real), np.interp(knots, when, slow.imag)
    at = np.arange(samples, dtype=np.float64) / rate_hz
    angle = 2 * math.pi * hertz * at
    wave = np.interp(at, knots, real) * np.cos(angle)
    wave -= np.interp(at, knots, imaginary) * np.sin(angle)
    return wave.astype(np.float32)


def without_spikes(x: Samples, rate_hz: float) -> tuple[Samples, int]:
    """A reluctor's channel without spikes, and how many there were. A spike rises far more steeply
    than any pulse near by, and does not outlast a running median.
    """
    steps = np.abs(np.diff(x))
    blocks = len(steps) // BLOCK
    if blocks < 4:
        return x, 0
    body = steps[: blocks * BLOCK].reshape(blocks, BLOCK)
    tallest = body.max(axis=1)
    usual = np.partition(body, BLOCK - BLOCK // 64, axis=1)[:, BLOCK - BLOCK // 64]
    reach = 2 * round(0.3 * rate_hz / BLOCK) + 1
    steep = median_filter(usual, min(reach, 2 * blocks - 1), mode="nearest")
    steep = maximum_filter1d(steep, 3)
    limit = STEEP * steep + np.float32(8 * sample_noise(x))
    if not np.any(tallest > limit):
        return x, 0
    onsets = np.flatnonzero(body.ravel() > np.repeat(limit, BLOCK))
    half = max(3, math.ceil(SPIKE_S * rate_hz))
    first = onsets[np.concatenate([[True], np.diff(onsets) > half])]
    clean = x.copy()
    for onset in first.tolist():
        begin, end = max(0, onset - 2), min(len(x), onset + 2 * half)
        a, b = max(0, begin - 2 * half), min(len(x), end + 2 * half)
        smooth = median_filter(x[a:b], 2 * half + 1, mode="nearest")[begin - a : end - a]
        off = np.abs(x[begin:end] - smooth) > limit[min(onset // BLOCK, blocks - 1)]
        # From the first sample that stands out to the last, and what rings beside it.
        where = np.flatnonzero(off)
        if len(where):
            low, high = max(0, where[0] - 1), min(end - begin, where[-1] + half // 2 + 2)
            clean[begin + low : begin + high] = smooth[low:high]
    return clean, len(first)
