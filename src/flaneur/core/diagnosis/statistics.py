"""Shares of probability per suspect, what cannot be told apart, and quantiles of wear."""

from dataclasses import dataclass

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.found import WearEstimate, WearState
from flaneur.core.diagnosis.model import Solved
from flaneur.core.keys import SuspectKey, SuspectKind

CONFOUNDED_FACTOR = 3.0
WORTH_NAMING = 0.001


def _worn(part: str) -> str:
    return str(SuspectKey(SuspectKind.WEAR, part))


@dataclass(frozen=True)
class Shares:
    """Probability per suspect key, in a fixed order, ``sound`` and ``none`` included."""

    probability: dict[str, float]


def shares(solved: Solved) -> Shares:
    """Probability of every suspect from the configurations and draws."""
    posterior, faults = solved.posterior, solved.faults
    result: dict[str, float] = {}
    draws, weights = posterior.draws, posterior.weights
    none_index = len(solved.sets)
    real = posterior.leaders != none_index
    abrupt = np.array(
        [
            i < none_index and any(faults[f].wear_index is None for f in solved.sets[i])
            for i in map(int, posterior.leaders)
        ]
    )
    over_any = np.zeros(weights.shape, dtype=bool)
    for i, item in enumerate(solved.items):
        over = draws[:, :, i] > item.limit
        over_any |= over
        result[_worn(item.key)] = float((weights * over)[real].sum())
    for c, chosen in enumerate(solved.sets):
        for f in chosen:
            if faults[f].wear_index is None:
                key = faults[f].suspect
                result[key] = result.get(key, 0.0) + float(posterior.probability[c])
    for fault in faults:
        result.setdefault(fault.suspect, 0.0)
    sound = (weights * ~over_any)[real & ~abrupt].sum()
    result[str(SuspectKind.SOUND)] = float(sound)
    result[str(SuspectKind.NONE)] = float(posterior.probability[none_index])
    return Shares({key: min(1.0, max(0.0, p)) for key, p in result.items()})


def exclusive_shares(solved: Solved) -> dict[str, float]:
    """Probability that a suspect is the one thing wrong: nothing else over its limit, no other
    abrupt fault.
    """
    posterior, faults = solved.posterior, solved.faults
    over = np.stack(
        [posterior.draws[:, :, i] > item.limit for i, item in enumerate(solved.items)], axis=2
    )
    count = over.sum(axis=2)
    result: dict[str, float] = {_worn(item.key): 0.0 for item in solved.items} | {
        f.suspect: 0.0 for f in faults
    }
    for row, c in enumerate(map(int, posterior.leaders)):
        if c == len(solved.sets):
            continue
        abrupt = [faults[f].suspect for f in solved.sets[c] if faults[f].wear_index is None]
        weights = posterior.weights[row]
        if len(abrupt) == 1:
            result[abrupt[0]] += float(weights[count[row] == 0].sum())
        elif not abrupt:
            for i, item in enumerate(solved.items):
                result[_worn(item.key)] += float(weights[(count[row] == 1) & over[row, :, i]].sum())
    return result


def confounded_with(solved: Solved, prior: Solved, leader: str) -> list[str]:
    """Suspects that, each as the one thing wrong, explain the readings about as well as the leader
    does.

    The Bayes factor between two such explanations is the ratio of what the readings made of each
    share; under three to one they cannot be told apart. What is under one in a thousand is not
    named.
    """
    now, before = exclusive_shares(solved), exclusive_shares(prior)
    if now.get(leader, 0.0) < WORTH_NAMING or before[leader] <= 0:
        return []
    gain = {
        key: now[key] / before[key] for key in now if now[key] >= WORTH_NAMING and before[key] > 0
    }
    return [
        key
        for key, factor in gain.items()
        if key != leader and factor > gain[leader] / CONFOUNDED_FACTOR
    ]


def wear_estimates(book: EngineBook, solved: Solved) -> list[WearEstimate]:
    """Posterior quantiles of every gradual unknown."""
    weights = solved.posterior.weights.ravel()
    result: list[WearEstimate] = []
    for i, item in enumerate(solved.items):
        values = solved.posterior.draws[:, :, i].ravel()
        order = np.argsort(values)
        cumulative = np.cumsum(weights[order])
        low, median, high = (
            float(values[order][np.searchsorted(cumulative, q)]) for q in (0.05, 0.5, 0.95)
        )
        over = float(weights[values > item.limit].sum())
        name = (book.chains.get(item.key) or book.guides.get(item.key) or book.arms[item.key]).name
        if low > item.limit:
            state = WearState.OVER
        elif high < item.limit:
            state = WearState.WITHIN
        else:
            state = WearState.OPEN
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
                judged=state.words,
            )
        )
    return result


def teeth_of(solved: Solved, key: str) -> int:
    """Teeth late that a jump most probably is; nought for what is no jump."""
    teeth: dict[int, float] = {}
    for c, chosen in enumerate(solved.sets):
        for f in chosen:
            if solved.faults[f].suspect == key and solved.faults[f].teeth:
                late = solved.faults[f].teeth
                teeth[late] = teeth.get(late, 0.0) + float(solved.posterior.probability[c])
    return max(teeth, key=lambda k: teeth[k]) if teeth else 0
