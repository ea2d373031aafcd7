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


class ScopeIn(In):
    version: Version
    scope: Annotated[list[Line], Field(max_length=100)]


class PlanPreview(In):
    scope: Annotated[list[Line], Field(max_length=100)]


class PlanOut(Out):
    plan: Plan | None
    components: list[ComponentOut]
    measured: list[Proposal]
    whole_set: list[Proposal]
    is_fixed: bool
