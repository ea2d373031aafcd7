"""What crosses the network about engine books and the drive face."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out
from flaneur.core.clearance.lobes import Lobe
from flaneur.core.clearance.off import ValvesOff
from flaneur.core.clearance.view import HeadsView, ReserveView, RiskAt
from flaneur.core.drive.counts import Count
from flaneur.core.drive.facts import Fact, PartFacts
from flaneur.core.drive.off import OneToothOff
from flaneur.core.drive.picture import DrivePicture
from flaneur.core.record.bounds import Written


class BookLine(Out):
    """A book in the list: the newest revision of each engine; ``units`` carry it."""

    id: int
    name: str
    kind: str
    revision: int
    chains: int
    links: int
    phasers: int
    units: list[str]
    knows_clearance: bool
    is_adopted: bool
    came_by: str | None


class Books(Out):
    books: list[BookLine]


class BookCheckLine(Out):
    """One check of a book: where, what was found, what was expected, whether it holds."""

    path: str
    found: str
    expected: str
    holds: bool


class CountLine(Out):
    """A link count named for reading; ``links`` is the whole number to find."""

    chain: str
    chain_id: str
    start: str
    start_id: str
    end: str
    end_id: str
    along: str
    links: int
    is_next: bool
    exact: float
    more: str
    less: str

    @classmethod
    def of(cls, count: Count, chain: str, names: dict[str, str]) -> "CountLine":
        """With the parts' names beside their ids."""
        return cls(
            chain=chain,
            chain_id=count.chain,
            start=names[count.start],
            start_id=count.start,
            end=names[count.end],
            end_id=count.end,
            along=count.along,
            links=count.links,
            is_next=count.is_next,
            exact=count.exact,
            more=count.more,
            less=count.less,
        )


class TurnsLine(Out):
    """Crank turns until something stands as it stood."""

    part: str
    name: str
    turns: int


class PositionLine(Out):
    """A service or check position."""

    name: str
    crank_deg: float
    cams: list[str]
    tool: str | None
    text: str


class ToolLine(Out):
    name: str
    text: str
    play_deg: float
    workshop_method: str | None


class MarkLine(Out):
    name: str
    on: str
    clock: str
    at_deg: float
    is_timing: bool
    meets: str | None
    purpose: str | None
    miss_before_deg: float
    miss_after_deg: float


class BookView(Out):
    """A book laid open: what it says of the engine, and every check with what it found."""

    id: int
    name: str
    kind: str
    revision: int
    notice: str
    service: str
    checks: list[BookCheckLine]
    facts: list[PartFacts]
    limits: list[Fact]
    counts: list[CountLine]
    turns: list[TurnsLine]
    turns_for_all: int
    positions: list[PositionLine]
    marks: list[MarkLine]
    tools: list[ToolLine]
    clearance: str
    components: int
    operations: int


class OffQuery(In):
    """Which chains are off (ids with commas between), how cams are held (a place in the book's
    list), phasers seen in park.
    """

    chains: Annotated[str, Written(600)]
    hold: Annotated[int, Field(ge=0, le=50)] | None = None
    parked: bool = False
    crank: Annotated[float, Field(ge=0, lt=720, allow_inf_nan=False)] | None = None


class TurningFace(Out):
    """A drive face to turn: the picture, lobes, crank windows of one turn, counts and returns of
    marks.

    In ``safe_windows`` every cam may be loose; in ``piston_windows`` no valve reaches a piston.
    """

    picture: DrivePicture
    lobes: list[Lobe]
    clearance_known: bool
    safe_windows: list[list[int]]
    piston_windows: list[list[int]]
    heads: HeadsView | None
    reserve: ReserveView | None
    risk: list[RiskAt]
    clearance_words: str
    is_known: bool = Field(
        description="False when a worn engine was asked for and nothing is known of its wear."
    )
    counts: list[CountLine]
    turns: list[TurnsLine]
    turns_for_all: int
    facts: list[PartFacts]
    contacts: list["ContactLine"]


class ContactLine(Out):
    """A place where a chain can be a tooth off."""

    contact: str
    name: str


class OffFace(Out):
    """One tooth off: the picture, what shows, and what each valve row has left."""

    picture: DrivePicture
    off: OneToothOff
    valves: ValvesOff


class BookText(In):
    """A book file's text to be examined; nothing of it is kept."""

    text: Annotated[str, Written(2_000_000, has_lines=True)]


class BookExamined(Out):
    """The result of examining a text: every check, and the book's name where it could be read."""

    name: str | None
    faults: int
    checks: list[BookCheckLine]
