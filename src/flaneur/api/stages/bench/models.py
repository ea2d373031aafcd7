"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Line, Out, Reason, Version
from flaneur.core.plan.plan import PlanStep
from flaneur.core.proof.release import HardStop
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


class BenchOut(Out):
    """``occurrences`` counts for each step how often it was answered: a reopened step is another
    occurrence of it. ``cause_needs_step``: a hard stop's cause must name the step behind it.
    """

    steps: list[PlanStep]
    records: list[RecordOut]
    occurrences: dict[str, int]
    is_stopped: bool
    stops: list[HardStop]
    pins_in: int
    is_started: bool
    cause_needs_step: bool


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
