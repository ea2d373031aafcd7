"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import (
    CaptureOut,
    HardStopOut,
    In,
    Line,
    Named,
    Out,
    Reason,
    Text,
    Version,
)
from flaneur.core.choices import Choice
from flaneur.core.picture.ladder import Ladder
from flaneur.core.picture.ladder_svg import LadderDrawing
from flaneur.core.proof.check import Check
from flaneur.core.proof.shown import ComesBack, Turned
from flaneur.core.proof.starting import InTheWay


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
    marks: Annotated[dict[Line, bool], Field(max_length=100, default_factory=dict)]
    pins_out: Annotated[int, Field(ge=0, le=1000, strict=True)]


class StopIn(In):
    """Where the crank stood at a hard stop, such as ``203°`` of the 720° cycle."""

    version: Version
    at: Line


class LinkLine(Out):
    """What was asked of the control unit, and what it answered."""

    words: str
    by: str
    at: datetime


class TooLong(Out):
    """After how many seconds something takes too long, and what it may be then."""

    after_s: float
    words: str


class StartOut(Out):
    """Before the first start: what stands in its way, what is shown already, what was heard before
    the repair; and what is looked out for at it.
    """

    in_the_way: list[InTheWay]
    shown: list[str]
    heard_before: list[str]
    rattle: TooLong
    pressure: TooLong


class ProofOut(Out):
    """``round`` counts the answers given at the bench: once it was worked on again, turning by hand
    begins anew.
    """

    round: int
    checks: list[Check]
    turned: list[Turned]
    comes_back: list[ComesBack]
    start: StartOut
    first_start: list[str]
    link: list[LinkLine]
    link_tasks: list[Choice]
    ladder: Ladder
    ladder_drawings: list[LadderDrawing]
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
    stops: list[HardStopOut]
    is_stopped: bool
    may_release: bool
    blocked_by: list[str]
    is_released: bool


class ReleaseIn(In):
    version: Version
    override_reason: Text = ""
