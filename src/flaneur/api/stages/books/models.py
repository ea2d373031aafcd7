"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out
from flaneur.api.turning_models import CountLine, TurnsLine
from flaneur.core.drive.facts import Fact, PartFacts
from flaneur.core.engine.difference import Difference
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


class BookText(In):
    """A book file's text, to be examined or taken in."""

    text: Annotated[str, Written(2_000_000, has_lines=True)]


class ChangesView(Out):
    """What a book changes in figures against the current one of its engine. ``against``: that
    one's revision; null when there is none, or when it is the current one.
    """

    against: int | None
    changes: list[Difference]


class BookExamined(Out):
    """The result of examining a text: every check, and the book's name where it could be read."""

    name: str | None
    faults: int
    checks: list[BookCheckLine]
