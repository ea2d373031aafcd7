"""Crank angle over time from the crank wheel's teeth."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import GapWheel
from flaneur.core.errors import CaptureError

Floats = NDArray[np.float64]
NODES = 6


@dataclass(frozen=True)
class CrankAngle:
    """Tooth times (s) and their unwrapped crank angles (degrees, NaN in turns that do not count out)."""

    times_s: Floats
    theta_deg: Floats
    turns: int
    bad_turns: int
    rpm: float

    def at(self, times_s: Floats) -> Floats:
        """Crank angle at given times by the six-point Lagrange polynomial through the nearest teeth; NaN outside."""
        right = np.searchsorted(self.times_s, times_s)
        start = right - NODES // 2
        ok = (start >= 0) & (start + NODES <= len(self.times_s))
        index = np.where(ok, start, 0)[:, None] + np.arange(NODES)
        nodes, values = self.times_s[index], self.theta_deg[index]
        # Centred and scaled, so that the products stay of order one.
        scale = nodes[:, -1:] - nodes[:, :1]
        t = (times_s[:, None] - nodes[:, :1]) / scale
        knots = (nodes - nodes[:, :1]) / scale
        base = values[:, :1]
        total = np.zeros(len(times_s))
        for i in range(NODES):
            weight = np.ones(len(times_s))
            for j in range(NODES):
                if i != j:
                    weight = weight * (t[:, 0] - knots[:, j]) / (knots[:, i] - knots[:, j])
            total = total + weight * (values[:, i] - base[:, 0])
        return np.where(ok, base[:, 0] + total, np.nan)


def decode_crank(rising_s: Floats, wheel: GapWheel) -> CrankAngle:
    """Give every tooth its angle. Raises CaptureError when no gap shows, the count is another, or too little turned."""
    real = wheel.teeth - wheel.missing
    if len(rising_s) < real + 4:
        raise CaptureError(
            "The crank does not turn far enough in this capture.",
            read=f"{len(rising_s)} crank teeth, {len(rising_s) / wheel.teeth:.1f} turns",
            expected=f"at least two turns of {real} teeth",
            advice="Record longer, with the engine turning.",
        )
    step = np.diff(rising_s)
    around = np.minimum(np.append(step[1:], step[-1]), np.insert(step[:-1], 0, step[0]))
    gap_after = np.flatnonzero(step > (1 + wheel.missing * 0.75) * around)
    if len(gap_after) < 2:
        raise CaptureError(
            "No gap was found in the crank signal.",
            read=f"{len(rising_s)} teeth at an even pace",
            expected=f"a gap of {wheel.missing} missing teeth in every turn of {wheel.teeth}",
            advice="Check that the crank channel is the crank sensor.",
        )
    first = gap_after + 1
    counts = np.diff(first)
    usual = int(np.bincount(counts).argmax())
    if usual != real and np.mean(counts == real) < 0.5:
        raise CaptureError(
            "This looks like a capture of another engine.",
            read=f"{usual} crank teeth between gaps",
            expected=f"{real} ({wheel.teeth}−{wheel.missing})",
            advice="Choose the engine book that fits, or check the crank sensor.",
        )
    good = counts == real
    if len(counts) < 2 or good.sum() < 2:
        raise CaptureError(
            "The crank does not turn far enough in this capture.",
            read=f"{int(good.sum())} whole turns",
            expected="at least two whole turns (one engine cycle)",
            advice="Record longer, with the engine turning.",
        )
    theta = np.full(len(rising_s), np.nan)
    pitch = 360.0 / wheel.teeth
    # A dropout can look like a gap and cut a turn in two: count turns by the pitches passed, not by gaps.
    passed = 0.0
    for start, count, fine in zip(first[:-1], counts, good, strict=True):
        if fine:
            passed = float(round(passed))
            theta[start : start + real] = wheel.first_tooth_deg + 360.0 * passed + pitch * np.arange(real)
        passed += (count + wheel.missing) / wheel.teeth
    turns = round(passed)
    head, tail = min(int(first[0]), real), min(len(rising_s) - int(first[-1]), real)
    theta[first[0] - head : first[0]] = wheel.first_tooth_deg - 360.0 + pitch * (real - head + np.arange(head))
    last = wheel.first_tooth_deg + 360.0 * turns
    theta[first[-1] : first[-1] + tail] = last + pitch * np.arange(tail)
    seconds = float(rising_s[first[-1]] - rising_s[first[0]])
    return CrankAngle(rising_s, theta, turns, turns - int(good.sum()), 60.0 * turns / seconds)
