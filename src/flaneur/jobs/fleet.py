"""The fleet as its pages show it: which engines come next, how one of them goes on, and how far the
shop's verdicts and readings can be trusted.
"""

from dataclasses import dataclass
from datetime import date

from sqlmodel import Session

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.rates import failure_cost
from flaneur.core.trend.ahead import Ahead, ahead_words, cost_of_waiting, day_at
from flaneur.core.trend.calibration import Calibration, calibration
from flaneur.core.trend.course import EngineCourse
from flaneur.jobs.deciding import rates_of
from flaneur.jobs.stores import today
from flaneur.store import trend as store
from flaneur.store.depot import book_of, know_books
from flaneur.store.jobs import comebacks, jobs_on
from flaneur.store.tables import EngineRow, Job, Unit
from flaneur.store.units import engine_by_id, mounted

NOTHING_FORESEEN = "Hours unknown: nothing can be foreseen."


@dataclass(frozen=True)
class FleetLine:
    """One engine of the fleet. ``cost``: what a thousand hours more are expected to cost."""

    engine: EngineRow
    unit: Unit | None
    book: str
    ahead: Ahead | None
    words: str
    cost: float
    limit_on: tuple[date | None, date | None, date | None]
    look_on: date | None
    comebacks: int


@dataclass(frozen=True)
class FleetLook:
    """Every engine at work, the dearest to leave first; those of which nothing can be said last.
    ``is_old``: something changed since it was worked out.
    """

    lines: list[FleetLine]
    is_old: bool
    untaught: int


def look_at_fleet(session: Session) -> FleetLook:
    """The fleet as it was worked out last."""
    day, rates = today(session), rates_of(session)
    mark = store.mark_of_trends(session, day.isoformat())
    short = {key: (m, Ahead.model_validate(a)) for key, m, a in store.courses_in_short(session)}
    carried = {m.engine.id: m.unit for m in mounted(session)}
    engines = store.engines_at_work(session)
    know_books(session, {row.book_id for row in engines})
    again = comebacks(session)
    lines: list[FleetLine] = []
    for row in engines:
        key, book = row.id or 0, book_of(session, row.book_id)
        ahead = short[key][1] if key in short else None
        failure = failure_cost(rates, book)
        lines.append(
            FleetLine(
                engine=row,
                unit=carried.get(key),
                book=book.name,
                ahead=ahead,
                words=ahead_words(ahead) if ahead else NOTHING_FORESEEN,
                cost=cost_of_waiting(ahead, rates.over_limit, failure) if ahead else 0.0,
                limit_on=_days(ahead, day),
                look_on=day_at(ahead.look_at_h, ahead.hours, ahead.a_day, day) if ahead else None,
                comebacks=again.get(key, 0),
            )
        )
    lines.sort(key=lambda x: (x.ahead is None, -x.cost, x.engine.number))
    is_old = any(m != mark for m, _ in short.values()) or not (
        store.engines_foreseen(session) <= set(short)
    )
    return FleetLook(lines, is_old, len(store.untaught(session, 1)))


def _days(ahead: Ahead | None, day: date) -> tuple[date | None, date | None, date | None]:
    if ahead is None:
        return None, None, None
    low, middle, high = (
        day_at(h, ahead.hours, ahead.a_day, day)
        for h in (ahead.limit_low_h, ahead.limit_h, ahead.limit_high_h)
    )
    return low, middle, high


@dataclass(frozen=True)
class EngineLook:
    """One engine: its course as worked out last, None before that, and its jobs, newest first."""

    engine: EngineRow
    unit: Unit | None
    book: EngineBook
    ahead: Ahead | None
    course: EngineCourse | None
    jobs: list[Job]
    is_old: bool
    today: date


def look_at_engine(session: Session, engine_id: int) -> EngineLook:
    """One engine's trend. Raises NotFound."""
    row, day = engine_by_id(session, engine_id), today(session)
    kept = store.course_of_engine(session, engine_id)
    at = next((m.unit for m in mounted(session) if m.engine.id == engine_id), None)
    mark = store.mark_of_trends(session, day.isoformat())
    return EngineLook(
        engine=row,
        unit=at,
        book=book_of(session, row.book_id),
        ahead=Ahead.model_validate(kept.ahead) if kept else None,
        course=EngineCourse.model_validate(kept.content) if kept else None,
        jobs=jobs_on(session, engine_id),
        is_old=kept.mark != mark if kept else engine_id in store.engines_foreseen(session),
        today=day,
    )


def look_at_calibration(session: Session) -> Calibration:
    """What the shop said against what it found, over all jobs signed here."""
    return calibration(store.own_lessons(session))
