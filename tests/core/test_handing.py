"""Handing a job over: how the engine stands, whether it may be left so, what to know."""

from datetime import UTC, datetime, timedelta

import pytest
from tests.core.test_engines import BOOKS

from flaneur.core.bench.handing import leaving, note_fits
from flaneur.core.bench.inside import Laid, LaidPiece
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.bench.within import Event, EventKind
from flaneur.core.errors import StepError
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.position import CamState
from flaneur.core.plan.steps import PlanStep

NOW = datetime(2026, 11, 28, 7, 0, tzinfo=UTC)
TANSY = BOOKS["ostrey-tansy"]


@pytest.fixture(scope="module")
def plan() -> Plan:
    return make_plan(TANSY, ["chain_a_part", "phaser_a_part"], is_quick=True)


def closed(plan: Plan, upto: int, laid: tuple[Laid, ...] = ()) -> Tally:
    steps = enumerate(plan.steps[:upto], 1)
    return tally([Answered(i, s.ref, (), True, None, "Ivo", NOW, False) for i, s in steps], laid)


def place_of(plan: Plan, ref: str) -> int:
    return [s.ref for s in plan.steps].index(ref)


def bolts(step: PlanStep, place: int, count: int) -> list[Event]:
    return [
        Event(step.ref, 0, EventKind.BOLT, str(place), n, "Ivo", NOW) for n in range(1, count + 1)
    ]


def stage_places(step: PlanStep) -> list[int]:
    return [i for i, a in enumerate(step.asked) if a.stage is not None]


def test_it_says_which_step_comes_next(plan: Plan) -> None:
    left = leaving(plan, closed(plan, 0), [], False)
    assert left.stands[0].startswith("0 of ")
    assert left.stands[1] == f"Next is step 1: {plan.steps[0].title}."
    assert (left.against, left.mind) == ((), ())
    done = leaving(plan, closed(plan, len(plan.steps)), [], False)
    assert "Every step is closed; next is the proof." in done.stands


@pytest.mark.parametrize("name", BOOKS)
def test_no_state_of_a_plan_is_left_without_what_endangers_it(name: str) -> None:
    book = BOOKS[name]
    scope = [next(k for k, c in book.components.items() if c.part in book.chains)]
    whole = make_plan(book, scope, is_quick=True)
    for number, step in enumerate(whole.steps, 1):
        left = leaving(whole, closed(whole, number), [], False)
        assert step.state is not None
        assert all(words in left.stands for words in step.state.words)
        said = " ".join([*left.against, *left.mind])
        states = step.state.cams.values()
        if CamState.UNKNOWN in states:
            assert "nobody knows where it goes" in said
        if CamState.LOADED in states:
            assert "stands against its springs" in said
        if step.state.held_by:
            assert "Leave the holders on" in said
        if step.state.crank_arc is None:
            assert "is unknown" in said, "unknown is never silent"
        elif step.state.slack:
            assert "nobody turns it" in said


def test_a_book_that_does_not_say_is_not_left_in_silence(plan: Plan) -> None:
    steps = [s.model_copy(update={"state": None}) for s in plan.steps]
    silent = plan.model_copy(update={"steps": steps})
    left = leaving(silent, closed(silent, 3), [], False)
    assert any("does not say how the engine stands" in said for said in left.against)


def test_a_stage_half_through_must_not_be_left(plan: Plan) -> None:
    place = place_of(plan, "torque:front_cover")
    step = plan.steps[place]
    first, second = stage_places(step)[:2]
    half = leaving(plan, closed(plan, place), bolts(step, first, 3), False)
    assert len(half.against) == 1
    assert "3 of" in half.against[0]
    count = next(a.expected or 0 for a in step.asked if a.kind == "count")
    whole = leaving(plan, closed(plan, place), bolts(step, first, count), False)
    assert whole.against == ()
    assert any(said.startswith("Tightened as far as stage 1") for said in whole.mind)
    every = bolts(step, first, count) + bolts(step, second, count)
    assert not any("as far as" in s for s in leaving(plan, closed(plan, place), every, False).mind)


def test_a_timer_says_until_when(plan: Plan) -> None:
    place = next(i for i, s in enumerate(plan.steps) if s.waiting)
    step = plan.steps[place]
    begun = Event(step.ref, 0, EventKind.TIMER, "waiting", 0, "Ivo", NOW)
    left = leaving(plan, closed(plan, place), [begun], False)
    over = NOW + timedelta(minutes=step.waiting)
    assert any(f"waits until {over:%Y-%m-%d %H:%M}" in said for said in left.mind)
    assert not any("waits until" in s for s in leaving(plan, closed(plan, place), [], False).mind)


def test_a_hard_stop_and_what_was_laid_in_are_told(plan: Plan) -> None:
    laid = (Laid(LaidPiece.RAG, "chain case", 2, "Ivo", NOW),)
    left = leaving(plan, closed(plan, 2, laid), [], True)
    assert any("nobody turns the crank" in said for said in left.mind)
    assert any("2 rags, chain case" in said for said in left.mind)


def test_without_a_plan_nothing_is_claimed() -> None:
    left = leaving(None, tally([]), [], False)
    assert left.stands[0] == "0 of 0 steps closed."


def test_a_note_is_asked_for_only_where_it_is_needed() -> None:
    assert note_fits("  ", []) == ""
    assert note_fits(" The stage cannot be ended: no wrench. ", ["half"]).startswith("The stage")
    with pytest.raises(StepError) as refused:
        note_fits("later", ["Stage 1: 3 of 14 bolts."])
    assert refused.value.read == "Stage 1: 3 of 14 bolts."
