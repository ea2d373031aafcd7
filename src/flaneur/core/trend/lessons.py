"""What one closed job teaches: how far each part was worn and at what hours, what the verdict said
of parts before they were off and what they were then, and how much each reading missed.
"""

from collections.abc import Sequence

import numpy as np
from pydantic import Field

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded
from flaneur.core.diagnosis.methods import missed
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import wear_estimates
from flaneur.core.diagnosis.wear import prior_draws
from flaneur.core.readings.taken import DirectReading, Missed, Readings
from flaneur.core.readings.tests import Replaced
from flaneur.core.trend.lives import MOST_HOURS, LifeModel, wear_parts

LEAST_SAID = 0.95  # a figure that leaves more of the prior's spread than this says nothing


class How(Worded):
    """How a part's wear is known."""

    MEASURED = "measured", "measured on the part"
    READ = "read", "read from cams and plungers"


class WearNote(LifeModel):
    """How far a part was worn: per cent for a chain, millimetres for a liner; ``stderr`` one
    standard deviation of what the readings alone say, its age apart.
    """

    part: str = Field(max_length=60)
    value: float = Field(allow_inf_nan=False)
    stderr: float = Field(gt=0, allow_inf_nan=False)
    how: How


class Said(LifeModel):
    """The chance that was given to a part's being over its limit, and whether it was; what its wear
    was said to be, 90 % between ``low`` and ``high``, and what was measured.
    """

    part: str = Field(max_length=60)
    chance: float = Field(ge=0, le=1)
    was_over: bool
    low: float
    high: float
    measured: float


class Lesson(LifeModel):
    """What one closed job teaches. ``hours`` the engine had run, None where nobody knows;
    ``renewed``: parts that were new from then on; ``put_in``: parts that were put in before, at
    which of the engine's hours.
    """

    hours: float | None = Field(default=None, ge=0, le=MOST_HOURS)
    wear: list[WearNote] = Field(default_factory=list[WearNote])
    said: list[Said] = Field(default_factory=list[Said])
    missed: list[Missed] = Field(default_factory=list[Missed])
    renewed: list[str] = Field(default_factory=list[str])
    put_in: dict[str, float] = Field(default_factory=dict[str, float])


def lesson_of(book: EngineBook, readings: Readings, renewed: Sequence[str] = ()) -> Lesson:
    """What a closed job teaches, of its readings before the repair; ``renewed``: parts that were
    put in new. Raises ReadingError when the readings are not of that book.
    """
    measured = {r.part: r for r in readings.direct}  # what was measured last of each part
    blind = readings.model_copy(update={"direct": []})
    solved = solve_readings(book, blind) if blind.is_measured else None
    read = [] if solved is None else _read(solved, measured)
    known = wear_parts(book)
    return Lesson(
        hours=readings.hours,
        wear=[*(_measured(r) for r in measured.values()), *read],
        said=[] if solved is None else _said(solved, measured),
        missed=[] if solved is None else missed(solved, list(measured.values())),
        renewed=[part for part in renewed if part in known],
        put_in={
            test.part: readings.hours - test.hours_ago
            for test in readings.tests
            if isinstance(test, Replaced) and test.part in known and readings.hours is not None
        },
    )


def _measured(reading: DirectReading) -> WearNote:
    return WearNote(part=reading.part, value=reading.value, stderr=reading.stderr, how=How.MEASURED)


def _read(solved: Solved, measured: dict[str, DirectReading]) -> list[WearNote]:
    """What cams and plungers say of parts that nobody measured, the prior of their age taken out
    again: it is the trend's to say how parts wear.
    """
    found: list[WearNote] = []
    estimates = {e.key: e for e in wear_estimates(solved) if e.is_read}
    for at, item in enumerate(solved.items):
        if item.key not in estimates or item.key in measured:
            continue
        values, weights = solved.draws.x[..., at].ravel(), solved.draws.weight.ravel()
        total = float(weights.sum())
        mean = float((values * weights).sum()) / total
        variance = float((weights * (values - mean) ** 2).sum()) / total
        before = prior_draws(item, 512, at)
        prior_mean, prior_variance = float(before.mean()), float(before.var())
        if variance <= 0 or variance > LEAST_SAID**2 * prior_variance:
            continue
        precision = 1 / variance - 1 / prior_variance
        value = (mean / variance - prior_mean / prior_variance) / precision
        value = float(np.clip(value, 0.0, 5 * item.limit))
        found.append(WearNote(part=item.key, value=value, stderr=precision**-0.5, how=How.READ))
    return found


def _said(solved: Solved, measured: dict[str, DirectReading]) -> list[Said]:
    """What the verdict said of parts before they were off, beside what they were; of parts it said
    anything of but their age.
    """
    return [
        Said(
            part=e.key,
            chance=min(max(e.over, 0.0), 1.0),
            was_over=measured[e.key].value > e.limit,
            low=e.low,
            high=e.high,
            measured=measured[e.key].value,
        )
        for e in wear_estimates(solved)
        if e.is_read and e.key in measured
    ]
