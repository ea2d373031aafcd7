"""How parts wear in this shop's engines, from what was measured on parts that came out of them.

One factor on the book's typical wear for each kind of part, its logarithm normal; each engine is
one witness, however many of its parts were measured. The book's own prior is what it shrinks to:
before any engine the factor is one, and is known to about a third. A part that looks worn out of
turn says little of ordinary wear, and counts towards how often that happens; parts of those engines
that nobody measured are taken not to have been so.
"""

from collections.abc import Iterable, Sequence
from typing import Literal

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.wear import WORN_OUT, WearUnknown, unknowns
from flaneur.core.readings.taken import DirectReading, Learned, Readings
from flaneur.core.readings.tests import Replaced

KNOWN_TO = 0.35  # standard deviation of the factor's logarithm before any engine
PARTS_BEFORE = 40.0  # as many parts as the book's own odds of wearing out of turn are worth
LEAST_SHARE = 0.02  # of the limit: what was measured lower is taken as this
TIMES = (0.1, 10.0)  # least and most times the book's wear that is believed
OFTEN = (0.3, 5.0)  # least and most times the book's odds of wearing out of turn


def learned_from(book: EngineBook, closed: Sequence[Readings]) -> list[Learned]:
    """What readings of closed jobs on engines of this book say of each kind of part. Jobs whose
    engine's hours are not known, or on which no part was measured, say nothing.
    """
    witnesses = [r for r in closed if r.hours and r.direct]
    for readings in witnesses:
        readings.check_against(book)
    return [
        found
        for kind in ("chain", "guide", "arm")
        if (found := _of_kind(book, kind, witnesses)) is not None
    ]


def _of_kind(
    book: EngineBook, kind: Literal["chain", "guide", "arm"], witnesses: Iterable[Readings]
) -> Learned | None:
    precision, pull = 1 / KNOWN_TO**2, 0.0
    engines, seen, parts, out, prior = 0, 0, 0, 0.0, 0.0
    for readings in witnesses:
        fitted = {t.part: t.hours_ago for t in readings.tests if isinstance(t, Replaced)}
        items = {
            i.key: i
            for i in unknowns(book, readings.hours, readings.oil, fitted)
            if i.kind == kind and i.mean > 0  # put in this very hour: it has not worn at all
        }
        each = [_said(items[r.part], r) for r in readings.direct if r.part in items]
        if not each:
            continue
        engines, seen, parts = engines + 1, seen + len(each), parts + len(items)
        prior += sum(item.worn_out for item in items.values())
        worth = sum(ordinary / variance for _, variance, ordinary in each) / len(each)
        pull += sum(o / v * log for log, v, o in each) / len(each)
        precision += worth
        out += sum(1 - ordinary for *_, ordinary in each)
    if not engines:
        return None
    usual = prior / parts
    often = (PARTS_BEFORE * usual + out) / (PARTS_BEFORE + parts) / usual
    return Learned(
        kind=kind,
        times=float(np.clip(np.exp(pull / precision), *TIMES)),
        known_to=float(precision**-0.5),
        out_of_turn=float(np.clip(often, *OFTEN)),
        engines=engines,
        parts=seen,
    )


def _said(item: WearUnknown, reading: DirectReading) -> tuple[float, float, float]:
    """Logarithm of measured over typical wear, its variance, and the odds, 0 to 1, that the part
    wore as parts do.
    """
    value = max(reading.value, LEAST_SHARE * item.limit)
    spread = item.sd / item.mean
    variance = spread**2 + (reading.stderr / value) ** 2
    weights = [
        share / sd * np.exp(-0.5 * ((value - mean) / sd) ** 2)
        for share, mean, sd in (
            (1 - item.worn_out, item.mean, float(np.hypot(item.sd, KNOWN_TO * item.mean))),
            (item.worn_out, *(k * item.limit for k in WORN_OUT)),
        )
    ]
    ordinary = float(weights[0] / max(sum(weights), 1e-300))
    return float(np.log(value / item.mean)), variance, ordinary
