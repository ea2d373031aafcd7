"""The gradual unknowns: wear of chains and liners, their priors, and how they show in the readings.

Sensitivities come from solving the book's loops over the range wear can have, by regression; what
the straight line leaves out is returned as an error covariance.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.drive import WearPrior
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.drive.chain import ChainWear
from flaneur.core.drive.train import DriveTrain

Floats = NDArray[np.float64]
SERVICE_HOURS_UNKNOWN = 4000.0


@dataclass(frozen=True)
class WearUnknown:
    """One gradual unknown: per cent for a chain, millimetres for a liner; Gaussian prior truncated
    at zero.
    """

    key: str
    kind: str
    name: str
    unit: str
    limit: float
    mean: float
    sd: float
    chain: str


def unknowns(book: EngineBook, hours: float | None, oil: str) -> list[WearUnknown]:
    """All gradual unknowns with ordinary-wear priors after ``hours`` and that oil history, of
    chains that time cams.
    """
    result: list[WearUnknown] = []
    train = DriveTrain(book)
    for key, chain in book.chains.items():
        if not train.times_cams(key):
            continue
        mean, sd = _prior(chain.wear, hours, oil)
        result.append(
            WearUnknown(
                key,
                "chain",
                f"{chain.name} elongated",
                "%",
                chain.limit_elongation_pct,
                mean,
                sd,
                key,
            )
        )
    for kind, faces in (("guide", book.guides), ("arm", book.arms)):
        for key, face in faces.items():
            if not train.times_cams(face.chain):
                continue
            mean, sd = _prior(face.wear, hours, oil)
            result.append(
                WearUnknown(
                    key, kind, f"{face.name} worn", "mm", face.limit_wear_mm, mean, sd, face.chain
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


@dataclass(frozen=True)
class Sensitivity:
    """Rows: cams in book order, then path taken up per chain in book order. Columns: unknowns.

    ``matrix`` predicts degrees late and millimetres; ``misfit`` is the covariance of what the line
    leaves out.
    """

    matrix: Floats
    misfit: Floats


@lru_cache(maxsize=32)
def sensitivity(book: EngineBook) -> Sensitivity:
    """Regressed sensitivities of a book; solved once per book and kept."""
    train = DriveTrain(book)
    items = unknowns(book, None, "unknown")
    cams, chains = book.cams, list(book.chains)
    rows, columns = len(cams) + len(chains), len(items)
    matrix, misfit = np.zeros((rows, columns)), np.zeros((rows, rows))
    for chain, drive in train.chains.items():
        own = [i for i, u in enumerate(items) if u.chain == chain]
        if not own:
            continue
        span = np.array([2.0 * items[i].limit for i in own])
        points = lattice(64, len(own)) ** 1.5 * span
        seen = np.zeros((len(points), rows))
        for p, point in enumerate(points):
            values = {items[i].key: float(v) for i, v in zip(own, point, strict=True)}
            wear = ChainWear(values[chain] / 100, tuple((f, values[f]) for f in drive.faces))
            x = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
            lags = drive.lags_deg(wear, x)
            if drive.has_tensioner:
                seen[p, len(cams) + chains.index(chain)] = drive.taken_up_mm(x)
            for c, cam in enumerate(cams):
                seen[p, c] = _arriving(train, chain, cam, lags)
        # The line must pass through the new engine, or a sound drive would look worn.
        through_zero, *_ = np.linalg.lstsq(points, seen, rcond=None)
        matrix[:, own] = through_zero.T
        left = seen - points @ through_zero
        misfit += left.T @ left / len(points)
    return Sensitivity(matrix, misfit)


def _arriving(train: DriveTrain, chain: str, cam: str, lags: dict[str, float]) -> float:
    """Crank degrees by which lag on one chain arrives at a cam, directly or through the chains
    behind it.
    """
    book = train.book
    for sprocket, lag in lags.items():
        shaft = book.sprockets[sprocket].shaft
        if shaft == cam or any(
            book.sprockets[d.chain.driver].shaft == shaft and cam in train.cams_of(c)
            for c, d in train.chains.items()
            if c != chain
        ):
            return lag * train.crank_per_turn[shaft]
    return 0.0
