"""What was done at the bench: answers, what happened within a step, what was laid into the engine,
shifts handed over, and second looks asked of a colleague.
"""

from datetime import datetime
from typing import Any

from sqlalchemy import Column, Index, Text, text
from sqlmodel import Field, SQLModel

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.inside import LaidPiece
from flaneur.core.bench.looking import Opinion
from flaneur.core.bench.within import EventKind
from flaneur.store.tables.base import Loose, Names, kept, maybe_when, one_of, person_key, rule, when


class BenchRecord(SQLModel, table=True):
    """One time a step was answered. A reopened record stays and no longer counts."""

    __tablename__ = "bench_record"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    step: str = Field(max_length=80)
    seen: list[dict[str, Any]] = kept(list[Seen], list)
    right: bool
    departure: str | None = Field(default=None, max_length=400)
    done_by: str = Field(max_length=120)
    done_by_id: int | None = person_key()
    done_at: datetime = when()
    reopened: bool = False


class BenchEvent(SQLModel, table=True):
    """Something done within a step before it is answered: a bolt brought to a stage, a timer begun.

    It belongs to the ``answered``-th time the step is worked (0: the first); ``item`` is the stage
    or timer, ``number`` the bolt. Taken back it is struck, and may happen again.
    """

    __tablename__ = "bench_event"  # type: ignore[assignment]
    __table_args__ = (
        one_of("bench_event", "kind", EventKind),
        Index(
            "bench_event_happens_once",
            *("job_id", "step", "answered", "kind", "item", "number"),
            unique=True,
            postgresql_where=text("NOT is_struck"),
        ),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    step: str = Field(max_length=80)
    answered: int
    kind: str = Field(max_length=20)
    item: str = Field(max_length=120)
    number: int
    data: dict[str, Any] = kept(Loose)
    by: str = Field(max_length=120)
    by_id: int | None = person_key()
    at: datetime = when()
    is_struck: bool = False


class PutIn(SQLModel, table=True):
    """One line of the count of what was laid into the engine by hand: pieces put in, or taken out
    (``count`` below nought). Lines are added, never changed.
    """

    __tablename__ = "put_in"  # type: ignore[assignment]
    __table_args__ = (
        one_of("put_in", "piece", LaidPiece),
        rule("put_in", "counts_something", "count <> 0"),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    piece: str = Field(max_length=20)
    place: str = Field(max_length=120)
    count: int
    by: str = Field(max_length=120)
    by_id: int | None = person_key()
    at: datetime = when()


class Shift(SQLModel, table=True):
    """A job handed from one hand to the next: how the engine stood then, and who took it over;
    nobody yet while ``taken_by`` is empty.
    """

    __tablename__ = "shift"  # type: ignore[assignment]
    __table_args__ = (
        rule("shift", "taken_with_a_time", "(taken_by IS NULL) = (taken_at IS NULL)"),
        Index("shift_waits_once", "job_id", unique=True, postgresql_where=text("taken_at IS NULL")),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    given_by: str = Field(max_length=120)
    given_by_id: int | None = person_key()
    given_at: datetime = when()
    note: str = Field(default="", sa_column=Column(Text, nullable=False))
    stands: list[str] = kept(Names, list)
    against: list[str] = kept(Names, list)
    mind: list[str] = kept(Names, list)
    taken_by: str | None = Field(default=None, max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime | None = maybe_when()


class SecondLook(SQLModel, table=True):
    """A colleague's second look at a step, asked for by a link: ``token`` is the SHA-256 of what
    the link holds. It is answered once, before ``until``, by whoever has the link.
    """

    __tablename__ = "second_look"  # type: ignore[assignment]
    __table_args__ = (
        one_of("second_look", "opinion", Opinion),
        rule("second_look", "answered_with_a_time", "(opinion IS NULL) = (answered_at IS NULL)"),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    step: str = Field(max_length=80)
    question: str = Field(sa_column=Column(Text, nullable=False))
    token: str = Field(unique=True, max_length=64)
    asked_by: str = Field(max_length=120)
    asked_by_id: int | None = person_key()
    asked_at: datetime = when()
    until: datetime = when()
    answered_by: str | None = Field(default=None, max_length=120)
    opinion: str | None = Field(default=None, max_length=20)
    answer: str = Field(default="", sa_column=Column(Text, nullable=False))
    answered_at: datetime | None = maybe_when()
