"""What the bench has shown of turning by hand, marks that miss, and the cold start."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from demo.walk import right_answer
from tests.core.test_engines import BOOKS

from flaneur.core.bench.answers import check_step
from flaneur.core.bench.meaning import why_it_stays_open
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.bench.within import Event, EventKind, next_burst
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.found import WearEstimate, WearState
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import ReadingError, ReleaseError, StepError
from flaneur.core.keys import StepRef
from flaneur.core.measuring.marks import (
    MissKind,
    allowed_deg,
    judge_miss,
    shaft_of,
    timing_marks,
    tooth_at,
)
from flaneur.core.measuring.sheets import work_out
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.check import Check
from flaneur.core.proof.hands import HandTurns, HardStop
from flaneur.core.proof.left_in import wear_left_deg
from flaneur.core.proof.release import checks_of
from flaneur.core.proof.retest import due_at, open_retest
from flaneur.core.proof.shown import (
    comes_back,
    counted_out,
    missed_at_bench,
    proven_at,
    turned_at_bench,
    with_bench,
)
from flaneur.core.proof.turning import (
    felt_at_bench,
    must_be_explained,
    stop_angle,
    stopped_at,
)
from flaneur.core.wording import within

EVERY = list(BOOKS.values())
DAY = datetime(2026, 11, 28, 8, tzinfo=UTC)


def answered(plan: Plan, but: dict[str, dict[str, str]] | None = None) -> list[Answered]:
    """Every step answered right, an hour after the other; ``but``: other answers by step and the
    code of what is asked.
    """
    found = list[Answered]()
    for number, step in enumerate(plan.steps):
        other = (but or {}).get(step.ref, {})
        said = [other.get(a.code or "", right_answer(a)) for a in step.asked]
        seen = tuple(check_step(step, said))
        is_right = all(s.ok for s in seen)
        reason = None if is_right else "as far as it goes"
        at = DAY + timedelta(hours=number)
        found.append(Answered(number, step.ref, seen, is_right, reason, "Ivo", at, False))
    return found


def whole(book: EngineBook) -> Plan:
    return make_plan(book, [key for key, c in book.components.items() if c.renewable])


@pytest.mark.parametrize("book", EVERY, ids=lambda b: b.name)
def test_a_bench_done_right_has_turned_it_and_counted_everything_out(book: EngineBook) -> None:
    plan = whole(book)
    bench = tally(answered(plan))
    hands = with_bench(book, plan, bench, HandTurns())
    assert (hands.turns or 0) >= book.proof.hand_turns
    assert hands.hard_stop is False
    assert hands.marks == dict.fromkeys(book.proof.mark_checks, True)
    assert hands.pins_out == counted_out(bench) == bench.pins_in
    last = proven_at(book, plan, bench)
    assert last in {r.at for r in bench.done.values()}
    open_one = Tally(
        {k: r for k, r in bench.done.items() if r.at != last}, bench.records, 0, {}, ()
    )
    assert with_bench(book, plan, open_one, HandTurns()) == HandTurns(), "one turn is missing yet"


def turn_of(plan: Plan) -> PlanStep:
    return next(s for s in plan.steps if s.template == "hand_turn_closed")


def test_what_was_written_at_the_end_stands_before_what_the_bench_has_shown(
    book: EngineBook,
) -> None:
    plan = whole(book)
    typed = HandTurns(turns=3, hard_stop=False, pins_out=1)
    hands = with_bench(book, plan, tally(answered(plan)), typed)
    assert (hands.turns, hands.pins_out) == (3, 1)


def test_a_turn_before_the_stop_says_nothing_of_after_it(book: EngineBook) -> None:
    plan = whole(book)
    bench = tally(answered(plan))
    early, late = (DAY + timedelta(hours=h) for h in (-1, 1000))
    for at, known in ((early, True), (late, False)):
        stop = HardStop(by="Ivo", at=at.isoformat(), turns=1, cause="a rag")
        hands = with_bench(book, plan, bench, HandTurns(stops=[stop]))
        assert (hands.turns is not None) is known


def test_a_mark_that_misses_is_left_by_nobody_unless_it_is_measured_wear() -> None:
    book = next(b for b in EVERY if "Brindle" in b.name)  # turned open, it reads keyway and dot A
    plan = whole(book)
    open_turn = next(s for s in plan.steps if s.template == "hand_turn").ref

    def marks(answers: dict[str, str], *misses: tuple[str, float], at: str = open_turn) -> Check:
        bench = tally(answered(plan, {at: answers}))
        hands = with_bench(book, plan, bench, HandTurns())
        assert not any(hands.marks.values())
        judged = [judge_miss(book, mark, deg, 0.3, (4.0, 8.0)) for mark, deg in misses]
        missed = missed_at_bench(book, plan, bench)
        checks = checks_of(book, plan, bench, hands, [], judged, missed)
        return next(c for c in checks if c.name == "Marks after turning")

    dot = {"mark_dot_a": "missed"}
    bare = marks(dot)
    assert (bare.state, bare.overridable) == ("failed", False)
    assert "Not met: Dot of sprocket A. Measure by how much" in bare.words, "that one, no other"
    assert not marks(dot, ("dot_b", 6.0)).overridable, "another than those looked at"
    worn = marks(dot, ("dot_a", 6.0))
    assert (worn.overridable, "wear left in" in worn.words) == (True, True)
    tooth = marks(dot, ("dot_a", 17.0))
    assert (tooth.overridable, "1 tooth" in tooth.words) == (False, True)
    assert not marks(dot, ("dot_a", 0.5)).overridable, "then it meets: answer it again"
    both = marks({**dot, "mark_key_crank": "missed"}, ("dot_a", 6.0))
    assert (both.overridable, "Not met: Crank keyway. No chain" in both.words) == (False, True)
    at_angle = marks({"check_2": "wrong"}, ("dot_b", 6.0))
    assert at_angle.overridable, "what cam B's check position shows is told by cam B's mark"
    assert not marks({"check_2": "wrong"}, ("dot_a", 6.0)).overridable
    off = marks({"guides": "left"})
    assert (off.overridable, "open its step again" in off.words) == (False, True), "no mark missed"
    turn = turn_of(plan).ref
    pulley = marks({"mark_notch_pulley": "missed"}, ("dot_a", 6.0), at=turn)
    assert not pulley.overridable, "the pulley's notch does not wear"


@pytest.mark.parametrize("book", EVERY, ids=lambda b: b.name)
def test_a_turning_step_asks_for_each_of_its_marks(book: EngineBook) -> None:
    plan = whole(book)
    steps = [s for s in plan.steps if s.template in ("hand_turn", "hand_turn_closed")]
    assert steps
    for step in steps:
        reads = book.operations[StepRef.of(step.ref).key].effects.reads
        asked = [a.code for a in step.asked if (a.code or "").startswith("mark_")]
        assert asked == [f"mark_{mark}" for mark in reads]
        for mark in reads:
            bench = tally(answered(plan, {step.ref: {f"mark_{mark}": "missed"}}))
            found = next(t for t in turned_at_bench(book, plan, bench) if t.missed)
            assert [m.mark for m in found.missed] == [mark]
            assert within(book.marks[mark].name) in found.words


def test_a_plan_that_asked_for_all_marks_together_tells_which_it_may_be() -> None:
    book = next(b for b in EVERY if "Brindle" in b.name)
    plan = whole(book)
    step = next(s for s in plan.steps if s.template == "hand_turn")
    asked = [a for a in step.asked if not (a.code or "").startswith("mark_")]
    asked.append(step.asked[1].model_copy(update={"code": "marks"}))
    older = plan.model_copy(
        update={
            "steps": [
                s.model_copy(update={"asked": asked}) if s.ref == step.ref else s
                for s in plan.steps
            ]
        }
    )
    bench = tally(answered(older, {step.ref: {"marks": "missed"}}))
    assert set(missed_at_bench(book, older, bench)) == {"dot_a"}, "the keyway tells of no chain"


@pytest.mark.parametrize("book", EVERY, ids=lambda b: b.name)
def test_a_miss_is_told_by_the_figure_that_decides(book: EngineBook) -> None:
    assert timing_marks(book)
    for key, mark in timing_marks(book).items():
        allowed = allowed_deg(book, mark)
        tooth = tooth_at(compiled(book).train, shaft_of(book, mark))
        assert tooth is not None
        assert allowed < tooth / 2, "what is allowed is never near a tooth"
        for sign in (1, -1):
            none = (0.0, 0.0)
            assert judge_miss(book, key, sign * allowed, 0.3, none).kind is MissKind.ORDINARY
            assert judge_miss(book, key, sign * tooth, 0.3, none).kind is MissKind.TOOTH
            between = sign * (allowed + tooth / 2) / 2
            assert judge_miss(book, key, between, 0.1, none).kind is MissKind.UNEXPLAINED


def test_the_sheet_brings_a_miss_to_the_crank(book: EngineBook) -> None:
    typed = {
        "way": "early",
        "miss": "3°",
        "at": "own",
        "slack": "taken_up",
        "uncertainty": "0.5",
    }
    found = work_out(book, "mark_miss", "dot_a_in", typed)
    assert found.value == pytest.approx(-6)
    assert found.working == ("3° · 2 = 6.0° at the crank",)
    assert found.band == "replace"
    assert work_out(book, "mark_miss", "dot_a_in", {**typed, "way": "meets"}).value == 0
    loose = work_out(book, "mark_miss", "dot_a_in", {**typed, "slack": "unknown"})
    assert loose.band == "unknown"
    with pytest.raises(ReadingError, match="more than a mark misses by"):
        work_out(book, "mark_miss", "dot_a_in", {**typed, "miss": "80°"})
    with pytest.raises(ReadingError, match="not for that part"):
        work_out(book, "mark_miss", "line_pulley", typed)


def test_links_are_not_looked_for_before_their_turns(book: EngineBook) -> None:
    assert {c.chain: c.turns for c in comes_back(book, None)} == {
        "primary": 44,
        "chain_a": 56,
        "chain_b": 56,
    }
    assert [c.chain for c in comes_back(book, make_plan(book, ["chain_a_part"]))][-1:] == [
        "chain_a"
    ]
    assert all("will not after 2" in c.words for c in comes_back(book, None))


def test_a_hard_stop_at_the_bench_holds_until_it_is_explained(book: EngineBook) -> None:
    plan = whole(book)
    step = turn_of(plan)
    said = ["stop" if a.code == "turning" else right_answer(a) for a in step.asked]
    assert "never left" in why_it_stays_open(step, check_step(step, said))
    hands = felt_at_bench(HandTurns(), "Ivo", DAY.isoformat())
    with pytest.raises(ReleaseError, match="A hard stop stands"):
        must_be_explained(hands)
    must_be_explained(HandTurns())
    assert stopped_at(hands, "203").stops[-1].felt == "Felt by Ivo, the crank at 203°."
    with pytest.raises(ReleaseError, match="No hard stop"):
        stopped_at(HandTurns(), "203")
    for odd in ("-3", "720"):
        with pytest.raises(ReleaseError, match="cannot stand there"):
            stop_angle(odd)


def test_the_cold_start_may_come_after_the_release(book: EngineBook) -> None:
    plan = whole(book)
    every = answered(plan)
    cold = open_retest(plan, tally([]))
    assert cold is not None
    assert cold.template == "cold_retest"
    assert due_at(cold, DAY) == DAY + timedelta(hours=12)
    bench = tally([r for r in every if r.step != cold.ref])
    hands = with_bench(book, plan, bench, HandTurns())
    checks = {c.name: c for c in checks_of(book, plan, bench, hands, [])}
    assert checks["Bench steps"].state == "met"
    assert (checks["Cold start again"].state, checks["Cold start again"].overridable) == (
        "unknown",
        True,
    )
    assert open_retest(plan, tally(every)) is None
    fewer = replace(bench, done=dict(list(bench.done.items())[:5]))
    assert "Cold start again" not in {c.name for c in checks_of(book, plan, fewer, hands, [])}


def test_bursts_of_the_starter_have_their_rests(book: EngineBook) -> None:
    step = next(s for s in whole(book).steps if s.bursts)
    assert step.bursts is not None
    events = list[Event]()

    def burst(after_s: float) -> None:
        at = DAY + timedelta(seconds=after_s)
        number = next_burst(step, events, at)
        events.append(Event(step.ref, 0, EventKind.BURST, "starter", number, "Ivo", at))

    burst(0)
    with pytest.raises(StepError, match="The starter rests"):
        burst(20)
    burst(35)
    burst(70)
    assert [e.number for e in events] == [1, 2, 3]
    with pytest.raises(StepError, match="the oil does not come"):
        burst(200)
    other = next(s for s in whole(book).steps if not s.bursts)
    with pytest.raises(StepError, match="has no bursts"):
        next_burst(other, [], DAY)


def test_only_wear_that_was_read_and_stays_in_explains_a_miss(book: EngineBook) -> None:
    def worn(key: str, is_read: bool = True) -> WearEstimate:
        figures = {"limit": 0.5, "median": 0.3, "low": 0.25, "high": 0.35, "over": 0.0}
        words = {"name": key, "unit": "%", "state": WearState.WITHIN, "judged": ""}
        return WearEstimate.model_validate({"key": key, **figures, **words, "is_read": is_read})

    none = wear_left_deg(book, [], [])
    assert none["cam_a_in"] == pytest.approx((0, 0), abs=1e-9)
    low, high = wear_left_deg(book, [worn("chain_a")], [])["cam_a_in"]
    assert 0 < low < high
    assert wear_left_deg(book, [worn("chain_a")], ["chain_a_part"]) == none, "it was renewed"
    assert wear_left_deg(book, [worn("chain_a", is_read=False)], []) == none, "nobody read it"
