"""What crosses the network: one model per message, from which the OpenAPI document and the client's
types come.
"""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.drive.picture import DrivePicture
from flaneur.core.measuring.worksheet import Worksheet
from flaneur.core.plan.plan import Plan, PlanStep
from flaneur.core.plan.propose import Proposal
from flaneur.core.proof.ladder import Ladder
from flaneur.core.proof.release import Check, HardStop
from flaneur.core.record.bounds import Written

Text = Annotated[str, Written(4000, has_lines=True)]
Line = Annotated[str, Written(200)]
Reason = Annotated[str, Written(400, 3)]
Version = Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]
Phase = Literal["before", "after"]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Out(BaseModel):
    model_config = ConfigDict(frozen=True)


class ErrorOut(Out):
    """The one shape of every error. ``changes`` says what others did when a copy was stale.

    ``request`` is the number under which the server's log has it.
    """

    message: str
    read: str = ""
    expected: str = ""
    advice: str = ""
    faults: list[str] = []
    changes: list[str] = []
    request: str = ""


class SignIn(In):
    login: Line
    password: Line


class Me(Out):
    """Who is signed in; null name when nobody is. ``csrf`` goes back in X-CSRFToken with every
    change.
    """

    name: str | None
    role: str | None
    csrf: str


class UnitOut(Out):
    id: int
    tag: str
    name: str
    kind: str
    place: str
    hours: float | None
    engine: str
    has_baseline: bool
    open_job: int | None


class JobLine(Out):
    id: int
    number: str
    unit: str
    tag: str
    engine: str
    stage: str
    next_action: str
    complaint: str
    opened_by: str
    opened_at: datetime
    signed_at_depot: str | None
    is_imported: bool


class Yard(Out):
    units: list[UnitOut]
    jobs: list[JobLine]
    stages: list[str]


class NewJob(In):
    unit_id: Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]


class Intake(In):
    complaint: Text = ""
    when: Line = ""
    where: Line = ""
    standing_hours: Line = ""
    oil_state: Literal["good", "poor", "unknown"] = "unknown"
    oil_note: Line = ""
    hours: Line = ""
    replaced_before: Text = ""
    accessories: Literal["excluded", "not excluded", "unknown"] = "unknown"


class IntakeIn(Intake):
    version: Version


class NotebookEntry(Out):
    id: int
    at: datetime
    by: str
    kind: str
    words: str
    reverses: int | None
    is_reversed: bool


class PartState(Out):
    part: str
    state: str


class JobOut(Out):
    """A job's head: what every stage shows round its own work."""

    id: int
    number: str
    version: int
    unit: UnitOut
    engine: str
    stage: str
    next_action: str
    notice: str
    intake: Intake
    is_signed: bool
    is_released: bool
    bench_started: bool
    notebook: list[NotebookEntry]
    can_undo: bool
    signed_at_depot: str | None
    imported_by: str | None
    import_note: str
    book_id: int
    can_capture: bool
    face: DrivePicture
    states: list[PartState]


class Changed(Out):
    """A change was made: the job's new version and what the notebook says of it. ``made`` is the id
    of what was added.
    """

    id: int
    version: int
    words: str
    made: int | None = None


class PhaserIn(In):
    state: Literal["parked", "commanded", "unknown"] = "unknown"
    command_deg: Annotated[float, Field(ge=0, le=180)] = 0.0


class CaptureIn(In):
    version: Version
    phase: Phase = "before"
    seconds: Annotated[float, Field(ge=1, le=20)] = 6.0
    phasers: Annotated[dict[Line, PhaserIn], Field(max_length=16)] = {}


class CamIn(In):
    version: Version
    cam: Line
    value: Line
    degrees_of: Literal["cam", "crank"]
    positive: Literal["advance", "retard"]
    uncertainty: Line = "0.5"
    phaser: PhaserIn = PhaserIn()
    instrument: Line = "typed in"


class StrikeIn(In):
    version: Version
    reason: Reason


class PhaserChange(PhaserIn):
    version: Version


class VersionIn(In):
    version: Version


class ReadingOut(Out):
    """``value`` is null where the answer is a word; ``band`` judges a worksheet's answer;
    ``working`` shows its arithmetic.
    """

    id: int
    phase: str
    kind: str
    part: str
    name: str
    value: float | None
    unit: str
    stderr: float | None
    words: str
    band: str
    working: list[str]
    photos: list[int]
    scatter_deg: float | None
    cycles: int | None
    phaser_state: str
    command_deg: float
    has_phaser: bool
    as_typed: str
    instrument: str
    taken_by: str
    taken_at: datetime
    struck: str | None
    counts: bool


class CaptureOut(Out):
    id: int
    phase: str
    source: str
    seconds: float
    rate_hz: float
    rpm: float
    taken_by: str
    taken_at: datetime
    quality: list[str]
    notes: list[str]
    samples: int
    struck: str | None


class Named(Out):
    id: str
    name: str


class ReadingsOut(Out):
    ladder: Ladder
    readings: list[ReadingOut]
    captures: list[CaptureOut]
    cams: list[Named]
    phasers: list[Named]
    worksheets: list[Worksheet]
    channels: list[str]
    upload_limit_bytes: int


class Trace(Out):
    channel: str
    name: str
    cam: str | None
    low_v: list[float]
    high_v: list[float]
    expected_deg: list[float]
    expected_rising: list[bool]
    deviation_deg: float | None


class Traces(Out):
    capture: CaptureOut
    traces: list[Trace]


class VerdictOut(Out):
    verdict: Verdict
    measured: list[Proposal]
    whole_set: list[Proposal]


class ComponentOut(Out):
    id: str
    name: str
    price: float
    is_renewable: bool
    is_one_use: bool
    part: str | None


class ScopeIn(In):
    version: Version
    scope: Annotated[list[Line], Field(max_length=100)]


class PlanPreview(In):
    scope: Annotated[list[Line], Field(max_length=100)]


class PlanOut(Out):
    plan: Plan | None
    components: list[ComponentOut]
    proposals: VerdictOut
    is_fixed: bool


class SeenOut(Out):
    ask: str
    typed: str
    ok: bool
    words: str


class RecordOut(Out):
    step: str
    seen: list[SeenOut]
    is_right: bool
    departure: str | None
    by: str
    at: datetime


class BenchOut(Out):
    """``occurrences`` counts for each step how often it was answered: a reopened step is another
    occurrence of it.
    """

    steps: list[PlanStep]
    records: list[RecordOut]
    occurrences: dict[str, int]
    is_stopped: bool
    stops: list[HardStop]
    pins_in: int
    is_started: bool


class StepIn(In):
    version: Version
    step: Line
    answers: Annotated[list[Line], Field(max_length=40)]
    departure: Annotated[str, Written(400)] | None = None


class StepResult(Out):
    """``closed`` false: what was seen is not right; ``remedy`` is the book's, ``reopened`` the
    steps that rest on it.
    """

    version: int
    closed: bool
    seen: list[SeenOut]
    remedy: str
    reopened: list[str]


class ReopenIn(In):
    """Open a closed step again, and with it all that rests on it."""

    version: Version
    step: Line
    reason: Reason


class CauseIn(In):
    """What stopped the crank, and the step behind it, which is opened again; none only while no
    step is closed.
    """

    version: Version
    step: Line | None = None
    cause: Reason


class HandsIn(In):
    version: Version
    turns: Line
    hard_stop: bool
    marks: Annotated[dict[Line, bool], Field(max_length=100)] = {}
    pins_out: Annotated[int, Field(ge=0, le=1000, strict=True)]


class ProofOut(Out):
    """``round`` counts the answers given at the bench: once it was worked on again, turning by hand
    begins anew.
    """

    round: int
    checks: list[Check]
    ladder: Ladder
    mark_checks: list[str]
    text: str
    hand_turns: int
    pins_in: int
    captures: list[CaptureOut]
    phasers: list[Named]
    turns: float | None
    hard_stop: bool | None
    pins_out: int | None
    marks: dict[str, bool]
    stops: list[HardStop]
    is_stopped: bool
    may_release: bool
    blocked_by: list[str]
    is_released: bool


class ReleaseIn(In):
    version: Version
    override_reason: Text = ""


class SignInput(In):
    version: Version
    left_over: Text = ""
    password: Line


class HandoverOut(Out):
    is_released: bool
    is_signed: bool
    signed_by: str | None
    signed_at: datetime | None
    signed_at_depot: str | None
    sha256: str | None
    head: str | None
    signing_key: str | None
    left_over: str
    summary: list[str]
