"""What a verdict says: suspects with their evidence, and wear against its limits."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.choices import Worded
from flaneur.core.keys import SuspectKind

LIKELY = 0.5  # a suspect more probable than that is likelier than not


class VerdictModel(BaseModel):
    """What a verdict is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Evidence(VerdictModel):
    """What one reading says of a suspect: ``log_factor`` > 0 speaks for it (natural log of the
    Bayes factor); ``odds`` says how much in words, ``is_for`` which way.
    """

    reading: str
    about: str
    log_factor: float
    odds: str
    is_for: bool
    words: str


class Suspect(VerdictModel):
    """One thing that may be wrong. ``key`` is ``kind:part``; ``evidence`` sorted by weight;
    ``teeth`` late for a
    jump. ``is_accused``: something wrong, and likelier than not; ``is_shown``: worth a line.
    """

    key: str
    kind: SuspectKind
    part: str
    name: str
    probability: float
    prior: float
    detail: str
    evidence: list[Evidence]
    teeth: int = 0
    is_accused: bool = False
    is_shown: bool = True


class WearState(Worded):
    """Wear against its limit, as far as the readings tell."""

    WITHIN = "within", "within the limit"
    OVER = "over", "over the limit"
    OPEN = "open", "cannot be said yet"


class WearEstimate(VerdictModel):
    """Posterior wear with its 90 % interval against the book's limit; ``over`` is the chance of
    being over it; ``judged`` is ``state`` in words.
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


class Verdict(VerdictModel):
    """Suspects by probability, wear estimates, and the set the readings cannot tell apart from the
    first.
    """

    engine: str
    suspects: list[Suspect]
    wear: list[WearEstimate]
    confounded: list[str]
    headline: str
    others: str
    apart: str
    advice: list[str]
    judged_against: str
    readings_used: int
