"""What is advised: the test that changes most, and the action that costs least."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from pydantic import TypeAdapter, ValidationError
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.actions import Action, ActionKind, Workshop
from flaneur.core.decision.advice import advise, is_noticed
from flaneur.core.decision.catalogue import Cost, cost_of
from flaneur.core.decision.choosing import Ranked, rank, weigh_all
from flaneur.core.decision.costs import Reckoning
from flaneur.core.decision.foresight import Foreseen, Foresight, Outcome
from flaneur.core.decision.found import Advice, Option
from flaneur.core.decision.rates import Parts, Phasers, Rates, School, Sprockets
from flaneur.core.decision.wording import action_name, outcome_words, when_to_stop, worth_words
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
from flaneur.core.readings.otherwise import figure_of, otherwise
from flaneur.core.readings.swept import swept
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book

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


def test_tests_that_are_only_worth_it_together_say_so(book: EngineBook) -> None:
    cost = Cost(10)
    a, b, c = (
        Foreseen("plunger", chain, cost, [], np.zeros((0, 1))) for chain in list(book.chains)[:3]
    )
    alone = Ranked(a, 120.4, 0.3, [])
    assert worth_words(book, alone) == "Knowing it saves 120 on average."
    assert worth_words(book, replace(alone, gain=0.1)) == "Knowing it would change nothing."
    with_others = replace(alone, gain=0.1, beside=(b, c))
    assert with_others.is_worth_it
    said = worth_words(book, with_others)
    assert said.startswith("Alone it changes nothing; with plunger extension")
    assert said.endswith("and 1 test more it may change what to do.")
    assert when_to_stop(book, [with_others]).startswith("No test alone changes what to do; with 2 ")


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


def test_a_phaser_is_locked_out_where_the_school_says_so(book: EngineBook) -> None:
    renewing, locking = (Workshop(book, Rates(), School(phasers=p)) for p in Phasers)
    (_, renewed, _), (_, locked, _) = renewing.large(), locking.large()
    assert set(book.phasers) <= renewed.renewed
    assert locked.locked == set(book.phasers)
    assert not locked.renewed & set(book.phasers)
    assert locked.price < renewed.price
    kinds = {action.kind for action in locking.units() if locking.joins(action)}
    assert ActionKind.LOCKOUT in kinds
    assert ActionKind.PHASER not in kinds
    slow: dict[str, object] = {"kind": "sweep", "part": "phaser_a", "found": ["slow"]}
    code: dict[str, object] = {"kind": "codes", "codes": ["P0011"]}
    found = solved(book, Faults(elongation_pct={"chain_a": 0.9}), slow, code, hours=3000)
    kept, out = (advise(found, school=School(phasers=p)) for p in Phasers)
    assert "Lock out" not in best(kept).name
    assert "ock out phaser A" in best(out).name


def test_a_wheel_that_slipped_is_set_right_and_the_drive_left_shut(book: EngineBook) -> None:
    cams = dict.fromkeys(book.cams, 0.2) | {"cam_a_ex": 9.0}
    found = solve_readings(
        book,
        Readings.model_validate(
            {
                "engine": book.name,
                **YOUNG,
                "cams": [
                    {"cam": c, "deviation_deg": d, "stderr_deg": 0.1, "phaser": {"state": "parked"}}
                    for c, d in cams.items()
                ],
            }
        ),
    )
    option = best(advise(found))
    assert (option.action, option.scope) == ("wheel", [])
    assert option.name == "Set right tone wheel, exhaust A"
    assert option.restored > 0.9


def test_the_crank_wheel_mends_only_what_it_made(book: EngineBook) -> None:
    found = solved(book, Faults(), hours=1500)
    engines = ensemble_of(found, 300, np.random.default_rng(2))
    off = replace(engines, wheel=engines.wheel + 20.0)
    wheel = book.crank_wheel_key
    assert wheel is not None
    action = Action(ActionKind.WHEEL, wheels=frozenset((wheel,)))
    weighed = Reckoning(off, Rates(), School(), 1500).weigh([Action(ActionKind.LEAVE), action])
    slipped = off.has(SuspectKind.TONE, wheel)
    assert not weighed.restored[0].any()
    assert not weighed.restored[1][~slipped].any()


def test_what_is_done_besides_is_said(book: EngineBook) -> None:
    workshop = Workshop(book, Rates(), School())
    chain = workshop.renewing(ActionKind.PARTS, ["chain_a"])
    shut = {a.kind: a for a in workshop.shut()}
    both = workshop.together(ActionKind.PARTS, [chain, shut[ActionKind.ELSEWHERE]])
    assert action_name(book, both) == (
        "Renew secondary chain A (1-3-5); put right what is not in the drive"
    )
    assert both.minutes == chain.minutes + shut[ActionKind.ELSEWHERE].minutes
    right = workshop.setting_right(["chain_b"])
    again = workshop.together(ActionKind.TENSIONER, [_tensioner(workshop, "tensioner_a"), right])
    assert "chain_b" in again.opened
    assert action_name(book, again).endswith("; set right secondary chain B (2-4-6)")
    two = workshop.together(ActionKind.SET_RIGHT, [right, workshop.setting_right(["primary"])])
    assert action_name(book, two).startswith("Set primary chain and secondary chain B (2-4-6)")
    assert two.renewed.isdisjoint(book.chains)


def _tensioner(workshop: Workshop, part: str) -> Action:
    return workshop.renewing(ActionKind.TENSIONER, [part])


def test_one_opening_costs_less_than_two(book: EngineBook) -> None:
    workshop = Workshop(book, Rates(), School())
    one, two = (workshop.renewing(ActionKind.PARTS, [part]) for part in ("chain_a", "guide_a"))
    both = workshop.together(ActionKind.PARTS, [one, two])
    assert max(one.minutes, two.minutes) <= both.minutes < one.minutes + two.minutes
    assert both.renewed >= one.renewed | two.renewed


def test_sprockets_are_renewed_with_their_chain_where_the_school_says_so() -> None:
    skarne = load_book(ROOT / "engines" / "skarne-burdock.yaml")
    kept, new = (
        Workshop(skarne, Rates(), School(sprockets=s)).renewing(ActionKind.PARTS, ["chain_f"])
        for s in Sprockets
    )
    assert "sprocket_f_part" not in kept.scope
    assert "sprocket_f_part" in new.scope
    assert new.price > kept.price


@pytest.mark.parametrize("name", sorted(p.stem for p in (ROOT / "engines").glob("*.yaml")))
def test_every_engine_is_advised_on(name: str) -> None:
    book = load_book(ROOT / "engines" / f"{name}.yaml")
    code: dict[str, object] = {"kind": "complaint", "rattle": "cold_start"}
    for faults in (None, Faults(), Faults(elongation_pct=dict.fromkeys(book.chains, 0.9))):
        advice = advise(solved(book, faults, code, hours=2500))
        kinds = {o.action for o in advice.decision}
        assert {"leave", "remeasure", "whole_set", "retire"} <= kinds
        assert sum(o.is_advised for o in advice.decision) == 1
        assert len({o.key for o in advice.decision}) == len(advice.decision)
        for option in advice.decision:
            assert 0 <= option.restored <= 1
            assert 0 <= option.risk <= 1
            assert np.isfinite(option.expected_cost)
            assert option.expected_cost >= option.outlay - 1e-6
            assert "{" not in option.name
        for test in advice.next_tests:
            assert test.minutes > 0
            assert test.name
            assert all(o.words and o.then for o in test.outcomes)


def test_wear_grows_into_failure(book: EngineBook) -> None:
    found = solved(book, Faults(elongation_pct={"chain_a": 0.8}), hours=3000)
    engines = ensemble_of(found, 300, np.random.default_rng(2))
    leave = [Action(ActionKind.LEAVE)]
    risks = [
        Reckoning(engines, Rates(horizon_h=hours), School(), 3000).weigh(leave).fails.mean()
        for hours in (200, 1000, 4000)
    ]
    assert risks == sorted(risks)
    assert risks[-1] > 0.2


def test_a_comeback_somebody_heard_is_dearer(book: EngineBook) -> None:
    sinks: dict[str, object] = {"kind": "compress", "part": "chain_a", "feel": "sinks"}
    quiet, heard = solved(book, Faults(), sinks), solved(book, Faults(), sinks, RATTLE)
    assert not is_noticed(quiet.readings)
    assert is_noticed(heard.readings)
    assert cost(advise(heard), "leave") > cost(advise(quiet), "leave")


def test_a_figure_is_held_within_what_it_can_be(book: EngineBook) -> None:
    lash: dict[str, object] = {
        "kind": "lash",
        "id": "9",
        "part": "cam_a_in",
        "lash_deg": 3,
        "stderr_deg": 0.5,
    }
    told = {
        "engine": book.name,
        "cams": [{"id": "1", "cam": "cam_a_in", "deviation_deg": 2, "stderr_deg": 0.1}],
        "plungers": [{"id": "2", "chain": "chain_a", "plunger_mm": 8, "stderr_mm": 0.2}],
        "direct": [
            {"id": "3", "part": "chain_a", "value": 0.2, "stderr": 0.02},
            {"id": "4", "part": "guide_a", "value": 0.2, "stderr": 0.02},
        ],
        "tests": [lash, {"kind": "codes", "codes": []}],
    }
    readings = Readings.model_validate(told)
    far = otherwise(book, readings, [], dict.fromkeys("12349", 1e4))
    assert far.cams[0].deviation_deg == 150
    assert far.plungers[0].plunger_mm == book.tensioners["tensioner_a"].max_plunger_mm
    assert far.direct[0].value == 6 * book.chains["chain_a"].limit_elongation_pct
    assert far.direct[1].value == book.guides["guide_a"].liner_mm
    assert [t.lash_deg for t in far.tests if t.kind == "lash"] == [90]
    assert otherwise(book, readings, [], {"2": -5}).plungers[0].plunger_mm == 0
    far.check_against(book)
    without = otherwise(book, readings, ["1", "9"], {})
    assert (without.cams, [t.kind for t in without.tests]) == ([], ["codes"])
    assert figure_of(book, readings.tests[1]) is None
    assert otherwise(book, readings, [], {}) == readings


def test_thresholds_are_where_the_decision_turns(book: EngineBook) -> None:
    cam = {"cam": "cam_a_in", "deviation_deg": 6.2, "stderr_deg": 0.1}
    late = {"engine": book.name, "hours": 5200, "oil": "poor", "cams": [cam]}
    for test in advise(solve_readings(book, Readings.model_validate(late))).next_tests:
        if test.kind in ("plunger", "capture", "lash", "mark_miss"):
            neighbours = list(pairwise(test.outcomes))
            assert all(one.then != two.then for one, two in neighbours)
            if neighbours:
                assert test.outcomes[0].words.startswith("under ")
                assert test.outcomes[-1].words.endswith("and over")


def test_debris_and_noises_are_told_in_words(book: EngineBook) -> None:
    every = [Outcome(f"{p}/{m}") for p in ("none", "some", "much") for m in ("none", "some")]
    assert outcome_words(book, "debris", tuple(every)) == "metal none or some"
    assert outcome_words(book, "debris", (Outcome("much/none"),)) == "plastic much, metal none"
    places = (Outcome("front_top_a"), Outcome("front_bottom"))
    assert outcome_words(book, "noise", places) == (
        "at the top of Bank A (1-3-5), at the front's foot"
    )
    assert outcome_words(book, "lash", (Outcome(low=2, high=4.5, unit="°"),)) == "2.0 to 4.5°"
    assert outcome_words(book, "plunger", (Outcome(unit="mm"),)) == "whatever it is"
