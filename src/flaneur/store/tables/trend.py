"""What closed jobs teach, and the course of each engine worked out from it. Both follow from what
is kept elsewhere: they can be dropped and are worked out again.
"""

from datetime import datetime
from typing import Any

from sqlmodel import Field, SQLModel

from flaneur.core.trend.ahead import Ahead
from flaneur.core.trend.course import EngineCourse
from flaneur.core.trend.lessons import Lesson
from flaneur.store.tables.base import kept, when


class LessonRow(SQLModel, table=True):
    """What one signed job teaches, of engines of a book of that name."""

    __tablename__ = "lesson"  # type: ignore[assignment]

    job_id: int = Field(primary_key=True, foreign_key="job.id")
    engine_id: int = Field(foreign_key="engine.id", index=True)
    book: str = Field(index=True, max_length=120)
    content: dict[str, Any] = kept(Lesson)


class CourseRow(SQLModel, table=True):
    """How an engine goes on; ``ahead`` is what a fleet's line shows of it, ``mark`` what it was
    worked out from.
    """

    __tablename__ = "course"  # type: ignore[assignment]

    engine_id: int = Field(primary_key=True, foreign_key="engine.id")
    mark: str = Field(max_length=64)
    ahead: dict[str, Any] = kept(Ahead)
    content: dict[str, Any] = kept(EngineCourse)
    made_at: datetime = when()
