"""The tables. Everything a job is made of hangs on ``job``; the journal keeps every change of
it.
"""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Column, DateTime, LargeBinary, Text, UniqueConstraint
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
    """An engine book as text, one row per content: a job keeps the very text it was worked by.

    One that came with a job file (``came_by`` whom) serves that job only, until a lead adopts it
    for the depot.
    """

    __tablename__ = "engine_book"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    name: str = Field(index=True, max_length=120)
    revision: int
    sha256: str = Field(unique=True, max_length=64)
    text: str = Field(sa_column=Column(Text, nullable=False))
    is_adopted: bool = True
    came_by: str | None = Field(default=None, max_length=120)


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
    """A job. ``imported_by`` brought it in from a file, ``import_note`` says what was found of it.

    ``signed_at_depot`` names the depot that signed it elsewhere.
    """

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
    signed_at_depot: str | None = Field(default=None, max_length=120)
    imported_by: str | None = Field(default=None, max_length=120)
    imported_at: datetime | None = Field(default=None, sa_column=Column(DateTime(timezone=True)))
    import_note: str = Field(default="", sa_column=Column(Text, nullable=False))


class CaptureRow(SQLModel, table=True):
    """A kept capture: what was read from it and how; its samples lie in ``capture_block``.

    ``content`` held the samples of captures kept before there were blocks. ``angle`` is the crank's
    angle over time and every cam event, packed by ``store.blocks``. ``left_out`` lists stretches
    excluded with their reasons. ``sha256`` is of the samples; ``incoming_id`` the file it came
    from, which becomes one capture and no more; ``struck`` why it was taken back.
    """

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
    notes: list[str] = _json(list)
    correlation: dict[str, Any] = _json()
    channels: list[str] = _json(list)
    samples: int = 0
    left_out: list[dict[str, Any]] = _json(list)
    angle: bytes | None = Field(default=None, sa_column=Column(LargeBinary))
    content: bytes | None = Field(default=None, sa_column=Column(LargeBinary))
    sha256: str | None = Field(default=None, max_length=64)
    incoming_id: int | None = Field(default=None, foreign_key="incoming.id", unique=True)
    struck: str | None = Field(default=None, max_length=400)


class CaptureBlock(SQLModel, table=True):
    """A stretch of one channel. Level 0 holds samples, level k lowest and highest of every 16**k of
    them.
    """

    __tablename__ = "capture_block"  # type: ignore[assignment]

    capture_id: int = Field(foreign_key="capture.id", primary_key=True)
    channel: str = Field(primary_key=True, max_length=120)
    level: int = Field(primary_key=True)
    number: int = Field(primary_key=True)
    data: bytes = Field(sa_column=Column(LargeBinary, nullable=False))


class Incoming(SQLModel, table=True):
    """A dropped-in file on its way to being a capture.

    ``state`` is one of ``store.incoming.State``; ``claim`` names the worker at it, ``attempts`` how
    often it was begun.
    """

    __tablename__ = "incoming"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    name: str = Field(max_length=200)
    size: int
    state: str = Field(default="waiting", max_length=20)
    progress: float = 0.0
    refusal: dict[str, Any] = _json()
    columns: list[str] = _json(list)
    proposal: dict[str, str] = _json()
    mapping: dict[str, str] = _json()
    claim: str | None = Field(default=None, max_length=36)
    attempts: int = 0
    taken_by: str = Field(max_length=120)
    taken_at: datetime = _when()
    capture_id: int | None = Field(default=None, foreign_key="capture.id")


class IncomingPiece(SQLModel, table=True):
    """A piece of a dropped-in file, kept until the file has become a capture."""

    __tablename__ = "incoming_piece"  # type: ignore[assignment]

    incoming_id: int = Field(foreign_key="incoming.id", primary_key=True)
    number: int = Field(primary_key=True)
    data: bytes = Field(sa_column=Column(LargeBinary, nullable=False))


class ChannelMap(SQLModel, table=True):
    """Which column of a source is which sensor of an engine, as a person once said it."""

    __tablename__ = "channel_map"  # type: ignore[assignment]

    signature: str = Field(primary_key=True, max_length=64)
    engine: str = Field(max_length=120)
    mapping: dict[str, str] = _json()
    said_by: str = Field(max_length=120)
    said_at: datetime = _when()


class DriveLog(SQLModel, table=True):
    """Data logged from the vehicle, as CSV text, with what was read from it."""

    __tablename__ = "drive_log"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    source: str = Field(max_length=200)
    kind: str = Field(max_length=20)
    text: str = Field(sa_column=Column(Text, nullable=False))
    summary: dict[str, Any] = _json()
    taken_by: str = Field(max_length=120)
    taken_at: datetime = _when()


class ReadingRow(SQLModel, table=True):
    """One reading: a cam's deviation, or what a worksheet worked out, with the raw input as typed.

    ``value`` is None where the answer is a word; ``detail`` keeps every field as typed and the
    arithmetic shown.
    """

    __tablename__ = "reading"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    kind: str = Field(max_length=20)
    part: str = Field(max_length=60)
    value: float | None = None
    stderr: float | None = None
    unit: str = Field(default="", max_length=20)
    words: str = Field(default="", sa_column=Column(Text, nullable=False))
    detail: dict[str, Any] = _json()
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


class Photo(SQLModel, table=True):
    """A photograph of a reading, re-encoded; no camera data is kept."""

    __tablename__ = "photo"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    reading_id: int | None = Field(default=None, foreign_key="reading.id")
    caption: str = Field(default="", max_length=200)
    width: int
    height: int
    content: bytes = Field(sa_column=Column(LargeBinary, nullable=False))
    taken_by: str = Field(max_length=120)
    taken_at: datetime = _when()


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
    """A signed report, frozen: the database refuses to change or delete it.

    ``statement`` is what the depot signed with its key; ``unit`` what the unit was at that moment.
    """

    __tablename__ = "report"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", unique=True)
    html: str = Field(sa_column=Column(Text, nullable=False))
    pdf: bytes = Field(sa_column=Column(LargeBinary, nullable=False))
    sha256: str = Field(max_length=64)
    signed_by: str = Field(max_length=120)
    signed_at: datetime = _when()
    head: str | None = Field(default=None, max_length=64)
    unit: dict[str, Any] = _json()
    statement: dict[str, Any] | None = Field(default=None, sa_column=Column(JSONB))
    signature: str | None = Field(default=None, max_length=128)
    public_key: str | None = Field(default=None, max_length=64)


class TrustedKey(SQLModel, table=True):
    """The public key of another depot whose signed jobs are taken as signed. Taken off the list, it
    stays on record.
    """

    __tablename__ = "trusted_key"  # type: ignore[assignment]

    public_key: str = Field(primary_key=True, max_length=64)
    depot: str = Field(max_length=120)
    added_by: str = Field(max_length=120)
    added_at: datetime = _when()
    removed_by: str | None = Field(default=None, max_length=120)
    removed_at: datetime | None = Field(default=None, sa_column=Column(DateTime(timezone=True)))


class JournalEntry(SQLModel, table=True):
    """What happened to a job, in a sentence. Append-only by trigger; a reversal names what it
    reverses.

    ``previous`` and ``hash`` chain a job's entries (``core.record.chain``).
    """

    __tablename__ = "journal"  # type: ignore[assignment]
    __table_args__ = (UniqueConstraint("job_id", "version"),)

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    version: int
    at: datetime = _when()
    by: str = Field(max_length=120)
    kind: str = Field(max_length=40)
    words: str = Field(sa_column=Column(Text, nullable=False))
    data: dict[str, Any] = _json()
    reverses: int | None = Field(default=None, foreign_key="journal.id")
    previous: str = Field(max_length=64)
    hash: str = Field(max_length=64)
