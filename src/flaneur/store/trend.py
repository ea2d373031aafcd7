"""What closed jobs teach and the course of each engine, as the database has them."""

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import delete, text
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from flaneur.core.readings.taken import Missed
from flaneur.core.trend.course import EngineCourse
from flaneur.core.trend.lessons import Lesson
from flaneur.store.tables import CourseRow, EngineRow, Job, LessonRow, now

_MARK = text("""
SELECT md5(concat_ws(' ',
  (SELECT concat(count(*), ':', max(signed_at)) FROM job WHERE signed_at IS NOT NULL),
  (SELECT concat(count(*), ':', max(id)) FROM wear_line),
  (SELECT concat(count(*), ':', max(id)) FROM meter_reading WHERE struck_by IS NULL),
  (SELECT md5(string_agg(concat(id, ' ', book_id, ' ', is_retired), ',' ORDER BY id)) FROM engine),
  CAST(:day AS text)))
""")


_MANY: TypeAdapter[list[Missed]] = TypeAdapter(list[Missed])
_MISSED = text("""
SELECT lesson.content -> 'value' -> 'missed' FROM lesson JOIN job ON job.id = lesson.job_id
WHERE lesson.book = :book AND job.signed_at_depot IS NULL AND job.signed_at < :opened
ORDER BY job.signed_at DESC LIMIT :most
""")
_FORESEEN = text("""
SELECT id FROM engine WHERE NOT is_retired AND (
  (meter = 'h' AND EXISTS (SELECT FROM meter_reading AS m
    WHERE m.engine_id = engine.id AND m.struck_by IS NULL))
  OR EXISTS (SELECT FROM lesson AS l
    WHERE l.engine_id = engine.id AND CAST(l.content -> 'value' ->> 'hours' AS float) > 0)
  OR EXISTS (SELECT FROM wear_line AS w WHERE w.engine = engine.number AND w.hours > 0))
""")


def mark_of_trends(session: Session, day: str) -> str:
    """What tells whether courses have to be worked out anew: a job was signed, a list or a meter
    changed, an engine came or went, or it is another ``day``.
    """
    return str(session.execute(_MARK, {"day": day}).scalar_one())


def untaught(session: Session, most: int) -> list[int]:
    """Signed jobs whose lesson was not drawn yet, oldest first, ``most`` of them at most."""
    taught = select(LessonRow.job_id).where(LessonRow.job_id == Job.id).exists()
    asked = select(Job.id).where(col(Job.signed_at).is_not(None), ~taught)
    return [key for key in session.exec(asked.order_by(col(Job.id)).limit(most)) if key]


def keep_lesson(session: Session, job: Job, book: str, lesson: Lesson) -> None:
    """Keep what a job teaches; somebody else may just have done so."""
    content = lesson.model_dump(mode="json")
    row = {"job_id": job.id, "engine_id": job.engine_id, "book": book, "content": content}
    session.execute(insert(LessonRow).values(row).on_conflict_do_nothing())


def lessons_by_engine(session: Session, book: str) -> dict[int, list[Lesson]]:
    """What signed jobs on engines of a book of that name teach, by engine, in the order in which
    the jobs were opened.
    """
    found: dict[int, list[Lesson]] = {}
    asked = select(LessonRow.engine_id, LessonRow.content).where(LessonRow.book == book)
    for engine, content in session.exec(asked.order_by(col(LessonRow.job_id))):
        found.setdefault(engine, []).append(Lesson.model_validate(content))
    return found


def own_lessons(session: Session, most: int = 5000) -> list[Lesson]:
    """What jobs that were signed here teach, the newest first."""
    asked = (
        select(LessonRow.content)
        .join(Job, col(Job.id) == LessonRow.job_id)
        .where(col(Job.signed_at_depot).is_(None))
        .order_by(col(Job.signed_at).desc())
        .limit(most)
    )
    return [Lesson.model_validate(content) for content in session.exec(asked)]


def missed_before(session: Session, book: str, job: Job, most: int) -> list[Missed]:
    """By how much readings missed measured parts in the newest jobs on engines of that book that
    were signed here before a job was opened.
    """
    told = {"book": book, "opened": job.opened_at, "most": most}
    rows = session.execute(_MISSED, told).scalars()
    return [missed for row in rows for missed in _MANY.validate_python(row)]


def engines_at_work(session: Session) -> list[EngineRow]:
    """Every engine that is not retired."""
    asked = select(EngineRow).where(~col(EngineRow.is_retired))
    return list(session.exec(asked.order_by(col(EngineRow.id))))


def engines_foreseen(session: Session) -> set[int]:
    """Engines at work whose hours are known in some way: of these there is a course, once it was
    worked out.
    """
    return set(session.execute(_FORESEEN).scalars())


def keep_courses(
    session: Session, mark: str, made: Mapping[int, tuple[dict[str, Any], EngineCourse]]
) -> None:
    """Keep courses by engine, each with what it shows in short, in place of what was."""
    at = now()
    for engine, (ahead, course) in made.items():
        values = {
            "mark": mark,
            "ahead": ahead,
            "content": course.model_dump(mode="json"),
            "made_at": at,
        }
        session.execute(
            insert(CourseRow)
            .values(engine_id=engine, **values)
            .on_conflict_do_update(index_elements=["engine_id"], set_=values)
        )


def drop_courses_but(session: Session, engines: Sequence[int]) -> None:
    """Drop courses of engines that are none of these."""
    session.execute(delete(CourseRow).where(col(CourseRow.engine_id).not_in(engines)))


def courses_in_short(session: Session) -> list[tuple[int, str, dict[str, Any]]]:
    """Every course in short: engine, what it was worked out from, what it shows."""
    asked = select(CourseRow.engine_id, CourseRow.mark, CourseRow.ahead)
    return [(engine, mark, dict(ahead)) for engine, mark, ahead in session.exec(asked)]


def course_of_engine(session: Session, engine_id: int) -> CourseRow | None:
    """The whole course of an engine; None before it was worked out."""
    return session.get(CourseRow, engine_id)
