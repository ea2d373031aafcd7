"""From readings to weighed draws of what may be wrong."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.bands import judged_by
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import Abrupt, abrupt_faults
from flaneur.core.diagnosis.bearing import faults_read, wear_read
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.evidence import USUAL, Draws, but_for_a_little, solve
from flaneur.core.diagnosis.hearing import ears_of, heard
from flaneur.core.diagnosis.hidden import Hidden
from flaneur.core.diagnosis.likelihood import Likelihood
from flaneur.core.diagnosis.observe import observe
from flaneur.core.diagnosis.odds import ORDINARY, Odds
from flaneur.core.diagnosis.problem import Problem, make_problem, with_one_more
from flaneur.core.diagnosis.wear import WearUnknown, prior_draws, unknowns
from flaneur.core.keys import SuspectKey
from flaneur.core.readings.taken import Readings
from flaneur.core.readings.tests import Replaced

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
WORTH_ONE_MORE, MOST_JOINED, IN_DOUBT = 0.004, 24, 0.3


@dataclass(frozen=True)
class Solved:
    """Weighed draws, and the chance of each hidden fault in each of them. ``without_row``: a row of
    observations that was taken out of their weights.
    """

    book: EngineBook
    readings: Readings
    likelihood: Likelihood
    draws: Draws
    faults: list[Abrupt]
    is_read: NDArray[np.bool_]
    hidden: dict[SuspectKey, Floats]
    without_row: int = -1

    @property
    def problem(self) -> Problem:
        """What was asked."""
        return self.draws.problem

    @cached_property
    def chosen(self) -> Ints:
        """Faults of every row of draws as indices (L, 3), the number of all faults for none."""
        members = self.problem.members[self.draws.config]
        return np.where(members < 0, len(self.problem.faults), members)

    def per_fault(self, weight: Floats) -> Floats:
        """What rows of draws carry (L,), summed by the faults in them, (F,)."""
        number = len(self.problem.faults)
        each = np.repeat(weight, self.chosen.shape[1])
        found = np.bincount(self.chosen.ravel(), each, minlength=number + 1)[:number]
        return np.asarray(found, dtype=np.float64)

    @cached_property
    def bare(self) -> Floats:
        """What the wear of every draw alone shows in each row of the response, (L, N, rows)."""
        return self.draws.response - self.problem.late[self.draws.config][:, None, :]

    @property
    def items(self) -> list[WearUnknown]:
        """The gradual unknowns, in the order of the draws' columns."""
        return self.problem.items


def solve_readings(
    book: EngineBook, readings: Readings, points: int = USUAL, odds: Odds = ORDINARY
) -> Solved:
    """Posterior over wear, all sets of up to two abrupt faults, sets of
    three where two carry something, and every set of hidden ones.
    Raises ReadingError where the readings cannot be of this engine.
    """
    book = judged_by(book, readings.bands)
    seen = observe(book, readings)
    fitted = {t.part: t.hours_ago for t in readings.tests if isinstance(t, Replaced)}
    items = unknowns(book, readings.hours, readings.oil, fitted, readings.learned)
    faults = abrupt_faults(book, items, odds, frozenset(fitted))
    is_read = wear_read(book, seen, items, readings.tests)
    read = faults_read(book, seen, faults, is_read, readings.tests)
    problem = make_problem(book, seen, items, read, is_read)
    ears, tests = ears_of(book), tuple(readings.tests)
    chains = tuple(c for c in seen.response.lines.parts if c in book.chains and book.arm_of(c))
    terms = tuple(heard(ears, readings.tests))
    hidden = Hidden(book, odds, readings.oil, readings.accessories, ears, tests, terms, chains)
    likelihood = Likelihood(book, problem, hidden, odds, tests)
    draws = solve(problem, likelihood.of_draws, likelihood.of_configuration(), points)
    wider = with_one_more(problem, _leading(draws))
    if len(wider.members) > len(problem.members):
        likelihood = replace(likelihood, problem=wider)
        draws = solve(wider, likelihood.of_draws, likelihood.of_configuration(), points, draws)
    draws = _filled(draws, is_read)
    found = likelihood.hidden_odds(draws.config, draws.x, draws.response)
    return Solved(book, readings, likelihood, draws, faults, is_read, found)


def _leading(draws: Draws) -> Ints:
    """Configurations that one more fault may join, of those with as many as were gone through in
    their scene: those that carry something; and where nothing known gives what was read as it is
    said, those that give all but a little of it.
    """
    problem = draws.problem
    weight = draws.weight.sum(axis=1)
    share = np.bincount(draws.config, weight, len(draws.bound))
    is_full = (problem.members >= 0).sum(axis=1) == np.where(problem.scene > 0, 1, 2)
    carrying = np.flatnonzero(is_full & (share > WORTH_ONE_MORE))
    found = [carrying[np.argsort(-share[carrying])][:MOST_JOINED]]
    errors = np.array([scene.errors for scene in SCENES])[problem.scene]
    is_odd = (errors > 1) | (np.arange(len(share)) == problem.none)
    if share[is_odd].sum() > IN_DOUBT:
        nearly = but_for_a_little(problem)
        for scene in range(len(SCENES)):
            at = np.flatnonzero(is_full & (problem.scene == scene))
            found.append(at[np.argsort(-nearly[at])][: MOST_JOINED // 2])
    return np.unique(np.concatenate(found))


def _filled(draws: Draws, is_read: NDArray[np.bool_]) -> Draws:
    """The draws with wear of what no reading bears on, drawn from its prior."""
    if is_read.all():
        return draws
    x = draws.x.copy()
    scenes = draws.problem.scene[draws.config]
    for i, item in enumerate(draws.problem.items):
        for k in np.unique(scenes) if not is_read[i] else ():
            rows = np.flatnonzero(scenes == k)
            number = len(rows) * x.shape[1]
            drawn = prior_draws(item, number, i, SCENES[int(k)].wear)
            x[rows, :, i] = drawn.reshape(len(rows), -1)
    response = draws.problem.seen.response.of(x[..., : len(is_read)])
    response += draws.problem.late[draws.config][:, None, :]
    return replace(draws, x=x, response=response)
