"""What is advised: which test next, what each of its outcomes would mean, and what each action
costs.
"""

from pydantic import BaseModel, ConfigDict

from flaneur.core.decision.actions import ActionKind
from flaneur.core.decision.rates import School


class AdviceModel(BaseModel):
    """What advice is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class OutcomeMeans(AdviceModel):
    """Outcomes after which the same action is best: what they are, their odds, and that action."""

    words: str
    odds: float
    then: str


class NextTest(AdviceModel):
    """A test not done yet. ``test`` is ``kind:part``; ``gain`` in money against deciding now,
    ``worth`` the same in words; ``own_cost`` what it is held against; ``needs`` what must be so
    before it.
    """

    test: str
    kind: str
    part: str
    name: str
    gain: float
    gain_per_minute: float
    worth: str = ""
    own_cost: float
    is_worth_it: bool
    minutes: float
    waiting_minutes: float
    needs: list[str]
    outcomes: list[OutcomeMeans]


class Option(AdviceModel):
    """An action: what it is expected to cost with all that follows, how likely every cam comes back
    into tolerance (``restored``), how likely the engine fails within the hours answered for
    (``risk``). ``key`` tells it from the others; ``scope`` are components; ``outlay`` is work,
    parts and standing alone.
    """

    key: str
    action: ActionKind
    name: str
    words: str
    scope: list[str]
    kept: list[str]
    parts: list[str]
    expected_cost: float
    outlay: float
    restored: float
    risk: float
    minutes: float
    price: float
    after_h: float
    is_advised: bool


class Advice(AdviceModel):
    """The next tests, best first; whether to stop testing, in words; actions, cheapest first."""

    next_tests: list[NextTest]
    is_time_to_decide: bool
    when_to_stop: str
    decision: list[Option]
    is_measured: bool
    why: str
    school: School

    @property
    def advised(self) -> Option:
        """The action that is advised."""
        return next(option for option in self.decision if option.is_advised)
