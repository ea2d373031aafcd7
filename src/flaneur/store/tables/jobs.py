"""Jobs, the journal that keeps every change of them, the report."""

from datetime import datetime
from typing import Any

from sqlalchemy import Column, Index, LargeBinary, Text, UniqueConstraint
from sqlmodel import Field, SQLModel

from flaneur.core.job.change import Change
from flaneur.core.job.ending import Ending
from flaneur.core.plan.plan import Plan
from flaneur.core.proof.hands import HandTurns
from flaneur.formats.archive.seal import Statement
from flaneur.store.tables.base import (
    Degrees,
    Loose,
    Names,
    kept,
    maybe_when,
    one_of,
    person_key,
    rule,
    when,
)


class Job(SQLModel, table=True):
    """A job. ``imported_by`` brought it in from a file, ``import_note`` says what was found of it.
    ``ended``: without a repair, and why; ``comeback_of_id``: the signed job it comes back from.

    ``signed_at_depot`` names the depot that signed it elsewhere.
    """

    __tablename__ = "job"  # type: ignore[assignment]
    __table_args__ = (
        rule("job", "number_is_plain", "number ~ '^[A-Za-z0-9][A-Za-z0-9-]*$'"),
        rule("job", "version_counts", "version >= 1"),
        rule("job", "signed_with_a_time", "(signed_by IS NULL) = (signed_at IS NULL)"),
        one_of("job", "ended", Ending),
        rule("job", "ended_or_released", "ended IS NULL OR released_by IS NULL"),
    )

    id: int | None = Field(default=None, primary_key=True)
    number: str = Field(unique=True, index=True, max_length=40)
    unit_id: int = Field(foreign_key="unit.id", index=True)
    engine_id: int = Field(foreign_key="engine.id", index=True)
    book_id: int = Field(foreign_key="engine_book.id", index=True)
    version: int = 1
    opened_by: str = Field(max_length=120)
    opened_by_id: int | None = person_key()
    opened_at: datetime = when()
    intake: dict[str, Any] = kept(Loose)
    baseline_deg: dict[str, float] = kept(Degrees)
    scope: list[str] = kept(Names, list)
    plan: dict[str, Any] | None = kept(Plan, None)
    bench_started: bool = False
    hands: dict[str, Any] = kept(HandTurns)
    override_reason: str | None = Field(default=None, sa_column=Column(Text))
    released_by: str | None = Field(default=None, max_length=120)
    released_by_id: int | None = person_key()
    ended: str | None = Field(default=None, max_length=20)
    ended_why: str | None = Field(default=None, sa_column=Column(Text))
    comeback_of_id: int | None = Field(default=None, foreign_key="job.id", index=True)
    left_over: str = Field(default="", sa_column=Column(Text, nullable=False))
    signed_by: str | None = Field(default=None, max_length=120)
    signed_by_id: int | None = person_key()
    signed_at: datetime | None = maybe_when()
    signed_at_depot: str | None = Field(default=None, max_length=120)
    imported_by: str | None = Field(default=None, max_length=120)
    imported_by_id: int | None = person_key()
    imported_at: datetime | None = maybe_when()
    import_note: str = Field(default="", sa_column=Column(Text, nullable=False))


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
    signed_by_id: int | None = person_key()
    signed_at: datetime = when()
    head: str = Field(max_length=64)
    unit: dict[str, Any] = kept(Loose)
    statement: dict[str, Any] = kept(Statement)
    signature: str = Field(max_length=128)
    public_key: str = Field(max_length=64)


class JournalEntry(SQLModel, table=True):
    """What happened to a job, in a sentence. Append-only by trigger; a reversal names what it
    reverses.

    ``previous`` and ``hash`` chain a job's entries (``core.record.chain``).
    """

    __tablename__ = "journal"  # type: ignore[assignment]
    __table_args__ = (
        UniqueConstraint("job_id", "version", name="journal_job_id_version_key"),
        one_of("journal", "kind", Change),
        Index("ix_journal_reverses", "reverses"),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    version: int
    at: datetime = when()
    by: str = Field(max_length=120)
    by_id: int | None = person_key()
    kind: str = Field(max_length=40)
    words: str = Field(sa_column=Column(Text, nullable=False))
    data: dict[str, Any] = kept(Loose)
    reverses: int | None = Field(default=None, foreign_key="journal.id")
    previous: str = Field(max_length=64)
    hash: str = Field(max_length=64)
