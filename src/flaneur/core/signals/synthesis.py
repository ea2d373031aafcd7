"""Sensor signals of an engine with known hidden faults.

Cam lateness comes from the chain laid out pin by pin (``drive.placement``). Crank motion is a steady speed
with a firing-order ripple, a half-order ripple and a slow wander; each wheel's edges are put where the true
crank angle reaches them, and drawn with the sensors' own rise time.
"""

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, GapWheel
from flaneur.core.drive.placement import placed_state
from flaneur.core.faults.model import Faults
from flaneur.core.gauss import cdf
from flaneur.core.signals.capture import Capture

Floats = NDArray[np.float64]
RISE_TO_SIGMA = 2.5631031310892007  # 10-90 % width of a Gaussian step in its standard deviations


@dataclass(frozen=True)
class Conditions:
    """How the stand-in engine runs while it is recorded. Degrees are crank degrees, noise is volts (1σ)."""

    seconds: float = 6.0
    rate_hz: float = 50_000.0
    rpm: float = 720.0
    noise_v: float = 0.05
    cycle_scatter_deg: float = 0.12
    firing_ripple_deg: float = 0.35
    half_order_deg: float = 0.15
    wander: float = 0.01
    phaser_command_deg: dict[str, float] = field(default_factory=dict[str, float])


@dataclass(frozen=True)
class Motion:
    """True crank angle over time: θ(t) in degrees, t in seconds, on a fine grid with analytic speed."""

    rpm: float
    start_deg: float
    ripple: tuple[tuple[float, float, float], ...]
    wander: tuple[float, float, float]

    def angle(self, t: Floats) -> Floats:
        """θ in degrees. ``ripple`` holds (amplitude°, events per crank turn, phase rad)."""
        base = 6 * self.rpm * t + self.start_deg
        depth, hz, phase = self.wander
        theta = base + 6 * self.rpm * depth / (2 * np.pi * hz) * (np.sin(2 * np.pi * hz * t + phase) - np.sin(phase))
        for amplitude, order, shift in self.ripple:
            theta = theta + amplitude * np.sin(np.radians(order * base) + shift)
        return theta

    def speed(self, t: Floats) -> Floats:
        """dθ/dt in degrees per second."""
        base = 6 * self.rpm * t + self.start_deg
        depth, hz, phase = self.wander
        rate = 6 * self.rpm * (1 + depth * np.cos(2 * np.pi * hz * t + phase))
        for amplitude, order, shift in self.ripple:
            turn = np.radians(order * 6 * self.rpm)
            rate = rate + amplitude * turn * np.cos(np.radians(order * base) + shift)
        return rate

    def times(self, theta: Floats) -> Floats:
        """Time at which each crank angle is reached, by Newton from the steady-speed guess."""
        t = (theta - self.start_deg) / (6 * self.rpm)
        for _ in range(40):
            step = (self.angle(t) - theta) / self.speed(t)
            t = t - step
            if step.size == 0 or np.max(np.abs(step)) < 1e-13:
                break
        return t


def motion_for(book: EngineBook, conditions: Conditions, rng: np.random.Generator) -> Motion:
    """Draw the phases of a run: where the crank starts and how it wanders."""
    return Motion(
        conditions.rpm,
        float(rng.uniform(0, 720)),
        (
            (conditions.firing_ripple_deg, book.cylinders / 2, float(rng.uniform(0, 2 * np.pi))),
            (conditions.half_order_deg, 0.5, float(rng.uniform(0, 2 * np.pi))),
        ),
        (conditions.wander, 0.23, float(rng.uniform(0, 2 * np.pi))),
    )


def gap_wheel_edges(wheel: GapWheel) -> tuple[Floats, Floats]:
    """Rising and falling edges of one crank turn in degrees, 0 ≤ θ < 360, shape (teeth − missing,) each."""
    pitch = 360.0 / wheel.teeth
    rising: Floats = wheel.first_tooth_deg + pitch * np.arange(wheel.teeth - wheel.missing, dtype=np.float64)
    return rising % 360.0, (rising + pitch * wheel.tooth_fraction) % 360.0


def true_deviation_deg(book: EngineBook, faults: Faults) -> dict[str, float]:
    """What a perfect reading of each cam would be: drive, phaser and both tone wheels, crank degrees late."""
    state = placed_state(book, faults)
    crank_key = next(k for k, w in book.tone_wheels.items() if w.kind == "gap")
    crank = faults.tone_wheel_offset_deg.get(crank_key, 0.0)
    result: dict[str, float] = {}
    for key, wheel in book.tone_wheels.items():
        if wheel.kind == "vanes":
            phaser = book.phaser_of(wheel.shaft)
            offset = faults.phaser_offset_deg.get(phaser, 0.0) if phaser else 0.0
            own = faults.tone_wheel_offset_deg.get(key, 0.0)
            result[wheel.shaft] = state.deviation_deg[wheel.shaft] + offset + own - crank
    return result


def _draw(
    edges_s: Floats, rising: NDArray[np.bool_], samples: int, rate: float, sigma_s: float, levels: tuple[float, float]
) -> NDArray[np.float32]:
    """Voltage of a square sensor with Gaussian-step edges at ``edges_s`` (sorted), shape (samples,)."""
    low, high = levels
    order = np.argsort(edges_s)
    edges_s, rising = edges_s[order], rising[order]
    level = np.full(samples, high if (len(rising) and not rising[0]) else low, dtype=np.float32)
    starts = np.clip(np.ceil(edges_s * rate).astype(np.int64), 0, samples)
    bounds = np.append(starts, samples)
    for i in range(len(starts)):
        level[bounds[i] : bounds[i + 1]] = high if rising[i] else low
    reach = int(np.ceil(6 * sigma_s * rate)) + 1
    index = np.round(edges_s * rate).astype(np.int64)[:, None] + np.arange(-reach, reach + 1)[None, :]
    inside = (index >= 0) & (index < samples)
    shape: Floats = cdf((index / rate - edges_s[:, None]) / sigma_s)
    shape = np.where(rising[:, None], shape, 1 - shape)
    level[index[inside]] = (low + (high - low) * shape)[inside].astype(np.float32)
    return level


def synthesise(book: EngineBook, faults: Faults, conditions: Conditions, rng: np.random.Generator, motion: Motion | None = None) -> Capture:
    """A capture of every tone wheel of ``book`` with these hidden faults. Channels are named as in the book."""
    motion = motion or motion_for(book, conditions, rng)
    samples = round(conditions.seconds * conditions.rate_hz)
    end = float(motion.angle(np.array([conditions.seconds]))[0]) + 90
    sigma = book.signals.edge_rise_us * 1e-6 / RISE_TO_SIGMA
    levels = (book.signals.low_v, book.signals.high_v)
    deviation = true_deviation_deg(book, faults)
    channels: dict[str, NDArray[np.float32]] = {}
    for key, wheel in book.tone_wheels.items():
        if wheel.kind == "gap":
            turns: Floats = np.arange(-1, math.ceil(end / 360) + 1, dtype=np.float64)[:, None] * 360.0
            slip = faults.tone_wheel_offset_deg.get(key, 0.0)
            pitch = 360.0 / wheel.teeth
            rise: Floats = wheel.first_tooth_deg + slip + pitch * np.arange(wheel.teeth - wheel.missing, dtype=np.float64)
            theta: Floats = np.concatenate([(turns + rise).ravel(), (turns + rise + pitch * wheel.tooth_fraction).ravel()])
            rising = np.arange(theta.size) < theta.size // 2
        else:
            cycles: Floats = np.arange(-1, math.ceil(end / 720) + 1, dtype=np.float64)
            late = deviation[wheel.shaft] + _crank_slip(book, faults)
            phaser = book.phaser_of(wheel.shaft)
            if phaser and phaser in conditions.phaser_command_deg:
                sign = -1 if book.phasers[phaser].moves == "advance" else 1
                late += sign * conditions.phaser_command_deg[phaser]
            jitter: Floats = rng.normal(0.0, conditions.cycle_scatter_deg, cycles.size) if conditions.cycle_scatter_deg else 0 * cycles
            flat = np.array([e for vane in wheel.vanes_deg for e in vane])
            theta = ((cycles * 720.0 + late + jitter)[:, None] + flat).ravel()
            rising = np.tile(np.arange(flat.size) % 2 == 0, cycles.size)
        start = motion.angle(np.array([0.0]))[0]
        keep = (theta > start - 30) & (theta < end)
        clean = _draw(motion.times(theta[keep]), rising[keep], samples, conditions.rate_hz, sigma, levels)
        noise = rng.standard_normal(samples, dtype=np.float32) * np.float32(conditions.noise_v)
        channels[wheel.channel] = (clean + noise).astype(np.float32)
    return Capture(conditions.rate_hz, channels, source="stand-in engine")


def _crank_slip(book: EngineBook, faults: Faults) -> float:
    key = next(k for k, w in book.tone_wheels.items() if w.kind == "gap")
    return faults.tone_wheel_offset_deg.get(key, 0.0)
