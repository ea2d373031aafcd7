"""What crosses the network here: one model a message."""

from datetime import date, datetime

from flaneur.api.models import Out
from flaneur.core.trend.course import PartCourse


class LimitDays(Out):
    """Days on which a limit is met: 5, 50 and 95 %; None past what is foreseen."""

    low: date | None
    middle: date | None
    high: date | None


class FleetLineOut(Out):
    """One engine of the fleet. Odds are 0 to 1, within a thousand hours; ``cost`` is what those are
    expected to cost if nothing is done. Figures are None where its hours are not known.
    """

    engine_id: int
    number: str
    tag: str
    unit: str
    book: str
    hours: float | None
    a_day: float | None
    is_paced: bool
    part: str
    words: str
    risk: float | None
    fails: float | None
    is_over: bool
    cost: float
    limit_on: LimitDays
    limit_h: float | None
    look_on: date | None
    look_at_h: float | None
    readings: int
    comebacks: int


class FleetOut(Out):
    """Engines at work, the dearest to leave first. ``is_working``: what is shown is worked out
    anew just now.
    """

    headline: str
    engines: list[FleetLineOut]
    currency: str
    is_working: bool


class PartOut(Out):
    """The course of one part, with the days on which its limit is met."""

    course: PartCourse
    limit_on: LimitDays


class TrendJob(Out):
    """A job of the engine; ``is_comeback``: of one that was signed before it."""

    id: int
    number: str
    opened_at: datetime
    complaint: str
    is_signed: bool
    is_comeback: bool


class EngineTrendOut(Out):
    """How an engine goes on: its parts, the likeliest to come to its limit first, and its jobs."""

    engine_id: int
    number: str
    unit_id: int | None
    tag: str
    unit: str
    book: str
    hours: float | None
    a_day: float | None
    is_paced: bool
    words: str
    look_on: date | None
    look_at_h: float | None
    parts: list[PartOut]
    jobs: list[TrendJob]
    is_working: bool
