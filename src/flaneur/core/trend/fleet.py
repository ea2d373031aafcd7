"""How far and how evenly parts of a kind wear in a fleet: learned from all their lives, shrunk to
the book.

Wear of a part follows ``w(t) = f·typical·(t/typical_hours)^b``. The logarithm of ``f`` is normal
over engines, with mean ``m`` and spread ``tau``; both are found on a grid from every life's
likelihood. What the law leaves out grows with the wear: variance ``NOISE·f·typical·w``.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.trend.lives import Life, WearPart

Floats = NDArray[np.float64]
NOISE = 0.015
MEAN_SD = 0.35  # of m, before any engine: the book is known to about a third
TAUS = np.array([0.12, 0.18, 0.25, 0.33, 0.42, 0.55])
MEANS = np.linspace(-1.05, 1.05, 29)
SHAPE_SD, SHAPES = 0.12, (0.4, 2.5)
DRAWS, WIDE = 1500, 0.7


@dataclass(frozen=True)
class Spread:
    """What is believed of ``m`` and ``tau`` of a kind of part: weights on the grid (MEANS × TAUS),
    and how many lives told of it.
    """

    weights: Floats
    lives: int

    def draw(self, rng: np.random.Generator, count: int) -> Floats:
        """Logarithms of ``f``, shape (count,)."""
        cells = rng.choice(self.weights.size, size=count, p=self.weights.ravel())
        means, taus = MEANS[cells // len(TAUS)], TAUS[cells % len(TAUS)]
        return means + taus * rng.normal(size=count)

    @property
    def times(self) -> float:
        """How many times the book's wear this fleet's engines show, in the middle."""
        return float(np.exp((self.weights.sum(axis=1) * MEANS).sum()))


def before() -> Spread:
    """What is believed before any life."""
    weights = np.exp(-0.5 * (MEANS / MEAN_SD) ** 2)[:, None] * np.ones(len(TAUS))
    return Spread(weights / weights.sum(), 0)


def shapes(part: WearPart, rng: np.random.Generator, count: int) -> Floats:
    """Exponents of the law, near the book's, shape (count,)."""
    return np.clip(rng.normal(part.wear.shape, SHAPE_SD, count), *SHAPES)


def law(part: WearPart, log_f: Floats, shape: Floats, hours: float) -> Floats:
    """Wear by the law alone at so many hours."""
    return np.exp(log_f) * part.wear.typical * (hours / part.wear.typical_hours) ** shape


def learned(parts: dict[str, WearPart], lives: Sequence[Life], seed: int = 0) -> dict[str, Spread]:
    """What lives with readings say of each kind of part."""
    rng = np.random.default_rng(seed)
    found = {kind: before() for kind in {part.kind for part in parts.values()}}
    logs = np.zeros(0)
    for kind in found:
        told = [x for x in lives if parts[x.part].kind == kind and x.readings]
        weights = np.log(found[kind].weights)
        for life in told:
            logs = rng.normal(0.0, WIDE, DRAWS)
            weights = weights + _said(parts[life.part], life, logs, rng)
        weights = np.exp(weights - weights.max())
        found[kind] = Spread(weights / weights.sum(), len(told))
    return found


def _said(part: WearPart, life: Life, logs: Floats, rng: np.random.Generator) -> Floats:
    """Logarithm of a life's likelihood at every cell of the grid, by draws from a wide prior."""
    shape = shapes(part, rng, len(logs))
    said = np.zeros(len(logs))
    for reading in life.readings:
        wear = law(part, logs, shape, reading.hours)
        variance = reading.stderr**2 + NOISE * np.exp(logs) * part.wear.typical * wear
        said += -0.5 * (reading.value - wear) ** 2 / variance - 0.5 * np.log(variance)
    said -= said.max()
    z = (logs[None, None, :] - MEANS[:, None, None]) / TAUS[None, :, None]
    prior = np.exp(-0.5 * z**2 + 0.5 * (logs / WIDE) ** 2) / TAUS[None, :, None]
    return np.log(np.maximum((prior * np.exp(said)).mean(axis=2), 1e-300))
