"""What the control unit of an engine with known hidden faults would log."""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.phasers.drivelog import DriveLog, FaultCode, correlation_code, performance_code
from flaneur.core.phasers.response import expected_response, follow
from flaneur.core.phasers.sweep import Command
from flaneur.simulation.synthesis import true_deviation_deg

Floats = NDArray[np.float64]
OIL = {"hot": (92.0, 290.0), "cold": (18.0, 430.0)}
HUNTING_HZ = 1.1


def simulate_log(
    book: EngineBook,
    faults: Faults,
    commands: Sequence[Command],
    seconds: float,
    rate_hz: float,
    oil: Literal["hot", "cold"],
    rng: np.random.Generator,
) -> DriveLog:
    """A log of every phaser at idle. A relearned base hides lateness; a base never relearned shows
    it as an angle off park.
    """
    times = (np.arange(int(seconds * rate_hz), dtype=np.float64) + 0.5) / rate_hz
    fine = np.arange(0.0, seconds, 0.01)
    oil_c, oil_kpa = OIL[oil]
    pressure = oil_kpa * faults.oil_pressure_share
    late = true_deviation_deg(book, faults)
    command_deg: dict[str, Floats] = {}
    actual_deg: dict[str, Floats] = {}
    for key, phaser in book.phasers.items():
        steps = [
            (c.at_s, c.deg)
            for c in sorted((c for c in commands if c.phaser == key), key=lambda c: c.at_s)
        ]
        command = np.zeros(len(fine))
        for at, deg in steps:
            command[fine >= at] = deg
        expected = expected_response(phaser, oil_c, pressure)
        share, rest = faults.phaser_rate.get(key, 1.0), faults.phaser_park_deg.get(key, 0.0)
        targets = [(at, deg if deg > 0 else rest) for at, deg in steps]
        true = follow(
            fine,
            targets,
            expected.dead_time_s,
            expected.rate_out_deg_s * share,
            expected.rate_back_deg_s * share,
            rest,
        )
        held = command > 0
        true = true + np.where(
            held,
            faults.phaser_hunting_deg.get(key, 0.0) * np.sin(2 * np.pi * HUNTING_HZ * fine),
            0.0,
        )
        true = true + faults.phaser_drift_deg_s.get(key, 0.0) * _time_held(fine, command)
        away = phaser.late_sign
        stuck = faults.phaser_offset_deg.get(key)
        if stuck:
            true = np.full(len(fine), away * stuck)
        # The control unit counts away from park; lateness of the drive shifts it unless the base
        # was learned with it in.
        lateness = away * (late[phaser.shaft] - (stuck or 0.0))
        shown = true + (0.0 if faults.base_relearned else lateness)
        command_deg[key] = np.interp(times, fine, command).round(1)
        actual_deg[key] = (np.interp(times, fine, shown) + rng.normal(0, 0.12, len(times))).round(2)
    rpm = book.signals.idle_rpm * (1.0 if oil == "hot" else 1.25) + rng.normal(0, 6, len(times))
    return DriveLog(
        times.round(4),
        rpm.round(0),
        (oil_c + rng.normal(0, 0.2, len(times))).round(1),
        (pressure + rng.normal(0, 3, len(times))).round(0),
        command_deg,
        actual_deg,
        tuple(stored_codes(book, faults)),
        faults.base_relearned,
        source="simulated vehicle link",
    )


def _time_held(fine: Floats, command: Floats) -> Floats:
    """Seconds since the command was last changed, while it is away from park."""
    changed = np.concatenate([[0], np.flatnonzero(np.diff(command) != 0) + 1])
    last = changed[np.searchsorted(changed, np.arange(len(fine)), side="right") - 1]
    return np.where(command > 0, fine - fine[last], 0.0)


def stored_codes(book: EngineBook, faults: Faults) -> list[FaultCode]:
    """Codes such an engine would have stored: a cam off by more than twice the release tolerance, a
    phaser that does not follow.
    """
    found: list[FaultCode | None] = []
    late = true_deviation_deg(book, faults)
    for cam, deviation in late.items():
        shaft = book.shafts[cam]
        if abs(deviation) > 2 * book.limits.cam_deviation_deg and not faults.base_relearned:
            found.append(correlation_code(shaft.bank or "A", shaft.role or "intake", shaft.name))
    for key, phaser in book.phasers.items():
        shaft = book.shafts[phaser.shaft]
        poor = (
            faults.phaser_rate.get(key, 1.0) < 0.5
            or faults.phaser_offset_deg.get(key, 0.0)
            or faults.phaser_hunting_deg.get(key, 0.0) > 2
        )
        if poor:
            found.append(
                performance_code(
                    shaft.bank or "A", shaft.role or "intake", shaft.name, phaser.moves == "retard"
                )
            )
    return [c for c in found if c is not None]
