"""What crosses the network here: one model a message."""

from datetime import datetime

from flaneur.api.models import In, Out, SmallId, UnitOut
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
    """Which unit, and which of its engines where it carries more than one."""

    unit_id: SmallId
    engine_id: SmallId | None = None
