"""A part's wear from reading to reading and on: draws of its law and of the wear itself, which only
ever grows.

Between two readings wear grows by a gamma process whose mean is the law's growth; each reading
weighs the draws, and where few are left they are drawn again, with the law's figures moved a
little, so that their spread is kept (Liu and West).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.trend.fleet import NOISE, Spread, law, shapes
from flaneur.core.trend.lives import Life, WearPart, WearReading

Floats = NDArray[np.float64]
DRAWS = 6000
KEPT = 0.98  # of a draw's own figures when drawn again
STEPS, LONGEST = 72, 6.0  # of the way ahead; times the book's typical hours


@dataclass(frozen=True)
class Draws:
    """Engines that may be this one: logarithm of the factor, exponent, wear now; shape (n,)."""

    log_f: Floats
    shape: Floats
    wear: Floats
    hours: float


def followed(
    part: WearPart, life: Life, spread: Spread, rng: np.random.Generator, count: int = DRAWS
) -> Draws:
    """Draws after all that was read of a life, at its own hours."""
    draws = Draws(spread.draw(rng, count), shapes(part, rng, count), np.zeros(count), 0.0)
    for reading in life.readings:
        draws = _weighed(grown(part, draws, reading.hours, rng), reading, rng)
    return grown(part, draws, life.hours, rng)


def grown(part: WearPart, draws: Draws, hours: float, rng: np.random.Generator) -> Draws:
    """The same engines so many hours on."""
    growth = law(part, draws.log_f, draws.shape, hours) - (
        law(part, draws.log_f, draws.shape, draws.hours) if draws.hours else 0.0
    )
    scale = NOISE * np.exp(draws.log_f) * part.wear.typical
    more = rng.gamma(np.maximum(growth, 0.0) / scale) * scale
    return Draws(draws.log_f, draws.shape, draws.wear + more, hours)


def _weighed(draws: Draws, reading: WearReading, rng: np.random.Generator) -> Draws:
    said = -0.5 * ((draws.wear - reading.value) / reading.stderr) ** 2
    weights = np.exp(said - said.max())
    weights /= weights.sum()
    count = len(weights)
    at = (np.arange(count) + rng.random()) / count
    chosen = np.minimum(np.searchsorted(np.cumsum(weights), at), count - 1)
    log_f, shape = draws.log_f[chosen], draws.shape[chosen]
    return Draws(
        _moved(log_f, draws.log_f, weights, rng),
        np.maximum(_moved(shape, draws.shape, weights, rng), 0.3),
        draws.wear[chosen],
        draws.hours,
    )


def _moved(chosen: Floats, all_of: Floats, weights: Floats, rng: np.random.Generator) -> Floats:
    mean = float((weights * all_of).sum())
    sd = float(np.sqrt((weights * (all_of - mean) ** 2).sum()))
    own = KEPT * chosen + (1 - KEPT) * mean
    return own + np.sqrt(1 - KEPT**2) * sd * rng.normal(size=len(chosen))


def crossing_hours(part: WearPart, draws: Draws, rng: np.random.Generator) -> Floats:
    """At how many hours each draw comes to the limit, shape (n,): its hours now where it is over
    already, infinite where it does not within LONGEST times the book's typical hours from now.
    """
    end = draws.hours + LONGEST * part.wear.typical_hours
    steps = draws.hours + (end - draws.hours) * np.linspace(0, 1, STEPS + 1)[1:] ** 2
    found = np.where(draws.wear >= part.limit, draws.hours, np.inf)
    here = draws
    for hours in steps:
        there = grown(part, here, float(hours), rng)
        crossed = np.isinf(found) & (there.wear >= part.limit)
        growth = np.maximum(there.wear - here.wear, 1e-12)
        share = np.clip((part.limit - here.wear) / growth, 0, 1)
        found = np.where(crossed, here.hours + share * (hours - here.hours), found)
        here = there
    return found
