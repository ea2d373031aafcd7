"""The tables. Everything a job is made of hangs on ``job``; the journal keeps every change of it."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Column, DateTime, LargeBinary, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlmodel import Field, SQLModel


def now() -> datetime:
    return datetime.now(UTC)


def _when() -> Any:
    return Field(default_factory=now, sa_column=Column(DateTime(timezone=True), nullable=False))


def _json(default: type = dict) -> Any:
    return Field(default_factory=default, sa_column=Column(JSONB, nullable=False))


class User(SQLModel, table=True):
    __tablename__ = "user_account"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    login: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    role: str = Field(max_length=20)
    password_hash: str = Field(max_length=200)


class Book(SQLModel, table=True):
    """An engine book as text, one row per content: a job keeps the very text it was worked by."""

    __tablename__ = "engine_book"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    name: str = Field(index=True, max_length=120)
    revision: int
    sha256: str = Field(unique=True, max_length=64)
    text: str = Field(sa_column=Column(Text, nullable=False))


class Unit(SQLModel, table=True):
    __tablename__ = "unit"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    tag: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    kind: str = Field(max_length=60)
    place: str = Field(default="", max_length=120)
    hours: float | None = None
    book_id: int = Field(foreign_key="engine_book.id")
    baseline_deg: dict[str, float] = _json()
    baseline_job: str | None = Field(default=None, max_length=40)


class Job(SQLModel, table=True):
    __tablename__ = "job"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    number: str = Field(unique=True, index=True, max_length=40)
    unit_id: int = Field(foreign_key="unit.id", index=True)
    book_id: int = Field(foreign_key="engine_book.id")
    version: int = 1
    opened_by: str = Field(max_length=120)
    opened_at: datetime = _when()
    intake: dict[str, Any] = _json()
    baseline_deg: dict[str, float] = _json()
    scope: list[str] = _json(list)
    plan: dict[str, Any] | None = Field(default=None, sa_column=Column(JSONB))
    bench_started: bool = False
    hands: dict[str, Any] = _json()
    override_reason: str | None = Field(default=None, sa_column=Column(Text))
    released_by: str | None = Field(default=None, max_length=120)
    left_over: str = Field(default="", sa_column=Column(Text, nullable=False))
    signed_by: str | None = Field(default=None, max_length=120)
    signed_at: datetime | None = Field(default=None, sa_column=Column(DateTime(timezone=True)))


class CaptureRow(SQLModel, table=True):
    """A kept capture: Parquet bytes, its correlation, and folded traces ready to draw."""

    __tablename__ = "capture"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    source: str = Field(max_length=200)
    seconds: float
    rate_hz: float
    rpm: float
    taken_by: str = Field(max_length=120)
    taken_at: datetime = _when()
    quality: list[str] = _json(list)
    correlation: dict[str, Any] = _json()
    content: bytes = Field(sa_column=Column(LargeBinary, nullable=False))


class ReadingRow(SQLModel, table=True):
    """One reading: a cam's deviation or a plunger's extension, raw input as typed."""

    __tablename__ = "reading"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    kind: str = Field(max_length=20)
    part: str = Field(max_length=60)
    value: float
    stderr: float
    phaser_state: str = Field(default="none", max_length=20)
    command_deg: float = 0.0
    as_typed: str = Field(default="", max_length=200)
    instrument: str = Field(max_length=120)
    capture_id: int | None = Field(default=None, foreign_key="capture.id")
    scatter_deg: float | None = None
    cycles: int | None = None
    taken_by: str = Field(max_length=120)
    taken_at: datetime = _when()
    struck: str | None = Field(default=None, max_length=400)


class BenchRecord(SQLModel, table=True):
    """One time a step was answered. A reopened record stays and no longer counts."""

    __tablename__ = "bench_record"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    step: str = Field(max_length=80)
    seen: list[dict[str, Any]] = _json(list)
    right: bool
    departure: str | None = Field(default=None, max_length=400)
    done_by: str = Field(max_length=120)
    done_at: datetime = _when()
    reopened: bool = False


class Report(SQLModel, table=True):
    """A signed report, frozen: the database refuses to change or delete it."""

    __tablename__ = "report"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", unique=True)
    html: str = Field(sa_column=Column(Text, nullable=False))
    pdf: bytes = Field(sa_column=Column(LargeBinary, nullable=False))
    sha256: str = Field(max_length=64)
    signed_by: str = Field(max_length=120)
    signed_at: datetime = _when()


class JournalEntry(SQLModel, table=True):
    """What happened to a job, in a sentence. Append-only by trigger; a reversal names what it reverses."""

    __tablename__ = "journal"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    version: int
    at: datetime = _when()
    by: str = Field(max_length=120)
    kind: str = Field(max_length=40)
    words: str = Field(sa_column=Column(Text, nullable=False))
    data: dict[str, Any] = _json()
    reverses: int | None = Field(default=None, foreign_key="journal.id")
