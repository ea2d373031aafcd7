"""What crosses the network here: one model a message."""

from datetime import datetime

from flaneur.api.models import In, Line, Out, Text, UnitOut, Version
from flaneur.core.choices import Choice
from flaneur.core.job.progress import JobStage
from flaneur.core.job.states import PartState
from flaneur.core.measuring.told import AccessoryNoise, OilState, Rattle, Starts
from flaneur.core.picture.shapes import DrivePicture


class Intake(In):
    complaint: Text = ""
    when: Line = ""
    where: Line = ""
    standing_hours: Line = ""
    oil_state: OilState = OilState.UNKNOWN
    oil_note: Line = ""
    hours: Line = ""
    replaced_before: Text = ""
    replaced_parts: tuple[Line, ...] = ()
    replaced_at: Line = ""
    accessories: AccessoryNoise = AccessoryNoise.UNKNOWN
    rattle: Rattle = Rattle.UNKNOWN
    starts: Starts = Starts.UNKNOWN
    codes: Line = ""


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


class ReplaceableOut(Out):
    """What may be said to have been replaced ``of`` one drive: a name and the parts it stands
    for.
    """

    of: str
    name: str
    parts: tuple[str, ...]


class PartStateOut(Out):
    """A part's state, as a code and in words."""

    part: str
    state: PartState
    words: str


class NextOut(Out):
    """What comes next in the stage where the job stands: the words for it, what stands on the press
    that leads there, and the bench's step it leads to.
    """

    words: str
    press: str
    step: str | None


class JobOut(Out):
    """A job's head: what every stage shows round its own work."""

    id: int
    number: str
    version: int
    unit: UnitOut
    engine: str
    stage: JobStage
    next: NextOut
    notice: str
    intake: Intake
    oil_states: tuple[Choice, ...]
    accessory_noises: tuple[Choice, ...]
    rattles: tuple[Choice, ...]
    starts: tuple[Choice, ...]
    replaceable: tuple[ReplaceableOut, ...]
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
    states: list[PartStateOut]
