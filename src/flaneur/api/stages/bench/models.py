"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated, Self

from pydantic import AwareDatetime, Field, model_validator

from flaneur.api.models import HardStopOut, In, Line, Out, Reason, Version
from flaneur.core.bench.inside import MOST_AT_ONCE, LaidPiece
from flaneur.core.bench.looking import Opinion
from flaneur.core.bench.within import EventKind
from flaneur.core.fasteners.adapter import Lever
from flaneur.core.fasteners.judging import Judged
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.stopping import StopView
from flaneur.core.record.bounds import Written


class SeenOut(Out):
    """One answer; ``said`` is question and answer in one line."""

    ask: str
    typed: str
    ok: bool
    words: str
    said: str


class RecordOut(Out):
    step: str
    seen: list[SeenOut]
    is_right: bool
    departure: str | None
    by: str
    at: datetime


class HappenedOut(Out):
    """Within a step, since it was answered last: ``item`` is the place among its questions of the
    stage a bolt (``number``) was brought to, or the timer.
    """

    step: str
    kind: EventKind
    item: str
    number: int
    by: str
    at: datetime


class WithinIn(In):
    """Bring bolts to a stage (``item``: its place among the step's questions; ``number`` 0: all
    that are left), or begin its timer (``item`` waiting), now or ``at`` an earlier time.
    """

    step: Line
    answered: Annotated[int, Field(ge=0, le=100_000)]
    kind: EventKind
    item: Line
    number: Annotated[int, Field(ge=0, le=60)] = 0
    at: AwareDatetime | None = None


class BoltTraceIn(In):
    """A bolt's trace as CSV (docs/formats/torque.md), ``bolt`` by its number in the pattern."""

    step: Line
    answered: Annotated[int, Field(ge=0, le=100_000)]
    fastener: Line
    bolt: Annotated[int, Field(ge=1, le=60)]
    csv: Annotated[str, Written(1_500_000, has_lines=True)]


class BoltTrace(Out):
    """A bolt's trace, thinned to be drawn, with how it was judged beside its neighbours'."""

    id: int
    fastener: str
    bolt: int
    by: str
    at: datetime
    judged: Judged
    angle_deg: list[float]
    torque_nm: list[float]


class BoltTraces(Out):
    """BoltTraces of a step's bolts since it was answered last."""

    version: int
    traces: list[BoltTrace]


class NotAfterAll(In):
    """Take back the last bolt of a stage, or a step's timer."""

    step: Line
    kind: EventKind
    item: Line


class LaidOut(Out):
    """Pieces laid into the engine by hand that are still there; who put them in last."""

    piece: LaidPiece
    place: str
    count: int
    words: str
    by: str
    at: datetime


class LayIn(In):
    """Count pieces in, or out (``count`` below nought)."""

    piece: LaidPiece
    place: Annotated[str, Written(120)]
    count: Annotated[int, Field(ge=-MOST_AT_ONCE, le=MOST_AT_ONCE)]


class ShiftOut(Out):
    """A job that was handed over and is not taken yet: how the engine stood, why it was not to be
    left so, what to know, and the note of who gave it.
    """

    given_by: str
    given_at: datetime
    note: str
    stands: list[str]
    against: list[str]
    mind: list[str]


class LeavingOut(Out):
    """How the engine stands now: ``against`` says why it must not be left so (empty: it may),
    ``mind`` what whoever comes must know.
    """

    version: int
    stands: list[str]
    against: list[str]
    mind: list[str]


class HandOverIn(In):
    """``note``: for whoever takes over; needed where the engine must not be left as it stands."""

    note: Annotated[str, Written(1000, 0, has_lines=True)] = ""


class TakeOverIn(In):
    """Who takes over shows who they are: by password, or by PIN where they have one."""

    secret: Line
    is_pin: bool = False


class MeasureOut(Out):
    """A worksheet for a part that was taken off; ``is_taken``: it was measured already."""

    kind: ReadingKind
    part: str
    title: str
    is_taken: bool


class StepPhoto(Out):
    id: int
    caption: str


class LookOut(Out):
    """A second look asked of a colleague; ``opinion`` null: not answered yet."""

    step: str
    question: str
    asked_by: str
    asked_at: datetime
    until: datetime
    answered_by: str | None
    opinion: Opinion | None
    words: str
    answer: str
    answered_at: datetime | None


class AskIn(In):
    """Ask a colleague to look at a step."""

    step: Line
    question: Annotated[str, Written(400, 3, has_lines=True)]


class AskedColleague(Out):
    """``path`` is the link's address on this server; it is shown once and kept nowhere."""

    version: int
    path: str
    until: datetime


class BenchOut(Out):
    """``occurrences`` counts for each step how often it was answered: a reopened step is another
    occurrence of it. ``go_by``: the lead who passed the plan's points of no return.
    ``cause_needs_step``: a hard stop's cause must name the step behind it. ``within``: what
    happened within steps since they were answered last. ``laid`` is still in the engine, laid in by
    hand: none of the ``turning`` steps closes before it is out; ``planned_in``: by the plan.
    ``shift`` waits to be taken over; ``holder`` took the job over last. ``to_photograph``: steps
    whose marks or order are worth one; ``to_measure``: what comes off, by step.
    """

    steps: list[PlanStep]
    records: list[RecordOut]
    occurrences: dict[str, int]
    is_stopped: bool
    stops: list[HardStopOut]
    stop: StopView | None
    pins_in: int
    pins_left: int
    is_started: bool
    go_by: str | None
    cause_needs_step: bool
    within: list[HappenedOut]
    laid: list[LaidOut]
    planned_in: list[str]
    turning: list[str]
    shift: ShiftOut | None
    holder: str
    photos: dict[str, list[StepPhoto]]
    to_photograph: list[str]
    to_measure: dict[str, list[MeasureOut]]
    looks: list[LookOut]


class LeverIn(In):
    """A torque, as it is typed with its unit, through an adapter; ``wrench`` by its name in the
    shop's list, empty for any.
    """

    target: Line
    lever: Lever
    wrench: Annotated[str, Field(max_length=120)] = ""


class StepIn(In):
    """``version`` null: the answer was written without the server, ``at`` then, ``answered`` times
    after the step had been answered; it is refused when somebody answered the step since.
    ``began``: when the step's waiting was begun, where no timer was.
    """

    version: Version | None = None
    answered: Annotated[int, Field(ge=0, le=100_000)] | None = None
    at: AwareDatetime | None = None
    began: AwareDatetime | None = None
    step: Line
    answers: Annotated[list[Line], Field(max_length=40)]
    departure: Annotated[str, Written(400)] | None = None

    @model_validator(mode="after")
    def _knows_what_it_answers(self) -> Self:
        if self.version is None and (self.answered is None or self.at is None):
            raise ValueError("without a version it needs “answered” and “at”")
        return self


class StepResult(Out):
    """``closed`` false: what was seen is not right; ``remedy`` is the book's, ``reopened`` the
    steps that rest on it, ``means`` what it does to the engine. ``stays_open_because``: nobody may
    leave it as it is; empty, a lead may.
    """

    version: int
    closed: bool
    seen: list[SeenOut]
    remedy: str
    reopened: list[str]
    means: list[str]
    stays_open_because: str


class Standing(Out):
    """The job as it stands after something happened within a step: its version is as before."""

    id: int
    version: int


class ReopenIn(In):
    """Open a closed step again, and with it all that rests on it."""

    version: Version
    step: Line
    reason: Reason
