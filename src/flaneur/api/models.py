"""What crosses the network in more than one stage, and what its pieces are made of."""

from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.errors import ErrorCode
from flaneur.core.proof.hands import HardStop
from flaneur.core.record.bounds import Written

Text = Annotated[str, Written(4000, has_lines=True)]
Line = Annotated[str, Written(200)]
Login = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9._-]{1,39}$")]
PersonName = Annotated[str, Written(120, 2)]
Reason = Annotated[str, Written(400, 3)]
Version = Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]
Seconds = Annotated[float, Field(ge=-1, le=100_000)]
SmallId = Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", defer_build=True)


class Out(BaseModel):
    model_config = ConfigDict(frozen=True, defer_build=True)


class ErrorOut(Out):
    """The one shape of every error, answered at once or kept with what went wrong in the
    background. ``code`` is what software acts on; ``field`` is what was filled in wrong, as the
    request calls it; ``changes`` says what others did when a copy was stale; ``request`` is the
    number under which the server's log has it.
    """

    code: ErrorCode = ErrorCode.REFUSED
    message: str
    read: str = ""
    expected: str = ""
    advice: str = ""
    faults: list[str] = []
    changes: list[str] = []
    field: str = ""
    request: str = ""


class UnitOut(Out):
    """A unit with one of the engines it carries. ``is_one_of``: it carries others;
    ``run_words``: what the engine has run, as people say it.
    """

    id: int
    tag: str
    name: str
    kind: str
    place: str
    engine_id: int
    number: str
    position: str
    is_one_of: bool
    run_words: str
    engine: str
    has_baseline: bool
    open_job: int | None


class Changed(Out):
    """A change was made: the job's new version and what the notebook says of it. ``made`` is the id
    of what was added.
    """

    id: int
    version: int
    words: str
    made: int | None = None


class PhotoOut(Out):
    """A photograph was added to a job."""

    id: int
    version: int


class PhaserIn(In):
    state: Literal["parked", "commanded", "unknown"] = "unknown"
    command_deg: Annotated[float, Field(ge=0, le=180)] = 0.0


class StrikeIn(In):
    version: Version
    reason: Reason


class VersionIn(In):
    version: Version


class HardStopOut(Out):
    """A hard stop felt while turning by hand, its cause once written, and where the crank stood
    (degrees of the 720° cycle) where somebody said.
    """

    by: str
    at: str
    turns: float | None
    cause: str | None
    step: str | None
    cause_by: str | None
    at_deg: float | None

    @classmethod
    def of(cls, stop: HardStop) -> Self:
        """As it crosses the network."""
        return cls(**dict(stop))


class CaptureOut(Out):
    """A kept capture. ``quality_verdict`` sums up what is to know of it."""

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
    quality_verdict: str


class Named(Out):
    id: str
    name: str


class Nothing(In):
    """A press that carries nothing."""
