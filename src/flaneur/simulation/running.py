"""A stand-in engine that runs: frame after frame of sensor voltages, answering to throttle and
phaser commands.
"""

import zlib

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, VaneWheel
from flaneur.core.faults.model import Faults
from flaneur.simulation.motion import KNOT_S, Conditions, Motion
from flaneur.simulation.synthesis import (
    RISE_TO_SIGMA,
    cam_theta,
    crank_theta,
    draw_pulses,
    draw_steps,
    phaser_late_deg,
    true_deviation_deg,
)

Floats = NDArray[np.float64]
AHEAD_S = 0.2
BEHIND_S = 0.6
CRANKING_S = 0.9
CRANKING_RPM = 210.0
RATTLE_S = 1.6
PHASER_DEG_S = 60.0


class RunningEngine:
    """An engine from the turn of the key on. Speeds and angles follow their commands with the lag
    an engine has.
    """

    def __init__(
        self, book: EngineBook, faults: Faults, rate_hz: float, cold: bool, seed: str
    ) -> None:
        self.book, self.rate_hz, self.cold = book, rate_hz, cold
        self.seed = zlib.crc32(seed.encode())
        self.rng = np.random.default_rng(self.seed)
        self.rattle_deg = faults.cold_rattle_deg if cold else 0.0
        self.late_deg = true_deviation_deg(book, faults)
        self.slip_deg = faults.tone_wheel_offset_deg.get(book.crank_wheel_key or "", 0.0)
        self.stuck = {k for k, v in faults.phaser_offset_deg.items() if v}
        self.share = faults.phaser_rate
        self.samples = 0
        self.hold_rpm: float | None = None
        self.wanted_deg = dict.fromkeys(book.phasers, 0.0)
        self.times = np.array([-BEHIND_S])
        self.rpm = np.array([CRANKING_RPM if cold else book.signals.idle_rpm])
        self.start_deg = float(self.rng.uniform(0, 720))
        self.phaser_deg = {k: np.zeros(1) for k in book.phasers}
        self.ripple = tuple(
            (a, o, float(self.rng.uniform(0, 6.28)))
            for a, o in ((0.35, book.cylinders / 2), (0.15, 0.5))
        )

    def command(
        self, rpm: float | None = None, idle: bool = False, phasers: dict[str, float] | None = None
    ) -> None:
        """Hold a speed, let it fall back to idle, or command phasers to angles away from park
        (crank degrees).
        """
        if idle:
            self.hold_rpm = None
        elif rpm is not None:
            self.hold_rpm = float(min(max(rpm, 400.0), 6500.0))
        for key, deg in (phasers or {}).items():
            if key in self.wanted_deg:
                self.wanted_deg[key] = float(min(max(deg, 0.0), self.book.phasers[key].range_deg))

    def _target(self, t: float) -> float:
        if self.cold and t < CRANKING_S:
            return CRANKING_RPM
        if self.hold_rpm is not None:
            return self.hold_rpm
        fast_idle = 1.35 if self.cold else 1.0
        return self.book.signals.idle_rpm * (
            1 + (fast_idle - 1) * float(np.exp(-max(0.0, t - CRANKING_S) / 12))
        )

    def _run_to(self, t_end: float) -> None:
        """Extend speed and phaser angles in knots of 20 ms; forget what no frame can still need."""
        times, rpm = list(self.times), list(self.rpm)
        angles = {k: list(v) for k, v in self.phaser_deg.items()}
        while times[-1] < t_end:
            t = times[-1] + KNOT_S
            gap = self._target(t) - rpm[-1]
            rpm.append(rpm[-1] + gap * (1 - np.exp(-KNOT_S / (0.35 if gap > 0 else 0.9))))
            times.append(t)
            for key, deg in angles.items():
                step = PHASER_DEG_S * self.share.get(key, 1.0) * KNOT_S
                wanted = deg[-1] if key in self.stuck else self.wanted_deg[key]
                deg.append(deg[-1] + min(max(wanted - deg[-1], -step), step))
        self.times, self.rpm = np.array(times), np.array(rpm)
        self.phaser_deg = {k: np.array(v) for k, v in angles.items()}
        old = int(np.searchsorted(self.times, self.samples / self.rate_hz - BEHIND_S)) - 1
        if old > 50:
            self.start_deg = float(
                Motion(self.times, self.rpm, self.start_deg, ()).base(self.times[old : old + 1])[0]
            )
            self.times, self.rpm = self.times[old:], self.rpm[old:]
            self.phaser_deg = {k: v[old:] for k, v in self.phaser_deg.items()}

    def frame(self, seconds: float) -> dict[str, NDArray[np.float32]]:
        """Volts of every channel over the next ``seconds``; frames join without a seam."""
        count = round(seconds * self.rate_hz)
        begin = self.samples / self.rate_hz
        end = begin + count / self.rate_hz
        self._run_to(end + AHEAD_S)
        motion = Motion(self.times, self.rpm, self.start_deg, self.ripple)
        span = tuple(
            float(v) for v in motion.angle(np.array([max(self.times[0], begin - 0.1), end + 0.1]))
        )
        channels: dict[str, NDArray[np.float32]] = {}
        for wheel in self.book.tone_wheels.values():
            if isinstance(wheel, VaneWheel):
                cycles = np.arange(np.floor(span[0] / 720) - 1, np.ceil(span[1] / 720) + 1)
                theta, rising = cam_theta(wheel, self._late(wheel, cycles, motion), cycles)
            else:
                theta, rising = crank_theta(self.book, self.slip_deg, (), (span[0], span[1]))
            keep = (theta > span[0]) & (theta < span[1])
            theta, rising = theta[keep], rising[keep]
            at = motion.times(theta)
            if wheel.sensor == "hall":
                sigma = self.book.signals.edge_rise_us * 1e-6 / RISE_TO_SIGMA
                x = draw_steps(
                    at - begin,
                    rising,
                    count,
                    self.rate_hz,
                    sigma,
                    (self.book.signals.low_v, self.book.signals.high_v),
                )
            else:
                speed = motion.speed(at)
                x = draw_pulses(
                    at - begin,
                    wheel.pulse_deg / speed,
                    wheel.volts_per_krpm * speed / 6000.0,
                    count,
                    self.rate_hz,
                )
            noise = self.rng.standard_normal(count, dtype=np.float32) * np.float32(
                Conditions.noise_v
            )
            channels[wheel.channel] = np.asarray(x + noise, dtype=np.float32)
        self.samples += count
        return channels

    def _late(self, wheel: VaneWheel, cycles: Floats, motion: Motion) -> Floats:
        """Lateness of a cam in each cycle: its drive, its phaser as it stands then, cold rattle,
        and a cycle's own scatter.
        """
        reached = np.interp(cycles * 720 + 360, motion.angle(self.times), self.times)
        late = np.full(len(cycles), self.late_deg[wheel.shaft] + self.slip_deg)
        key = self.book.phaser_of(wheel.shaft)
        if key is not None:
            sign = phaser_late_deg(self.book, wheel.shaft, {key: 1.0})
            late = late + sign * np.interp(reached, self.times, self.phaser_deg[key])
        dying = self.rattle_deg * np.exp(-np.maximum(reached - CRANKING_S, 0.0) / RATTLE_S)
        own = [
            np.random.default_rng(
                [self.seed, zlib.crc32(wheel.channel.encode()), int(c) + 10]
            ).standard_normal()
            for c in cycles
        ]
        return (
            late
            + dying
            + np.array(own)
            * (0.12 + 0.4 * dying / max(self.rattle_deg, 1e-9) * min(self.rattle_deg, 2.0))
        )
