"""What a fleet's line shows of an engine: which part comes to its limit first, when, what it would
cost to go on, and when to look again.
"""

from collections.abc import Sequence
from datetime import date, timedelta

from pydantic import Field

from flaneur.core.diagnosis.wording import percent
from flaneur.core.trend.course import EngineCourse
from flaneur.core.trend.forecast import LIKELY, SOON_H, TrendModel, over_words
from flaneur.core.wording import counted

FARTHEST_DAYS = 3650


class Ahead(TrendModel):
    """An engine in short. Hours are the engine's own; ``a_day`` how many it runs, as far as its
    meter tells (``is_paced``), else as is usual.
    """

    hours: float
    a_day: float = Field(gt=0)
    is_paced: bool
    part: str
    name: str
    limit_low_h: float | None
    limit_h: float | None
    limit_high_h: float | None
    look_at_h: float
    risk: float
    fails: float
    over: float
    is_over: bool
    readings: int


def ahead_of(course: EngineCourse, a_day: float, is_paced: bool) -> Ahead:
    """An engine's course in short."""
    first = course.parts[0]
    return Ahead(
        hours=course.hours,
        a_day=a_day,
        is_paced=is_paced,
        part=first.trend.part,
        name=first.trend.name,
        limit_low_h=first.at_limit_hours.low,
        limit_h=first.at_limit_hours.middle,
        limit_high_h=first.at_limit_hours.high,
        look_at_h=course.hours + min(p.trend.look_again_in for p in course.parts),
        risk=course.risk,
        fails=course.fails,
        over=first.trend.over,
        is_over=any(p.trend.is_over for p in course.parts),
        readings=sum(p.trend.readings for p in course.parts),
    )


def cost_of_waiting(ahead: Ahead, over_limit: float, failure: float) -> float:
    """What a thousand hours more are expected to cost, in the shop's currency: to answer for a part
    over its limit, and for an engine that fails.
    """
    return ahead.risk * over_limit + ahead.fails * failure


def day_at(hours: float | None, now_h: float, a_day: float, today: date) -> date | None:
    """The day on which an engine has run so many hours; None where that is not foreseen, or past
    what a calendar is good for.
    """
    if hours is None:
        return None
    days = max(0.0, hours - now_h) / a_day
    return None if days > FARTHEST_DAYS else today + timedelta(days=round(days))


def ahead_words(ahead: Ahead) -> str:
    """The line in words."""
    if ahead.over > LIKELY:
        return f"{ahead.name}: {over_words(ahead.over)}."
    by = f"within {SOON_H:g} h {percent(ahead.risk)}"
    if ahead.limit_h is None:
        return f"{ahead.name} first, and not soon; {by} for any part."
    left = max(0.0, ahead.limit_h - ahead.hours)
    return (
        f"{ahead.name} first, at its limit in about {round(left, -1):g} h; {by} for any part, from "
        f"{counted(ahead.readings, 'reading')}."
    )


def fleet_words(every: Sequence[Ahead]) -> str:
    """What a fleet comes to, in a line."""
    if not every:
        return "Nothing can be foreseen yet"
    over = sum(one.is_over for one in every)
    soon = sum(one.risk > LIKELY and not one.is_over for one in every)
    within = f"within {SOON_H:g} h"
    if over:
        more = f", {soon} more likely {within}" if soon else ""
        return f"{counted(over, 'engine')} probably over a limit{more}"
    if soon:
        return f"{counted(soon, 'engine')} likely over a limit {within}"
    return f"No engine is likely over a limit {within}"
