"""Evidence of many linear-Gaussian configurations whose unknowns cannot be negative.

For one configuration: evidence = N(y; H·μ + shift, S) · P_posterior(x ≥ 0) / P_prior(x ≥ 0), S =
H·P·Hᵀ + R. The orthant probability is found by sequential conditioning (Genz 1992; Geweke,
Hajivassiliou and Keane) on quasi-random points shared by all configurations; the same draws,
weighted, are the posterior.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp

from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.gauss import cdf, quantile

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Stack:
    """C configurations over n observations and u unknowns.

    ``residual`` (C, n): observation minus shift. ``matrix`` (n, u). ``mean``, ``sd`` (C, u): prior
    of each unknown before truncation; an sd of 0 fixes the unknown at its mean. ``noise`` (C, n,
    n). ``log_prior`` (C,).
    """

    residual: Floats
    matrix: Floats
    mean: Floats
    sd: Floats
    noise: Floats
    log_prior: Floats


@dataclass(frozen=True)
class Posterior:
    """``log_evidence`` (C,) without prior; ``probability`` (C,); draws (leaders, N, u) with weights
    summing to one.
    """

    log_evidence: Floats
    probability: Floats
    leaders: NDArray[np.int64]
    draws: Floats
    weights: Floats


def solve(stack: Stack, points: int = 256, most_leaders: int = 160) -> Posterior:
    """Evidence of every configuration and weighted posterior draws of the leading ones.

    Configurations are ordered by Gaussian marginal times the smallest single P(x_i ≥ 0), an upper
    bound; the tail past the leaders keeps that bound as its evidence, which is negligible by
    construction.
    """
    variance = stack.sd**2
    prior_cov = variance[:, :, None] * np.eye(stack.matrix.shape[1])
    h = stack.matrix
    gain_t = h @ prior_cov
    total = gain_t @ h.T + stack.noise
    innovation = stack.residual - stack.mean @ h.T
    chol = np.linalg.cholesky(total)
    whitened = np.linalg.solve(chol, innovation[:, :, None])[:, :, 0]
    log_det = 2 * np.log(np.diagonal(chol, axis1=1, axis2=2)).sum(axis=1)
    n = h.shape[0]
    marginal = -0.5 * (np.sum(whitened**2, axis=1) + log_det + n * np.log(2 * np.pi))
    solved = np.linalg.solve(total, gain_t)
    mean = stack.mean + np.einsum("cnu,cn->cu", solved, innovation)
    cov = prior_cov - np.einsum("cnu,cnv->cuv", gain_t, solved)
    free = stack.sd > 0
    spread = np.sqrt(np.maximum(np.diagonal(cov, axis1=1, axis2=2), 1e-18))
    single = np.where(free, np.log(np.maximum(cdf(mean / spread), 1e-300)), 0.0)
    log_prior_orthant = np.where(
        free, np.log(cdf(stack.mean / np.where(free, stack.sd, 1.0))), 0.0
    ).sum(axis=1)
    bound = marginal + single.min(axis=1) - log_prior_orthant
    order = np.argsort(-(bound + stack.log_prior))
    score = (bound + stack.log_prior)[order]
    tail = float(logsumexp(score)) - 9.2  # the rest together below one in ten thousand
    beyond: Floats = np.logaddexp.accumulate(score[::-1])[::-1]
    keep = int(np.searchsorted(-beyond, -tail))
    leaders = order[: max(8, min(keep + 1, most_leaders, len(order)))]
    log_orthant, draws, log_weights = _orthant(mean[leaders], cov[leaders], free[leaders], points)
    log_evidence = bound.copy()
    log_evidence[leaders] = marginal[leaders] + log_orthant - log_prior_orthant[leaders]
    joint = log_evidence + stack.log_prior
    probability = np.exp(joint - logsumexp(joint))
    each = log_weights - logsumexp(log_weights, axis=1, keepdims=True)
    weights = np.exp(each) * probability[leaders][:, None]
    return Posterior(log_evidence, probability, leaders, draws, weights / weights.sum())


def _orthant(
    mean: Floats, cov: Floats, free: NDArray[np.bool_], points: int
) -> tuple[Floats, Floats, Floats]:
    """log P(x ≥ 0), draws (C, N, u) inside the orthant and their log weights (C, N)."""
    configs, size = mean.shape
    uniform = lattice(points, size)
    lower = np.linalg.cholesky(cov + 1e-14 * np.eye(size))
    y = np.zeros((configs, points, size))
    log_weight = np.zeros((configs, points))
    for j in range(size):
        drift = mean[:, j, None] + np.einsum("cnk,ck->cn", y[:, :, :j], lower[:, j, :j])
        scale = np.maximum(lower[:, j, j, None], 1e-12)
        inside = np.where(free[:, j, None], cdf(drift / scale), 1.0)
        inside = np.maximum(inside, 1e-290)
        log_weight += np.log(inside)
        y[:, :, j] = -quantile(np.clip(inside * (1 - uniform[:, j]), 1e-300, 1 - 1e-16))
    draws = mean[:, None, :] + np.einsum("cnk,cjk->cnj", y, lower)
    draws = np.where(free[:, None, :], np.maximum(draws, 0.0), mean[:, None, :])
    return logsumexp(log_weight, axis=1) - np.log(points), draws, log_weight
