"""Whether what the technician entered fits what the step asks."""

import re

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReadingError, StepError, at_field
from flaneur.core.fasteners.program import check_stage
from flaneur.core.plan.steps import NOT_MEASURED, Asked, AskedKind, PlanStep
from flaneur.core.wording import range_words

_COUNT = re.compile(r"[+-]?[0-9]{1,6}")
_GRADUATIONS = re.compile(r"([0-9]{1,3}(?:[.,][0-9]{1,2})?)\s*(?:grad|graduations?)", re.IGNORECASE)
STAGES = (AskedKind.TORQUE, AskedKind.ANGLE, AskedKind.BACK_OFF)


class Seen(BaseModel):
    """One answer with what it means. ``typed`` is what was typed, or the words of what was chosen;
    ``code`` the choice itself.

    ``teeth`` is the error seen at ``contact``, late positive: 0 says that it stands on its mark.
    None: nothing was said of teeth.
    """

    model_config = ConfigDict(frozen=True)

    kind: AskedKind
    ask: str
    typed: str
    ok: bool
    words: str
    code: str | None = None
    contact: str | None = None
    teeth: int | None = None
    pins: int = 0

    @property
    def said(self) -> str:
        """Question and answer in one line."""
        return f"{self.ask}{'' if self.ask.endswith('?') else ':'} {self.typed}"


def check_step(step: PlanStep, answers: list[str]) -> list[Seen]:
    """Check every answer of a step: the code of a choice, else what was typed. Raises StepError
    when one is missing or cannot be read.
    """
    if len(answers) != len(step.asked):
        raise StepError(
            f"“{step.title}” is not fully observed.",
            read=f"{len(answers)} answers",
            expected=f"{len(step.asked)}: {'; '.join(a.ask for a in step.asked)}",
            advice="Answer each of them.",
        )
    seen = list[Seen]()
    for i, (asked, answer) in enumerate(zip(step.asked, answers, strict=True)):
        with at_field(f"answers.{i}"):
            seen.append(check_answer(asked, answer))
    return seen


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
    if asked.kind is AskedKind.COUNT:
        return _counted(asked, typed)
    if asked.kind in (AskedKind.WORD, AskedKind.MARK):
        return _chosen(asked, typed)
    if asked.kind in STAGES:
        return _applied(asked, typed)
    unit = asked.unit or "mm"
    turned = _GRADUATIONS.fullmatch(typed) if asked.graduation_mm else None
    if turned and asked.graduation_mm:
        value = float(turned[1].replace(",", ".")) * asked.graduation_mm
    else:
        value = parse_quantity(typed, "angle" if unit == "deg" else "length", unit).value
    low, high = asked.low, asked.high
    ok = (low is None or value >= low) and (high is None or value <= high)
    shown = "°" if unit == "deg" else "mm"
    said = f"{turned[1]} graduations, " if turned else ""
    words = f"{said}{value:.4g} {shown}, expected {range_words(low, high, shown)}"
    return Seen(kind=asked.kind, ask=asked.ask, typed=typed, ok=ok, words=words)


def _counted(asked: Asked, typed: str) -> Seen:
    if not _COUNT.fullmatch(typed):
        raise ReadingError("This is not a whole number.", read=f"“{typed}”", expected="a count")
    count, expected = int(typed), asked.expected or 0
    ok = count == expected
    words = f"{count}, as the book says." if ok else f"{count}, the book says {expected}."
    pins = (asked.pins // abs(asked.pins)) * count if asked.pins else 0
    return Seen(kind=asked.kind, ask=asked.ask, typed=typed, ok=ok, words=words, pins=pins)


def _chosen(asked: Asked, code: str) -> Seen:
    choice = next((c for c in asked.choices if c.code == code), None)
    if choice is None:
        raise ReadingError(
            "This is not one of the answers.",
            read=f"“{code}”",
            expected=", ".join(f"{c.code} ({c.words})" for c in asked.choices),
        )
    ok = code in asked.right
    is_contact = asked.kind is AskedKind.MARK and asked.contact
    return Seen(
        kind=asked.kind,
        ask=asked.ask,
        typed=choice.words,
        code=code,
        ok=ok,
        words=choice.words,
        contact=asked.contact,
        teeth=TeethOff(code).teeth if is_contact else None,
        pins=asked.pins if ok else 0,
    )


def _applied(asked: Asked, typed: str) -> Seen:
    assert asked.stage is not None
    if typed == NOT_MEASURED.code:
        return Seen(
            kind=asked.kind,
            ask=asked.ask,
            typed=NOT_MEASURED.words,
            code=typed,
            ok=False,
            words="Not measured: by feel or impact tool.",
        )
    applied = check_stage(asked.stage, typed)
    return Seen(kind=asked.kind, ask=asked.ask, typed=typed, ok=applied.ok, words=applied.words)


def _expected(asked: Asked) -> str:
    if asked.choices:
        return " or ".join(c.words for c in asked.choices)
    return str(asked.expected) if asked.expected is not None else asked.ask
