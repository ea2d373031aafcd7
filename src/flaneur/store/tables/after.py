"""What comes after a job: what is due, and what is added to a signed report."""

from datetime import datetime
from typing import Any

from sqlalchemy import Column, Text, UniqueConstraint
from sqlmodel import Field, SQLModel

from flaneur.core.job.following import FollowKind, Outcome
from flaneur.formats.archive.seal import AddendumStatement
from flaneur.store.tables.base import kept, maybe_when, one_of, person_key, rule, when


class FollowUp(SQLModel, table=True):
    """Something to be done after a job, on its unit; open while it has no ``outcome``. Answered it
    stays as it is.
    """

    __tablename__ = "follow_up"  # type: ignore[assignment]
    __table_args__ = (
        one_of("follow_up", "kind", FollowKind),
        one_of("follow_up", "outcome", Outcome),
        rule("follow_up", "done_with_a_time", "(outcome IS NULL) = (done_at IS NULL)"),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    kind: str = Field(max_length=20)
    words: str = Field(sa_column=Column(Text, nullable=False))
    due_at: datetime = when()
    made_by: str = Field(max_length=120)
    made_by_id: int | None = person_key()
    made_at: datetime = when()
    outcome: str | None = Field(default=None, max_length=20)
    note: str = Field(default="", sa_column=Column(Text, nullable=False))
    done_by: str | None = Field(default=None, max_length=120)
    done_by_id: int | None = person_key()
    done_at: datetime | None = maybe_when()


class Addendum(SQLModel, table=True):
    """What was added to a signed report, with the depot's signature over it. Append-only."""

    __tablename__ = "addendum"  # type: ignore[assignment]
    __table_args__ = (UniqueConstraint("job_id", "place", name="addendum_job_id_place_key"),)

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    place: int
    text: str = Field(sa_column=Column(Text, nullable=False))
    by: str = Field(max_length=120)
    by_id: int | None = person_key()
    at: datetime = when()
    statement: dict[str, Any] = kept(AddendumStatement)
    signature: str = Field(max_length=128)
    public_key: str = Field(max_length=64)
