"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import ErrorOut, In, Line, Out, PhaserIn, Version
from flaneur.core.measuring.kinds import Phase
from flaneur.devices.live import LiveStatus


class LiveIn(In):
    """Connect. ``take_over`` asks for the box where somebody else is at it; what they record is
    kept first.
    """

    cold: bool = False
    phase: Phase = Phase.BEFORE
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
    half_90: float
    scatter_deg: float
    history_s: list[float]
    history_deg: list[float]
    settled_s: float | None


class FirstStartIn(In):
    """What was seen and heard at the first start: seconds of rattle (null: none was heard), oil
    pressure as typed (empty: not read) and after how many seconds it was there (null: not said),
    hours of standing as typed.
    """

    version: Version
    rattle_s: Annotated[float, Field(ge=0, le=86_400)] | None = None
    pressure: Line = ""
    pressure_s: Annotated[float, Field(ge=0, le=86_400)] | None = None
    standing: Line = ""


class LivePhaser(Out):
    """A phaser and the angles it may be sent to, crank degrees away from park."""

    id: str
    name: str
    angles_deg: list[float]


class LiveOut(Out):
    """``state``: off, connecting, live, lost. ``held_s``: seconds still in hand; ``recording_s``:
    of a running record. ``look`` is another after every connecting.
    """

    state: LiveStatus
    look: str | None
    trouble: ErrorOut | None
    seconds: float
    held_s: float
    recording_s: float | None
    rpm: float | None
    quality: list[str]
    cams: list[LiveCam]
    phasers: list[LivePhaser]
    commands: dict[str, float]
    by: str | None
    is_mine: bool
    tolerance_deg: float
    speeds_rpm: list[int]


class LiveKeep(In):
    version: Version
    seconds: Annotated[float, Field(ge=1, le=60)] | None = None
    phasers: Annotated[dict[Line, PhaserIn], Field(max_length=16, default_factory=dict)]
