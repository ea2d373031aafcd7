"""What crosses the network here: one model a message."""

from datetime import date
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out, SmallId
from flaneur.core.meters import Meter
from flaneur.core.record.bounds import Written
from flaneur.jobs.unit_lists import Effect

Tag = Annotated[str, Written(60, 1)]
Name = Annotated[str, Written(120, 1)]
Position = Annotated[str, Written(40, 1)]


class EngineLine(Out):
    """An engine. ``unit_id`` and ``position`` where it is mounted; ``reading`` what its meter
    showed last, ``run_words`` all it has run; ``in_work`` numbers of its open jobs.
    """

    id: int
    number: str
    book_id: int
    book: str
    meter: Meter
    unit_id: int | None
    position: str | None
    reading: float | None
    read_on: date | None
    run_words: str
    has_baseline: bool
    is_retired: bool
    in_work: list[str]


class UnitLine(Out):
    id: int
    tag: str
    name: str
    kind: str
    place: str
    is_retired: bool


class PlaceLine(Out):
    id: int
    name: str
    is_bay: bool
    is_retired: bool


class BookChoice(Out):
    id: int
    name: str


class Units(Out):
    """All units, engines and places, and the current book of every engine."""

    units: list[UnitLine]
    engines: list[EngineLine]
    places: list[PlaceLine]
    books: list[BookChoice]


class UnitIn(In):
    tag: Tag
    name: Name
    kind: Annotated[str, Written(60, 1)]
    place: Annotated[str, Written(120)] = ""


class UnitChange(UnitIn):
    is_retired: bool


class EngineIn(In):
    """A new engine; mounted at once where ``unit_id`` says so, its meter read where ``reading``
    does.
    """

    number: Tag
    book_id: SmallId
    meter: Meter = Meter.HOURS
    unit_id: SmallId | None = None
    position: Position = "main"
    reading: Annotated[float, Field(ge=0, le=5_000_000, allow_inf_nan=False)] | None = None
    read_on: date | None = None


class EngineChange(In):
    number: Tag
    book_id: SmallId
    is_retired: bool


class MountIn(In):
    unit_id: SmallId
    position: Position


class MeterIn(In):
    """What a meter shows; ``is_new_meter``: it was replaced, and begins with this."""

    value: Annotated[float, Field(ge=0, le=5_000_000, allow_inf_nan=False)]
    read_on: date
    is_new_meter: bool = False


class PlaceIn(In):
    name: Name
    is_bay: bool


class PlaceChange(PlaceIn):
    is_retired: bool


class ListIn(In):
    """A list as CSV text."""

    text: Annotated[str, Written(1_000_000, has_lines=True)]


class ListTake(ListIn):
    """``fingerprint``: of the list as it was looked at."""

    fingerprint: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class ListLineOut(Out):
    number: int
    tag: str
    effect: Effect
    words: list[str]


class PreviewOut(Out):
    """What a list would change; it may be taken in when ``is_good``, with its fingerprint."""

    lines: list[ListLineOut]
    is_good: bool
    fingerprint: str
