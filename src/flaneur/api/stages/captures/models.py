"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import ErrorOut, In, Line, Named, Out, PhaserIn, Version
from flaneur.core.measuring.kinds import Phase


class CaptureIn(In):
    version: Version
    phase: Phase = Phase.BEFORE
    seconds: Annotated[float, Field(ge=1, le=20)] = 6.0
    phasers: Annotated[dict[Line, PhaserIn], Field(max_length=16, default_factory=dict)]


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
    trouble: ErrorOut | None
    columns: list[str]
    wanted: list[Named]
    proposal: dict[str, str]
    capture_id: int | None


class IncomingList(Out):
    """``is_worker_away``: what decodes files gives no sign of life; they wait and are safe."""

    files: list[IncomingOut]
    is_worker_away: bool


class MappingIn(In):
    """Column of the file to channel of the book."""

    mapping: Annotated[dict[Line, Line], Field(max_length=20)]
    remember: bool = True
