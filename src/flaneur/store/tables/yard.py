"""Engine books, engines, the units that carry them, where units stand, and the shop itself."""

from datetime import date, datetime
from typing import Any

from sqlalchemy import Column, Date, ForeignKey, Index, String, Text
from sqlmodel import Field, SQLModel

from flaneur.core.book.bands import Bands
from flaneur.core.decision.rates import Rates
from flaneur.core.meters import Meter
from flaneur.store.tables.base import Degrees, kept, maybe_when, one_of, person_key, rule, when


class Book(SQLModel, table=True):
    """An engine book as text, one row per content: a job keeps the very text it was worked by.

    One that came with a job file serves that job only, and one that a lead took in serves nobody,
    until a lead adopts it for the depot (``came_by``: who brought it).
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
    came_at: datetime = when()
    adopted_by: str | None = Field(default=None, max_length=120)
    adopted_by_id: int | None = person_key()
    adopted_at: datetime | None = maybe_when()


class Shop(SQLModel, table=True):
    """The shop's own name and ways: one row. ``keep_samples_months``: how long after the signature
    the samples of captures are kept; None: for ever.
    """

    __tablename__ = "shop"  # type: ignore[assignment]
    __table_args__ = (
        rule("shop", "is_one", "id = 1"),
        rule("shop", "keeps_samples_for_a_year", "keep_samples_months >= 12"),
    )

    id: int = Field(default=1, primary_key=True)
    name: str = Field(max_length=120)
    job_prefix: str = Field(max_length=12)
    currency: str = Field(max_length=12)
    time_zone: str = Field(max_length=60)
    rates: dict[str, Any] | None = kept(Rates, None)
    bands: dict[str, Any] | None = kept(Bands, None)
    keep_samples_months: int | None = None


class Place(SQLModel, table=True):
    """Where a unit stands; ``is_bay``: where it can be worked on."""

    __tablename__ = "place"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    name: str = Field(unique=True, max_length=120)
    is_bay: bool = False
    is_retired: bool = False


class Unit(SQLModel, table=True):
    """Something that engines drive."""

    __tablename__ = "unit"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    tag: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    kind: str = Field(max_length=60)
    place: str | None = Field(
        default=None,
        sa_column=Column(
            String(120), ForeignKey("place.name", onupdate="CASCADE"), nullable=True, index=True
        ),
    )
    is_retired: bool = False


class EngineRow(SQLModel, table=True):
    """An engine: a thing of its own, wherever it is mounted. Its baseline goes with it."""

    __tablename__ = "engine"  # type: ignore[assignment]
    __table_args__ = (one_of("engine", "meter", Meter),)

    id: int | None = Field(default=None, primary_key=True)
    number: str = Field(unique=True, max_length=60)
    book_id: int = Field(foreign_key="engine_book.id", index=True)
    meter: str = Field(default=Meter.HOURS.value, max_length=4)
    baseline_deg: dict[str, float] = kept(Degrees)
    baseline_job: str | None = Field(default=None, max_length=40)
    is_retired: bool = False


class MeterReading(SQLModel, table=True):
    """What an engine's meter showed on a day; ``struck_by``: who said that it was read wrong."""

    __tablename__ = "meter_reading"  # type: ignore[assignment]
    __table_args__ = (rule("meter_reading", "is_a_figure", "value BETWEEN 0 AND 5000000"),)

    id: int | None = Field(default=None, primary_key=True)
    engine_id: int = Field(foreign_key="engine.id", index=True)
    value: float
    read_on: date = Field(sa_column=Column(Date, nullable=False))
    is_new_meter: bool = False
    by: str = Field(max_length=120)
    by_id: int | None = person_key()
    struck_by: str | None = Field(default=None, max_length=120)
    struck_by_id: int | None = person_key()


class Mount(SQLModel, table=True):
    """An engine at a position of a unit, from then until then; ``until`` None: now."""

    __tablename__ = "mount"  # type: ignore[assignment]
    __table_args__ = (
        Index("mount_engine_once", "engine_id", unique=True, postgresql_where="until IS NULL"),
        Index(
            "mount_position_once",
            "unit_id",
            "position",
            unique=True,
            postgresql_where="until IS NULL",
        ),
        rule("mount", "ends_after_it_begins", "until >= since"),
    )

    id: int | None = Field(default=None, primary_key=True)
    engine_id: int = Field(foreign_key="engine.id", index=True)
    unit_id: int = Field(foreign_key="unit.id", index=True)
    position: str = Field(max_length=40)
    since: datetime = when()
    until: datetime | None = maybe_when()
