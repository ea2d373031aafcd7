"""Sensor signals of an engine with known hidden faults.

Cam lateness comes from the chain laid out pin by pin (``drive.placement``). Each wheel's events are
put where the true crank angle reaches them, and drawn with the sensor's own shape: a Gaussian step
for a Hall sensor, the slope of a Gaussian bump, as tall as the speed, for a reluctor.
"""

import math

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, ToneWheel, VaneWheel
from flaneur.core.book.wheels import cam_events_deg, crank_events_deg, crank_teeth_deg
from flaneur.core.faults.model import Faults
from flaneur.core.gauss import cdf
from flaneur.core.signals.capture import Capture
from flaneur.simulation.motion import Conditions, Motion, motion_for
from flaneur.simulation.placement import placed_state

Floats = NDArray[np.float64]
RISE_TO_SIGMA = 2.5631031310892007  # 10-90 % width of a Gaussian step in its standard deviations
PULSE_PEAK = math.exp(0.5)  # brings −u·exp(−u²/2) to a peak of one


def true_deviation_deg(book: EngineBook, faults: Faults) -> dict[str, float]:
    """What a perfect reading of each cam would be: drive, phaser and both tone wheels, crank
    degrees late.
    """
    state = placed_state(book, faults)
    crank = faults.tone_wheel_offset_deg.get(book.crank_wheel_key or "", 0.0)
    result: dict[str, float] = {}
    for key, wheel in book.tone_wheels.items():
        if wheel.kind == "vanes":
            phaser = book.phaser_of(wheel.shaft)
            offset = faults.phaser_offset_deg.get(phaser, 0.0) if phaser else 0.0
            own = faults.tone_wheel_offset_deg.get(key, 0.0)
            result[wheel.shaft] = state.deviation_deg[wheel.shaft] + offset + own - crank
    return result


def draw_steps(
    edges_s: Floats,
    rising: NDArray[np.bool_],
    samples: int,
    rate: float,
    sigma_s: float,
    levels: tuple[float, float],
) -> NDArray[np.float32]:
    """Voltage of a square sensor with Gaussian-step edges at ``edges_s`` (sorted), shape
    (samples,).
    """
    low, high = levels
    order = np.argsort(edges_s)
    edges_s, rising = edges_s[order], rising[order]
    level = np.full(samples, high if (len(rising) and not rising[0]) else low, dtype=np.float32)
    starts = np.clip(np.ceil(edges_s * rate).astype(np.int64), 0, samples)
    bounds = np.append(starts, samples)
    for i in range(len(starts)):
        level[bounds[i] : bounds[i + 1]] = high if rising[i] else low
    reach = int(np.ceil(6 * sigma_s * rate)) + 1
    index = (
        np.round(edges_s * rate).astype(np.int64)[:, None] + np.arange(-reach, reach + 1)[None, :]
    )
    inside = (index >= 0) & (index < samples)
    offset = index / rate - edges_s[:, None]
    # What the Gaussian step differs from the sharp one; differences add up where edges crowd.
    shape: Floats = cdf(offset / sigma_s) - (index >= starts[:, None])
    shape = np.where(rising[:, None], shape, -shape) * (high - low)
    np.add.at(level, index[inside], shape[inside].astype(np.float32))
    return level


def draw_pulses(
    times_s: Floats, width_s: Floats, peak_v: Floats, samples: int, rate: float
) -> NDArray[np.float32]:
    """Voltage of a reluctor: −peak·√e·u·exp(−u²/2) about each time, u in pulse half widths; pulses
    add up.
    """
    level = np.zeros(samples, dtype=np.float32)
    if len(times_s) == 0:
        return level
    reach = np.ceil(5 * width_s * rate).astype(np.int64)
    centre = np.round(times_s * rate).astype(np.int64)
    for size in np.unique(reach).tolist():
        pick = reach == size
        index = centre[pick][:, None] + np.arange(-size, size + 1, dtype=np.int64)[None, :]
        u: Floats = (index / rate - times_s[pick][:, None]) / width_s[pick][:, None]
        value: NDArray[np.float32] = (
            -PULSE_PEAK * peak_v[pick][:, None] * u * np.exp(-0.5 * u * u)
        ).astype(np.float32)
        inside = (index >= 0) & (index < samples)
        np.add.at(level, index[inside], value[inside])
    return level


def draw_wheel(
    book: EngineBook,
    wheel: ToneWheel,
    theta: Floats,
    rising: NDArray[np.bool_],
    motion: Motion,
    samples: int,
    rate: float,
    delay_us: float = 0.0,
) -> NDArray[np.float32]:
    """One noiseless channel from the crank angles of its events, whatever its sensor, which answers
    so much later.
    """
    times = motion.times(theta) + 1e-6 * delay_us
    if wheel.sensor == "hall":
        sigma = book.signals.edge_rise_us * 1e-6 / RISE_TO_SIGMA
        return draw_steps(
            times, rising, samples, rate, sigma, (book.signals.low_v, book.signals.high_v)
        )
    speed = motion.speed(times)
    return draw_pulses(
        times, wheel.pulse_deg / speed, wheel.volts_per_krpm * speed / 6000.0, samples, rate
    )


def crank_theta(
    book: EngineBook, slip_deg: float, errors_deg: tuple[float, ...], span: tuple[float, float]
) -> tuple[Floats, NDArray[np.bool_]]:
    """Crank angles of all events of the crank wheel from ``span[0]`` to ``span[1]``, and their
    directions.

    ``errors_deg`` are the wheel's own tooth errors, one per tooth or none.
    """
    wheel = book.crank_wheel
    turns: Floats = (
        np.arange(math.floor(span[0] / 360) - 1, math.ceil(span[1] / 360) + 1, dtype=np.float64)[
            :, None
        ]
        * 360.0
    )
    own = np.array(errors_deg) if errors_deg else 0.0
    if wheel.sensor == "vr":
        theta = (turns + slip_deg + np.array(crank_events_deg(wheel)) + own).ravel()
        return theta, np.ones(theta.size, bool)
    teeth = np.array(crank_teeth_deg(wheel))
    theta = np.concatenate([(turns + slip_deg + teeth[:, k] + own).ravel() for k in (0, 1)])
    return theta, np.arange(theta.size) < theta.size // 2


def cam_theta(
    wheel: VaneWheel, late_deg: Floats, cycles: Floats
) -> tuple[Floats, NDArray[np.bool_]]:
    """Crank angles of a cam wheel's events over ``cycles`` (whole numbers), ``late_deg`` later in
    each.
    """
    events = cam_events_deg(wheel)
    theta = ((cycles * 720.0 + late_deg)[:, None] + np.array([a for a, _ in events])).ravel()
    return theta, np.tile(np.array([r for _, r in events]), cycles.size)


def phaser_late_deg(book: EngineBook, cam: str, command_deg: dict[str, float]) -> float:
    """How much later a commanded phaser puts its cam (negative when it moves towards advance)."""
    phaser = book.phaser_of(cam)
    if phaser is None or phaser not in command_deg:
        return 0.0
    return book.phasers[phaser].late_sign * command_deg[phaser]


def synthesise(
    book: EngineBook,
    faults: Faults,
    conditions: Conditions,
    rng: np.random.Generator,
    motion: Motion | None = None,
) -> Capture:
    """A capture of every tone wheel of ``book`` with these hidden faults. Channels are named as in
    the book.
    """
    motion = motion or motion_for(book, conditions, rng)
    samples, rate = round(conditions.seconds * conditions.rate_hz), conditions.rate_hz
    start, end = (float(v) for v in motion.angle(np.array([0.0, conditions.seconds])))
    deviation = true_deviation_deg(book, faults)
    slip = faults.tone_wheel_offset_deg.get(book.crank_wheel_key or "", 0.0)
    channels: dict[str, NDArray[np.float32]] = {}
    for wheel in book.tone_wheels.values():
        if isinstance(wheel, VaneWheel):
            cycles: Floats = np.arange(
                math.floor(start / 720) - 1, math.ceil(end / 720) + 1, dtype=np.float64
            )
            late = np.full(
                cycles.size,
                deviation[wheel.shaft]
                + slip
                + phaser_late_deg(book, wheel.shaft, conditions.phaser_command_deg),
            )
            if conditions.cycle_scatter_deg:
                late = late + rng.normal(0.0, conditions.cycle_scatter_deg, cycles.size)
            if conditions.settling_deg:
                reached = np.maximum(motion.times(cycles * 720.0 + 360.0), 0.0)
                late = late + conditions.settling_deg * np.exp(-reached / conditions.settling_s)
            if wheel.shaft in conditions.moves_deg:
                knots = np.array(conditions.moves_deg[wheel.shaft])
                when = motion.times(cycles * 720.0 + 360.0)
                late = late + np.interp(when, knots[:, 0], knots[:, 1])
            if conditions.wander_deg:
                late = late + _wander(cycles.size, conditions, rng)
            theta, rising = cam_theta(wheel, late, cycles)
        else:
            theta, rising = crank_theta(book, slip, conditions.crank_tooth_deg, (start, end))
        keep = (theta > start - 30) & (theta < end + 30)
        late_us = conditions.delay_us.get(wheel.channel, 0.0)
        x = draw_wheel(book, wheel, theta[keep], rising[keep], motion, samples, rate, late_us)
        channels[wheel.channel] = _wired(x, wheel, conditions, book, rng)
    return Capture(rate, channels, source="simulated engine")


def _wander(count: int, conditions: Conditions, rng: np.random.Generator) -> Floats:
    """A slow walk that comes back, (cycles,) degrees: first-order, of so wide a spread."""
    keeps = math.exp(-1 / conditions.wander_cycles)
    steps = rng.normal(0.0, conditions.wander_deg, count)
    steps[1:] *= math.sqrt(1 - keeps**2)
    walk = np.empty(count)
    level = 0.0
    for i, step in enumerate(steps.tolist()):
        level = step if i == 0 else keeps * level + step
        walk[i] = level
    return walk


def _wired(
    x: NDArray[np.float32],
    wheel: ToneWheel,
    conditions: Conditions,
    book: EngineBook,
    rng: np.random.Generator,
) -> NDArray[np.float32]:
    """What the wiring makes of a channel: inverted, shifted, drifting, noisy."""
    name = wheel.channel
    if name in conditions.inverted:
        x = (
            np.float32(book.signals.high_v + book.signals.low_v) - x
            if wheel.sensor == "hall"
            else -x
        )
    if conditions.offset_v.get(name):
        x = x + np.float32(conditions.offset_v[name])
    if conditions.drift_v.get(name):
        swing = np.sin(2 * np.pi * 0.37 * np.arange(len(x), dtype=np.float32) / conditions.rate_hz)
        x = np.asarray(x + conditions.drift_v[name] * swing, dtype=np.float32)
    return (
        x + rng.standard_normal(len(x), dtype=np.float32) * np.float32(conditions.noise_v)
    ).astype(np.float32)
