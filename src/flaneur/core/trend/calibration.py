"""What a shop said against what it found: of parts that were measured once they were off, how often
those were over their limit that the verdict gave so and so much to be; and how much each way of
reading errs.
"""

from collections.abc import Sequence
from itertools import pairwise
from math import sqrt

from pydantic import Field

from flaneur.core.diagnosis.methods import learned_errors
from flaneur.core.readings.taken import METHOD_WORDS, LearnedErrors
from flaneur.core.trend.lessons import Lesson, Said
from flaneur.core.trend.lives import LifeModel
from flaneur.core.wording import counted

EDGES = (0.0, 0.1, 0.3, 0.7, 0.9, 1.0)
COUNTS = 5  # fewer parts than this say nothing of how sure a verdict may be


class SaidFound(LifeModel):
    """Parts that were given a chance between two: how many, how many of them were over, and how
    many were to be expected by what was said; ``is_off``: hardly by chance.
    """

    low: float
    high: float
    parts: int = Field(ge=0)
    over: int = Field(ge=0)
    expected: float = Field(ge=0)
    is_off: bool
    words: str


class Calibration(LifeModel):
    """What a shop said against what it found. ``within``: measured wear that lay in its 90 %
    interval, of ``parts``; ``jobs``: with parts that were measured after a verdict.
    """

    headline: str

    jobs: int
    parts: int
    within: int
    bins: list[SaidFound]
    errors: list[LearnedErrors]
    words: list[str]


def calibration(lessons: Sequence[Lesson]) -> Calibration:
    """Over all that closed jobs teach."""
    said = [one for lesson in lessons for one in lesson.said]
    bins = [
        _bin(low, high, [s for s in said if low <= s.chance and (s.chance < high or high == 1.0)])
        for low, high in pairwise(EDGES)
    ]
    errors = learned_errors(miss for lesson in lessons for miss in lesson.missed)
    within = sum(s.low <= s.measured <= s.high for s in said)
    return Calibration(
        headline=_headline(len(said), bins),
        jobs=sum(bool(lesson.said) for lesson in lessons),
        parts=len(said),
        within=within,
        bins=bins,
        errors=errors,
        words=[_in_all(len(said), within), *map(_trust, errors)],
    )


def _bin(low: float, high: float, said: Sequence[Said]) -> SaidFound:
    over = sum(s.was_over for s in said)
    expected = sum(s.chance for s in said)
    words = "nothing measured"
    if said:
        mean = 100 * expected / len(said)
        words = f"said {mean:.0f}\u00a0%, found {over} of {len(said)}"
    # Two deviations, and one part more or less.
    chance = sqrt(sum(s.chance * (1 - s.chance) for s in said))
    return SaidFound(
        low=low,
        high=high,
        parts=len(said),
        over=over,
        expected=expected,
        is_off=abs(over - expected) > 1 + 2 * chance,
        words=words,
    )


def _headline(parts: int, bins: Sequence[SaidFound]) -> str:
    if parts < COUNTS:
        return "Too few parts measured to say how far verdicts can be trusted"
    if any(one.is_off for one in bins):
        return "Verdicts here were surer, or less sure, than they should have been"
    return "What was said is what was found"


def _in_all(parts: int, within: int) -> str:
    if parts < COUNTS:
        few = counted(parts, "part")
        return f"{few} measured after a verdict: too few to say how far verdicts can be trusted."
    return (
        f"{within} of {parts} measured parts lay where the verdict said with 90\u00a0% that they "
        f"would: {round(100 * within / parts)}\u00a0%."
    )


def _trust(errors: LearnedErrors) -> str:
    name = METHOD_WORDS[errors.method]
    if errors.readings < COUNTS:
        return f"{name}: {counted(errors.readings, 'reading')} held against parts, too few yet."
    if errors.times > 1.25:
        how = f"err {errors.times:.1f} times as much as they say: read twice before they decide"
    elif errors.times < 0.8:
        how = f"err only {errors.times:.1f} times what they say: better than they claim"
    else:
        how = f"err as much as they say (× {errors.times:.1f}): they can be trusted"
    return f"{name} {how} ({errors.readings} held against parts)."
