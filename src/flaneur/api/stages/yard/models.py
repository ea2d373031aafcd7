"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out, UnitOut
from flaneur.core.job.progress import JobStage


class JobLine(Out):
    id: int
    number: str
    unit: str
    tag: str
    engine: str
    stage: JobStage
    next_action: str
    complaint: str
    opened_by: str
    opened_at: datetime
    signed_at_depot: str | None
    is_imported: bool


class Yard(Out):
    units: list[UnitOut]
    jobs: list[JobLine]
    stages: list[JobStage]


class NewJob(In):
    unit_id: Annotated[int, Field(ge=1, le=2_147_483_647, strict=True)]
