"""Shares of probability per suspect, what cannot be told apart, and quantiles of wear."""

import numpy as np
from numpy.typing import NDArray

from flaneur.core.diagnosis.abrupt import Abrupt
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.found import STATED, WearEstimate, WearState
from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.wear import WearUnknown, prior_draws, prior_over
from flaneur.core.gauss import cdf, log_odds
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
CONFOUNDED_FACTOR = 3.0
WORTH_NAMING = 0.001
MOVED_NATS, MOVED_SPREAD = 0.1, 0.1
FLOOR = 1e-6
MOST_NONE, MOST_NOISE = 0.02, 1.25  # of readings that fit: none of these, errors as times said


def shares(solved: Solved) -> dict[str, float]:
    """Probability of every suspect, ``sound`` and ``none`` included; of what no reading bears on,
    its prior.
    """
    problem, draws = solved.problem, solved.draws
    weight = draws.weight
    per_config = weight.sum(axis=1)
    real = draws.config != problem.none
    result: dict[str, float] = {}
    over = wear_over(solved)
    for i, item in enumerate(solved.items):
        result[str(SuspectKey(SuspectKind.WEAR, item.key))] = (
            float(weight[real][over[real, :, i]].sum())
            if solved.is_read[i]
            else _unread_over(solved, item)
        )
    read = {f.key for f in problem.faults}
    for fault in solved.faults:
        if fault.wear_index is None:
            known = 0.0 if fault.key in read else fault.prior
            result[str(fault.key)] = result.get(str(fault.key), 0.0) + known
    for fault, there in zip(problem.faults, solved.per_fault(per_config), strict=True):
        if fault.wear_index is None:
            result[str(fault.key)] += float(there)
    abrupt: NDArray[np.bool_] = np.asarray(_abrupt(solved).any(axis=1), dtype=np.bool_)
    result |= {str(key): p for key, p in solved.likelihood.unasked.items()}
    for key, odds in solved.hidden.items():
        result[str(key)] = float((weight * odds).sum())
    wrong = over[..., solved.is_read].any(axis=2) | abrupt[:, None] | ~real[:, None]
    result[str(SuspectKind.SOUND)] = float(weight[~wrong].sum()) * within_tolerance(solved)
    result[str(SuspectKind.NONE)] = float(per_config[~real].sum())
    return {key: min(1.0, max(0.0, p)) for key, p in result.items()}


def _abrupt(solved: Solved) -> NDArray[np.bool_]:
    """Whether each place of a row of draws holds a fault that is not wear, (L, 3)."""
    others = [fault.wear_index is None for fault in solved.problem.faults]
    return np.array([*others, False])[solved.chosen]


def _unread_over(solved: Solved, item: WearUnknown) -> float:
    """Chance that a part of which only its age speaks is over its limit."""
    weight = solved.draws.weight.sum(axis=1)
    scenes = solved.problem.scene[solved.draws.config]
    return float(
        sum(
            weight[scenes == k].sum() * prior_over(item, SCENES[int(k)].wear)
            for k in np.unique(scenes)
        )
    )


def within_tolerance(solved: Solved) -> float:
    """Chance that every cam that was read stands within its tolerance, its errors of reading
    apart.
    """
    limit = solved.book.limits.cam_deviation_deg
    chance = 1.0
    for i, row in enumerate(solved.problem.seen.rows):
        if row.kind == "cam" and i != solved.without_row:
            chance *= float(cdf(np.array((limit - abs(row.value)) / row.sd)))
    return chance


def wear_over(solved: Solved) -> NDArray[np.bool_]:
    """Whether each gradual unknown is over its limit in each draw, (L, N, items)."""
    limits = np.array([item.limit for item in solved.items])
    return solved.draws.x[..., : len(limits)] > limits


def _counted(solved: Solved) -> tuple[NDArray[np.bool_], NDArray[np.int64], NDArray[np.int64]]:
    """What is over its limit in each draw (L, N, items), how many of them that something was read
    of (L, N), and how many other faults (L,).
    """
    over = wear_over(solved)
    over[..., ~solved.is_read] = False
    return over, over.sum(axis=2), _abrupt(solved).sum(axis=1)


def alone(solved: Solved, key: str) -> Floats:
    """Weight of each draw in which a suspect is the one thing wrong, or nothing is for ``sound``,
    (L, N).
    """
    over, count, number = _counted(solved)
    weight = np.where(_real(solved)[:, None], solved.draws.weight, 0.0)
    for i, item in enumerate(solved.items):
        if key == str(SuspectKey(SuspectKind.WEAR, item.key)):
            return np.where((count == 1) & (number == 0)[:, None] & over[..., i], weight, 0.0)
    if key == str(SuspectKind.SOUND):
        return np.where((count == 0) & (number == 0)[:, None], weight, 0.0)
    has = [str(fault.key) == key for fault in solved.problem.faults]
    there = np.array([*has, False])[solved.chosen].any(axis=1) & (number == 1)
    return np.where((count == 0) & there[:, None], weight, 0.0)


def _real(solved: Solved) -> NDArray[np.bool_]:
    """Rows of draws that are in the model, (L,)."""
    return np.asarray(solved.draws.config != solved.problem.none, dtype=np.bool_)


def exclusive_shares(solved: Solved) -> dict[str, float]:
    """Probability that a suspect is the one thing wrong: nothing else over its limit, no other
    abrupt fault.
    """
    over, count, number = _counted(solved)
    result = {str(SuspectKey(SuspectKind.WEAR, item.key)): 0.0 for item in solved.items}
    result |= {str(f.key): 0.0 for f in solved.faults}
    weight = np.where(_real(solved)[:, None], solved.draws.weight, 0.0)
    single = np.where((count == 0) & (number == 1)[:, None], weight, 0.0).sum(axis=1)
    for fault, there in zip(solved.problem.faults, solved.per_fault(single), strict=True):
        if fault.wear_index is None:
            result[str(fault.key)] += float(there)
    worn = np.where((count == 1) & (number == 0)[:, None], weight, 0.0)
    for item, there in zip(solved.items, np.einsum("ln,lni->i", worn, over), strict=True):
        result[str(SuspectKey(SuspectKind.WEAR, item.key))] += float(there)
    return result


def exclusive_priors(solved: Solved) -> dict[str, float]:
    """The same before any reading: each suspect's own odds, which is all a ratio needs."""
    result = {str(SuspectKey(SuspectKind.WEAR, i.key)): prior_over(i) for i in solved.items}
    for fault in solved.faults:
        if fault.wear_index is None:
            result[str(fault.key)] = result.get(str(fault.key), 0.0) + fault.prior
    return {key: p / (1 - p) for key, p in result.items()}


def confounded_with(solved: Solved, leader: str) -> list[str]:
    """Suspects that, each as the one thing wrong, explain the readings about as well as the leader
    does.

    The Bayes factor between two such explanations is the ratio of what the readings made of each
    share; under three to one they cannot be told apart. What is under one in a thousand is not
    named.
    """
    now, before = exclusive_shares(solved), exclusive_priors(solved)
    if now.get(leader, 0.0) < WORTH_NAMING or before.get(leader, 0.0) <= 0:
        return []
    gain = {key: p / before[key] for key, p in now.items() if p >= WORTH_NAMING}
    return [
        key
        for key, factor in gain.items()
        if key != leader and factor > gain[leader] / CONFOUNDED_FACTOR
    ]


def is_moved(now: float, before: float) -> bool:
    """Whether readings moved a probability by a tenth of a nat of its odds."""
    return abs(finite_odds(now) - finite_odds(before)) >= MOVED_NATS


def finite_odds(p: float) -> float:
    """Log odds of a probability, kept finite."""
    return log_odds(min(max(p, FLOOR), 1 - FLOOR))


def wear_estimates(solved: Solved) -> list[WearEstimate]:
    """Posterior quantiles of every gradual unknown."""
    book, result, fits = solved.book, list[WearEstimate](), readings_fit(solved)
    for i, item in enumerate(solved.items):
        values, weights = solved.draws.x[..., i].ravel(), solved.draws.weight.ravel()
        low, median, high = quantiles(values, weights)
        over = float(weights[values > item.limit].sum())
        name = (book.chains.get(item.key) or book.guides.get(item.key) or book.arms[item.key]).name
        if low > item.limit:
            state = WearState.OVER
        elif high < item.limit:
            state = WearState.WITHIN
        else:
            state = WearState.OPEN
        prior = prior_draws(item, 512, i)
        spread = float(prior.std())
        mean = float((values * weights).sum())
        is_stated = fits and (over > STATED or over < 1 - STATED)
        is_read = bool(solved.is_read[i]) and (
            abs(mean - float(prior.mean())) >= MOVED_SPREAD * spread
            or is_moved(over, prior_over(item))
        )
        result.append(
            WearEstimate(
                key=item.key,
                name=name,
                unit=item.unit,
                limit=item.limit,
                median=median,
                low=low,
                high=high,
                over=over,
                state=state,
                judged=_judged(state, is_stated) if is_read else "only its age speaks",
                is_read=is_read,
                is_stated=is_read and is_stated,
            )
        )
    return result


def _judged(state: WearState, is_stated: bool) -> str:
    return state.words if is_stated or state is WearState.OPEN else f"very likely {state.words}"


def readings_fit(solved: Solved) -> bool:
    """Whether what was read fits what is known, so that anything may be said flatly: hardly any
    chance that the fault is none of these, errors of reading no larger than they say.
    """
    none = float(solved.draws.weight.sum(axis=1)[~_real(solved)].sum())
    return none <= MOST_NONE and noise_scale(solved) <= MOST_NOISE


def quantiles(values: Floats, weights: Floats) -> tuple[float, float, float]:
    """5 %, median and 95 % of weighed values."""
    order = np.argsort(values)
    cumulative = np.cumsum(weights[order])
    cumulative /= cumulative[-1]
    last = len(order) - 1
    found = [min(int(np.searchsorted(cumulative, q)), last) for q in (0.05, 0.5, 0.95)]
    low, median, high = (float(values[order[i]]) for i in found)
    return low, median, high


def teeth_of(solved: Solved, key: str) -> int:
    """Teeth late that a jump most probably is; nought for what is no jump."""
    there = solved.per_fault(solved.draws.weight.sum(axis=1))
    teeth = {
        fault.teeth: float(there[i])
        for i, fault in enumerate(solved.problem.faults)
        if fault.teeth and str(fault.key) == key
    }
    return max(teeth, key=lambda k: teeth[k]) if teeth else 0


def more_at_once(solved: Solved) -> float:
    """Chance before any reading of three faults or more at once."""
    odds: dict[SuspectKey, float] = {}
    for fault in solved.problem.faults:
        odds[fault.key] = odds.get(fault.key, 0.0) + float(np.exp(fault.log_odds))
    each = np.array(list(odds.values()))
    up_to_two = 1 + each.sum() + (each.sum() ** 2 - np.sum(each**2)) / 2
    return float(max(0.0, 1 - up_to_two / np.prod(1 + each)))


def noise_scale(solved: Solved) -> float:
    """How many times larger than said the errors of reading look, mean over the posterior."""
    times = np.array([s.errors for s in SCENES])
    weight = solved.draws.weight.sum(axis=1)
    real = solved.draws.config != solved.problem.none
    each = times[solved.problem.scene[solved.draws.config]]
    return float((weight * np.where(real, each, times.max())).sum())


def alike_of(faults: list[Abrupt], key: str) -> list[str]:
    """Contacts that nothing read can tell from a jump's."""
    return list(next((f.alike for f in faults if str(f.key) == key), ()))
