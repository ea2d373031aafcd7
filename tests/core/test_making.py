"""Steps made from books: valves asked one by one, followers laid out in their order."""

import pytest
from tests.core.test_engines import BOOKS

from flaneur.core.bench.answers import check_answer
from flaneur.core.bench.inside import turns_crank
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import StepError
from flaneur.core.plan.making import step_of
from flaneur.core.plan.steps import AskedKind


def test_clearances_are_asked_valve_by_valve() -> None:
    asked = step_of(BOOKS["skarne-burdock"], "op:clearances").asked
    assert len(asked) == 8
    assert [a.ask for a in asked[:3]] == [
        "Cylinder 1 intake, valve 1",
        "Cylinder 1 intake, valve 2",
        "Cylinder 1 exhaust, valve 1",
    ]
    assert check_answer(asked[0], "0.10").ok
    assert check_answer(asked[0], "0.004 in").ok
    assert not check_answer(asked[2], "0.10 mm").ok, "an exhaust's is wider"
    turned = check_answer(asked[0], "5 grad")
    assert (turned.ok, "5 graduations, 0.1 mm" in turned.words) == (True, True)
    assert not check_answer(asked[0], "7,5 graduations").ok
    assert check_answer(asked[2], "7,5 graduations").ok
    assert "4 to 6 graduations" in asked[0].hint
    plain = asked[0].model_copy(update={"graduation_mm": None})
    with pytest.raises(StepError, match="Cylinder 1"):
        check_answer(plain, "5 grad")
    assert "graduation_mm" not in plain.model_dump(), "what was sealed before is written alike"


def test_a_book_without_its_clearances_asks_in_one_word() -> None:
    raw = BOOKS["skarne-burdock"].model_dump()
    for group in raw["clearance"]["valves"].values():
        group["clearance_mm"] = None
    [asked] = step_of(EngineBook.model_validate(raw), "op:clearances").asked
    assert asked.kind is AskedKind.WORD


def test_followers_lie_in_the_order_of_their_cylinders() -> None:
    out = step_of(BOOKS["brindle-fennel"], "op:followers_a_out")
    back = step_of(BOOKS["brindle-fennel"], "op:followers_a_in")
    assert [row.slots for row in out.tray] == [["1", "3", "5", "7"]] * 2
    assert out.tray == back.tray
    assert sum(len(row.slots) for row in out.tray) == out.asked[0].expected


def test_the_crank_turns_where_the_book_turns_it() -> None:
    tansy = BOOKS["ostrey-tansy"]
    turning = {ref for ref in tansy.operations if turns_crank(tansy, f"op:{ref}")}
    assert turning == {"service_position", "turn_open", "turn_closed"}
    assert not any(turns_crank(tansy, f"fit:{k}") for k in tansy.components)
