"""What each reading and test says of every suspect: the posterior with it against the posterior
without it, the same draws weighed anew.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp

from flaneur.core.diagnosis.evidence import LOG_2PI, row_given_others
from flaneur.core.diagnosis.hearing import heard
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.readings.taken import Readings
from flaneur.core.readings.tests import AnyTest, Replaced

Floats = NDArray[np.float64]
MAY_MISS = 0.02
LEAST_SAMPLE = 0.1  # of the effective sample: with less, the question is solved anew
ROWS = ("lash", "mark_miss")


@dataclass(frozen=True)
class Without:
    """A reading by its place, and the shares of every suspect without it."""

    kind: str
    index: int
    shares: dict[str, float]


def without_each(solved: Solved) -> list[Without]:
    """Shares of every suspect with each reading left out in turn."""
    readings, found = solved.readings, list[Without]()
    row = 0
    for kind in ("cams", "plungers", "direct"):
        for i in range(len(getattr(readings, kind))):
            found.append(Without(kind, i, _without_row(solved, row, kind, i)))
            row += 1
    for i, test in enumerate(readings.tests):
        if isinstance(test, Replaced):
            continue
        rows = [
            k for k, r in enumerate(solved.problem.seen.rows) if r.kind == test.kind and k >= row
        ]
        if test.kind in ROWS:
            if rows:
                found.append(Without("tests", i, _without_row(solved, rows[0], "tests", i)))
                row = rows[0] + 1
        else:
            found.append(Without("tests", i, _without_test(solved, i)))
    return found


def _left(readings: Readings, kind: str, index: int) -> Readings:
    rows = getattr(readings, kind)
    return readings.model_copy(update={kind: [*rows[:index], *rows[index + 1 :]]})


def _without_row(solved: Solved, row: int, kind: str, index: int) -> dict[str, float]:
    problem, draws = solved.problem, solved.draws
    seen = problem.seen
    if seen.rows[row].censored:
        rest = _left(solved.readings, kind, index)
        return shares(solve_readings(solved.book, rest))
    left = problem.left(draws.config, draws.x, solved.bare)
    kept = np.array([not r.censored for r in seen.rows])
    at = int(kept[:row].sum())
    log_density = np.empty_like(draws.weight)
    for k, c in enumerate(map(int, draws.config)):
        exact = problem.exact(c)[np.ix_(kept, kept)]
        precision = np.linalg.inv(exact)
        there = left[k][:, kept] @ precision[at]
        log_density[k] = 0.5 * (np.log(precision[at, at]) - LOG_2PI - there**2 / precision[at, at])
    again = replace(solved, without_row=row)
    bound = draws.bound - row_given_others(problem, row)
    return _again(again, -log_density, bound, _left(solved.readings, kind, index))


def _without_test(solved: Solved, index: int) -> dict[str, float]:
    rest = _left(solved.readings, "tests", index)
    tests: tuple[AnyTest, ...] = tuple(rest.tests)
    hidden = replace(
        solved.likelihood.hidden,
        tests=tests,
        terms=tuple(heard(solved.likelihood.hidden.ears, rest.tests)),
        _kept={},
        _groups={},
    )
    other = replace(solved.likelihood, tests=tests, hidden=hidden)
    draws = solved.draws
    now, then = (
        one.of_draws(draws.config, draws.x, draws.response)
        + one.of_configuration()[draws.config][:, None]
        for one in (solved.likelihood, other)
    )
    again = replace(solved, likelihood=other)
    factor = other.of_configuration() - solved.likelihood.of_configuration()
    return _again(again, then - now, draws.bound + factor, rest)


def _again(solved: Solved, log_factor: Floats, bound: Floats, rest: Readings) -> dict[str, float]:
    """Shares with the draws weighed anew; solved again where too few of them carry it, or where
    configurations that were not looked at may matter now (``bound`` (C,), log).
    """
    draws = solved.draws
    most = float(log_factor.max())
    weight = draws.weight * np.exp(np.clip(log_factor - most, -700, 0))
    total = float(weight.sum())
    unlooked = np.ones(len(bound), dtype=bool)
    unlooked[draws.config] = False
    left = float(logsumexp(bound[unlooked])) if unlooked.any() else -np.inf
    is_missed = left > draws.log_total + most + np.log(max(total, 1e-300)) + np.log(MAY_MISS)
    square = float(np.sum(weight**2)) / float(np.sum(draws.weight**2))
    effective = total**2 / square if square > 0 else 0.0
    if is_missed or effective < LEAST_SAMPLE:
        return shares(solve_readings(solved.book, rest))
    anew = replace(draws, weight=weight / total)
    hidden = solved.likelihood.hidden_odds(anew.config, anew.x, anew.response)
    return shares(replace(solved, draws=anew, hidden=hidden, readings=rest))
