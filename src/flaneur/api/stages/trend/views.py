"""The fleet: which engines come next, how one goes on, and how far readings can be trusted."""

from datetime import date

from flask import Blueprint
from spectree import Response

from flaneur.api.models import ErrorOut
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.trend.models import (
    EngineTrendOut,
    FleetLineOut,
    FleetOut,
    LimitDays,
    PartOut,
    TrendJob,
)
from flaneur.api.work import database, queue
from flaneur.core.record.bounds import printable
from flaneur.core.trend.ahead import ahead_words, day_at, fleet_words
from flaneur.core.trend.calibration import Calibration
from flaneur.core.trend.course import PartCourse
from flaneur.jobs import fleet as jobs
from flaneur.store.database import transaction
from flaneur.store.queue import ask_for_trends

blueprint = Blueprint("trend", __name__)
KEY = "int(max=2147483647)"


@blueprint.get("/api/fleet")
@checked(resp=Response(HTTP_200=FleetOut))
def fleet() -> FleetOut:
    """Every engine at work, the dearest to leave first. Where something changed since, courses are
    worked out anew beside it.
    """
    with transaction(database()) as session:
        found = jobs.look_at_fleet(session)
        currency = shop_of(session).currency
    is_working = found.is_old or found.untaught > 0
    if is_working:
        ask_for_trends(queue())
    return FleetOut(
        headline=fleet_words([line.ahead for line in found.lines if line.ahead]),
        engines=[_line(line) for line in found.lines],
        currency=currency,
        is_working=is_working,
    )


def _line(line: jobs.FleetLine) -> FleetLineOut:
    ahead = line.ahead
    return FleetLineOut(
        engine_id=line.engine.id or 0,
        number=line.engine.number,
        tag=line.unit.tag if line.unit else "",
        unit=line.unit.name if line.unit else "",
        book=line.book,
        hours=ahead.hours if ahead else None,
        a_day=ahead.a_day if ahead else None,
        is_paced=bool(ahead and ahead.is_paced),
        part=ahead.name if ahead else "",
        words=line.words,
        risk=ahead.risk if ahead else None,
        fails=ahead.fails if ahead else None,
        is_over=bool(ahead and ahead.is_over),
        cost=line.cost,
        limit_on=_days(*line.limit_on),
        limit_h=ahead.limit_h if ahead else None,
        look_on=line.look_on,
        look_at_h=ahead.look_at_h if ahead else None,
        readings=ahead.readings if ahead else 0,
        comebacks=line.comebacks,
    )


def _days(low: date | None, middle: date | None, high: date | None) -> LimitDays:
    return LimitDays(low=low, middle=middle, high=high)


@blueprint.get(f"/api/engines/<{KEY}:engine_id>/trend")
@checked(resp=Response(HTTP_200=EngineTrendOut, HTTP_404=ErrorOut))
def engine_trend(engine_id: int) -> EngineTrendOut:
    """How one engine goes on, as it was worked out last."""
    with transaction(database()) as session:
        found = jobs.look_at_engine(session, engine_id)
        if found.is_old:
            ask_for_trends(queue())
        ahead = found.ahead
        return EngineTrendOut(
            engine_id=engine_id,
            number=found.engine.number,
            unit_id=found.unit.id if found.unit else None,
            tag=found.unit.tag if found.unit else "",
            unit=found.unit.name if found.unit else "",
            book=found.book.name,
            hours=ahead.hours if ahead else None,
            a_day=ahead.a_day if ahead else None,
            is_paced=bool(ahead and ahead.is_paced),
            words=ahead_words(ahead) if ahead else jobs.NOTHING_FORESEEN,
            look_on=day_at(ahead.look_at_h, ahead.hours, ahead.a_day, found.today)
            if ahead
            else None,
            look_at_h=ahead.look_at_h if ahead else None,
            parts=[_part(c, found) for c in (found.course.parts if found.course else [])],
            jobs=[
                TrendJob(
                    id=job.id or 0,
                    number=job.number,
                    opened_at=job.opened_at,
                    complaint=printable(str(job.intake.get("complaint", "")), 400),
                    is_signed=job.signed_at is not None,
                    is_comeback=job.comeback_of_id is not None,
                )
                for job in found.jobs
            ],
            is_working=found.is_old,
        )


def _part(course: PartCourse, found: jobs.EngineLook) -> PartOut:
    at, ahead = course.at_limit_hours, found.ahead
    assert ahead is not None  # a course is kept with what it shows in short
    days = (day_at(h, ahead.hours, ahead.a_day, found.today) for h in (at.low, at.middle, at.high))
    return PartOut(course=course, limit_on=_days(*days))


@blueprint.get("/api/fleet/calibration")
@checked(resp=Response(HTTP_200=Calibration))
def fleet_calibration() -> Calibration:
    """What the shop said against what it found, over all jobs signed here."""
    with transaction(database()) as session:
        return jobs.look_at_calibration(session)
