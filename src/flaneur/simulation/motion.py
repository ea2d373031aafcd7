"""How a stand-in crank turns: a speed course with firing ripple, cranking surges and a slow
wander.
"""

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook

Floats = NDArray[np.float64]
KNOT_S = 0.02
MILD, FINE = 6.0, 40  # degrees times order of a mild ripple; points between two knots


@dataclass(frozen=True)
class Conditions:
    """How the stand-in engine runs while it is recorded. Degrees are crank degrees, noise is volts
    (1σ).

    ``course`` holds (seconds, rpm) knots joined by straight lines; empty means a steady ``rpm``.
    ``surge`` is the share by which compression slows and releases the crank. ``settling_deg`` is
    how much later the cams start, dying out over ``settling_s``. ``inverted`` channels are wired
    the other way round; ``offset_v`` and ``drift_v`` shift a channel by a constant and by a slow
    swing. ``brakes`` is how hard each cylinder's compression brakes the crank, in firing order, as
    a share of the speed (nought: it misfires or leaks). ``moves_deg`` has a cam move on by so many
    degrees along (seconds, degrees) knots; ``wander_deg`` has every cam wander slowly by as much
    (1σ), forgetting over ``wander_cycles``. ``delay_us``: how much later a channel's sensor answers
    than at once.
    """

    seconds: float = 6.0
    rate_hz: float = 50_000.0
    rpm: float = 720.0
    noise_v: float = 0.05
    cycle_scatter_deg: float = 0.12
    firing_ripple_deg: float = 0.35
    half_order_deg: float = 0.15
    wander: float = 0.01
    course: tuple[tuple[float, float], ...] = ()
    surge: float = 0.0
    settling_deg: float = 0.0
    settling_s: float = 1.5
    inverted: frozenset[str] = frozenset()
    offset_v: dict[str, float] = field(default_factory=dict[str, float])
    drift_v: dict[str, float] = field(default_factory=dict[str, float])
    crank_tooth_deg: tuple[float, ...] = ()
    brakes: tuple[float, ...] = ()
    moves_deg: dict[str, tuple[tuple[float, float], ...]] = field(
        default_factory=dict[str, tuple[tuple[float, float], ...]]
    )
    wander_deg: float = 0.0
    wander_cycles: float = 20.0
    delay_us: dict[str, float] = field(default_factory=dict[str, float])
    phaser_command_deg: dict[str, float] = field(default_factory=dict[str, float])


@dataclass(frozen=True)
class Motion:
    """True crank angle over time. Speed runs straight between knots; ripples ride on the angle so
    reached.

    ``times_s``, ``rpm``: knots, same length. ``ripple``: (amplitude°, events per crank turn, phase
    rad) each.
    """

    times_s: Floats
    rpm: Floats
    start_deg: float
    ripple: tuple[tuple[float, float, float], ...]

    @cached_property
    def _base(self) -> Floats:
        step = np.diff(self.times_s)
        return self.start_deg + np.concatenate(
            [[0.0], np.cumsum(3.0 * (self.rpm[1:] + self.rpm[:-1]) * step)]
        )

    def base(self, t: Floats) -> Floats:
        """Angle without ripple, degrees: the integral of 6·rpm."""
        i = np.clip(np.searchsorted(self.times_s, t, side="right") - 1, 0, len(self.times_s) - 2)
        u = t - self.times_s[i]
        slope = (self.rpm[i + 1] - self.rpm[i]) / (self.times_s[i + 1] - self.times_s[i])
        return self._base[i] + 6 * self.rpm[i] * u + 3 * slope * u * u

    def angle(self, t: Floats) -> Floats:
        """θ in degrees."""
        base = self.base(t)
        theta = base
        for amplitude, order, shift in self.ripple:
            theta = theta + amplitude * np.sin(np.radians(order * base) + shift)
        return theta

    def speed(self, t: Floats) -> Floats:
        """dθ/dt in degrees per second."""
        base = self.base(t)
        rate = 6 * np.interp(t, self.times_s, self.rpm)
        gain = np.ones_like(base)
        for amplitude, order, shift in self.ripple:
            gain = gain + np.radians(amplitude * order) * np.cos(np.radians(order * base) + shift)
        return rate * gain

    def times(self, theta: Floats) -> Floats:
        """Time at which each crank angle is reached, by Newton from the ripple-free guess."""
        t = np.interp(theta, self._base, self.times_s)
        outside = (theta < self._base[0]) | (theta > self._base[-1])
        t = np.where(
            theta < self._base[0], self.times_s[0] + (theta - self._base[0]) / (6 * self.rpm[0]), t
        )
        t = np.where(
            theta > self._base[-1],
            self.times_s[-1] + (theta - self._base[-1]) / (6 * self.rpm[-1]),
            t,
        )
        if max((a * o for a, o, _ in self.ripple), default=0.0) > MILD:
            # So strong a ripple throws Newton's steps about: begin beside the answer.
            grid = np.linspace(self.times_s[0], self.times_s[-1], len(self.times_s) * FINE)
            near = np.interp(theta, self.angle(grid), grid)
            t = np.where(outside, t, near)
        for _ in range(40):
            step = (self.angle(t) - theta) / self.speed(t)
            t = t - step
            if step.size == 0 or np.max(np.abs(np.where(outside, 0, step))) < 1e-13:
                break
        return t


def motion_for(book: EngineBook, conditions: Conditions, rng: np.random.Generator) -> Motion:
    """Draw the phases of a run: where the crank starts and how it wanders."""
    knots = np.arange(-0.2, conditions.seconds + 0.2 + KNOT_S, KNOT_S)
    start, phases = float(rng.uniform(0, 720)), rng.uniform(0, 2 * np.pi, 4)
    if conditions.course:
        course = np.array(conditions.course)
        rpm = np.interp(knots, course[:, 0], course[:, 1])
    else:
        rpm = np.full(len(knots), conditions.rpm)
    rpm = rpm * (1 + conditions.wander * np.cos(2 * np.pi * 0.23 * knots + phases[0]))
    firing = book.cylinders / 2
    ripple = [
        (conditions.firing_ripple_deg, firing, float(phases[1])),
        (conditions.half_order_deg, 0.5, float(phases[2])),
    ]
    ripple += _brakes(conditions.brakes, float(phases[3]))
    if conditions.surge:
        ripple.append((float(np.degrees(conditions.surge / firing)), firing, float(phases[3])))
    return Motion(knots, rpm, start, tuple(ripple))


def _brakes(shares: tuple[float, ...], phase: float) -> list[tuple[float, float, float]]:
    """Ripple of compressions that brake unequally: each slows the crank over its own part of the
    cycle as a raised cosine; as a Fourier series over the cycle, (amplitude°, order, phase) each.
    """
    count = len(shares)
    if not count:
        return []
    place = np.arange(720) / 720.0
    slowed = np.zeros(720)
    for i, share in enumerate(shares):
        away = (place - i / count + 0.5) % 1.0 - 0.5
        near = np.abs(away) < 0.5 / count
        slowed -= np.where(near, share * (0.5 + 0.5 * np.cos(2 * np.pi * count * away)) * 2, 0.0)
    series = np.fft.rfft(slowed - slowed.mean()) / 720
    found: list[tuple[float, float, float]] = []
    for k in range(1, 3 * count + 1):
        size, order = 2 * abs(series[k]), k / 2
        if size > 1e-4:
            # The speed follows a cosine, so the angle follows a sine.
            shift = float(np.angle(series[k])) + phase * k
            found.append((float(np.degrees(size / order)), order, shift))
    return found
