"""How much each way of reading errs in a shop, from closed jobs whose parts were measured once they
were off: what the drive must have shown by them, against what was read before it was opened.

The errors a reading says of itself are taken to be the same number of times too small, or too
large, by one factor for each method; its logarithm is normal and nought before any reading. Errors
are heavy-tailed, so that one misread figure moves little.
"""

from collections.abc import Iterable, Sequence
from typing import Final

import numpy as np

from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.diagnosis.wear import prior_draws
from flaneur.core.diagnosis.wording import MOVES
from flaneur.core.keys import SuspectKey
from flaneur.core.readings.taken import (
    METHOD_WORDS,
    DirectReading,
    LearnedErrors,
    Method,
    Missed,
)

KNOWN_TO = 0.35  # standard deviation of the factor's logarithm before any reading
FACTORS: Final = np.linspace(-1.2, 1.2, 49)  # logarithms of the factors gone through
TAILS, PLAIN = 5.0, 0.736  # degrees of freedom of an error; so that normal errors come out as one
DRAWS = 256
BY_NAME: dict[str, Method] = {str(method): method for method in METHOD_WORDS}
IN_THE_WAY = 0.5  # likelier than this, another fault makes figures tell nothing of reading


def missed(blind: Solved, measured: Sequence[DirectReading]) -> list[Missed]:
    """By how much each figure missed what the measured parts make it, of a question solved without
    them. Nothing where a fault that is no wear has moved the figures.
    """
    if not measured or any(
        p > IN_THE_WAY for key, p in shares(blind).items() if SuspectKey.of(key)[0] in MOVES
    ):
        return []
    seen, rng = blind.problem.seen, np.random.default_rng(0)
    found = {reading.part: reading for reading in measured}
    wear = np.stack(
        [
            np.maximum(rng.normal(found[i.key].value, found[i.key].stderr, DRAWS), 0.0)
            if i.key in found
            else prior_draws(i, DRAWS, at)
            for at, i in enumerate(blind.items)
        ],
        axis=-1,
    )
    shown = seen.picked(seen.response.of(wear), wear)
    rest = shown.var(axis=0) + np.diag(seen.tolerance)
    return [
        Missed(
            method=method,
            by=float(row.value - shown[:, at].mean()),
            own=float(row.sd**2),
            rest=float(rest[at]),
        )
        for at, row in enumerate(seen.rows)
        if (method := BY_NAME.get(row.kind)) is not None
        if not row.censored and not _phaser_unknown(blind, at)
    ]


def _phaser_unknown(blind: Solved, at: int) -> bool:
    row = blind.problem.seen.rows[at]
    return row.kind == "cam" and not row.phaser and blind.book.phaser_of(row.about) is not None


def learned_errors(every: Iterable[Missed]) -> list[LearnedErrors]:
    """By what factor the errors of each method differ from what readings say of themselves. Nothing
    of a method that no measured part was held against.
    """
    told, found = list(every), list[LearnedErrors]()
    for method in METHOD_WORDS:
        own = [one for one in told if one.method == method]
        if own:
            found.append(LearnedErrors(method=method, times=_factor(own), readings=len(own)))
    return found


def _factor(found: Sequence[Missed]) -> float:
    own, rest, by = (np.array([getattr(m, k) for m in found]) for k in ("own", "rest", "by"))
    variance = PLAIN * (np.exp(2 * FACTORS)[:, None] * own + rest)
    tails = -(TAILS + 1) / 2 * np.log1p(by**2 / variance / TAILS) - 0.5 * np.log(variance)
    said = tails.sum(axis=1) - 0.5 * (FACTORS / KNOWN_TO) ** 2
    weight = np.exp(said - said.max())
    return float(np.exp((weight * FACTORS).sum() / weight.sum()))
