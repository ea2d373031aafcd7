"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Line, Out, Version
from flaneur.core.plan.offers import Offer
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.propose import Proposal
from flaneur.core.plan.ready import Ready
from flaneur.core.stores.at_hand import AtHand


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
    ways: list[Line] = Field(
        default_factory=list[str], max_length=20, description="Ways of the book it goes on."
    )
    kit: Line = Field(default="", description="Kit its parts are bought in; empty: one by one.")


class PreviewIn(PlanPreview):
    """The same to look at: in the book's own order at once, or in the shortest for people."""

    is_quick: bool = False


class ScopeIn(PlanPreview):
    version: Version


class RoadsIn(In):
    """A scope whose roads are compared."""

    scope: Annotated[list[Line], Field(min_length=1, max_length=100)]
    kept: list[Line] = Field(default_factory=list[str], max_length=100)


class ReadyOut(Ready):
    """What must be there, and what of it is."""

    at_hand: AtHand


class OffersOut(Out):
    """What could be renewed while it is open."""

    offers: list[Offer]


class PositionIn(In):
    """Where the engine stands: crank degrees (``32deg?`` where the stroke is not known), rising,
    falling, unknown, or ``capture``: as the last one ended; ``lean_deg`` what the level on the
    joint face reads, clockwise positive.
    """

    now: Line = "unknown"
    lean_deg: float = Field(default=0.0, ge=-60, le=60)


class DecidedScope(Out):
    """What was decided on the verdict: its words, the components it is about, the ways that follow
    from it, and the kit they are bought as, if any.
    """

    name: str
    scope: list[str]
    kept: list[str]
    ways: list[str]
    kit: str


class PlanOut(Out):
    plan: Plan | None
    components: list[ComponentOut]
    measured: list[Proposal]
    whole_set: list[Proposal]
    decided: DecidedScope | None
    is_fixed: bool
