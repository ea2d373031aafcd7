"""What is known of turning by hand, and of hard stops felt while it was."""

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.wording import counted


class ProofModel(BaseModel):
    """What the proof is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class HardStop(ProofModel):
    """A hard stop felt while turning by hand: it stays. ``cause`` and the ``step`` behind it are
    written afterwards. ``turns`` made by then are None where nobody counted them; ``at_deg`` is
    where the crank stood, degrees of the 720° cycle.
    """

    by: str
    at: str
    turns: float | None
    cause: str | None = None
    step: str | None = None
    cause_by: str | None = None
    # Written as it always was where no angle is known: seals of older jobs hold.
    at_deg: float | None = Field(default=None, exclude_if=lambda deg: deg is None)

    @property
    def felt(self) -> str:
        """By whom and after how many turns, in words."""
        after = "" if self.turns is None else f" after {counted(self.turns, 'turn')}"
        where = "" if self.at_deg is None else f", the crank at {self.at_deg:g}°"
        return f"Felt by {self.by}{after}{where}."


class HandTurns(ProofModel):
    """What was seen while turning by hand. ``marks`` maps each mark check to whether it was met;
    None is unknown.

    ``stops`` are all hard stops ever felt on this job, the newest last.
    """

    turns: float | None = None
    hard_stop: bool | None = None
    marks: dict[str, bool] = {}
    pins_out: int | None = None
    stops: list[HardStop] = []

    @property
    def is_stopped(self) -> bool:
        """Whether a hard stop stands whose cause nobody has written."""
        return self.stops[-1].cause is None if self.stops else bool(self.hard_stop)

    def anew(self) -> "HandTurns":
        """What is left of it once the engine was worked on again: nothing but the hard stops."""
        return HandTurns(stops=self.stops)
