"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Line, Out, Text, Version
from flaneur.core.book.bands import Bands
from flaneur.core.choices import Choice
from flaneur.core.decision.found import Advice, Option
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.plan.propose import Proposal

Figure = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]


class VerdictOut(Out):
    """The verdict, and what it proposes to renew by either school."""

    verdict: Verdict
    measured: list[Proposal]
    whole_set: list[Proposal]


class AdviceIn(In):
    """What is asked: by which school; and what if readings were left out, or their figures others,
    both by the readings' numbers. Nothing of it is kept.
    """

    school: School = School()
    left_out: list[Line] = Field(default_factory=list[str], max_length=400)
    changed: dict[Line, Figure] = Field(default_factory=dict[str, float], max_length=400)


class FigureOut(Out):
    """A figure, and the least and most it can be."""

    value: float
    unit: str
    low: float
    high: float


class TriedOut(Out):
    """A reading as a what-if may change it: its number, what it is, and its figure where it has
    one.
    """

    id: str
    words: str
    figure: FigureOut | None


class WayOut(Out):
    """A matter of opinion: its name in a school, in words, and its choices."""

    key: str
    words: str
    choices: tuple[Choice, ...]


class RateOut(Out):
    """One of the shop's rates as it is asked; ``most`` is the largest it may be."""

    key: str
    words: str
    most: float


class BandOut(Out):
    """One of the shop's bands as it is asked; ``is_open``: this engine's book leaves it open."""

    key: str
    words: str
    most: float
    is_open: bool


class DecidedOut(Out):
    """The decision that stands. ``is_still_advised``: advice by its school is what it was then."""

    option: Option
    advised: Option
    school: School
    reason: str
    by: str
    is_still_advised: bool


class AdviceOut(Out):
    """Advice, the verdict it rests on, and the decision that stands; by these rates, in this
    currency. ``learned``: what the shop's closed jobs say of how parts wear. ``bands``: what it
    judges by where the book gives no limit.
    """

    advice: Advice
    verdict: Verdict
    readings: list[TriedOut]
    decided: DecidedOut | None
    ways: list[WayOut]
    rates: Rates
    rates_asked: list[RateOut]
    bands: Bands
    bands_asked: list[BandOut]
    learned: list[str]
    currency: str
    is_fixed: bool


class DecisionIn(In):
    """A decision: the key of an action, by which school, and why where it is not the advice."""

    version: Version
    key: Line
    school: School = School()
    reason: Text = ""
