"""Working out, beside all else, what closed jobs teach and how each engine goes on."""

import logging
import os
import threading
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Engine
from sqlmodel import Session

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import FlaneurError
from flaneur.core.meters import Meter, Reading, a_day, by_now
from flaneur.core.people import Person
from flaneur.core.readings.taken import Readings
from flaneur.core.stores.lists import ListKind, WearLine
from flaneur.core.stores.told_before import lessons_told
from flaneur.core.trend.ahead import ahead_of
from flaneur.core.trend.course import EngineCourse, Traced, course_of, traced
from flaneur.core.trend.fleet import learned
from flaneur.core.trend.lessons import Lesson, lesson_of
from flaneur.core.trend.lives import Fleet, known_lives
from flaneur.jobs.judging import readings_for
from flaneur.jobs.stores import today
from flaneur.jobs.work import Work
from flaneur.store import trend as store
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.jobs import job_by_id
from flaneur.store.plans import plan_of
from flaneur.store.stores import list_of
from flaneur.store.tables import EngineRow
from flaneur.store.units import plain, readings_of_meters

log = logging.getLogger(__name__)
AT_ONCE, WRITTEN_AT_ONCE = 50, 20
USUAL_A_DAY, SPREAD = 4.0, 0.25  # hours an engine runs a day, where its meter does not tell
NICE = 15
UNREADABLE = (FlaneurError, ValueError, KeyError, IndexError, ArithmeticError)


def work_out(engine: Engine) -> None:
    """Draw the lessons that were not drawn yet, and work every engine's course out from them, in a
    thread that gives way to whoever else is at work.
    """
    failed: list[BaseException] = []

    def run() -> None:
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)
        try:
            teach(engine)
            forecast(engine)
        except BaseException as error:  # told on below, in the thread that asked
            failed.append(error)

    thread = threading.Thread(target=run, name="trend", daemon=True)
    thread.start()
    thread.join()
    if failed:
        raise failed[0]


def teach(engine: Engine) -> int:
    """Draw the lesson of every signed job that has none yet; how many."""
    count = 0
    while True:
        with transaction(engine) as session:
            keys = store.untaught(session, AT_ONCE)
        for key in keys:
            with transaction(engine) as session:
                _teach(session, key)
            count += 1
        if not keys:
            return count


def _teach(session: Session, job_id: int) -> None:
    job = job_by_id(session, job_id)
    work = Work(session, job, book_of(session, job.book_id), Person(""))
    try:
        lesson = lesson_of(work.book, _told_of(work), _renewed(work))
    except UNREADABLE as error:  # what an old edition of the book took, this one may refuse
        log.warning("job %s teaches nothing: %s", job.number, error)
        lesson = Lesson()
    store.keep_lesson(session, job, work.book.name, lesson)


def _told_of(work: Work) -> Readings:
    """A job's readings as they were, without what the shop has learned beside them."""
    return readings_for(work).model_copy(update={"learned": [], "errors": []})


def _renewed(work: Work) -> list[str]:
    plan, components = plan_of(work.job), work.book.components
    found = (components.get(key) for key in (plan.renewed if plan else []))
    return [c.part for c in found if c is not None and c.part]


@dataclass(frozen=True)
class Running:
    """An engine of which a course is worked out: its lives, and how many hours a day it runs."""

    row: EngineRow
    lives: list[Traced]
    a_day: float | None


def forecast(engine: Engine) -> int:
    """Work out the course of every engine at work whose hours are known; how many."""
    with transaction(engine) as session:
        day = today(session)
        mark = store.mark_of_trends(session, day.isoformat())
        by_book: dict[str, list[EngineRow]] = {}
        books: dict[str, EngineBook] = {}
        for row in store.engines_at_work(session):
            book = book_of(session, row.book_id)
            books[book.name] = book
            by_book.setdefault(book.name, []).append(row)
        told = [x for x in list_of(session, ListKind.WEAR) if isinstance(x, WearLine)]
        running = {
            name: _running(session, books[name], rows, told, day) for name, rows in by_book.items()
        }
        known = [one.row.id or 0 for each in running.values() for one in each]
        store.drop_courses_but(session, known)
    for name, each in running.items():
        _work_out_book(engine, books[name], each, mark)
    return len(known)


def _running(
    session: Session,
    book: EngineBook,
    rows: Sequence[EngineRow],
    told: Iterable[WearLine],
    day: date,
) -> list[Running]:
    """Engines of a book whose hours are known, with what was told of them and what their jobs
    taught, in the order of hours.
    """
    lessons = store.lessons_by_engine(session, book.name)
    meters = readings_of_meters(session, [row.id or 0 for row in rows])
    lines: dict[str, list[WearLine]] = {}
    for line in told:
        lines.setdefault(line.engine, []).append(line)
    found: list[Running] = []
    for row in rows:
        key = row.id or 0
        before = lessons_told(book, lines.get(row.number, []))
        every = sorted([*before, *lessons.get(key, [])], key=lambda lesson: lesson.hours or 0.0)
        meter: list[Reading] = plain(meters[key]) if row.meter == Meter.HOURS else []
        hours = by_now(meter, day, USUAL_A_DAY)
        if hours is None and not any(lesson.hours for lesson in every):
            continue
        found.append(Running(row, traced(book, row.number, every, hours), a_day(meter)))
    return found


def _work_out_book(engine: Engine, book: EngineBook, running: Sequence[Running], mark: str) -> None:
    lives = [one.life for each in running for one in each.lives]
    spreads = learned(known_lives(book, lives), lives)
    for at in range(0, len(running), WRITTEN_AT_ONCE):
        made: dict[int, tuple[dict[str, object], EngineCourse]] = {}
        for one in running[at : at + WRITTEN_AT_ONCE]:
            pace = one.a_day or USUAL_A_DAY
            fleet = Fleet(lives=[], hours_a_day=pace, hours_a_day_spread=SPREAD)
            course = course_of(book, one.lives, spreads, fleet)
            ahead = ahead_of(course, pace, one.a_day is not None)
            made[one.row.id or 0] = ahead.model_dump(mode="json"), course
        with transaction(engine) as session:
            store.keep_courses(session, mark, made)
