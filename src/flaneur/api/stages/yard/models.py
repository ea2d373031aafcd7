"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out, SmallId, UnitOut
from flaneur.core.job.progress import JobStage
from flaneur.jobs.searching import HitKind


class JobLine(Out):
    """A job as the yard shows it; ``press`` is what its next act is called and ``step`` the step of
    the bench it leads to.
    """

    id: int
    number: str
    unit: str
    tag: str
    engine: str
    stage: JobStage
    place: str
    next_action: str
    press: str
    step: str | None
    complaint: str
    opened_by: str
    opened_at: datetime
    signed_at_depot: str | None
    is_imported: bool


class YardPlace(Out):
    """Where units stand; ``is_bay``: where they can be worked on."""

    name: str
    is_bay: bool


class Yard(Out):
    places: list[YardPlace]
    units: list[UnitOut]
    jobs: list[JobLine]
    stages: list[JobStage]


class HitOut(Out):
    """Something found, and where it leads: to a job at a stage, a unit, or a part of a book."""

    kind: HitKind
    title: str
    detail: str
    job: int | None
    stage: JobStage | None
    unit: int | None
    book: int | None
    part: str | None


class Found(Out):
    hits: list[HitOut]


class SearchQuery(In):
    """Words, or pieces of them; ``book`` is that of the engine one is working on."""

    q: Annotated[str, Field(max_length=80)]
    book: Annotated[int, Field(ge=1, le=2_147_483_647)] | None = None


class NewJob(In):
    """Which unit, and which of its engines where it carries more than one; ``comeback_of``: the
    signed job that it comes back from.
    """

    unit_id: SmallId
    engine_id: SmallId | None = None
    comeback_of: SmallId | None = None
