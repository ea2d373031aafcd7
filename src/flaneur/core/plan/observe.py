"""Whether what the technician entered fits what the step asks."""

import re

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.marks import TEETH_SAID
from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReadingError, StepError
from flaneur.core.fasteners.program import check_stage
from flaneur.core.plan.plan import Asked, PlanStep

NOT_MEASURED = "not measured"
_COUNT = re.compile(r"[+-]?[0-9]{1,6}")


class Seen(BaseModel):
    """One answer, as typed, with what it means.

    ``teeth`` is the error seen at ``contact``, late positive: 0 says that it stands on its mark.
    None: nothing was said of teeth.
    """

    model_config = ConfigDict(frozen=True)

    ask: str
    typed: str
    ok: bool
    words: str
    contact: str | None = None
    teeth: int | None = None
    pins: int = 0


def check_step(step: PlanStep, answers: list[str]) -> list[Seen]:
    """Check every answer of a step. Raises StepError when one is missing or cannot be read."""
    if len(answers) != len(step.asked):
        raise StepError(
            f"“{step.title}” is not fully observed.",
            read=f"{len(answers)} answers",
            expected=f"{len(step.asked)}: {'; '.join(a.ask for a in step.asked)}",
            advice="Answer each of them.",
        )
    return [check_answer(asked, answer) for asked, answer in zip(step.asked, answers, strict=True)]


def check_answer(asked: Asked, answer: str) -> Seen:
    """Check one answer. Raises StepError for an empty or unreadable one."""
    typed = answer.strip()
    if not typed:
        raise StepError(
            f"“{asked.ask}” is not answered.",
            expected=_expected(asked),
            advice="Enter what you see.",
        )
    try:
        return _judge(asked, typed)
    except ReadingError as error:
        raise StepError(
            f"“{asked.ask}”: {error.message}",
            read=error.read,
            expected=error.expected,
            advice=error.advice,
        ) from error


def _judge(asked: Asked, typed: str) -> Seen:
    if asked.kind == "count":
        if not _COUNT.fullmatch(typed):
            raise ReadingError("This is not a whole number.", read=f"“{typed}”", expected="a count")
        count, expected = int(typed), asked.expected or 0
        ok = count == expected
        words = f"{count}, as the book says." if ok else f"{count}, the book says {expected}."
        pins = (asked.pins // abs(asked.pins)) * count if asked.pins else 0
        return Seen(ask=asked.ask, typed=typed, ok=ok, words=words, pins=pins)
    if asked.kind in ("word", "mark"):
        if typed not in asked.choices:
            raise ReadingError(
                "This is not one of the answers.",
                read=f"“{typed}”",
                expected=", ".join(asked.choices),
            )
        ok = typed in asked.right
        teeth = TEETH_SAID[typed] if asked.kind == "mark" and asked.contact else None
        return Seen(
            ask=asked.ask,
            typed=typed,
            ok=ok,
            words=typed,
            contact=asked.contact,
            teeth=teeth,
            pins=asked.pins if ok else 0,
        )
    if asked.stage is not None:
        if typed.lower() == NOT_MEASURED:
            return Seen(
                ask=asked.ask, typed=typed, ok=False, words="Not measured: by feel or impact tool."
            )
        applied = check_stage(asked.stage, typed)
        return Seen(ask=asked.ask, typed=typed, ok=applied.ok, words=applied.words)
    value = parse_quantity(typed, "length", asked.unit or "mm").value
    low, high = asked.low, asked.high
    ok = (low is None or value >= low) and (high is None or value <= high)
    return Seen(
        ask=asked.ask, typed=typed, ok=ok, words=f"{value:g} mm, expected {low} to {high} mm"
    )


def _expected(asked: Asked) -> str:
    if asked.choices:
        return " or ".join(asked.choices)
    return str(asked.expected) if asked.expected is not None else asked.ask
