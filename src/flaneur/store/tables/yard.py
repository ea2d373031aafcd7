"""Engine books, and the units that carry engines."""

from sqlalchemy import Column, Text
from sqlmodel import Field, SQLModel

from flaneur.store.tables.base import Degrees, kept, person_key, rule


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
    came_by_id: int | None = person_key()


class Unit(SQLModel, table=True):
    """Something that an engine drives."""

    __tablename__ = "unit"  # type: ignore[assignment]
    __table_args__ = (rule("unit", "hours_are_a_figure", "hours BETWEEN 0 AND 500000"),)

    id: int | None = Field(default=None, primary_key=True)
    tag: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    kind: str = Field(max_length=60)
    place: str = Field(default="", max_length=120)
    hours: float | None = None
    book_id: int = Field(foreign_key="engine_book.id", index=True)
    baseline_deg: dict[str, float] = kept(Degrees)
    baseline_job: str | None = Field(default=None, max_length=40)
