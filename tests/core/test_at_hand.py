"""The shop's lists, and what of a plan is at hand."""

from datetime import date, timedelta
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.days import working_day
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.ready import TorqueLine, make_ready
from flaneur.core.stores.at_hand import AtHand, at_hand
from flaneur.core.stores.lists import (
    LINES,
    ListKind,
    ListLine,
    OrderLine,
    ShopTool,
    StockLine,
    Stores,
    Supplier,
    Whereabouts,
    Wrench,
)
from flaneur.core.stores.wrenches import wrenches_at
from flaneur.formats.lists import ListRefused, cells_as_written, check_once, read_list, write_list

MONDAY = date(2026, 11, 30)
TORQUE = TorqueLine(
    fastener="Cover bolts",
    size="M8",
    holes="",
    count=14,
    least_nm=10,
    most_nm=24,
    angle_deg=0,
    room_deg=20,
)
WRENCH = Wrench(
    name="Small",
    least_nm=5,
    most_nm=25,
    graduation_nm=0.5,
    swing_deg=6,
    calibrated_until=MONDAY,
    whereabouts=Whereabouts.OWNED,
)


def at(book: EngineBook, scope: list[str], **lists: Any) -> AtHand:
    plan = make_plan(book, scope, is_quick=True)
    return at_hand(book, plan, make_ready(book, plan), Stores(**lists), MONDAY, 8)


def everything(book: EngineBook, scope: list[str], but: str = "") -> list[StockLine]:
    needed = at(book, scope).parts
    return [StockLine(item=p.name, count=p.count) for p in needed if p.name != but]


def test_all_that_is_here_lets_the_engine_be_opened_today(book: EngineBook) -> None:
    found = at(book, ["chain_b_part"], stock=everything(book, ["chain_b_part"]))
    assert (found.starts_on, found.held_by) == (MONDAY, [])
    assert found.unknown == ["tools", "wrenches"]


def test_a_list_that_nobody_keeps_is_not_known_and_not_empty(book: EngineBook) -> None:
    found = at(book, ["chain_b_part"])
    assert found.starts_on is None
    assert {p.here for p in found.parts} == {None}
    assert {t.is_here for t in found.tools} == {None}
    assert {w.does is None for w in found.wrenches} == {True}


def test_an_order_holds_the_start_until_it_is_due(book: EngineBook) -> None:
    scope, name = ["chain_b_part"], "Secondary chain B (2-4-6)"
    order = OrderLine(
        item=name, count=1, supplier="Harbour", ordered_on=MONDAY, due_on=MONDAY + timedelta(3)
    )
    stock = everything(book, scope, but=name)
    found = at(book, scope, stock=stock, orders=[order])
    part = next(p for p in found.parts if p.name == name)
    assert (part.here, part.ordered, part.lacking) == (0, 1, 0)
    assert part.on == order.due_on
    assert found.starts_on == working_day(MONDAY, 3 - part.needed_day)
    open_ended = order.model_copy(update={"due_on": None})
    assert at(book, scope, stock=stock, orders=[open_ended]).starts_on is None


def test_what_is_lacking_counts_as_ordered_today_from_the_quickest(book: EngineBook) -> None:
    scope, name = ["chain_b_part"], "Secondary chain B (2-4-6)"
    stock = everything(book, scope, but=name)
    sells = [Supplier(name="Far", days=9), Supplier(name="Near", days=5), Supplier(name="Nobody")]
    part = next(p for p in at(book, scope, stock=stock, suppliers=sells).parts if p.name == name)
    assert part.on == date(2026, 12, 7)
    assert "ordered today at Near" in part.state
    assert at(book, scope, stock=stock).starts_on is None


def test_what_two_parts_need_lies_on_the_shelf_once(book: EngineBook) -> None:
    scope = ["phaser_a_part", "phaser_b_part"]
    order = OrderLine(
        item="Phaser bolt", count=5, supplier="Harbour", ordered_on=MONDAY, due_on=MONDAY
    )
    bolts = [StockLine(item="Phaser bolt", count=1)]
    for orders, lacking, ordered in (([], [0, 1], [0, 0]), ([order], [0, 0], [0, 1])):
        found = [
            p
            for p in at(book, scope, stock=bolts, orders=orders).parts
            if p.name.startswith("Phaser bolt")
        ]
        assert [p.here for p in found] == [1, 0]
        assert [p.lacking for p in found] == lacking
        assert [p.ordered for p in found] == ordered


def test_an_order_for_another_engine_is_none(book: EngineBook) -> None:
    stock = [StockLine(item="Guide B (2-4-6)", engine="Brindle Fennel", count=4)]
    part = next(p for p in at(book, ["guide_b"], stock=stock).parts if p.name == stock[0].item)
    assert (part.here, part.lacking) == (0, 1)


@pytest.mark.parametrize(
    ("tool", "is_here", "on"),
    [
        (ShopTool(name="cam holders"), True, MONDAY),
        (ShopTool(name="Cam holders", whereabouts=Whereabouts.HIRED), True, MONDAY),
        (ShopTool(name="Cam holders", whereabouts=Whereabouts.CALIBRATION), False, None),
        (
            ShopTool(name="Cam holders", whereabouts=Whereabouts.LENT, back_on=date(2026, 12, 2)),
            False,
            date(2026, 12, 2),
        ),
        (ShopTool(name="Hammer"), False, None),
    ],
)
def test_a_tool_is_here_or_says_where(
    book: EngineBook, tool: ShopTool, is_here: bool, on: date | None
) -> None:
    found = at(book, ["chain_b_part"], tools=[tool]).tools
    holders = next(t for t in found if t.name == "cam holders")
    assert (holders.is_here, holders.on) == (is_here, on)
    assert is_here or "A straight edge on each intake flat" in holders.words


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({}, None),
        ({"most_nm": 20.0}, "No wrench of the shop reaches 24 Nm"),
        ({"calibrated_until": MONDAY - timedelta(1)}, "is out of calibration since"),
        ({"swing_deg": 30.0}, "needs 30° to swing, and there are 20°"),
        ({"whereabouts": Whereabouts.LENT}, "is lent"),
    ],
)
def test_a_wrench_reaches_swings_and_is_calibrated(change: dict[str, Any], said: str) -> None:
    found = wrenches_at([TORQUE], [WRENCH.model_copy(update=change)], MONDAY)[0]
    if said is None:
        assert (found.does, found.words) == (["Small"], "")
    else:
        assert found.does == []
        assert said in found.words


def test_a_holding_bolt_says_how_long_it_may_be(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_b_part"], is_quick=True)
    ready = make_ready(book, plan)
    tools = [t.model_copy(update={"longest_mm": 18.0}) for t in ready.tools]
    lists = Stores(tools=[ShopTool(name="Cam holders")])
    found = at_hand(book, plan, ready.model_copy(update={"tools": tools}), lists, MONDAY, 8).tools
    holders = next(t for t in found if t.name == "cam holders")
    assert holders.words == "Here. At most 18 mm under its head."


def test_what_is_not_known_of_a_wrench_is_said() -> None:
    bare = WRENCH.model_copy(update={"calibrated_until": None, "swing_deg": None})
    found = wrenches_at([TORQUE], [bare], MONDAY)[0]
    assert found.does == ["Small"]
    assert found.words == "Calibration of small not known; its least swing not known."


WORDS = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1)
STOCK = st.builds(StockLine, item=WORDS, engine=WORDS, count=st.integers(0, 99), place=WORDS)


@settings(max_examples=60, deadline=None)
@given(st.lists(STOCK, max_size=6))
def test_a_list_comes_back_as_it_was_written(lines: list[ListLine]) -> None:
    line = LINES[ListKind.STOCK]
    assert read_list(write_list(lines, line), line, "stock") == lines


def test_what_a_spreadsheet_would_run_is_marked_in_the_file_alone() -> None:
    line = StockLine(item="-3 mm pin", count=1)
    assert cells_as_written(line)[0] == "-3 mm pin"
    assert write_list([line], StockLine).splitlines()[1].startswith("'-3 mm pin,")


@pytest.mark.parametrize(
    ("text", "read"),
    [
        ("item,count\nGuide,many", "count: many"),
        ("item;count\nGuide;-1", "count: -1"),
        ("item,count\n,3", "item: nothing"),
        ("item,counts\nGuide,3", "columns item, counts"),
        ("", "columns none"),
    ],
)
def test_a_text_that_is_no_list_says_what_was_read(text: str, read: str) -> None:
    with pytest.raises(ListRefused) as refused:
        read_list(text, StockLine, "stock")
    assert refused.value.read == read


def test_a_tool_stands_in_its_list_once() -> None:
    with pytest.raises(ListRefused, match="Line 2 stands there already as line 1"):
        check_once([ShopTool(name="Pin"), ShopTool(name="pin")], ListKind.TOOLS)
    order = OrderLine(item="Pin", count=1, supplier="Harbour", ordered_on=MONDAY)
    check_once([order, order], ListKind.ORDERS)


def test_working_days_pass_over_the_week_end() -> None:
    friday, saturday = date(2026, 12, 4), date(2026, 12, 5)
    assert working_day(friday, 1) == date(2026, 12, 7)
    assert working_day(saturday, 0) == date(2026, 12, 7)
    assert working_day(friday, 5) == date(2026, 12, 11)
