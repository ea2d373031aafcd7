"""What was laid in by hand: counted in, counted out, and held against turning."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.test_engines import BOOKS

from flaneur.core.bench.inside import (
    Laid,
    LaidPiece,
    counts,
    list_words,
    must_be_counted_out,
    put_in_by_plan,
    said,
    still_in,
    turning_steps,
)
from flaneur.core.bench.off import measures_of_plan
from flaneur.core.errors import PlanError, StepError
from flaneur.core.plan.plan import make_plan

NOW = datetime(2026, 11, 28, 7, 0, tzinfo=UTC)
TANSY = BOOKS["ostrey-tansy"]
PLACES = ("chain case", "Chain Case", "sump opening")


def line(piece: LaidPiece, place: str, count: int, minute: int = 0, by: str = "Ivo") -> Laid:
    return Laid(piece, place, count, by, NOW + timedelta(minutes=minute))


wanted = st.lists(
    st.tuples(st.sampled_from(LaidPiece), st.sampled_from(PLACES), st.integers(-4, 4)), max_size=30
)


@given(wanted)
def test_whatever_is_counted_in_comes_out_again_and_no_more(
    moves: list[tuple[LaidPiece, str, int]],
) -> None:
    kept, own = list[Laid](), dict[tuple[LaidPiece, str], int]()
    for minute, (piece, place, count) in enumerate(moves):
        key = (piece, place.casefold())
        can = count > 0 or (count < 0 and own.get(key, 0) >= -count)
        if not can:
            with pytest.raises(StepError):
                counts(kept, piece, place, count)
            continue
        counts(kept, piece, place, count)
        kept.append(line(piece, place, count, minute))
        own[key] = own.get(key, 0) + count
    left = {(e.piece, e.place.casefold()): e.count for e in still_in(kept)}
    assert left == {key: n for key, n in own.items() if n}


def test_who_put_it_in_last_is_named_at_the_place_as_first_written() -> None:
    lines = [
        line(LaidPiece.RAG, "chain case", 1),
        line(LaidPiece.RAG, "Chain case", 2, 5, "Pell"),
        line(LaidPiece.RAG, "CHAIN CASE", -1, 9, "Sunna"),
    ]
    [left] = still_in(lines)
    assert (left.place, left.count, left.by) == ("chain case", 2, "Pell")
    assert left.at == NOW + timedelta(minutes=5)
    assert said(left) == "2 rags, chain case"


def test_things_are_listed_in_the_order_they_went_in() -> None:
    lines = [line(LaidPiece.PLUG, "oil drillings", 1), line(LaidPiece.RAG, "sump opening", 3)]
    assert list_words(still_in(lines)) == "1 plug, oil drillings; 3 rags, sump opening"


@pytest.mark.parametrize("count", [0, 51, -51])
def test_a_count_that_cannot_be_is_refused(count: int) -> None:
    with pytest.raises(StepError, match="That many cannot be right"):
        counts([], LaidPiece.PIN, "arm", count)


def test_more_out_than_in_says_how_many_there_are() -> None:
    lines = [line(LaidPiece.WEDGE, "above the arm", 2)]
    with pytest.raises(StepError) as refused:
        counts(lines, LaidPiece.WEDGE, "above the arm", -3)
    assert refused.value.read == "3 wedges out of above the arm"
    assert refused.value.expected == "2 at most: so many were counted in"


def test_a_step_that_turns_nothing_is_never_held() -> None:
    laid = [line(LaidPiece.RAG, "chain case", 1)]
    plan = make_plan(TANSY, ["chain_a_part"], is_quick=True)
    turning = turning_steps(TANSY, plan)
    for step in plan.steps:
        must_be_counted_out(TANSY, plan, step, [])
        if step.ref not in turning:
            must_be_counted_out(TANSY, plan, step, laid)
            continue
        with pytest.raises(StepError) as refused:
            must_be_counted_out(TANSY, plan, step, laid)
        assert refused.value.read == "still in the engine: 1 rag, chain case"


def test_a_road_has_steps_of_its_own_and_its_turning_is_known() -> None:
    for way in TANSY.ways:
        wanted = TANSY.ways[way]
        scope = [k for k in TANSY.components if k in ("phaser_a_part", "phaser_b_part")][:1]
        try:
            plan = make_plan(TANSY, scope, ways=[way], is_quick=True)
        except PlanError:
            continue
        assert wanted.name
        assert set(turning_steps(TANSY, plan)) <= {s.ref for s in plan.steps}
        assert measures_of_plan(TANSY, plan).keys() <= {s.ref for s in plan.steps}


@pytest.mark.parametrize("name", BOOKS)
def test_every_plan_turns_the_crank_and_its_steps_say_where(name: str) -> None:
    book = BOOKS[name]
    scope = [next(k for k, c in book.components.items() if c.kind in ("chain", "belt"))]
    plan = make_plan(book, scope, is_quick=True)
    turning = turning_steps(book, plan)
    assert turning, "an engine is turned by hand before it is closed"
    for before, after in zip(plan.steps, plan.steps[1:], strict=False):
        if before.state is None or after.state is None or before.state.crank_deg is None:
            continue
        if before.state.crank_deg != after.state.crank_deg:
            assert after.ref in turning, "the crank moved in a step that is said not to turn it"


def test_what_the_plan_put_in_is_known_where_its_closed_steps_end() -> None:
    plan = make_plan(TANSY, ["chain_a_part"], is_quick=True)
    refs = [s.ref for s in plan.steps]
    locked = next(i for i, s in enumerate(plan.steps) if s.template == "lock_crank")
    assert put_in_by_plan(TANSY, plan, refs[:locked]) == []
    assert "1 × lock of the crank" in put_in_by_plan(TANSY, plan, refs[: locked + 1])
    reopened = [r for r in refs[: locked + 4] if r != refs[locked]]
    assert put_in_by_plan(TANSY, plan, reopened) == [], "what rests on an open step is not said"
    assert put_in_by_plan(TANSY, plan, refs) == [], "all of it is out at the end"
