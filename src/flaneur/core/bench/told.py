"""A bench told from outside: its steps with what was answered, one after the other."""

from collections.abc import Sequence
from datetime import UTC, datetime

from pydantic import BaseModel, ConfigDict

from flaneur.core.bench.answers import check_step
from flaneur.core.bench.closing import step_of
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.plan.plan import Plan


class Told(BaseModel):
    """A step as somebody answered it: what is asked of it, in order, and why it was left as it is
    where not all of that was right.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    step: str
    answers: list[str]
    departure: str = ""


def told(plan: Plan | None, lines: Sequence[Told]) -> Tally:
    """The bench by what was told of it, in the order it was done. Raises StepError."""
    records = list[Answered]()
    for number, line in enumerate(lines):
        seen = tuple(check_step(step_of(plan, line.step), line.answers))
        is_right, at = all(s.ok for s in seen), datetime.fromtimestamp(number, UTC)
        departure = line.departure or None
        records.append(Answered(number, line.step, seen, is_right, departure, "", at, False))
    return tally(records)
