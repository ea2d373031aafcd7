"""The owner's go-ahead and the lead's: what was agreed to, and whether it still covers the plan."""

from datetime import date

from pydantic import BaseModel, ConfigDict

from flaneur.core.choices import Worded
from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.plan.plan import Plan

PENNY = 0.005


class GoAheadMissing(FlaneurError):
    """Work that nobody said yes to."""

    code = ErrorCode.GO_AHEAD_MISSING


class Agreeing(Worded):
    """How an owner said yes."""

    IN_PERSON = "in_person", "in person"
    TELEPHONE = "telephone", "by telephone"
    WRITING = "writing", "in writing"
    STANDING = "standing", "by a standing order"


class Agreed(BaseModel):
    """What was said yes to: the scope with its ways and kit, the estimate's price all told, and the
    most that may be spent without asking again; by whom, how, and on what day.
    """

    model_config = ConfigDict(frozen=True)

    owner: str
    how: Agreeing
    on: date
    price: float
    most: float
    scope: list[str]
    kept: list[str]
    ways: list[str]
    kit: str

    def is_for(self, plan: Plan) -> bool:
        """Whether it was said to this plan."""
        mine = (self.scope, self.kept, self.ways, self.kit)
        return mine == (plan.scope, plan.kept, plan.ways, plan.kit)

    def why_not(self, plan: Plan, price: float) -> str:
        """Why this does not cover a plan of this price; empty where it does."""
        if not self.is_for(plan):
            return "the plan is another one since"
        if price > self.most + PENNY:
            return f"it would cost {price:.2f}, and {self.most:.2f} were agreed to"
        return ""

    @property
    def words(self) -> str:
        """Who, how, when, and up to what."""
        return f"{self.owner} said yes {self.how.words} on {self.on}, up to {self.most:.2f}."


def agreed_or_refused(agreed: Agreed | None, plan: Plan, price: float) -> Agreed:
    """The go-ahead under which work may start. Raises GoAheadMissing."""
    if agreed is None:
        raise GoAheadMissing(
            "The owner has not said yes.",
            expected=f"a go-ahead for {price:.2f}",
            advice="Show the estimate, and write down who said yes, when and how.",
        )
    if why := agreed.why_not(plan, price):
        raise GoAheadMissing(
            f"The owner said yes to something else: {why}.",
            read=agreed.words,
            expected=f"a go-ahead for {price:.2f}",
            advice="Show the new estimate and ask again.",
        )
    return agreed
