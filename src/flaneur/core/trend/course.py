"""The course of an engine: what was read of each of its parts, how far it is worn now, how it goes
on, and when the first of them comes to its limit.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from pydantic import Field

from flaneur.core.book.schema import EngineBook
from flaneur.core.trend.fleet import Spread, law
from flaneur.core.trend.forecast import (
    SOON_H,
    Between,
    Trend,
    TrendModel,
    draws_for,
    seen_on,
)
from flaneur.core.trend.growth import Draws, followed, grown
from flaneur.core.trend.lessons import How, Lesson
from flaneur.core.trend.lives import Fleet, Life, WearPart, WearReading, wear_parts

DRAWS = 2000  # enough for a picture and a rank; ``flaneur trend`` takes more
PAST, AHEAD = 8, 12  # points of the picture before and after now
FARTHEST = 1.15  # of the hours at which the limit is met: how far the picture goes


@dataclass(frozen=True)
class Traced:
    """A part's life in an engine, and at how many hours of the engine it began; ``hows``: how each
    of its readings is known.
    """

    life: Life
    since: float
    hows: tuple[How, ...]


class CoursePoint(TrendModel):
    """Wear at so many hours of the engine: middle, and 90 % of it."""

    hours: float
    low: float
    middle: float
    high: float


class CourseReading(TrendModel):
    """What was read of a part at so many hours of the engine, give or take ``stderr``."""

    hours: float
    value: float
    stderr: float
    how: How


class PartCourse(TrendModel):
    """One part: its trend, since which hour of the engine it is in, what was read, and the course
    before and after now. ``at_limit_hours`` are the engine's.
    """

    trend: Trend
    since: float
    at_limit_hours: Between
    read: list[CourseReading]
    points: list[CoursePoint]


class EngineCourse(TrendModel):
    """All parts of an engine at so many of its hours, the likeliest to come to its limit first.
    ``risk``: that any of them is over its limit within SOON_H hours, ``fails``: that the engine
    fails by one of them.
    """

    engine: str
    hours: float
    parts: list[PartCourse]
    risk: float = Field(ge=0, le=1)
    fails: float = Field(ge=0, le=1)


def traced(
    book: EngineBook, engine: str, lessons: Sequence[Lesson], hours_now: float | None
) -> list[Traced]:
    """Lives of an engine's parts, of what its closed jobs teach in their order. A renewed part
    starts anew; jobs at unknown hours, or at fewer than the one before, say nothing.
    """
    last = max([hours_now or 0.0, *(lesson.hours or 0.0 for lesson in lessons)])
    return [
        life for part in wear_parts(book) for life in _lives_of_part(engine, part, lessons, last)
    ]


def _lives_of_part(
    engine: str, part: str, lessons: Sequence[Lesson], hours_now: float
) -> list[Traced]:
    found: list[Traced] = []
    since, before, read = 0.0, 0.0, list[tuple[WearReading, How]]()

    def ended(hours: float, is_over: bool) -> Traced:
        readings = [reading for reading, _ in read]
        life = Life(
            engine=engine, part=part, hours=hours - since, readings=readings, is_over=is_over
        )
        return Traced(life, since, tuple(how for _, how in read))

    for lesson in lessons:
        if lesson.hours is None or lesson.hours < before:
            continue
        # Put in elsewhere meanwhile: what was read of the part before it tells of another.
        put_in = lesson.put_in.get(part, 0.0)
        if max(since, before) < put_in <= lesson.hours:
            found.append(ended(put_in, is_over=True))
            since, read = put_in, []
        before = lesson.hours
        own = lesson.hours - since
        read += [
            (WearReading(hours=own, value=max(note.value, -1.0), stderr=note.stderr), note.how)
            for note in lesson.wear
            if note.part == part and own > 0
        ]
        if part in lesson.renewed:
            found.append(ended(lesson.hours, is_over=True))
            since, read = lesson.hours, []
    return [*found, ended(max(hours_now, before), is_over=False)]


def course_of(
    book: EngineBook,
    lives: Sequence[Traced],
    spreads: Mapping[str, Spread],
    fleet: Fleet,
    seed: int = 0,
) -> EngineCourse:
    """The course of one engine's parts that are in it now. Lives that are over only told of how
    parts wear. Raises ValueError where no part is.
    """
    parts = wear_parts(book)
    now = [one for one in lives if not one.life.is_over]
    if not now:
        raise ValueError("a course of no part")
    courses = [
        _course(parts[t.life.part], t, spreads[parts[t.life.part].kind], fleet, seed) for t in now
    ]
    far = float("inf")
    courses.sort(key=lambda c: (-c.trend.risk, c.at_limit_hours.middle or far))
    return EngineCourse(
        engine=now[0].life.engine,
        hours=max(t.since + t.life.hours for t in now),
        parts=courses,
        risk=1 - float(np.prod([1 - c.trend.risk for c in courses])),
        fails=1 - float(np.prod([1 - c.trend.fails for c in courses])),
    )


def _course(part: WearPart, one: Traced, spread: Spread, fleet: Fleet, seed: int) -> PartCourse:
    rng = draws_for(one.life, seed)
    draws = followed(part, one.life, spread, rng, DRAWS)
    trend = seen_on(part, one.life, draws, fleet, rng)
    met = trend.at_limit_hours
    return PartCourse(
        trend=trend,
        since=one.since,
        at_limit_hours=Between(
            **{k: None if v is None else v + one.since for k, v in met.model_dump().items()}
        ),
        read=[
            CourseReading(hours=one.since + r.hours, value=r.value, stderr=r.stderr, how=how)
            for r, how in zip(one.life.readings, one.hows, strict=True)
        ],
        points=_points(part, one, draws, met.middle, rng),
    )


def _points(
    part: WearPart, one: Traced, draws: Draws, limit_at: float | None, rng: np.random.Generator
) -> list[CoursePoint]:
    """The course before now by the law of the draws that are left, and after it by their growth."""
    found = [CoursePoint(hours=one.since, low=0.0, middle=0.0, high=0.0)]
    for hours in np.linspace(0, one.life.hours, PAST + 1)[1:-1]:
        wear = law(part, draws.log_f, draws.shape, float(hours))
        found.append(_point(one.since + float(hours), wear))
    found.append(_point(one.since + one.life.hours, draws.wear))
    far = max(FARTHEST * (limit_at or part.wear.typical_hours), one.life.hours + 2 * SOON_H)
    for hours in np.linspace(one.life.hours, far, AHEAD + 1)[1:]:
        draws = grown(part, draws, float(hours), rng)
        found.append(_point(one.since + float(hours), draws.wear))
    return found


def _point(hours: float, wear: np.ndarray) -> CoursePoint:
    low, middle, high = (float(v) for v in np.quantile(wear, [0.05, 0.5, 0.95]))
    return CoursePoint(hours=hours, low=low, middle=middle, high=high)
