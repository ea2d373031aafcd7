"""What crosses the network about captures, logs and worksheets."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from flaneur.api.models import CaptureOut, In, Line, Named, Out, Phase, PhaserIn, Version
from flaneur.core.measuring.worksheet import Answer
from flaneur.core.record.bounds import Written
from flaneur.core.signals.compare import CamChange
from flaneur.core.signals.correlation import EdgeReading
from flaneur.core.signals.phaser import PhaserResponseFit
from flaneur.core.signals.trend import HalfOrder, Settling, SpeedSlope

Seconds = Annotated[float, Field(ge=-1, le=100_000)]
SmallId = Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]


class IncomingOut(Out):
    """A file on its way. ``state``: waiting, reading, decoding, keeping, asking, refused, cancelled
    or done.

    While asking, ``columns`` are the file's, ``wanted`` the sensors of the book, ``proposal`` which
    is which by pattern.
    """

    id: int
    name: str
    size: int
    phase: str
    state: str
    progress: float
    message: str
    read: str
    expected: str
    advice: str
    columns: list[str]
    wanted: list[Named]
    proposal: dict[str, str]
    capture_id: int | None


class IncomingList(Out):
    files: list[IncomingOut]


class MappingIn(In):
    """Column of the file to channel of the book."""

    mapping: Annotated[dict[Line, Line], Field(max_length=20)]
    remember: bool = True


class Nothing(In):
    """A press that carries nothing."""


class CamDetail(Out):
    """Everything one capture says of a cam; crank degrees, late positive."""

    cam: str
    name: str
    deviation_deg: float
    stderr_deg: float
    scatter_deg: float
    cycles: int
    per_cycle_deg: list[float]
    cycle_s: list[float]
    cycle_rpm: list[float]
    edges: list[EdgeReading]
    settling: Settling | None
    speed: SpeedSlope | None
    half_order: HalfOrder | None
    is_inverted: bool


class FingerprintOut(Out):
    error_deg: list[float]
    stderr_deg: float
    turns: int
    is_clear: bool


class LeftOut(Out):
    start_s: float
    stop_s: float
    reason: str
    by: str


class ChannelOut(Out):
    channel: str
    name: str
    is_crank: bool


class CaptureDetail(Out):
    """A capture read closely. ``changes`` compares it with the capture before it in the same
    job.
    """

    capture: CaptureOut
    quality_verdict: str
    cams: list[CamDetail]
    fingerprint: FingerprintOut | None
    left_out: list[LeftOut]
    channels: list[ChannelOut]
    others: list[CaptureOut]
    is_fixed: bool


class CompareOut(Out):
    first: CaptureOut
    second: CaptureOut
    changes: list[CamChange]


class ExpectedEdge(Out):
    time_s: float
    deg: float
    rising: bool


class WindowChannel(Out):
    """Lowest and highest volts at each of the window's times; edges the book expects, and those
    found.
    """

    channel: str
    name: str
    low_v: list[float]
    high_v: list[float]
    expected: list[ExpectedEdge]
    found_s: list[float]


class WindowOut(Out):
    """A stretch of a capture. ``is_exact``: each time is one sample. Angle and speed go straight
    between their times.
    """

    start_s: float
    stop_s: float
    is_exact: bool
    times_s: list[float]
    channels: list[WindowChannel]
    angle_s: list[float]
    theta_deg: list[float]
    rpm: list[float]


class WindowQuery(In):
    start_s: Seconds = 0.0
    stop_s: Seconds = 1.0
    points: Annotated[int, Field(ge=50, le=4000)] = 1000


class StepQuery(In):
    channel: Line
    at_s: Seconds
    way: Literal["next", "before"] = "next"


class StepOutcome(Out):
    """The next edge of a channel; ``time_s`` null when there is none."""

    time_s: float | None
    theta_deg: float | None
    rpm: float | None
    words: str


class LeaveOutIn(In):
    version: Version
    start_s: Seconds
    stop_s: Seconds
    reason: Annotated[str, Written(300, 3)]


class TakeBackIn(In):
    version: Version
    index: Annotated[int, Field(ge=0, le=200, strict=True)]


class SheetIn(In):
    kind: Line
    part: Line
    fields: Annotated[
        dict[Line, Annotated[str, Written(600, has_lines=True)]], Field(max_length=20)
    ]


class SheetSave(SheetIn):
    version: Version
    phase: Phase = "before"
    instrument: Line = ""


class SheetAnswer(Out):
    answer: Answer


class PhotoOut(Out):
    id: int
    version: int


class SweepIn(In):
    version: Version
    phasers: Annotated[list[Line], Field(min_length=1, max_length=8)]
    oil: Literal["hot", "cold"]


class LogOut(Out):
    """A log of the vehicle: what must be known before it is believed, and each phaser fitted."""

    id: int
    source: str
    kind: str
    oil: str
    seconds: float
    rate_hz: float
    taken_by: str
    taken_at: datetime
    words: list[str]
    fits: list[PhaserResponseFit]


class LogsOut(Out):
    logs: list[LogOut]
    phasers: list[Named]
    advice: str


class LiveIn(In):
    """Connect. ``take_over`` asks for the box where somebody else is at it; what they record is
    kept first.
    """

    cold: bool = False
    phase: Phase = "before"
    take_over: bool = False


class LiveCommand(In):
    """Hold a speed, let it fall to idle, or command phasers (crank degrees away from park)."""

    rpm: Annotated[float, Field(ge=400, le=6500)] | None = None
    idle: bool = False
    phasers: Annotated[
        dict[Line, Annotated[float, Field(ge=0, le=180)]], Field(max_length=8, default_factory=dict)
    ]


class LiveCam(Out):
    cam: str
    name: str
    deviation_deg: float
    stderr_deg: float
    scatter_deg: float
    history_s: list[float]
    history_deg: list[float]


class LiveOut(Out):
    """``state``: off, connecting, live, lost. ``held_s``: seconds still in hand; ``recording_s``:
    of a running record.
    """

    state: str
    trouble: str
    seconds: float
    held_s: float
    recording_s: float | None
    rpm: float | None
    quality: list[str]
    cams: list[LiveCam]
    phasers: list[Named]
    commands: dict[str, float]
    by: str | None
    is_mine: bool


class LiveKeep(In):
    version: Version
    seconds: Annotated[float, Field(ge=1, le=60)] | None = None
    phasers: Annotated[dict[Line, PhaserIn], Field(max_length=16, default_factory=dict)]
