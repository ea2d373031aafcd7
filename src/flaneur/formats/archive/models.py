"""One model a row, each field bounded: what does not fit them never comes near a database."""

import base64
import binascii
import hashlib
from typing import Annotated, Any, Literal, cast

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    ValidatorFunctionWrapHandler,
    WrapValidator,
)

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.inside import MOST_AT_ONCE, LaidPiece
from flaneur.core.bench.looking import Opinion
from flaneur.core.bench.within import EventKind
from flaneur.core.errors import FlaneurError
from flaneur.core.job.ending import Ending
from flaneur.core.job.following import FollowKind, Outcome
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.hands import HandTurns
from flaneur.core.record.bounds import BoundedJson, Written, bounded_json
from flaneur.core.record.canonical import canonical
from flaneur.formats.archive.seal import AddendumStatement, Seal, is_signed

FORMAT = "flaneur-job/2"
FIRST_FORMAT = "flaneur-job/1"  # before there were seals; still read

Name = Annotated[str, Written(120)]
Line = Annotated[str, Written(400)]
Text = Annotated[str, Written(20_000, has_lines=True)]
Long = Annotated[str, Written(3_000_000, has_lines=True)]
Number = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9-]{0,39}\z")]
Figure = Annotated[float, Field(ge=-1e7, le=1e7)]
Hours = Annotated[float, Field(ge=0, le=500_000)]
Degrees = Annotated[dict[Name, Annotated[float, Field(ge=-720, le=720)]], Field(max_length=64)]
Counter = Annotated[int, Field(ge=0, le=2_000_000_000)]
Sha256 = Annotated[str, Field(pattern=r"^[0-9a-f]{64}\z")]
Phase = Literal["before", "after"]
Words = Annotated[list[Annotated[str, Written(2000, has_lines=True)]], Field(max_length=200)]


def _is_base64(text: str) -> str:
    try:
        base64.b64decode(text, validate=True)
    except binascii.Error as error:
        raise ValueError("this is not base64") from error
    return text


def _as_it_follows(given: object, read: ValidatorFunctionWrapHandler) -> Plan | None:
    """A plan in which what follows from the rest is as it follows: a file that says otherwise was
    changed, though nothing of it would be kept.
    """
    plan = read(given)
    if isinstance(plan, Plan) and isinstance(given, dict):
        kept, said = plan.model_dump(mode="json"), cast(dict[str, Any], given)
        pairs = [(kept, said, type(plan))]
        pairs += [
            (step, of, PlanStep) for step, of in zip(kept["steps"], said["steps"], strict=True)
        ]
        for follows, given_to, model in pairs:
            for key in model.model_computed_fields:
                if key in given_to and given_to[key] != follows[key]:
                    raise ValueError(f"{key} does not follow from the rest")
    return plan


Bytes = Annotated[str, Field(max_length=700_000_000), AfterValidator(_is_base64)]


class ArchiveError(FlaneurError):
    """A job file cannot be read, does not hold together, or does not fit this database."""


class Row(BaseModel):
    """A row of an archive: nothing in it that is not known, no figure without end."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class UnitRow(Row):
    """The unit as it was when the job was signed, or is now."""

    tag: Annotated[str, Written(60, 1)]
    name: Name
    kind: Annotated[str, Written(60)]
    place: Name = ""
    hours: Hours | None = None
    baseline_deg: Degrees = {}
    baseline_job: Number | None = None


class JobRow(Row):
    """The job itself."""

    number: Number
    version: Annotated[int, Field(ge=1, le=1_000_000)]
    opened_by: Name
    opened_at: AwareDatetime
    intake: BoundedJson
    baseline_deg: Degrees
    scope: Annotated[list[Name], Field(max_length=200)]
    plan: Annotated[
        Plan | None,
        AfterValidator(lambda p: p if p is None else bounded_json(p.model_dump(mode="json")) and p),
        WrapValidator(_as_it_follows),
    ]
    bench_started: bool
    hands: Annotated[
        HandTurns, AfterValidator(lambda h: bounded_json(h.model_dump(mode="json")) and h)
    ]
    override_reason: Text | None = None
    released_by: Name | None = None
    left_over: Text = ""
    # Covered where there are any, so that seals from before hold.
    ended: Ending | None = Field(default=None, exclude_if=lambda ending: ending is None)
    ended_why: Text | None = Field(default=None, exclude_if=lambda why: why is None)
    signed_by: Name | None = None
    signed_at: AwareDatetime | None = None


class LeftOutRow(Row):
    """A stretch of a capture that does not count."""

    start_s: Annotated[float, Field(ge=-1, le=100_000)]
    stop_s: Annotated[float, Field(ge=-1, le=100_000)]
    reason: Line
    by: Name


class CapturePart(Row):
    """A capture; ``content`` holds its samples as Parquet, empty where they are no longer kept;
    ``sha256`` is of the samples themselves.
    """

    phase: Phase
    source: Annotated[str, Written(200)]
    seconds: Annotated[float, Field(ge=0, le=100_000)]
    rate_hz: Annotated[float, Field(gt=0, le=1e9)]
    rpm: Annotated[float, Field(ge=0, le=100_000)]
    taken_by: Name
    taken_at: AwareDatetime
    quality: Words
    notes: Words = []
    correlation: BoundedJson
    channels: Annotated[list[Name], Field(max_length=64)]
    samples: Counter
    left_out: Annotated[list[LeftOutRow], Field(max_length=200)] = []
    angle: Bytes | None = None
    sha256: Sha256 | None = None
    struck: Line | None = None
    content: Bytes


class ReadingPart(Row):
    """One reading."""

    phase: Phase
    kind: Annotated[str, Written(20)]
    part: Annotated[str, Written(60)]
    value: Figure | None
    stderr: Annotated[float, Field(ge=0, le=1e7)] | None
    unit: Annotated[str, Written(20)] = ""
    words: Text = ""
    detail: BoundedJson = {}
    phaser_state: Literal["parked", "commanded", "unknown", "none"]
    command_deg: Annotated[float, Field(ge=0, le=360)]
    as_typed: Annotated[str, Written(200, has_lines=True)]
    instrument: Name
    capture_id: Counter | None
    scatter_deg: Annotated[float, Field(ge=0, le=10_000)] | None
    cycles: Counter | None
    taken_by: Name
    taken_at: AwareDatetime
    struck: Line | None


class BenchPart(Row):
    """One time a step was answered."""

    step: Annotated[str, Written(80)]
    seen: Annotated[
        list[Annotated[Seen, AfterValidator(lambda s: bounded_json(s.model_dump()) and s)]],
        Field(max_length=60),
    ]
    right: bool
    departure: Line | None
    done_by: Name
    done_at: AwareDatetime
    reopened: bool


class EventPart(Row):
    """What happened within a step before it was answered; ``data`` holds a bolt's trace as CSV."""

    step: Annotated[str, Written(80)]
    answered: Annotated[int, Field(ge=0, le=100_000)]
    kind: EventKind
    item: Annotated[str, Written(120)]
    number: Annotated[int, Field(ge=0, le=60)]
    data: dict[Literal["csv"], Annotated[str, Written(1_500_000, has_lines=True)]]
    by: Name
    at: AwareDatetime
    is_struck: bool


class PutInPart(Row):
    """A line of the count of what was laid into the engine by hand."""

    piece: LaidPiece
    place: Annotated[str, Written(120)]
    count: Annotated[int, Field(ge=-MOST_AT_ONCE, le=MOST_AT_ONCE)]
    by: Name
    at: AwareDatetime


class ShiftPart(Row):
    """The job handed over, and taken over."""

    given_by: Name
    given_at: AwareDatetime
    note: Text
    stands: Words
    against: Words
    mind: Words
    taken_by: Name | None
    taken_at: AwareDatetime | None


class LookPart(Row):
    """A second look asked of a colleague; its link is nowhere."""

    step: Annotated[str, Written(80)]
    question: Text
    asked_by: Name
    asked_at: AwareDatetime
    until: AwareDatetime
    answered_by: Name | None
    opinion: Opinion | None
    answer: Text
    answered_at: AwareDatetime | None


class FollowUpPart(Row):
    """What is or was due after the job."""

    kind: FollowKind
    words: Text
    due_at: AwareDatetime
    made_by: Name
    made_at: AwareDatetime
    outcome: Outcome | None
    note: Text
    done_by: Name | None
    done_at: AwareDatetime | None


class AddendumPart(Row):
    """What was added to the signed report, with its own signature."""

    statement: AddendumStatement
    signature: Annotated[str, Field(pattern=r"^[0-9a-f]{128}\z")]
    public_key: Sha256

    @property
    def holds(self) -> bool:
        """Whether the signature is this key's over what it says."""
        return is_signed(self.public_key, self.signature, canonical(self.statement.model_dump()))


class JournalPart(Row):
    """An entry of the chain; ``reverses`` is the version of the entry it takes back."""

    version: Annotated[int, Field(ge=1, le=1_000_000)]
    at: AwareDatetime
    by: Name
    kind: Annotated[str, Written(40)]
    words: Text
    data: BoundedJson
    reverses: Counter | None = None
    previous: Sha256 | None = None
    hash: Sha256 | None = None


class PhotoPart(Row):
    """A photograph of a reading or of a step, as base64."""

    reading_id: Counter | None
    step: Annotated[str, Written(80)] | None = None
    caption: Annotated[str, Written(200)]
    width: Annotated[int, Field(ge=1, le=10_000)]
    height: Annotated[int, Field(ge=1, le=10_000)]
    content: Bytes
    taken_by: Name
    taken_at: AwareDatetime


class LogPart(Row):
    """A log of the vehicle, as CSV text."""

    source: Annotated[str, Written(200)]
    kind: Literal["log", "sweep"]
    phase: Phase = "before"
    text: Annotated[str, Written(40_000_000, has_lines=True)]
    summary: BoundedJson
    taken_by: Name
    taken_at: AwareDatetime


class ReportPart(Row):
    """The signed report, as a page and as base64 of the PDF."""

    html: Long
    pdf: Bytes
    sha256: Sha256
    signed_by: Name
    signed_at: AwareDatetime


class Wrapper(Row):
    """The key and signature over everything else in the file, made when it was written out."""

    sha256: Sha256
    public_key: Sha256
    signature: Annotated[str, Field(pattern=r"^[0-9a-f]{128}\z")]


class Archive(Row):
    """Rows of a job with ids counted from one inside the file."""

    format: Literal["flaneur-job/2", "flaneur-job/1"]
    book: Long
    unit: UnitRow
    job: JobRow
    captures: Annotated[list[CapturePart], Field(max_length=500)]
    readings: Annotated[list[ReadingPart], Field(max_length=20_000)]
    bench: Annotated[list[BenchPart], Field(max_length=20_000)]
    journal: Annotated[list[JournalPart], Field(max_length=20_000)]
    report: ReportPart | None
    photos: Annotated[list[PhotoPart], Field(max_length=2000)] = []
    logs: Annotated[list[LogPart], Field(max_length=200)] = []
    events: Annotated[list[EventPart], Field(max_length=20_000)] = []
    put_in: Annotated[list[PutInPart], Field(max_length=5000)] = []
    shifts: Annotated[list[ShiftPart], Field(max_length=1000)] = []
    looks: Annotated[list[LookPart], Field(max_length=1000)] = []
    # They come after the seal, which does not cover them: additions are signed each by itself.
    follow_ups: Annotated[list[FollowUpPart], Field(max_length=1000)] = []
    addenda: Annotated[list[AddendumPart], Field(max_length=1000)] = []
    seal: Seal | None = None
    wrapper: Wrapper | None = None

    def content(self) -> dict[str, Any]:
        """What a signature covers beside journal and report: every row; samples by their own
        hash. What a job has none of is not spelled out where older files had no word for it, so
        that their seals hold.
        """
        covered = self.model_dump(
            include={"book", "unit", "job", "captures", "readings", "bench", "photos", "logs"},
            exclude={"captures": {"__all__": {"content"}}},
        )
        for photo in covered["photos"]:
            if photo["step"] is None:
                del photo["step"]
        later = self.model_dump(include={"events", "put_in", "shifts", "looks"})
        return covered | {key: rows for key, rows in later.items() if rows}

    def record(self) -> dict[str, Any]:
        """The same to be read beside a report: photographs by their hash."""
        found = self.content()
        for photo, kept in zip(found["photos"], self.photos, strict=True):
            photo["content"] = hashlib.sha256(base64.b64decode(kept.content)).hexdigest()
        return found
