"""What crosses the network here: one model a message."""

from typing import Annotated, Literal

from pydantic import Field

from flaneur.api.models import CaptureOut, In, Line, Out, Seconds, Version
from flaneur.core.record.bounds import Written
from flaneur.core.signals.camreading import EdgeReading
from flaneur.core.signals.compare import CamChange


class Trace(Out):
    channel: str
    name: str
    short: str
    cam: str | None
    low_v: list[float]
    high_v: list[float]
    expected_deg: list[float]
    expected_rising: list[bool]
    deviation_deg: float | None


class Traces(Out):
    capture: CaptureOut
    traces: list[Trace]


class CamDetail(Out):
    """Everything one capture says of a cam; crank degrees, late positive. ``half_90`` is half of
    the 90 % interval; ``settling_deg`` the fitted course at ``cycle_s``; ``over_time``,
    ``edges_said`` and ``half_order`` say it in words.
    """

    cam: str
    name: str
    short: str
    half_90: float
    deviation_deg: float
    stderr_deg: float
    scatter_deg: float
    cycles: int
    per_cycle_deg: list[float]
    cycle_s: list[float]
    cycle_rpm: list[float]
    edges: list[EdgeReading]
    settling_deg: list[float]
    over_time: str
    half_order: str | None
    edges_said: str
    is_inverted: bool


class FingerprintOut(Out):
    error_deg: list[float]
    stderr_deg: float
    turns: int
    is_clear: bool
    words: str


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
    short: str
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
