"""Tests that tell together what none of them tells alone.

What a set of tests is worth is found by playing it through: an engine that may be this one is taken
for the true one, every test of the set comes out as it may there, the other engines are weighed by
all outcomes at once, and the action that is best by them is charged at what it costs the true one.
No engine speaks for itself, so that a set is not promised more than it gives (expected value of
sample information by simulation: Raiffa and Schlaifer 1961, ch. 4).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.decision.foresight import Foreseen

Floats = NDArray[np.float64]
Light = NDArray[np.float32]
TRUE, OTHERS = 160, 480  # engines taken for the true one, and those that are weighed
MOST, RARE = 8, 1e-7  # tests of a set; the least odds of an outcome


@dataclass(frozen=True)
class Test:
    """Tests that are done in one go (a capture reads every cam): the money their own cost is, and
    whether they measure.
    """

    parts: Sequence[Foreseen]
    own_cost: float
    measures: bool


def worth_together(
    cost: Floats, barred: Floats | None, tests: Sequence[Test], seed: int
) -> list[int]:
    """The set of tests, by place, that is expected to save most beyond its own cost, built up one
    by one; empty where no set saves anything.

    ``cost`` (A, R): money, each action in each engine. ``barred`` (A,): what is added to it while
    nothing was measured; None where something was.
    """
    play = _Play.of(cost, barred, tests, np.random.default_rng(seed))

    def after(chosen: Sequence[int]) -> float:
        """What the action is charged after these tests, and what they cost themselves."""
        is_measured = barred is None or any(tests[i].measures for i in chosen)
        return play.charged(chosen, is_measured) + sum(tests[i].own_cost for i in chosen)

    chosen, best = list[int](), list[int]()
    least = now = after(chosen)
    left = set(range(len(tests)))
    while left and len(chosen) < MOST:
        then = {i: after([*chosen, i]) for i in left}
        i = min(then, key=lambda i: then[i])
        chosen.append(i)
        left.remove(i)
        if then[i] < least:
            least, best = then[i], list(chosen)
    for i in list(best):  # what was taken before it was seen that it tells nothing
        rest = [o for o in best if o != i]
        if (without := after(rest)) <= least:
            least, best = without, rest
    return best if least < now else []


@dataclass(frozen=True)
class _Play:
    """Engines taken for the true one (T,), those weighed (S,), what each action costs them, and
    what each test's outcome says of the others, log (T, S).
    """

    true: NDArray[np.int64]
    others: NDArray[np.int64]
    cost: Light
    charge: Light
    barred: Light | None
    said: list[Light]

    @classmethod
    def of(
        cls, cost: Floats, barred: Floats | None, tests: Sequence[Test], rng: np.random.Generator
    ) -> "_Play":
        order = rng.permutation(cost.shape[1])
        true, others = order[:TRUE], order[:OTHERS]
        said = list[Light]()
        for test in tests:
            log = np.zeros((len(true), len(others)), np.float32)
            for part in test.parts:
                odds = part.chance[:, true]
                below = np.cumsum(odds, axis=0) / odds.sum(axis=0)
                came = (below < rng.random(len(true))).sum(axis=0).clip(max=len(odds) - 1)
                likely = np.log(np.maximum(part.chance[:, others], RARE)).astype(np.float32)
                log += likely[came]
            said.append(log)
        return cls(
            true,
            others,
            cost[:, others].T.astype(np.float32),
            cost[:, true].astype(np.float32),
            None if barred is None else barred.astype(np.float32),
            said,
        )

    @property
    def number(self) -> NDArray[np.int64]:
        return np.arange(len(self.true))

    def charged(self, tests: Sequence[int], is_measured: bool) -> float:
        """What the action that is best by the other engines after these tests costs the true one,
        on average.
        """
        speaks = np.zeros((len(self.true), len(self.others)), np.float32)
        for i in tests:
            speaks += self.said[i]
        speaks[self.number, self.number] = -np.inf  # the first of the others are the true ones
        expected = np.exp(speaks - speaks.max(axis=1, keepdims=True)) @ self.cost
        if not is_measured and self.barred is not None:
            expected = expected + self.barred
        best = expected.argmin(axis=1)
        return float(self.charge[best, self.number].mean())
