"""Running hours or distance of an engine, whose meter may have been replaced."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

LEAST_DAYS = 60  # fewer say nothing of how much an engine runs


class Meter(StrEnum):
    """What an engine's age is counted in."""

    HOURS = "h"
    KILOMETRES = "km"


@dataclass(frozen=True)
class Reading:
    """What the meter showed on a day; ``is_new_meter``: the first reading of another meter."""

    value: float
    on: date
    is_new_meter: bool = False


def total(readings: Sequence[Reading]) -> float | None:
    """All the engine has run, in the meter's unit, from its readings in order: what each meter ran
    while it was on, the first from nought. None where nothing was read.
    """
    if not readings:
        return None
    run, first = 0.0, 0.0
    last = readings[0].value
    for reading in readings[1:]:
        if reading.is_new_meter:
            run += last - first
            first = reading.value
        last = reading.value
    return run + last - first


def a_day(readings: Sequence[Reading]) -> float | None:
    """How much an engine runs a day, in the meter's unit, from its first reading to its last. None
    where they are too near each other, or it stood.
    """
    if len(readings) < 2 or (readings[-1].on - readings[0].on).days < LEAST_DAYS:
        return None
    run = (total(readings) or 0.0) - (total(readings[:1]) or 0.0)
    return run / (readings[-1].on - readings[0].on).days if run > 0 else None


def by_now(readings: Sequence[Reading], on: date, usual_a_day: float) -> float | None:
    """What an engine has run by a day, going on as it did since its last reading; None where
    nothing was read.
    """
    run = total(readings)
    if run is None:
        return None
    pace = a_day(readings) or usual_a_day
    return run + pace * max(0, (on - readings[-1].on).days)


def fault(readings: Sequence[Reading], new: Reading) -> str:
    """What is wrong with a further reading; empty when nothing is."""
    if not readings:
        return ""
    last = readings[-1]
    if new.on < last.on:
        return f"the last reading is of {last.on.isoformat()}"
    if new.value < last.value and not new.is_new_meter:
        return f"the meter showed {last.value:g} on {last.on.isoformat()}"
    return ""


def run_words(run: float | None, meter: Meter) -> str:
    """What an engine has run, as people say it."""
    if run is None:
        return "hours unknown" if meter is Meter.HOURS else "distance unknown"
    return f"{run:,.0f} {meter}".replace(",", "\u2009") if run >= 10_000 else f"{run:g} {meter}"
