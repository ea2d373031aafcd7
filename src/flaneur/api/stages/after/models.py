"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Line, Out, Reason, SmallId, Text, Version
from flaneur.core.choices import Choice
from flaneur.core.job.ending import MOST_DAYS, Ending
from flaneur.core.job.following import FollowKind, Outcome
from flaneur.core.record.bounds import Written


class FollowUpOut(Out):
    """Something due after a job; without an ``outcome`` it is open. ``due`` says when, in words;
    ``outcomes`` are the answers it takes.
    """

    id: int
    kind: FollowKind
    title: str
    words: str
    due_at: datetime
    due: str
    is_due: bool
    outcome: Outcome | None
    outcomes: list[Choice]
    note: str
    done_by: str | None
    done_at: datetime | None


class AddendumOut(Out):
    """An addition to a signed report, with its signature."""

    place: int
    text: str
    by: str
    at: datetime
    signature: str


class AfterOut(Out):
    """What comes after a job."""

    follow_ups: list[FollowUpOut]
    addenda: list[AddendumOut]
    may_add: bool
    ended: str | None
    endings: list[Choice]
    may_end: bool
    unit_id: int


class EndIn(In):
    """End a job without a repair; ``again_in_days`` is when an engine that is left is measured
    again, ``at_hours`` at which hours of its meter, in words.
    """

    version: Version
    ending: Ending
    reason: Reason
    again_in_days: Annotated[int | None, Field(ge=1, le=MOST_DAYS, strict=True)] = None
    at_hours: Line = ""


class FollowedIn(In):
    """What came of something due."""

    id: SmallId
    outcome: Outcome
    note: Annotated[str, Written(2000, has_lines=True)] = ""


class AddIn(In):
    """An addition to a signed report, signed with one's password."""

    text: Annotated[Text, Field(min_length=3)]
    password: Line


class DueLine(Out):
    """Something due on a unit, and where it is answered."""

    job_id: int
    number: str
    unit: str
    tag: str
    title: str
    words: str
    due: str
    is_due: bool


class DueOut(Out):
    """Everything that is due and not answered, the earliest first."""

    dues: list[DueLine]
