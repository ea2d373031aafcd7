"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from flaneur.api.models import CaptureOut, In, Line, Named, Out, PhaserIn, Version
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.measuring.worksheet import Answer, Worksheet
from flaneur.core.picture.ladder import Ladder
from flaneur.core.picture.ladder_svg import LadderDrawing
from flaneur.core.readings.typed import Instrument
from flaneur.core.record.bounds import Written


class CamIn(In):
    """A cam read with another tool. ``uncertainty`` counts in the same degrees as ``value``; empty,
    the instrument's usual one stands.
    """

    version: Version
    cam: Line
    value: Line
    degrees_of: Literal["cam", "crank"]
    positive: Literal["advance", "retard"]
    uncertainty: Line = ""
    phaser: PhaserIn = PhaserIn()
    instrument: Instrument = Instrument.OTHER
    tool: Line = ""


class PhaserChange(PhaserIn):
    version: Version


class ReadingOut(Out):
    """``value`` is null where the answer is a word; ``half_90`` is half of its 90 % interval;
    ``band`` judges a worksheet's answer, ``of_limit`` is its share of the limit;
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
    half_90: float | None
    part_name: str
    figure: str
    is_assumed: bool
    words: str
    band: str
    of_limit: float | None
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


class InstrumentOut(Out):
    """What a cam can be read with, and how far off it is taken to be (crank degrees) where nobody
    says.
    """

    code: Instrument
    words: str
    assumed_deg: float


class ReadingsOut(Out):
    ladder: Ladder
    ladder_drawings: list[LadderDrawing]
    readings: list[ReadingOut]
    captures: list[CaptureOut]
    cams: list[Named]
    phasers: list[Named]
    worksheets: list[Worksheet]
    channels: list[str]
    upload_limit_bytes: int
    instruments: list[InstrumentOut]


class SheetIn(In):
    kind: ReadingKind
    part: Line
    fields: Annotated[
        dict[Line, Annotated[str, Written(600, has_lines=True)]], Field(max_length=20)
    ]


class SheetSave(SheetIn):
    version: Version
    phase: Phase = Phase.BEFORE
    instrument: Line = ""


class SheetAnswer(Out):
    """The answer, and half the width of its 90 % interval."""

    answer: Answer
    figure: str
    half_90: float | None
