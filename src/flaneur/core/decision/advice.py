"""From a solved question to advice: the next test, and what to do."""

from collections.abc import Callable

import numpy as np

from flaneur.core.decision import wording
from flaneur.core.decision.actions import Action, ActionKind, Workshop
from flaneur.core.decision.choosing import Ranked, best_of_each, is_shut, rank, weigh_all
from flaneur.core.decision.costs import Reckoning, Weighed
from flaneur.core.decision.foresight import Foreseen, Foresight
from flaneur.core.decision.found import Advice, NextTest, Option, OutcomeMeans
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.ensemble import ensemble_of
from flaneur.core.diagnosis.model import Solved
from flaneur.core.readings.taken import Readings
from flaneur.core.readings.tests import Codes, Complaint, Noise

ENGINES, SEED = 1200, 16
TOLD = 12  # tests
ONLY_IF_CHEAPER = (  # than leaving it: an answer to what nobody suspects is no answer
    ActionKind.WHEEL,
    ActionKind.ELSEWHERE,
    ActionKind.SET_RIGHT,
    ActionKind.PARTS,
    ActionKind.PHASER,
    ActionKind.LOCKOUT,
)


def advise(
    solved: Solved,
    rates: Rates | None = None,
    school: School | None = None,
    can_be_done: Callable[[Foreseen], bool] = lambda _: True,
) -> Advice:
    """What to test next, of what can be done here, and what each action is expected to cost by
    these rates.
    """
    rates, school = rates or Rates(), school or School()
    book, readings = solved.book, solved.readings
    engines = ensemble_of(solved, ENGINES, np.random.default_rng(SEED))
    reckoning = Reckoning(engines, rates, school, readings.hours, is_noticed(readings))
    weighed = weigh_all(Workshop(book, rates, school), reckoning)
    may_open = readings.is_measured
    tests = [t for t in Foresight(book, engines, readings).tests() if can_be_done(t)]
    ranked = rank(weighed, tests, reckoning, may_open)
    shown = _worth_showing(weighed)
    best = next(i for i in shown if may_open or is_shut(weighed.actions[i]))
    options = [_option(solved, reckoning, weighed, i, i == best) for i in shown]
    return Advice(
        next_tests=[_next_test(solved, weighed, r) for r in ranked[:TOLD]],
        is_time_to_decide=not (ranked and ranked[0].is_worth_it),
        when_to_stop=wording.when_to_stop(book, ranked),
        decision=options,
        is_measured=may_open,
        why=_why(options, may_open),
        school=school,
    )


def is_noticed(readings: Readings) -> bool:
    """Whether anybody heard anything, or a code is set."""
    for test in readings.tests:
        if isinstance(test, Noise) and test.seconds != 0:
            return True
        if isinstance(test, Complaint) and (
            test.rattle in ("cold_start", "hot_idle") or test.no_start
        ):
            return True
        if isinstance(test, Codes) and test.codes:
            return True
    return False


def _worth_showing(weighed: Weighed) -> list[int]:
    cost = weighed.cost.mean(axis=1)
    order = best_of_each(weighed)
    leave = next(i for i in order if weighed.actions[i].kind is ActionKind.LEAVE)
    return [
        i for i in order if cost[i] < cost[leave] or weighed.actions[i].kind not in ONLY_IF_CHEAPER
    ]


def _key(action: Action) -> str:
    more = [*sorted(action.scope), *sorted(action.locked), *sorted(action.wheels)]
    more += [f"{action.after_h:g}"] if action.after_h else []
    more += [ActionKind.ELSEWHERE] if action.outside and action.scope else []
    return f"{action.kind.value}:{','.join(more)}".rstrip(":")


def _option(
    solved: Solved, reckoning: Reckoning, weighed: Weighed, i: int, is_advised: bool
) -> Option:
    action, book = weighed.actions[i], solved.book
    restored, risk = float(weighed.restored[i].mean()), float(weighed.fails[i].mean())
    return Option(
        key=_key(action),
        action=action.kind,
        name=wording.action_name(book, action),
        words=wording.option_words(restored, risk, reckoning.rates.horizon_h),
        scope=list(action.scope),
        kept=list(action.kept),
        parts=[book.components[c].name for c in action.scope if c not in action.kept],
        expected_cost=float(weighed.cost[i].mean()),
        outlay=reckoning.outlay(action),
        restored=restored,
        risk=risk,
        minutes=action.minutes,
        price=action.price,
        after_h=action.after_h,
        is_advised=is_advised,
    )


def _next_test(solved: Solved, weighed: Weighed, ranked: Ranked) -> NextTest:
    book, test = solved.book, ranked.test
    return NextTest(
        test=f"{test.kind}:{test.part}" if test.part else test.kind,
        kind=test.kind,
        part=test.part,
        name=wording.test_name(book, test.kind, test.part),
        gain=ranked.gain,
        gain_per_minute=ranked.per_minute,
        worth=wording.worth_words(book, ranked),
        own_cost=ranked.own_cost,
        is_worth_it=ranked.is_worth_it,
        minutes=test.cost.minutes,
        waiting_minutes=test.cost.waiting_minutes,
        needs=[need.words for need in test.cost.needs],
        outcomes=[
            OutcomeMeans(
                words=wording.outcome_words(book, test.kind, m.outcomes),
                odds=m.odds,
                then=wording.action_name(book, weighed.actions[m.action]),
            )
            for m in ranked.meanings
        ],
    )


def _why(options: list[Option], may_open: bool) -> str:
    """Why the first option, against the next."""
    if not may_open:
        return "Nothing was measured: no engine is opened on its age and what was told. Read first."
    best = options[0]
    if len(options) == 1:
        return best.words
    second = options[1]
    near = second.expected_cost < 1.03 * best.expected_cost
    more = second.expected_cost - best.expected_cost
    gap = "about as dear as the next best" if near else f"{more:,.0f} under the next best"
    return f"{best.words} Expected {gap}: {second.name[:1].lower()}{second.name[1:]}."
