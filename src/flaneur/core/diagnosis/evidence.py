"""Evidence of many linear-Gaussian configurations whose unknowns cannot be negative, put right by
the exact geometry.

For one configuration: evidence = N(y; H·μ + shift, S) · P_posterior(x ≥ 0) / P_prior(x ≥ 0), S =
H·P·Hᵀ + R. The orthant probability is found by sequential conditioning (Genz 1992; Geweke,
Hajivassiliou and Keane) on quasi-random points shared by all configurations. The same draws, each
weighed by what it makes of the readings exactly over what the straight line made of them, are the
posterior: importance sampling from a proposal that is nearly right.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp

from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.diagnosis.observe import WIDE
from flaneur.core.diagnosis.problem import Problem
from flaneur.core.gauss import above, cdf, log_cdf

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
BATCH, LEFT_OUT = 96, 1e-3
FEWEST, USUAL = 8, 16  # points of a row of draws
MOST_DRAWS = 12_000  # of all that may matter, at the usual points
OFTEN = 192  # rows of draws that a configuration would get, were it certain, twice over
MOST_OFF = 5.0
LOG_2PI = float(np.log(2 * np.pi))
LEAST = 1e-300
STUCK_AT_END = {1: 0.03, -1: 0.2}  # how often a stuck plunger is so at its far, its near end
MISREAD_AT_END = 0.02  # how often a plunger is misread as at an end of its travel


@dataclass(frozen=True)
class Draws:
    """Weighed draws: ``config`` (L,) which configuration each row of draws is of, ``x`` (L, N, u),
    ``response`` (L, N, rows), ``weight`` (L, N) summing to one. ``left_out``: an upper bound of
    what was not looked at; ``bound`` (C,): log of an upper bound of each configuration's share, and
    ``log_total`` of all that was found.
    """

    problem: Problem
    config: Ints
    x: Floats
    response: Floats
    weight: Floats
    left_out: float
    bound: Floats
    log_total: float


Weigh = Callable[[Ints, Floats, Floats], Floats]
"""Log likelihood of the tests that give no figure: configurations (L,), draws (L, N, u) and their
response (L, N, rows) to (L, N); at most nought.
"""


@dataclass(frozen=True)
class _Linear:
    """What the line through the new engine makes of every configuration: the posterior's mean
    (C, u), log P_prior(x ≥ 0) and log of an upper bound of the evidence (C,).
    """

    mean: Floats
    log_prior_orthant: Floats
    bound: Floats


@dataclass(frozen=True)
class _Conditioned:
    """Unknowns of a Gaussian prior seen through a line: ``white`` (…, n, n) makes what is read of
    unit covariance, ``gain`` (…, u, n) brings that back to the unknowns; log determinant of its
    covariance, and covariance (…, u, u) of the unknowns then.
    """

    white: Floats
    gain: Floats
    log_det: Floats
    cov: Floats

    def log_density(self, whitened: Floats) -> Floats:
        """Log density of what is read, whitened (…, n)."""
        n = whitened.shape[-1]
        return -0.5 * (np.sum(whitened**2, axis=-1) + self.log_det + n * LOG_2PI)


def _conditioned(sd: Floats, line: Floats, noise: Floats) -> _Conditioned:
    """Prior deviations (…, u), a line (…, n, u) and noise (…, n, n)."""
    gain_t = sd[:, :, None] ** 2 * np.swapaxes(line, -1, -2)  # (…, u, n)
    chol = np.linalg.cholesky(line @ gain_t + noise)
    white: Floats = np.asarray(np.linalg.inv(chol), dtype=np.float64)
    log_det = 2 * np.log(np.diagonal(chol, axis1=-2, axis2=-1)).sum(axis=-1)
    gain = gain_t @ np.swapaxes(white, -1, -2)
    cov = (sd**2)[:, :, None] * np.eye(sd.shape[1]) - gain @ np.swapaxes(gain, -1, -2)
    return _Conditioned(white, gain, log_det, cov)


def solve(
    problem: Problem, weigh: Weigh, log_factor: Floats, points: int, before: Draws | None = None
) -> Draws:
    """Posterior draws of the configurations that matter. ``log_factor`` (C,): log likelihood of
    what depends on the configuration alone. ``before``: draws of the same question with fewer
    configurations; only those after them are gone through.

    Configurations come in the order of an upper bound of their evidence: Gaussian marginal times
    the smallest single P(x_i ≥ 0). They are looked at until those left are bounded below one in a
    thousand of what was found; those with much of it several times over, and where very many may
    matter, each at fewer points.
    """
    new = np.arange(0 if before is None else len(before.bound), len(problem.members))
    line = _linear(problem, new)
    score = line.bound + (problem.log_prior + log_factor)[new]
    order = np.argsort(-score)
    left: Floats = np.logaddexp.accumulate(score[order][::-1])[::-1]
    total = -np.inf if before is None else before.log_total
    whole = np.logaddexp(left[0], total)
    likely = int(np.sum(left > whole + np.log(LEFT_OUT)))
    most = MOST_DRAWS * max(1, points // USUAL)
    points = max(FEWEST, min(points, most // max(likely, 1)))
    points = points if before is None else before.x.shape[1]  # rows of draws are of one length
    times = np.clip(np.ceil(np.exp(score[order] - whole) * OFTEN), 1, OFTEN // 2).astype(int)
    rows, each = np.repeat(order, times), np.repeat(times, times)
    left = np.repeat(left, times)
    found: list[tuple[Ints, Floats, Floats, Floats]] = []
    done = 0
    while done < len(rows) and left[done] - total > np.log(LEFT_OUT):
        at = slice(done, done + BATCH)
        which = new[rows[at]]
        once, again = np.unique(rows[at], return_inverse=True)
        local = _local(problem, line, once, new[once]).taken(again.reshape(-1))
        x, log_weight = _orthant(local, points, done)
        response, exact = _put_right(problem, which, local, x)
        log_weight += exact + weigh(which, x, response)
        log_weight += (problem.log_prior + log_factor)[which][:, None]
        log_weight -= np.log(points * each[at])[:, None]
        found.append((which, x, response, log_weight))
        total = float(np.logaddexp(total, logsumexp(log_weight)))
        done += BATCH
    bound = float(np.exp(left[done] - total)) if done < len(rows) else 0.0
    if before is not None:
        log_weight = np.log(np.maximum(before.weight, LEAST)) + before.log_total
        found.insert(0, (before.config, before.x, before.response, log_weight))
        bound += before.left_out
        score = np.concatenate([before.bound, score])
    weight = np.concatenate([w for *_, w in found])
    return Draws(
        problem,
        np.concatenate([w for w, *_ in found]),
        np.concatenate([x for _, x, *_ in found]),
        np.concatenate([r for _, _, r, _ in found]),
        np.exp(weight - total),
        bound,
        score,
        total,
    )


def but_for_a_little(problem: Problem) -> Floats:
    """Log evidence of every configuration (C,), by the line, were no row off by more than
    MOST_OFF standard deviations: which of them give all that was read but for a little, that one
    fault more may give.
    """
    group, groups = problem.group_of, problem.groups
    seen = _conditioned(groups.sd, problem.matrix, groups.noise)
    surprise = problem.surprise(np.arange(len(group)))
    whitened = np.einsum("cij,cj->ci", seen.white[group], surprise)
    each = replace(seen, log_det=seen.log_det[group])
    return each.log_density(np.clip(whitened, -MOST_OFF, MOST_OFF)) + problem.log_prior


def row_given_others(problem: Problem, row: int) -> Floats:
    """Log density of one row given all others, as the line has it, for every configuration (C,)."""
    h, group, groups = problem.matrix, problem.group_of, problem.groups
    precision = np.linalg.inv(h @ (groups.sd[:, :, None] ** 2 * h.T) + groups.noise)[:, row]
    there = np.sum(precision[group] * problem.surprise(np.arange(len(group))), axis=1)
    own = precision[group, row]
    return 0.5 * (np.log(own) - LOG_2PI - there**2 / own)


def _linear(problem: Problem, which: Ints) -> _Linear:
    used, group = np.unique(problem.group_of[which], return_inverse=True)
    group = group.reshape(-1)
    groups = problem.groups
    mean, sd, noise = groups.mean[used], groups.sd[used], groups.noise[used]
    seen = _conditioned(sd, problem.matrix, noise)  # of every group
    whitened = np.einsum("cij,cj->ci", seen.white[group], problem.surprise(which))
    each = replace(seen, log_det=seen.log_det[group])
    posterior = mean[group] + np.einsum("cuj,cj->cu", seen.gain[group], whitened)
    free = sd > 0
    spread = np.sqrt(np.maximum(np.diagonal(seen.cov, axis1=1, axis2=2), 1e-18))
    single = np.where(free[group], log_cdf(posterior / spread[group]), 0.0).min(axis=1, initial=0.0)
    log_prior_orthant = np.where(free, np.log(cdf(mean / np.where(free, sd, 1.0))), 0.0).sum(axis=1)
    bound = each.log_density(whitened) + single - log_prior_orthant[group]
    return _Linear(posterior, log_prior_orthant[group], bound)


@dataclass(frozen=True)
class _Local:
    """The line through where each of L configurations most probably stands: what the rows show
    there, ``shown`` (L, n) at ``at`` (L, u), how they change, ``slope`` (L, n, u); the posterior it
    gives, ``mean`` (L, u) and ``cov`` (L, u, u), which unknowns are ``free`` (L, u), and log of its
    evidence.
    """

    at: Floats
    shown: Floats
    slope: Floats
    mean: Floats
    cov: Floats
    free: NDArray[np.bool_]
    evidence: Floats

    def taken(self, rows: Ints) -> "_Local":
        """Some of them, some several times."""
        return _Local(*(getattr(self, f.name)[rows] for f in fields(self)))


def _local(problem: Problem, line: _Linear, rows: Ints, which: Ints) -> _Local:
    """One step of Gauss and Newton from where the line through the new engine has its posterior:
    ``rows`` of the line, of configurations ``which``.
    """
    seen, items = problem.seen, len(problem.items)
    group = problem.group_of[which]
    mean, sd = problem.groups.mean[group], problem.groups.sd[group]
    at = np.maximum(line.mean[rows], 0.0)
    size = at.shape[1]
    steps = np.concatenate([np.zeros((1, size)), np.eye(size)[:items] * problem.step[:, None]])
    points = at[:, None, :] + steps  # (L, 1 + items, u)
    shown = seen.values - problem.left(which, points, seen.response.of(points[..., :items]))
    slope = np.repeat(problem.matrix[None], len(which), axis=0)
    slope[..., :items] = ((shown[:, 1:] - shown[:, :1]) / problem.step[:, None]).transpose(0, 2, 1)
    shown = shown[:, 0]
    known = _conditioned(sd, slope, problem.groups.near[group])
    surprise = seen.values - shown - np.einsum("lnu,lu->ln", slope, mean - at)
    whitened = np.einsum("lij,lj->li", known.white, surprise)
    found = mean + np.einsum("luj,lj->lu", known.gain, whitened)
    evidence = known.log_density(whitened) - line.log_prior_orthant[rows]
    return _Local(at, shown, slope, found, known.cov, sd > 0, evidence)


def _orthant(local: _Local, points: int, first: int) -> tuple[Floats, Floats]:
    """Draws (L, N, u) of the local line's posterior inside the orthant, and log of evidence times N
    over their number: weights (L, N) that sum to N times the evidence. ``first``: how many rows of
    draws there were before these.
    """
    free, mean = local.free, local.mean
    number, size = free.shape
    # Every row has the points moved on by a step of its own (Cranley and Patterson 1976): what few
    # points leave out in one, others make up for.
    moved = lattice(first + number, size)[first:] * 7.0
    uniform = (lattice(points, size) + moved[:, None, :]) % 1.0
    lower = np.linalg.cholesky(local.cov + 1e-14 * np.eye(size))
    y = np.zeros((number, points, size))
    log_weight = np.zeros((number, points))
    for j in np.flatnonzero(free.any(axis=0)):
        drift = mean[:, j, None] + (y[:, :, :j] @ lower[:, j, :j, None])[..., 0]
        scale = np.maximum(lower[:, j, j, None], 1e-12)
        least = np.where(free[:, j, None], -drift / scale, -np.inf)
        y[:, :, j], much = above(least, uniform[:, :, j])
        log_weight += much
    draws = mean[:, None, :] + y @ lower.transpose(0, 2, 1)
    draws = np.where(free[:, None, :], np.maximum(draws, 0.0), mean[:, None, :])
    return draws, log_weight + local.evidence[:, None]


def _put_right(problem: Problem, which: Ints, local: _Local, x: Floats) -> tuple[Floats, Floats]:
    """The response of every draw, shifts included (L, N, rows), and log of what the readings are
    exactly over what the local line makes of them (L, N).
    """
    seen = problem.seen
    bare = seen.response.of(x[..., : len(problem.items)])
    response = bare + problem.late[which][:, None, :]
    if not seen.rows:
        return response, np.zeros(x.shape[:2])
    exact = problem.left(which, x, bare)
    line = (seen.values - local.shown)[:, None, :] - (
        x - local.at[:, None, :]
    ) @ local.slope.transpose(0, 2, 1)
    ended = np.array([row.censored for row in seen.rows])
    group, groups = problem.group_of[which], problem.groups
    whole = ended == 0
    ratio = _log_density(exact[..., whole], groups.exact[:, whole][:, :, whole], group)
    ratio -= _log_density(line, groups.near, group)
    for i in np.flatnonzero(ended):
        sd = np.sqrt(groups.exact[group, i, i])[:, None]
        chance = cdf(-ended[i] * exact[..., i] / sd)
        of = [f.blind == seen.rows[i].about and not f.stuck for f in problem.faults]
        is_misread = np.max(np.array([*of, False])[problem.members[which]], axis=1)[:, None]
        blind = np.where(is_misread, MISREAD_AT_END, STUCK_AT_END[int(ended[i])])
        chance = np.where(sd >= WIDE, blind, chance)
        ratio += np.log(np.maximum(chance, LEAST))
    return response, ratio


def _log_density(residual: Floats, noise: Floats, of: Ints) -> Floats:
    """Log density of residuals (L, N, n), each row's of covariance ``noise[of]`` (…, n, n)."""
    n = residual.shape[-1]
    if not n:
        return np.zeros(residual.shape[:2])
    used, at = np.unique(of, return_inverse=True)
    chol = np.linalg.cholesky(noise[used])
    inverse = np.linalg.inv(chol).transpose(0, 2, 1)[at.reshape(-1)]
    log_det = np.log(np.diagonal(chol, axis1=1, axis2=2)).sum(axis=1)[at.reshape(-1)]
    return -0.5 * np.sum((residual @ inverse) ** 2, axis=-1) - log_det[:, None] - 0.5 * n * LOG_2PI
