"""Which action costs least, and which test would change that by most for its minutes.

A test's gain is the expected cost of the best action now less that of the best action once its
outcome is known (expected value of sample information, Raiffa and Schlaifer 1961), each outcome
weighing the same engines anew.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.decision.actions import Action, ActionKind, Workshop
from flaneur.core.decision.catalogue import Cost
from flaneur.core.decision.costs import Reckoning, Weighed
from flaneur.core.decision.foresight import Foreseen, Outcome
from flaneur.core.decision.rates import Phasers, Rates
from flaneur.core.decision.together import Test, worth_together
from flaneur.core.readings.tests import TELLS_ONLY

Floats = NDArray[np.float64]
MOST_JOINED, WORTH_JOINING = 4, 1.0  # units put together; money another must save
SEARCHED_IN = 400  # engines
CAPTURE = "capture"  # of all cams at once, whichever decides
SAME, SEED = 1e-6, 16


@dataclass(frozen=True)
class Meaning:
    """Outcomes after which the same action is best: their odds, and that action."""

    outcomes: tuple[Outcome, ...]
    odds: float
    action: int


@dataclass(frozen=True)
class Ranked:
    """A test with its gain in money, what it costs itself, and what its outcomes mean. ``beside``:
    it is worth its cost only with others, which it is the first of.
    """

    test: Foreseen
    gain: float
    own_cost: float
    meanings: list[Meaning]
    beside: tuple[Foreseen, ...] = ()

    @property
    def per_minute(self) -> float:
        """Gain for each minute of work."""
        return self.gain / max(self.test.cost.minutes, 1.0)

    @property
    def is_worth_it(self) -> bool:
        """Whether it gains more than it costs, alone or with others."""
        return bool(self.beside) or self.gain > self.own_cost


def weigh_all(workshop: Workshop, reckoning: Reckoning) -> Weighed:
    """Every action worth thinking of: each small one, the large ones; small ones put together one
    by one for as long as another lowers the expected cost; and what is left of the large ones when
    parts are left in one by one for as long as that does.
    """
    units, shut = workshop.units(), workshop.shut()
    known = [*shut, *units, *workshop.large()]
    few = replace(reckoning, engines=reckoning.engines.thinned(SEARCHED_IN), _kept={}, _seen={})
    small = [a for a in units if workshop.joins(a)] + [a for a in shut if a.wheels or a.outside]
    found = [*_joined(workshop, few, small, known), *_left_in(workshop, few, known)]
    return reckoning.weigh(list(dict.fromkeys([*known, *found])))


def _joined(
    workshop: Workshop, reckoning: Reckoning, small: Sequence[Action], known: list[Action]
) -> list[Action]:
    """Unions of small actions, each better than the one before."""
    cost = reckoning.weigh(known).cost.mean(axis=1)
    start = min(small, key=lambda a: cost[known.index(a)])
    chosen, found, least = [start], list[Action](), float(cost[known.index(start)])
    while len(chosen) < MOST_JOINED:
        rest = [one for one in small if one not in chosen]
        made = [workshop.together(_kind_of([*chosen, one]), [*chosen, one]) for one in rest]
        best = _better(reckoning, known, made, least)
        if best is None:
            break
        which, least = best
        chosen.append(rest[which])
        found.append(made[which])
    return found


def _left_in(workshop: Workshop, reckoning: Reckoning, known: list[Action]) -> list[Action]:
    """The large action with parts left in, one more each time it costs less so."""
    whole = [a for a in known if a.kind in (ActionKind.WHOLE_SET, ActionKind.CHAIN_SET_PHASERS)]
    cost = reckoning.weigh(whole).cost.mean(axis=1)
    start = whole[int(cost.argmin())]
    groups = [frozenset(g) for g in workshop.groups(start)]
    found, least = list[Action](), float(cost.min())
    while len(groups) > 1:
        made = [
            workshop.with_phasers(_kind_of_parts(workshop, parts), parts)
            for g in groups
            if (parts := frozenset[str]().union(*(o for o in groups if o != g)))
        ]
        best = _better(reckoning, known, made, least)
        if best is None:
            break
        which, least = best
        found.append(made[which])
        groups.pop(which)
    return found


def _better(
    reckoning: Reckoning, known: list[Action], made: list[Action], least: float
) -> tuple[int, float] | None:
    """The cheapest of some actions and its cost, where it is cheaper than ``least``."""
    if not made:
        return None
    cost = reckoning.weigh([*known, *made]).cost[len(known) :].mean(axis=1)
    best = int(cost.argmin())
    return (best, float(cost[best])) if cost[best] < least - WORTH_JOINING else None


def _kind_of_parts(workshop: Workshop, parts: frozenset[str]) -> ActionKind:
    """What renewing these parts is called."""
    book = workshop.book
    chains, phasers = parts & set(book.chains), parts & set(book.phasers)
    if parts <= set(book.tensioners):
        return ActionKind.TENSIONER
    if parts <= set(book.phasers):
        is_locking = workshop.school.phasers is Phasers.LOCK_OUT
        return ActionKind.LOCKOUT if is_locking else ActionKind.PHASER
    if phasers:
        return ActionKind.CHAIN_SET_PHASERS
    return ActionKind.CHAIN_SET if chains else ActionKind.PARTS


def _kind_of(actions: Sequence[Action]) -> ActionKind:
    """What several small actions together are called."""
    kinds = {a.kind for a in actions if a.scope}
    if not kinds:
        return ActionKind.ELSEWHERE if any(a.outside for a in actions) else ActionKind.WHEEL
    if kinds <= {ActionKind.SET_RIGHT}:
        return ActionKind.SET_RIGHT
    if kinds <= {ActionKind.TENSIONER, ActionKind.SET_RIGHT}:
        return ActionKind.TENSIONER
    phasers = {ActionKind.PHASER, ActionKind.LOCKOUT}
    if kinds & phasers and kinds - phasers:
        return ActionKind.CHAIN_SET_PHASERS
    if kinds & phasers:
        return next(k for k in (ActionKind.PHASER, ActionKind.LOCKOUT) if k in kinds)
    return ActionKind.CHAIN_SET if ActionKind.CHAIN_SET in kinds else ActionKind.PARTS


def best_of_each(weighed: Weighed) -> list[int]:
    """Of every kind of action the cheapest, cheapest first; what comes to the same is told as the
    largest of its kinds.
    """
    cost, kind = weighed.cost.mean(axis=1), list(ActionKind)
    size = [-kind.index(action.kind) for action in weighed.actions]
    order = [int(i) for i in np.lexsort((size, cost))]
    kinds, same = dict[ActionKind, int](), set[tuple[object, ...]]()
    for i in order:
        action = weighed.actions[i]
        what = (action.renewed, action.opened, action.locked, action.wheels, action.outside)
        is_known = bool(action.scope) and what in same
        same.add(what)
        if not is_known:
            kinds.setdefault(action.kind, i)
    return list(kinds.values())


def is_shut(action: Action) -> bool:
    """Whether an action leaves the drive shut, and the engine where it is."""
    return not action.scope and action.kind is not ActionKind.RETIRE


def rank(
    weighed: Weighed, tests: list[Foreseen], reckoning: Reckoning, may_open: bool = True
) -> list[Ranked]:
    """Tests by their gain for each minute, those worth more than they cost first. Nobody opens an
    engine on its age and what was told: unless it ``may_open`` already, only a test that measures
    lets it be.
    """
    number = weighed.cost.shape[1]
    shut = np.array([is_shut(a) for a in weighed.actions])
    barred = np.where(shut, 0.0, np.inf)  # (A,)
    mean = weighed.cost.mean(axis=1)
    now = float((mean if may_open else mean + barred).min())
    found: list[Ranked] = []
    rates = reckoning.rates
    for test in tests:
        weight = test.chance / number  # (O, R)
        costs = weight @ weighed.cost.T  # (O, A): odds times expected cost
        if not may_open and test.kind in TELLS_ONLY:
            costs = costs + barred
        best = costs.argmin(axis=1)
        gain = max(0.0, now - float(costs.min(axis=1).sum()))
        own = test_cost(test.cost, rates)
        found.append(Ranked(test, gain, own, _meanings(test, weight, best)))
    found.sort(key=lambda r: (not r.is_worth_it, -r.per_minute))
    captures = [r for r in found if r.test.kind == CAPTURE]
    others = {id(r) for r in captures[1:]}
    left = [r for r in found if id(r) not in others]
    if not left or left[0].is_worth_it:
        return left
    return _worth_with_others(weighed, left, captures, None if may_open else barred)


def test_cost(cost: Cost, rates: Rates) -> float:
    """What a test is held against: its own time, and what opening the drive for it costs."""
    testing = cost.minutes + cost.waiting_minutes - cost.opening_minutes
    return (testing * rates.testing_per_h + cost.opening_minutes * rates.labour_per_h) / 60


def _worth_with_others(
    weighed: Weighed, left: list[Ranked], captures: list[Ranked], barred: Floats | None
) -> list[Ranked]:
    """Tests of which none is worth its cost alone, those first that together are: of them the one
    that gains most for its minutes.
    """
    tests = [
        Test(
            [c.test for c in captures] if r.test.kind == CAPTURE else [r.test],
            r.own_cost,
            r.test.kind not in TELLS_ONLY,
        )
        for r in left
    ]
    places = sorted(worth_together(weighed.cost, barred, tests, SEED))
    if len(places) < 2:
        return left
    first = [left[i] for i in places]
    rest = [r for i, r in enumerate(left) if i not in places]
    others = [tuple(o.test for o in first if o is not r) for r in first]
    return [*(replace(r, beside=o) for r, o in zip(first, others, strict=True)), *rest]


def _meanings(test: Foreseen, weight: Floats, best: NDArray[np.int64]) -> list[Meaning]:
    """Outcomes put together by the action that is best after them; neighbours alone where they are
    bins of a figure.
    """
    odds = weight.sum(axis=1)
    groups: list[list[int]] = []
    for o in range(len(odds)):
        if test.outcomes[o].code:
            at = next((g for g in groups if best[g[0]] == best[o]), None)
        else:
            at = groups[-1] if groups and best[groups[-1][0]] == best[o] else None
        if at is None:
            groups.append([o])
        else:
            at.append(o)
    found: list[Meaning] = []
    for group in groups:
        share = float(odds[group].sum())
        if share > SAME:
            outcomes = tuple(test.outcomes[o] for o in group)
            found.append(Meaning(outcomes, share, int(best[group[0]])))
    return found
