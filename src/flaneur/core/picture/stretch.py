"""A stretch of a capture as it is drawn: volts, crank angle, speed, edges expected and found."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.signals.timeline import Timeline

Floats = NDArray[np.float64]
MOST_TEETH = 600
MOST_TURNS = 24.0  # more turns in one stretch than can show expected edges apart
KNOTS = 200


@dataclass(frozen=True)
class Look:
    """Lowest and highest volts of each channel at the times of a stretch; ``start`` and ``stop``
    are sample numbers. ``is_exact``: each time is one sample.
    """

    start: int
    stop: int
    times_s: Floats
    low: dict[str, NDArray[np.float32]]
    high: dict[str, NDArray[np.float32]]
    is_exact: bool


@dataclass(frozen=True)
class ExpectedEdge:
    """An edge as the book expects it: when, at which angle of the cycle, and whether it rises."""

    time_s: float
    deg: float
    rising: bool


@dataclass(frozen=True)
class ChannelStretch:
    """One channel: lowest and highest volts at each time, edges expected, and events found."""

    channel: str
    name: str
    short: str
    low_v: list[float]
    high_v: list[float]
    expected: list[ExpectedEdge]
    found_s: list[float]


@dataclass(frozen=True)
class Stretch:
    """A stretch of a capture. ``is_exact``: each time is one sample. Angle and speed go straight
    between their times.
    """

    start_s: float
    stop_s: float
    is_exact: bool
    times_s: list[float]
    channels: list[ChannelStretch]
    angle_s: list[float]
    theta_deg: list[float]
    rpm: list[float]


def stretch_of(
    book: EngineBook, seen: Look, rate_hz: float, known: Mapping[str, Floats]
) -> Stretch:
    """Put a stretch together. ``known`` holds crank event ``times`` and their ``theta``, and
    ``events <channel>`` of each cam channel.
    """
    start, stop = seen.start / rate_hz, (seen.stop - 1) / rate_hz
    line = Timeline(known["times"], known["theta"])
    has_line = len(line.times_s) > 2
    inside = (line.times_s >= start) & (line.times_s <= stop)
    turns = float(np.ptp(line.theta_deg[inside])) / 360 if inside.any() else 0.0
    channels: list[ChannelStretch] = []
    for key, wheel in book.tone_wheels.items():
        is_cam = wheel.kind == "vanes"
        events = known.get(f"events {wheel.channel}", np.zeros(0)) if is_cam else known["times"]
        shown = events[(events >= start) & (events <= stop)]
        may_expect = is_cam and has_line and turns < MOST_TURNS
        channels.append(
            ChannelStretch(
                wheel.channel,
                wheel.name,
                book.wheel_name(key),
                _volts(seen.low[wheel.channel]),
                _volts(seen.high[wheel.channel]),
                _expected(line, book, wheel.channel, start, stop) if may_expect else [],
                shown.tolist() if len(shown) <= MOST_TEETH else [],
            )
        )
    knots = np.linspace(start, stop, KNOTS) if has_line else np.zeros(0)
    if has_line:
        knots = knots[(knots >= line.times_s[0]) & (knots <= line.times_s[-1])]
    return Stretch(
        start,
        stop,
        seen.is_exact,
        seen.times_s.tolist(),
        channels,
        knots.tolist(),
        line.theta(knots).tolist() if has_line else [],
        np.round(line.rpm(knots), 1).tolist() if has_line else [],
    )


def _volts(values: NDArray[np.float32]) -> list[float]:
    return np.round(values.astype(np.float64), 4).tolist()


def _expected(
    line: Timeline, book: EngineBook, channel: str, start: float, stop: float
) -> list[ExpectedEdge]:
    times, degs, rising = line.expected(book, channel, start, stop)
    return [
        ExpectedEdge(float(t), float(d), r) for t, d, r in zip(times, degs, rising, strict=True)
    ]
