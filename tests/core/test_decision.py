"""What is advised: the test that changes most, and the action that costs least."""

import numpy as np
import pytest
from pydantic import TypeAdapter, ValidationError

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.actions import Workshop
from flaneur.core.decision.advice import advise
from flaneur.core.decision.catalogue import cost_of
from flaneur.core.decision.choosing import rank, weigh_all
from flaneur.core.decision.costs import Reckoning
from flaneur.core.decision.foresight import Foresight
from flaneur.core.decision.found import Advice, Option
from flaneur.core.decision.rates import Parts, Phasers, Rates, School
from flaneur.core.diagnosis.ensemble import ensemble_of
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.phasers.found import PhaserState
from flaneur.core.plan.access import renewed_set
from flaneur.core.plan.outlay import outlay
from flaneur.core.plan.plan import make_plan
from flaneur.core.readings.swept import swept
from flaneur.core.readings.taken import Readings

YOUNG = {"hours": 1500, "oil": "good"}
RATTLE: dict[str, object] = {
    "kind": "noise",
    "when": "cold_start",
    "where": "front_top_a",
    "seconds": 3,
}


def solved(
    book: EngineBook, faults: Faults | None, *tests: dict[str, object], **told: object
) -> Solved:
    """Everything read of an engine with these faults; nothing read where there are none given."""
    state = DriveTrain(book).state(faults) if faults is not None else None
    cams = [
        {"cam": c, "deviation_deg": d, "stderr_deg": 0.15, "phaser": {"state": "parked"}}
        for c, d in (state.deviation_deg.items() if state else ())
    ]
    plungers = [
        {"chain": c, "plunger_mm": mm, "stderr_mm": 0.25}
        for c, mm in (state.plunger_mm.items() if state else ())
        if DriveTrain(book).times_cams(c)
    ]
    every = {"cams": cams, "plungers": plungers, "tests": list(tests)}
    return solve_readings(
        book, Readings.model_validate({"engine": book.name, **YOUNG, **told, **every})
    )


def best(advice: Advice) -> Option:
    return next(o for o in advice.decision if o.is_advised)


def cost(advice: Advice, action: str) -> float:
    return next(o.expected_cost for o in advice.decision if o.action == action)


def test_a_sound_engine_is_left_and_no_test_is_worth_its_time(book: EngineBook) -> None:
    advice = advise(solved(book, Faults(elongation_pct={"primary": 0.05})))
    assert best(advice).action in ("leave", "remeasure")
    assert best(advice).restored > 0.97
    assert advice.is_time_to_decide
    assert advice.when_to_stop.startswith("Decide now")


def test_a_jump_on_sound_parts_is_set_right_and_nothing_renewed(book: EngineBook) -> None:
    jumped = Faults(elongation_pct={"primary": 0.05}, jumped_teeth={"chain_a/cam_a_in": 1})
    option = best(advise(solved(book, jumped)))
    assert (option.action, option.parts) == ("set_right", [])
    assert option.scope == option.kept == ["chain_a_part"]
    assert option.restored > 0.95
    assert "renew nothing" in option.name
    plan = make_plan(book, option.scope, option.kept)
    assert "chain_a_part" in plan.access
    assert "chain_a_part" not in plan.renewed
    assert plan.price < make_plan(book, option.scope).price
    step = next(s for s in plan.steps if s.ref == "fit:chain_a_part")
    assert step.why == "set right at its marks"


def test_a_stretched_chain_is_renewed_and_leaving_it_costs_more(book: EngineBook) -> None:
    advice = advise(solved(book, Faults(elongation_pct={"chain_a": 0.9}), hours=3000))
    assert "Secondary chain A (1-3-5)" in best(advice).parts
    assert best(advice).restored > 0.95
    assert cost(advice, "leave") > 2 * best(advice).expected_cost
    assert best(advice).risk < next(o.risk for o in advice.decision if o.action == "leave")


def test_what_brings_the_cams_back_is_renewed_though_every_part_is_under_its_limit(
    book: EngineBook,
) -> None:
    both = Faults(elongation_pct={"primary": 0.4, "chain_a": 0.4})
    found = solved(book, both, hours=4000)
    for part in ("primary", "chain_a"):
        assert shares(found)[f"wear:{part}"] < 0.5
    option = best(advise(found))
    assert option.restored > 0.95
    assert {"Primary chain", "Secondary chain A (1-3-5)"} & set(option.parts)


def test_a_tensioner_that_leaks_is_renewed_alone(book: EngineBook) -> None:
    sinks: dict[str, object] = {"kind": "compress", "part": "chain_a", "feel": "sinks"}
    advice = advise(solved(book, Faults(), RATTLE, sinks))
    assert best(advice).action == "tensioner"
    assert best(advice).parts == ["Tensioner A (1-3-5)"]


def test_what_goes_with_the_belt_off_is_put_right_outside_the_drive(book: EngineBook) -> None:
    belt: dict[str, object] = {
        **RATTLE,
        "when": "hot_idle",
        "where": "elsewhere",
        "belt_off": "goes",
    }
    advice = advise(solved(book, Faults(), belt))
    assert best(advice).action == "elsewhere"


def test_no_engine_is_opened_on_what_was_told(book: EngineBook) -> None:
    told: dict[str, object] = {"kind": "complaint", "rattle": "cold_start", "stood_h": 14}
    advice = advise(solved(book, None, told, hours=5200, oil="poor"))
    assert not advice.is_measured
    assert best(advice).minutes == 0
    assert not advice.is_time_to_decide
    assert advice.next_tests[0].kind == "capture"
    assert "Nothing was measured" in advice.why


def test_a_test_says_what_each_outcome_would_mean(book: EngineBook) -> None:
    cam = {"cam": "cam_a_in", "deviation_deg": 6.2, "stderr_deg": 0.1}
    late = {"engine": book.name, "hours": 5200, "oil": "poor", "cams": [cam]}
    advice = advise(solve_readings(book, Readings.model_validate(late)))
    telling = [t for t in advice.next_tests if len({o.then for o in t.outcomes}) > 1]
    assert telling
    assert all(t.gain > 0 for t in telling)
    for test in advice.next_tests:
        assert sum(o.odds for o in test.outcomes) == pytest.approx(1.0)
    capture = next(t for t in advice.next_tests if t.kind == "capture")
    assert capture.needs == ["engine warm, at idle", "capture box"]
    assert cost_of(book, "noise", "cold_start").waiting_minutes == 480
    opened = outlay(book, ("front_cover",)).minutes
    assert cost_of(book, "compress", "chain_a").minutes > opened > 60


def test_a_test_that_was_done_is_not_proposed_again(book: EngineBook) -> None:
    advice = advise(solved(book, Faults(), RATTLE))
    done = {t.test for t in advice.next_tests}
    assert "noise:cold_start" not in done
    assert not {t for t in done if t.startswith(("capture", "plunger"))}


def test_outcomes_of_every_test_are_whole_in_every_engine(book: EngineBook) -> None:
    found = solved(book, None, RATTLE, hours=3000)
    engines = ensemble_of(found, 200, np.random.default_rng(1))
    tests = Foresight(book, engines, found.readings).tests()
    assert {"capture", "plunger", "lash", "tool_fit", "links", "compress", "endoscope"} <= {
        t.kind for t in tests
    }
    for test in tests:
        assert test.chance.sum(axis=0) == pytest.approx(1.0, abs=1e-6), test.kind
        assert (test.chance >= -1e-9).all()


def test_more_is_never_worth_less(book: EngineBook) -> None:
    found = solved(book, None, RATTLE, hours=4000)
    engines = ensemble_of(found, 300, np.random.default_rng(1))
    reckoning = Reckoning(engines, Rates(), School(), 4000)
    weighed = weigh_all(Workshop(book, Rates(), School()), reckoning)
    ranked = rank(weighed, Foresight(book, engines, found.readings).tests(), reckoning)
    perfect = weighed.cost.mean(axis=1).min() - weighed.cost.min(axis=0).mean()
    assert all(0 <= r.gain <= perfect + 1e-6 for r in ranked)


def test_the_engines_drawn_are_as_often_wrong_as_the_verdict_says(book: EngineBook) -> None:
    sinks: dict[str, object] = {"kind": "compress", "part": "chain_a", "feel": "springy"}
    found = solved(book, Faults(elongation_pct={"chain_a": 0.45}), RATTLE, sinks, hours=3000)
    engines, now = ensemble_of(found, 4000, np.random.default_rng(3)), shares(found)
    for kind, part in (
        (SuspectKind.LEAK, "tensioner_a"),
        (SuspectKind.LOCK_PIN, "phaser_a"),
        (SuspectKind.OIL_LOW, ""),
        (SuspectKind.ACCESSORY, ""),
    ):
        share = float(engines.has(kind, part).mean())
        assert share == pytest.approx(now[str(SuspectKey(kind, part))], abs=0.04)
    chain = [item.key for item in engines.items].index("chain_a")
    over = (engines.wear[:, chain] > engines.items[chain].limit).mean()
    assert float(over) == pytest.approx(now["wear:chain_a"], abs=0.03)


def test_schools_and_rates_move_the_decision(book: EngineBook) -> None:
    found = solved(book, Faults(elongation_pct={"chain_a": 0.9}), hours=3000)
    ours = advise(found)
    kit = advise(found, school=School(parts=Parts.AFTERMARKET))
    assert cost(kit, "whole_set") != cost(ours, "whole_set")
    cheap = advise(found, Rates(another_engine=50))
    assert best(cheap).action == "retire"
    dear = advise(found, Rates(labour_per_h=400))
    assert best(dear).expected_cost > best(ours).expected_cost
    off = solved(book, Faults(), {"kind": "sweep", "part": "phaser_a", "found": ["slow"]})
    locked = advise(off, school=School(phasers=Phasers.LOCK_OUT))
    assert "lockout" in {o.action for o in locked.decision} or best(locked).action != "phaser"
    with pytest.raises(ValidationError):
        Rates(labour_per_h=-1)


def test_an_outlay_is_the_plans_own(book: EngineBook) -> None:
    scope = ("chain_a_part", "guide_a")
    plan, taken = make_plan(book, scope), outlay(book, scope)
    assert (taken.minutes, taken.waiting_minutes) == (plan.minutes, plan.waiting_minutes)
    assert taken.price == plan.price
    assert set(plan.renewed) == set(renewed_set(book, scope))


def test_a_sweep_speaks_only_of_what_it_shows(book: EngineBook) -> None:
    fits = [
        {"phaser": "phaser_a", "state": PhaserState.HUNTING.value},
        {"phaser": "phaser_b", "state": PhaserState.OFF_BASE.value},
        {"phaser": "gone", "state": PhaserState.SLOW.value},
    ]
    (found,) = swept(book, "L4", fits)
    assert (found.part, found.found, found.id) == ("phaser_a", ["hunts"], "L4")
    assert TypeAdapter(list[dict[str, object]]).validate_python([found.model_dump()])
