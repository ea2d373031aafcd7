"""The gradual unknowns: wear of chains and liners, and their priors."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.drive import WearPrior
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.diagnosis.response import parts_of
from flaneur.core.engine.compiled import compiled
from flaneur.core.gauss import cdf, quantile
from flaneur.core.readings.taken import Learned

Floats = NDArray[np.float64]
SERVICE_HOURS_UNKNOWN = 4000.0
FRESH = 0.15  # times the ordinary wear, in an engine renewed and not told of
MOST_WORN_OUT = 0.3
WORN_OUT = (1.3, 0.6)  # of the limit: mean and standard deviation once worn out of turn


@dataclass(frozen=True)
class WearUnknown:
    """One gradual unknown: per cent for a chain, millimetres for a liner; Gaussian prior truncated
    at zero. ``worn_out``: how often such a part wears out of turn.
    """

    key: str
    kind: str
    name: str
    unit: str
    limit: float
    mean: float
    sd: float
    chain: str
    worn_out: float


def unknowns(
    book: EngineBook,
    hours: float | None,
    oil: str,
    fitted: Mapping[str, float] | None = None,
    learned: Iterable[Learned] = (),
) -> list[WearUnknown]:
    """All gradual unknowns of parts that time cams, with ordinary-wear priors after ``hours`` and
    that oil history; of parts ``fitted`` since, after so many hours; as ``learned`` in this shop.
    """
    train = compiled(book).train
    since, here = fitted or {}, {each.kind: each for each in learned}
    result: list[WearUnknown] = []
    for key in parts_of(book, train):
        chain = book.chains.get(key)
        face = book.guides.get(key) or book.arms.get(key)
        kind = "chain" if chain else "guide" if key in book.guides else "arm"
        part = chain or face
        assert part is not None
        mean, sd = _prior(part.wear, since.get(key, hours), oil)
        worn_out = part.wear.worn_out
        if shop := here.get(kind):
            mean, sd = mean * shop.times, sd * shop.times
            worn_out = min(MOST_WORN_OUT, worn_out * shop.out_of_turn)
        result.append(
            WearUnknown(
                key,
                kind,
                f"{part.name} {'elongated' if chain else 'worn'}",
                "%" if chain else "mm",
                chain.limit_elongation_pct if chain else face.limit_wear_mm if face else 0.0,
                mean,
                sd,
                key if face is None else face.chain,
                worn_out,
            )
        )
    return result


def _prior(wear: WearPrior, hours: float | None, oil: str) -> tuple[float, float]:
    share = (
        (hours if hours is not None else SERVICE_HOURS_UNKNOWN) / wear.typical_hours
    ) ** wear.shape
    factor = {"good": 1.0, "poor": wear.poor_oil_factor, "unknown": (1 + wear.poor_oil_factor) / 2}[
        oil
    ]
    mean = wear.typical * share * factor
    widen = 1.0 if hours is not None else 1.5
    return mean, max(wear.floor, wear.spread * mean) * widen


def spread_of(times: float) -> float:
    """How much narrower wear is spread where it is so many times the ordinary."""
    return min(1.0, 2.0 * times)


def prior_over(item: WearUnknown, times: float = 1.0) -> float:
    """Chance before any reading that a part is over its limit, at so many times ordinary wear."""
    share = item.worn_out
    return float(
        sum(
            p * cdf(np.array((m - item.limit) / s)) / cdf(np.array(m / s))
            for p, m, s in (
                (1 - share, item.mean * times, item.sd * spread_of(times)),
                (share, *(k * item.limit for k in WORN_OUT)),
            )
        )
    )


def prior_draws(item: WearUnknown, number: int, which: int, times: float = 1.0) -> Floats:
    """Wear of a part of which only its age speaks, (number,), evenly through its prior."""
    u = lattice(number, which + 2)[:, which + 1]
    chosen = lattice(number, which + 2)[:, which] < item.worn_out
    mean = np.where(chosen, WORN_OUT[0] * item.limit, item.mean * times)
    sd = np.where(chosen, WORN_OUT[1] * item.limit, item.sd * spread_of(times))
    floor = cdf(-mean / sd)
    return np.maximum(mean + sd * quantile(floor + u * (1 - floor)), 0.0)
