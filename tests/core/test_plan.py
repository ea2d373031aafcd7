"""Access, order, torque and release follow from the book's rules, checked against brute force."""

import networkx as nx
import numpy as np
import pytest
from bench.plan import closed_masks, smallest_closed
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.test_diagnosis import readings_of
from tests.support.raw import read_yaml, write_yaml

from flaneur.core.bench.answers import check_step
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Stage
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import PlanError, ReadingError, StepError
from flaneur.core.fasteners.program import check_stage, stage_words
from flaneur.core.faults.model import Faults
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.order import dependents, step_graph, work_order
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.propose import propose
from flaneur.core.proof.cams import cam_check, smallest_tooth_deg
from flaneur.core.proof.hands import HandTurns
from flaneur.core.proof.release import may_release, release_checks
from flaneur.core.readings.taken import CamReading, PhaserState, Readings

SIDES = st.sets(st.integers(0, 19), min_size=1, max_size=4)


@pytest.fixture(scope="module")
def brute(book: EngineBook) -> tuple[list[str], np.ndarray]:
    assert len(book.components) <= 26
    return closed_masks(book)


@settings(max_examples=40, deadline=None)
@given(chosen=SIDES)
def test_access_is_the_smallest_closed_set(
    book: EngineBook, brute: tuple[list[str], np.ndarray], chosen: set[int]
) -> None:
    keys, masks = brute
    scope = [keys[i % len(keys)] for i in chosen]
    assert smallest_closed(keys, masks, scope) == [set(closed_set(book, scope))]


@settings(max_examples=40, deadline=None)
@given(chosen=SIDES)
def test_no_order_breaks_a_rule(book: EngineBook, chosen: set[int]) -> None:
    keys = list(book.components)
    scope = [keys[i % len(keys)] for i in chosen]
    order = work_order(book, scope)
    at = {step: i for i, step in enumerate(order)}
    removed = closed_set(book, scope)
    for key in removed:
        component = book.components[key]
        last = at[f"torque:{key}"] if component.fasteners else at[f"fit:{key}"]
        assert at[f"remove:{key}"] < at[f"fit:{key}"] <= last
        for cover in component.covered_by:
            assert at[f"remove:{cover}"] < at[f"remove:{key}"]
            assert last < at[f"fit:{cover}"], "torqued before it is covered"
        for inner in component.fit_after:
            if inner in removed:
                assert at[f"fit:{inner}"] < at[f"fit:{key}"]
        for outer in component.remove_after:
            if outer in removed:
                assert at[f"remove:{outer}"] < at[f"remove:{key}"]
    for name, operation in book.operations.items():
        if f"op:{name}" in at:
            assert all(at[f"op:{name}"] < at[b] for b in operation.before if b in at)
            assert all(at[a] < at[f"op:{name}"] for a in operation.after if a in at)
    assert set(order) == {n for n in step_graph(book, scope).nodes if ":" in n}


def test_pins_are_pulled_last(book: EngineBook) -> None:
    order = work_order(book, ["chain_b_part"])
    at = {step: i for i, step in enumerate(order)}
    for chain_side in (
        "fit:chain_a_part",
        "fit:chain_b_part",
        "torque:guide_b",
        "torque:arm_b",
        "torque:tensioner_b",
    ):
        if chain_side in at:
            assert at[chain_side] < at["op:pull_b"]
    assert at["op:pull_b"] < at["fit:front_cover"]


def changed(book_text: str, **rules: list[str]) -> EngineBook:
    raw = read_yaml(book_text)
    for path, value in rules.items():
        component, _, field = path.partition("__")
        raw["components"][component][field] = value
    return parse_book(write_yaml(raw))


def test_changing_one_rule_changes_the_order(book: EngineBook, book_text: str) -> None:
    assert "remove:chain_a_part" in work_order(book, ["chain_b_part"])
    freed = changed(book_text, chain_b_part__covered_by=["arm_b", "front_cover", "cam_cover_b"])
    assert "remove:chain_a_part" not in work_order(freed, ["chain_b_part"])


def test_a_rule_that_contradicts_another_is_refused(book_text: str) -> None:
    circle = changed(book_text, front_cover__covered_by=["crank_pulley", "chain_a_part"])
    with pytest.raises(PlanError, match="circle") as refused:
        work_order(circle, ["chain_a_part"])
    assert "chain_a_part" in refused.value.read


def test_an_unknown_part_is_refused(book: EngineBook) -> None:
    with pytest.raises(PlanError, match="does not have") as refused:
        make_plan(book, ["flux_coil"])
    assert "flux_coil" in refused.value.read


def test_nothing_chosen_is_no_work(book: EngineBook) -> None:
    plan = make_plan(book, [])
    assert plan.steps == []
    assert plan.minutes == 0


def test_one_use_parts_come_by_themselves(book: EngineBook) -> None:
    plan = make_plan(book, ["phaser_a_part"])
    why = {p.name: p.why for p in plan.parts}
    assert why["Phaser A (1-3-5)"] == "chosen"
    assert why["Front crank seal"] == "one-use"
    assert any("Phaser bolt" in name and w == "one-use" for name, w in why.items())
    assert any("Crank pulley bolt" in name for name in why)
    assert "front_seal" in renewed_set(book, ["phaser_a_part"])
    assert plan.price == pytest.approx(sum(p.price * p.count for p in plan.parts))


def test_time_is_the_sum_of_its_steps(book: EngineBook) -> None:
    plan = make_plan(book, ["tensioner_a"])
    assert plan.minutes == pytest.approx(sum(s.minutes for s in plan.steps))
    assert plan.spread_minutes == pytest.approx(sum(s.spread_minutes**2 for s in plan.steps) ** 0.5)
    assert make_plan(book, ["idler_part"]).minutes > plan.minutes


def test_cautions_stand_at_their_step(book: EngineBook) -> None:
    steps = {s.ref: s for s in make_plan(book, ["chain_a_part"]).steps}
    assert book.cautions["springs"] in steps["op:pin_a"].cautions
    assert sum(book.cautions["cold"] in s.cautions for s in steps.values()) == 1
    assert book.cautions["interference"] in steps["fit:chain_a_part"].cautions
    assert book.cautions["battery"] in steps["op:battery_off"].cautions


def test_what_rests_on_a_step_is_what_follows_from_it(book: EngineBook) -> None:
    after = dependents(book, ["chain_a_part"], "fit:chain_a_part")
    assert "op:pull_a" in after
    assert "fit:front_cover" in after
    assert "remove:front_cover" not in after
    assert nx.is_directed_acyclic_graph(step_graph(book, ["chain_a_part"]))


@pytest.mark.parametrize(
    ("text", "ok"),
    [
        ("24 Nm", True),
        ("25.9 Nm", True),
        ("26.1 Nm", False),
        ("18 lbf ft", True),
        ("212 lbf in", True),
        ("18 lbf in", False),
    ],
)
def test_a_torque_is_checked_in_any_unit(text: str, ok: bool) -> None:
    assert check_stage(Stage(kind="torque", value=24, tolerance=2), text).ok is ok


def test_mixed_up_pounds_are_named() -> None:
    assert (
        "lbf·ft and lbf·in"
        in check_stage(Stage(kind="torque", value=24, tolerance=2), "18 lbf in").words
    )


def test_a_bare_torque_has_the_unit_the_field_shows() -> None:
    stage = Stage(kind="torque", value=24, tolerance=2)
    assert check_stage(stage, "24").ok
    assert not check_stage(stage, "18").ok, "pounds typed without saying so are not right"
    with pytest.raises(ReadingError):
        check_stage(stage, "tight")


def test_angles_and_backing_off_are_checked_in_degrees() -> None:
    assert check_stage(Stage(kind="angle", value=90, tolerance=5), "87").ok
    assert not check_stage(Stage(kind="back_off", value=180, tolerance=5), "90°").ok
    assert "90° ± 5°" in stage_words(Stage(kind="angle", value=90, tolerance=5))


def test_a_step_is_closed_by_what_was_seen(book: EngineBook) -> None:
    step = next(s for s in make_plan(book, ["chain_a_part"]).steps if s.ref == "fit:chain_a_part")
    right = check_step(step, ["43", "23", "on_mark", "on_mark", "on_mark"])
    assert all(s.ok for s in right)
    wrong = check_step(step, ["44", "23", "on_mark", "late_1", "on_mark"])
    assert [s.ok for s in wrong] == [False, True, True, False, True]
    assert (wrong[3].contact, wrong[3].teeth) == ("chain_a/cam_a_in", 1)
    assert "the book says 43" in wrong[0].words


SET = "on_mark"


@pytest.mark.parametrize(
    "answers", [[], ["43"], ["43", "23", "", SET, SET], ["4x", "23", SET, SET, SET]]
)
def test_a_bare_tick_does_not_close_a_step(book: EngineBook, answers: list[str]) -> None:
    step = next(s for s in make_plan(book, ["chain_a_part"]).steps if s.ref == "fit:chain_a_part")
    with pytest.raises(StepError):
        check_step(step, answers)


def test_not_measured_is_recorded_and_not_right(book: EngineBook) -> None:
    step = next(s for s in make_plan(book, ["tensioner_a"]).steps if s.ref == "torque:tensioner_a")
    seen = check_step(step, ["2", "not_measured"])
    assert seen[0].ok
    assert not seen[1].ok


def test_the_verdict_proposes_parts_by_school(book: EngineBook) -> None:
    verdict = diagnose(
        book, readings_of(book, Faults(elongation_pct={"chain_a": 0.9})), with_evidence=False
    )
    assert [p.component for p in propose(book, verdict, "measured")] == ["chain_a_part"]
    assert {p.component for p in propose(book, verdict, "whole_set")} == {
        "chain_a_part",
        "arm_a",
        "guide_a",
        "tensioner_a",
    }


def test_a_chain_that_only_jumped_is_set_right_and_not_renewed(book: EngineBook) -> None:
    jumped = Faults(jumped_teeth={"chain_b/cam_b_in": 1})
    verdict = diagnose(book, readings_of(book, jumped), with_evidence=False)
    found = propose(book, verdict, "measured")
    assert [(p.component, p.is_kept) for p in found] == [("chain_b_part", True)]
    plan = make_plan(book, ["chain_b_part"], [p.component for p in found if p.is_kept])
    assert "chain_b_part" not in plan.renewed
    assert {p.component: p.is_kept for p in propose(book, verdict, "whole_set")} == dict.fromkeys(
        ["chain_b_part", "arm_b", "guide_b", "tensioner_b"], False
    )


def test_age_alone_proposes_nothing(book: EngineBook) -> None:
    old = diagnose(book, Readings(engine=book.name, hours=9000, oil="poor"), with_evidence=False)
    assert max(s.probability for s in old.suspects if s.kind == "wear") > 0.5
    assert propose(book, old, "measured") == []


def after_of(book: EngineBook, **deviations: float) -> list[CamReading]:
    return [
        CamReading(
            cam=c,
            deviation_deg=deviations.get(c, 0.1),
            stderr_deg=0.02,
            phaser=PhaserState(state="parked"),
        )
        for c in book.cams
    ]


def hands_of(book: EngineBook, **change: object) -> HandTurns:
    good = {
        "turns": 2.0,
        "hard_stop": False,
        "marks": dict.fromkeys(book.proof.mark_checks, True),
        "pins_out": 5,
    }
    return HandTurns.model_validate({**good, **change})


def blocked(
    book: EngineBook,
    after: list[CamReading],
    hands: HandTurns,
    open_steps: int = 0,
    departures: int = 0,
    **lead: object,
) -> list[str]:
    checks = release_checks(book, after, hands, 5, open_steps, departures)
    reason, is_lead = lead.get("reason"), bool(lead.get("is_lead"))
    return may_release(checks, reason, is_lead=is_lead)[1]  # type: ignore[arg-type]


def test_a_proven_engine_is_released(book: EngineBook) -> None:
    assert blocked(book, after_of(book), hands_of(book)) == []


@pytest.mark.parametrize(
    "change",
    [
        {"turns": None},
        {"turns": 1.0},
        {"hard_stop": True},
        {"pins_out": None},
        {"pins_out": 4},
        {"marks": {}},
    ],
)
def test_what_is_missing_or_wrong_blocks_even_a_lead(
    book: EngineBook, change: dict[str, object]
) -> None:
    assert blocked(
        book,
        after_of(book),
        hands_of(book, **change),
        is_lead=True,
        reason="we are in a hurry today",
    )


def test_a_cam_out_of_tolerance_needs_a_lead_and_a_reason(book: EngineBook) -> None:
    after = after_of(book, cam_a_ex=4.4)
    assert blocked(book, after, hands_of(book))
    assert blocked(book, after, hands_of(book), reason="accepted by the fleet manager")
    assert blocked(book, after, hands_of(book), is_lead=True, reason="ok")
    assert not blocked(
        book, after, hands_of(book), is_lead=True, reason="accepted by the fleet manager"
    )


@pytest.mark.parametrize("deviation", [20.0, -19.0, 17.1, 11.0])
def test_a_whole_tooth_out_cannot_be_overridden(
    book: EngineBook, train: DriveTrain, deviation: float
) -> None:
    assert smallest_tooth_deg(book, "cam_b_in") == pytest.approx(360 / 21)
    assert blocked(
        book,
        after_of(book, cam_b_in=deviation),
        hands_of(book),
        is_lead=True,
        reason="accepted by the fleet manager",
    )


def test_an_unknown_phaser_or_a_missing_capture_is_not_met(book: EngineBook) -> None:
    unknown = CamReading(cam="cam_a_in", deviation_deg=0.0, stderr_deg=0.02)
    assert cam_check(book, "cam_a_in", unknown).state == "unknown"
    assert cam_check(book, "cam_a_in", None).state == "unknown"
    commanded = unknown.model_copy(
        update={"deviation_deg": -20.0, "phaser": PhaserState(state="commanded", command_deg=20)}
    )
    assert cam_check(book, "cam_a_in", commanded).state == "met"


def test_open_steps_block_and_departures_need_a_lead(book: EngineBook) -> None:
    assert blocked(
        book,
        after_of(book),
        hands_of(book),
        open_steps=1,
        is_lead=True,
        reason="accepted by the fleet manager",
    )
    assert blocked(book, after_of(book), hands_of(book), departures=1)
    assert not blocked(
        book,
        after_of(book),
        hands_of(book),
        departures=1,
        is_lead=True,
        reason="torque by feel, to be redone",
    )
