"""What crosses the network here: one model a message."""

from datetime import date
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out, Version
from flaneur.core.choices import Choice
from flaneur.core.decision.estimate import Estimate
from flaneur.core.job.agreement import Agreed, Agreeing
from flaneur.core.record.bounds import Written


class GoAheads(Out):
    """Both go-aheads. ``why_not``: why the owner's does not cover the plan that is kept, if not
    empty; ``needs_go``: the plan has points of no return; ``go_by``: the lead who passed them.
    """

    agreed: Agreed | None
    agreed_words: str
    why_not: str
    needs_go: bool
    go_by: str | None
    may_start: bool
    ways_to_agree: list[Choice]


class EstimateOut(Out):
    """An estimate with what heads it, and the go-aheads as they stand."""

    number: str
    unit: str
    engine: str
    complaint: str
    headline: str
    currency: str
    shop: str
    today: date
    estimate: Estimate
    held_by: list[str]
    go: GoAheads


class AgreeIn(In):
    """The owner's yes: who, how, on what day, and the most that may be spent without asking."""

    version: Version
    owner: Annotated[str, Written(120, 2)]
    how: Agreeing
    on: date
    most: Annotated[float, Field(ge=0, le=1e7)]
