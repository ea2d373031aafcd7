"""What a verdict says: what is out of tolerance and what makes it so, suspects with their evidence,
and wear against its limits.
"""

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.choices import Worded
from flaneur.core.keys import SuspectKind

LIKELY = 0.5  # a suspect more probable than that is likelier than not
# What is likelier than that is said flatly, where the readings fit; anything less is said as likely
# and with its odds. A calibrated 0.95 is wrong once in twenty: it is no statement.
STATED = 0.995


class VerdictModel(BaseModel):
    """What a verdict is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Evidence(VerdictModel):
    """What one reading says of a suspect: ``log_factor`` > 0 speaks for it (natural log of the
    Bayes factor); ``odds`` says how much in words, ``is_for`` which way; ``number`` is what
    a record calls the reading, nothing for what was told.
    """

    reading: str
    number: str
    about: str
    log_factor: float
    odds: str
    is_for: bool
    words: str


class WouldBe(VerdictModel):
    """What one cam's reading would be if a suspect were what is wrong, with its 90 % interval,
    crank degrees late, beside what was read. ``is_alone``: if nothing else were; ``is_off``: what
    was read does not fit it.
    """

    reading: str
    name: str
    read_deg: float
    deg: float
    low_deg: float
    high_deg: float
    is_alone: bool
    is_off: bool
    words: str


class Suspect(VerdictModel):
    """One thing that may be wrong. ``key`` is ``kind:part``; ``evidence`` sorted by weight;
    ``teeth`` late for a jump, ``alike`` the contacts nothing read can tell from it. ``is_accused``:
    something wrong, and likelier than not; ``is_stated``: so likely, of readings that fit, that it
    is said flatly; ``is_shown``: worth a line; ``is_read``: some reading bears on it, and it is not
    its age alone that speaks. ``expected``: what cams would read by it.
    """

    key: str
    kind: SuspectKind
    part: str
    name: str
    probability: float
    prior: float
    detail: str
    evidence: list[Evidence]
    expected: list[WouldBe]
    teeth: int = 0
    alike: list[str] = Field(default_factory=list[str])
    is_accused: bool = False
    is_stated: bool = False
    is_shown: bool = True
    is_read: bool = True


class WearState(Worded):
    """Wear against its limit, as far as the readings tell."""

    WITHIN = "within", "within the limit"
    OVER = "over", "over the limit"
    OPEN = "open", "cannot be said yet"


class WearEstimate(VerdictModel):
    """Posterior wear with its 90 % interval against the book's limit; ``over`` is the chance of
    being over it; ``judged`` is ``state`` in words, as likely where it is not ``is_stated``;
    ``is_read``: some reading bears on it.
    """

    key: str
    name: str
    unit: str
    limit: float
    median: float
    low: float
    high: float
    over: float
    state: WearState
    judged: str
    is_read: bool = True
    is_stated: bool = False


class Cause(VerdictModel):
    """One part's share of a figure, with its 90 % interval, in the figure's unit. ``part`` is a
    part of the book, ``wheel`` for tone wheels, ``slack`` where a chain without tensioner was read
    at rest, or ``reading`` for errors of the reading itself; for a jump its suspect's key.
    """

    part: str
    name: str
    share: float
    low: float
    high: float
    words: str


class OutOfTolerance(VerdictModel):
    """A figure beyond what the book allows, built up from its causes: ``value`` and ``limit`` in
    ``unit``, late positive; ``late`` is the value in words, ``words`` the whole sum.
    """

    reading: str
    part: str
    name: str
    value: float
    limit: float
    unit: str
    late: str
    causes: list[Cause]
    words: str


class NoneOfThese(VerdictModel):
    """That whatever is wrong is not in the model: its weight, and what speaks for it."""

    weight: float
    words: str


class NotGoneThrough(VerdictModel):
    """What was not gone through: an upper ``bound`` of its share where it was listed; the odds
    before any reading of ``more`` faults at once than were listed, but where two of them fit.
    """

    bound: float
    more: float
    words: str


class Verdict(VerdictModel):
    """What the readings show to be out of tolerance and what makes it so; the suspects some reading
    bears on, by probability, and those of which only age speaks; wear estimates; what the readings
    cannot tell apart from the first.
    """

    engine: str
    headline: str
    out_of_tolerance: list[OutOfTolerance]
    suspects: list[Suspect]
    only_age: list[Suspect]
    wear: list[WearEstimate]
    confounded: list[str]
    none_of_these: NoneOfThese
    left_out: NotGoneThrough
    noise_scale: float
    contradictions: list[str]
    others: str
    apart: str
    advice: list[str]
    unused: list[str]
    judged_against: str
    readings_used: int
