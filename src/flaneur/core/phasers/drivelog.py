"""Data logged from the vehicle: slow, already worked on by the control unit, and told apart from
raw signals.
"""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from flaneur.core.errors import CaptureError

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class FaultCode:
    """A stored code: its standardised number and our own words for it."""

    number: str
    words: str


class LogKind(StrEnum):
    """A guided sweep, or any other log of the vehicle."""

    SWEEP = "sweep"
    LOG = "log"


@dataclass(frozen=True)
class DriveLog:
    """Columns of one length. Angles are crank degrees away from park, as the control unit states
    them.

    ``command_deg`` and ``actual_deg`` map phaser to its columns. ``relearned``: whether the control
    unit says it has learned its base anew, None when it does not say; ``oil_known``: whether
    temperature and pressure were logged.
    """

    times_s: Floats
    rpm: Floats
    oil_c: Floats
    oil_kpa: Floats
    command_deg: dict[str, Floats]
    actual_deg: dict[str, Floats]
    codes: tuple[FaultCode, ...] = ()
    relearned: bool | None = None
    source: str = "unknown"
    oil_known: bool = True

    def __post_init__(self) -> None:
        columns = [
            self.rpm,
            self.oil_c,
            self.oil_kpa,
            *self.command_deg.values(),
            *self.actual_deg.values(),
        ]
        if len(self.times_s) < 20:
            raise CaptureError(
                "The log is too short.",
                read=f"{len(self.times_s)} rows",
                expected="some seconds at 10 Hz or more",
            )
        if any(len(c) != len(self.times_s) for c in columns):
            raise CaptureError("The log's columns differ in length.", expected="one length for all")
        for c in (self.times_s, *columns):
            if not np.all(np.isfinite(c)):
                row = int(np.flatnonzero(~np.isfinite(c))[0])
                raise CaptureError(
                    "The log holds something that is not a number.",
                    read=f"row {row + 1}",
                    expected="a number in every row",
                )
        if not np.all(np.diff(self.times_s) > 0):
            raise CaptureError(
                "The log's time does not run forwards.", expected="rising time stamps"
            )

    @property
    def seconds(self) -> float:
        """Length of the log."""
        return float(self.times_s[-1] - self.times_s[0])

    @property
    def rate_hz(self) -> float:
        """Rows a second."""
        return (len(self.times_s) - 1) / self.seconds


CODES: dict[tuple[str, str], str] = {
    ("A", "intake"): "P0016",
    ("A", "exhaust"): "P0017",
    ("B", "intake"): "P0018",
    ("B", "exhaust"): "P0019",
}
PERFORMANCE: dict[tuple[str, str], tuple[str, str]] = {
    ("A", "intake"): ("P0011", "P0012"),
    ("A", "exhaust"): ("P0014", "P0015"),
    ("B", "intake"): ("P0021", "P0022"),
    ("B", "exhaust"): ("P0024", "P0025"),
}


def correlation_code(bank: str, role: str, name: str) -> FaultCode | None:
    """The standardised number for a crank and cam that do not agree, with our words."""
    number = CODES.get((bank, role))
    return FaultCode(number, f"Crankshaft and {name} do not agree") if number else None


def performance_code(bank: str, role: str, name: str, is_early: bool) -> FaultCode | None:
    """The standardised number for a cam that does not follow its command, too early or too late."""
    numbers = PERFORMANCE.get((bank, role))
    if numbers is None:
        return None
    return FaultCode(
        numbers[0 if is_early else 1],
        f"{name} stands {'too early' if is_early else 'too late'} for its command",
    )


def log_words(log: DriveLog) -> list[str]:
    """What must be known before a log is believed."""
    words: list[str] = []
    if log.relearned is None:
        words.append(
            "Whether the control unit has relearned its base is unknown: its “actual” may read "
            "zero on a stretched chain."
        )
    elif log.relearned:
        words.append(
            "The control unit has relearned its base: its “actual” reads from there. Raw signals "
            "are the better witness."
        )
    if not log.oil_known:
        words.append(
            "Oil temperature and pressure were not logged: how fast a sound phaser would be is "
            "unknown."
        )
    if log.rate_hz < 8:
        words.append(
            f"Logged at only {log.rate_hz:.1f} Hz: dead times cannot be told finer than "
            f"{1000 / log.rate_hz:.0f} ms."
        )
    words += [f"Stored code {c.number}: {c.words}." for c in log.codes]
    return words


HOT_C = 60.0


def oil_state(log: DriveLog) -> str:
    """Hot, cold or unknown."""
    if not log.oil_known:
        return "unknown"
    return "hot" if float(np.median(log.oil_c)) > HOT_C else "cold"


def next_sweep(has_phasers: bool, done: set[str]) -> str:
    """What to do next, after sweeps at the oil states ``done``."""
    if not has_phasers:
        return "This engine has no phasers."
    if "hot" not in done:
        return "Warm the engine to hot idle, then sweep."
    if "cold" not in done:
        return "Let it stand until cold and sweep once more: what oil does shows between the two."
    return "Hot and cold are done. Compare them; sweep again only after a change."
