"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Line, Out, Version
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.propose import Proposal


class ComponentOut(Out):
    id: str
    name: str
    price: float
    is_renewable: bool
    is_one_use: bool
    part: str | None


class PlanPreview(In):
    """What to renew; ``kept`` of it is set right at its marks and not renewed."""

    scope: Annotated[list[Line], Field(max_length=100)]
    kept: list[Line] = Field(default_factory=list[str], max_length=100)


class ScopeIn(PlanPreview):
    version: Version


class DecidedScope(Out):
    """What was decided on the verdict: its words, and the components it is about."""

    name: str
    scope: list[str]
    kept: list[str]


class PlanOut(Out):
    plan: Plan | None
    components: list[ComponentOut]
    measured: list[Proposal]
    whole_set: list[Proposal]
    decided: DecidedScope | None
    is_fixed: bool
