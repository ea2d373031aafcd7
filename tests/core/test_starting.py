"""What stands between an opened engine and its starter, on every book that ships."""

import json
from pathlib import Path
from typing import Any

import pytest
from demo.walk import right_answer
from tests.core.test_engines import BOOKS
from tests.core.test_shown import DAY, answered, whole
from tests.support.depot import BOOK_FILE

from flaneur.cli import main
from flaneur.core.bench.inside import Laid, LaidPiece
from flaneur.core.bench.tally import tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ErrorCode, ReleaseError
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.proof.hands import HandTurns, HardStop
from flaneur.core.proof.starting import RUNNING, must_be_startable, start_of

FELT = HardStop(by="Ivo", at="2026-11-28T09:00:00+00:00", turns=1)


def up_to_running(plan: Plan, steps: list[Any]) -> list[Any]:
    first = next(i for i, s in enumerate(plan.steps) if s.template in RUNNING)
    return steps[:first]


def command(capsys: pytest.CaptureFixture[str], *words: str) -> dict[str, Any]:
    assert main(["proof", "--engine", str(BOOK_FILE), "--scope", "chain_b_part", *words]) == 0
    return json.loads(capsys.readouterr().out)


def test_the_command_tells_what_stands_in_the_way(
    book: EngineBook, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    plan, file = make_plan(book, ["chain_b_part"]), tmp_path / "bench.json"
    done = [
        {"step": s.ref, "answers": [right_answer(a) for a in s.asked]}
        for s in up_to_running(plan, plan.steps)
    ]
    assert command(capsys, "--json")["in_the_way"] is None
    for lines, first in ((done, None), (done[:-1], done[-1]["step"])):
        file.write_text(json.dumps(lines), encoding="utf-8")
        found = command(capsys, "--bench", str(file), "--json")["in_the_way"]
        assert [f["step"] for f in found] == ([first] if first else [])
    file.write_text(json.dumps([{"step": "op:nowhere", "answers": []}]), encoding="utf-8")
    words = ["proof", "--engine", str(BOOK_FILE), "--scope", "chain_b_part", "--bench", str(file)]
    assert main(words) != 0
    assert "The plan has no such step." in capsys.readouterr().err


@pytest.mark.parametrize("book", BOOKS.values(), ids=lambda b: b.name)
def test_it_may_be_started_as_it_came_and_again_when_all_before_the_start_is_done(
    book: EngineBook,
) -> None:
    plan = whole(book)
    records = answered(plan)
    assert start_of(book, plan, tally([])) == [], "as it came"
    begun = start_of(book, plan, tally(records[:1]))
    assert begun[0].step == plan.steps[1].ref
    assert begun[0].way == f"On to step 2: {plan.steps[1].title}"
    ready = up_to_running(plan, records)
    assert start_of(book, plan, tally(ready)) == []
    one_left = start_of(book, plan, tally(ready[:-1]))
    assert one_left[0].words == "1 step before the first start is open."
    assert one_left[0].step == ready[-1].step


def test_what_a_hand_would_feel_stops_the_starter(book: EngineBook) -> None:
    plan = whole(book)
    ready = up_to_running(plan, answered(plan))
    stopped = start_of(book, plan, tally(ready), HandTurns(stops=[FELT]))
    assert any("Its cause is not written" in found.words for found in stopped)
    explained = FELT.model_copy(update={"cause": "a rag", "cause_by": "Ivo", "step": None})
    later = start_of(book, plan, tally(ready), HandTurns(stops=[explained]))
    assert later == [], "turned clean since"
    assert start_of(book, plan, tally([]), HandTurns(stops=[FELT])), "felt before any step"
    turned = HandTurns(turns=1, hard_stop=False)
    assert any("1 turn" in found.words for found in start_of(book, plan, tally(ready), turned))


def test_a_pin_a_rag_or_a_tooth_left_in_stops_the_starter(book: EngineBook) -> None:
    plan = whole(book)
    ready = up_to_running(plan, answered(plan))
    pin = HandTurns(turns=2, hard_stop=False, pins_out=tally(ready).pins_in - 1)
    assert any("find the rest" in f.words for f in start_of(book, plan, tally(ready), pin))
    still = [r for r in ready if not any(seen.pins < 0 for seen in r.seen)]
    inside = start_of(book, plan, tally(still))
    assert any("no starter while any tool or pin is fitted" in found.words for found in inside)
    rag = Laid(LaidPiece.RAG, "chain case", 2, "Ivo", DAY)
    [left] = start_of(book, plan, tally(ready, [rag]))
    assert left.words == "Still in the engine: 2 rags, chain case."
    turn = next(s for s in plan.steps if s.template == "hand_turn_closed")
    mark = next(a.code for a in turn.asked if (a.code or "").startswith("mark_"))
    missed = up_to_running(plan, answered(plan, {turn.ref: {str(mark): "missed"}}))
    [tooth] = start_of(book, plan, tally(missed))
    assert tooth.words.startswith("Marks after turning: ")
    with pytest.raises(ReleaseError, match=r"may not be started yet") as refused:
        must_be_startable([tooth])
    assert refused.value.code is ErrorCode.START_REFUSED
    assert tooth.words in refused.value.read
    must_be_startable([])
