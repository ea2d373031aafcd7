"""What was read from a capture as it is kept: the shape of a stored correlation."""

from typing import Any

from pydantic import BaseModel, ConfigDict

from flaneur.core.signals.camreading import CamCorrelation
from flaneur.core.signals.correlation import Correlation
from flaneur.core.signals.rest import Rest

VERSION = 1


class LeftOut(BaseModel):
    """A stretch of a capture that does not count, seconds, with who left it out and why."""

    model_config = ConfigDict(frozen=True)

    start_s: float
    stop_s: float
    reason: str
    by: str


class KeptFingerprint(BaseModel):
    """Errors of the crank wheel's teeth, crank degrees, from so many turns."""

    model_config = ConfigDict(frozen=True)

    error_deg: list[float]
    stderr_deg: float
    turns: int
    is_clear: bool


class KeptCrank(BaseModel):
    """Whole crank turns, and those with lost teeth or events that are none."""

    model_config = ConfigDict(frozen=True)

    turns: int
    bad_turns: int


class KeptCorrelation(BaseModel):
    """Everything of every cam, and the crank wheel's fingerprint. ``version`` is of this shape."""

    model_config = ConfigDict(frozen=True)

    version: int = VERSION
    cams: list[CamCorrelation]
    cycle_offset_deg: float = 0.0
    crank: KeptCrank = KeptCrank(turns=0, bad_turns=0)
    fingerprint: KeptFingerprint | None = None
    rest: Rest | None = None


def kept_correlation(found: Correlation) -> dict[str, Any]:
    """What is kept of a correlation, as JSON holds it."""
    print_ = found.fingerprint
    kept = KeptCorrelation(
        cams=list(found.cams),
        cycle_offset_deg=found.cycle_offset_deg,
        crank=KeptCrank(turns=found.crank.turns, bad_turns=found.crank.bad_turns),
        fingerprint=None
        if print_ is None
        else KeptFingerprint(
            error_deg=[round(float(v), 4) for v in print_.error_deg],
            stderr_deg=print_.stderr_deg,
            turns=print_.turns,
            is_clear=print_.is_clear,
        ),
        rest=found.rest,
    )
    return kept.model_dump(mode="json")
