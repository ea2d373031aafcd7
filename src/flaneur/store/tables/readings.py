"""Captures and files on their way to being one, logs, readings and their photographs."""

from datetime import datetime
from enum import StrEnum
from typing import Any

from sqlalchemy import BigInteger, Column, ForeignKey, LargeBinary, Text
from sqlmodel import Field, SQLModel

from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.phasers.drivelog import LogKind
from flaneur.core.readings.taken import PHASER_STATES
from flaneur.core.signals.kept import KeptCorrelation, LeftOut
from flaneur.store.tables.base import Loose, Mapping, Names, kept, one_of, person_key, rule, when


class State(StrEnum):
    """Where a file on its way stands."""

    WAITING = "waiting"
    READING = "reading"
    DECODING = "decoding"
    KEEPING = "keeping"
    ASKING = "asking"
    REFUSED = "refused"
    CANCELLED = "cancelled"
    DISMISSED = "dismissed"
    DONE = "done"


class CaptureRow(SQLModel, table=True):
    """A kept capture: what was read from it and how; its samples lie in ``capture_block``.

    ``angle`` is the crank's angle over time and every cam event, packed by ``store.blocks``.
    ``left_out`` lists stretches excluded with their reasons. ``sha256`` is of the samples;
    ``incoming_id`` the file it came from, which becomes one capture and no more; ``struck`` why it
    was taken back.
    """

    __tablename__ = "capture"  # type: ignore[assignment]
    __table_args__ = (one_of("capture", "phase", Phase),)

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    source: str = Field(max_length=200)
    seconds: float
    rate_hz: float
    rpm: float
    taken_by: str = Field(max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime = when()
    quality: list[str] = kept(Names, list)
    notes: list[str] = kept(Names, list)
    correlation: dict[str, Any] = kept(KeptCorrelation)
    channels: list[str] = kept(Names, list)
    samples: int
    left_out: list[dict[str, Any]] = kept(list[LeftOut], list)
    angle: bytes | None = Field(default=None, sa_column=Column(LargeBinary))
    sha256: str = Field(max_length=64)
    incoming_id: int | None = Field(
        default=None,
        # Each of the two tables points to the other: this key is made after both.
        sa_column=Column(
            ForeignKey("incoming.id", use_alter=True, name="capture_incoming_id_fkey"), unique=True
        ),
    )
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


class SamplesLetGo(SQLModel, table=True):
    """A capture whose samples are no longer kept: what was read from it stays, and of the pyramid
    what shows it as a whole.
    """

    __tablename__ = "samples_let_go"  # type: ignore[assignment]

    capture_id: int = Field(foreign_key="capture.id", primary_key=True)
    at: datetime = when()


class Incoming(SQLModel, table=True):
    """A dropped-in file on its way to being a capture.

    ``claim`` names the worker at it, ``attempts`` how often it was begun.
    """

    __tablename__ = "incoming"  # type: ignore[assignment]
    __table_args__ = (one_of("incoming", "state", State), one_of("incoming", "phase", Phase))

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    name: str = Field(max_length=200)
    size: int = Field(sa_column=Column(BigInteger, nullable=False))
    state: str = Field(default=State.WAITING, max_length=20)
    progress: float = 0.0
    refusal: dict[str, Any] = kept(Loose)
    columns: list[str] = kept(Names, list)
    proposal: dict[str, str] = kept(Mapping)
    mapping: dict[str, str] = kept(Mapping)
    claim: str | None = Field(default=None, max_length=36)
    attempts: int = 0
    taken_by: str = Field(max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime = when()
    capture_id: int | None = Field(default=None, foreign_key="capture.id", index=True)


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
    mapping: dict[str, str] = kept(Mapping)
    said_by: str = Field(max_length=120)
    said_by_id: int | None = person_key()
    said_at: datetime = when()


class DriveLog(SQLModel, table=True):
    """Data logged from the vehicle, as CSV text, with what was read from it."""

    __tablename__ = "drive_log"  # type: ignore[assignment]
    __table_args__ = (
        one_of("drive_log", "kind", LogKind),
        one_of("drive_log", "phase", Phase),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(default=Phase.BEFORE, max_length=10)
    source: str = Field(max_length=200)
    kind: str = Field(max_length=20)
    text: str = Field(sa_column=Column(Text, nullable=False))
    summary: dict[str, Any] = kept(Loose)
    taken_by: str = Field(max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime = when()


class ReadingRow(SQLModel, table=True):
    """One reading: a cam's deviation, or what a worksheet worked out, with the raw input as typed.

    ``value`` is None where the answer is a word; ``detail`` keeps every field as typed and the
    arithmetic shown.
    """

    __tablename__ = "reading"  # type: ignore[assignment]
    __table_args__ = (
        one_of("reading", "phase", Phase),
        one_of("reading", "kind", ReadingKind),
        one_of("reading", "phaser_state", PHASER_STATES),
        rule("reading", "value_is_a_figure", "value BETWEEN -1e7 AND 1e7"),
        rule("reading", "stderr_is_a_figure", "stderr BETWEEN 0 AND 1e7"),
        rule("reading", "command_is_an_angle", "command_deg BETWEEN 0 AND 360"),
    )

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    phase: str = Field(max_length=10)
    kind: str = Field(max_length=20)
    part: str = Field(max_length=60)
    value: float | None = None
    stderr: float | None = None
    unit: str = Field(default="", max_length=20)
    words: str = Field(default="", sa_column=Column(Text, nullable=False))
    detail: dict[str, Any] = kept(Loose)
    phaser_state: str = Field(default="none", max_length=20)
    command_deg: float = 0.0
    as_typed: str = Field(default="", max_length=200)
    instrument: str = Field(max_length=120)
    capture_id: int | None = Field(default=None, foreign_key="capture.id", index=True)
    scatter_deg: float | None = None
    cycles: int | None = None
    taken_by: str = Field(max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime = when()
    struck: str | None = Field(default=None, max_length=400)


class Photo(SQLModel, table=True):
    """A photograph of a reading or of a ``step`` of the bench, re-encoded; no camera data is
    kept. ``small``: as paper takes it, made from the content.
    """

    __tablename__ = "photo"  # type: ignore[assignment]

    id: int | None = Field(default=None, primary_key=True)
    job_id: int = Field(foreign_key="job.id", index=True)
    reading_id: int | None = Field(default=None, foreign_key="reading.id", index=True)
    step: str | None = Field(default=None, max_length=80)
    caption: str = Field(default="", max_length=200)
    width: int
    height: int
    content: bytes = Field(sa_column=Column(LargeBinary, nullable=False))
    small: bytes | None = Field(default=None, sa_column=Column(LargeBinary))
    taken_by: str = Field(max_length=120)
    taken_by_id: int | None = person_key()
    taken_at: datetime = when()


class Pulse(SQLModel, table=True):
    """When something that runs in the background last gave a sign of life."""

    __tablename__ = "pulse"  # type: ignore[assignment]

    name: str = Field(primary_key=True, max_length=20)
    at: datetime = when()
