"""What a plan needs against what the shop has: what is here, what is ordered, what is lacking, and
when the engine could be opened.
"""

from collections import Counter
from collections.abc import Iterable
from datetime import date

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.days import working_day
from flaneur.core.plan.parts import Part
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.ready import Ready, ReadyTool
from flaneur.core.plan.steps import TORQUE_WRENCH
from flaneur.core.stores.lists import OrderLine, ShopTool, StockLine, Stores, Supplier, Whereabouts
from flaneur.core.stores.wrenches import WrenchAt, wrenches_at
from flaneur.core.wording import within


class AtHandModel(BaseModel):
    """What such an answer is made of."""

    model_config = ConfigDict(frozen=True)


class PartAt(AtHandModel):
    """A part or supply: how many are needed, ``here``, ``ordered``, ``lacking``; when all of it is
    here (None: not known), and on which working day of the job it is needed at the latest, the
    first being 0. ``first``: why it must be here before the engine is opened; ``state`` says how it
    stands, ``words`` of what.
    """

    name: str
    count: int
    here: int | None
    ordered: int
    lacking: int
    on: date | None
    needed_day: int
    first: str
    state: str
    words: str


class ToolAt(AtHandModel):
    """A tool: whether it can be had, from when on, and what does without it."""

    name: str
    is_here: bool | None
    on: date | None
    words: str


class AtHand(AtHandModel):
    """All of it. ``starts_on``: the first day the engine could be opened, None where that is not
    known; ``held_by`` says what it waits for, ``unknown`` which lists nobody keeps.
    """

    parts: list[PartAt]
    tools: list[ToolAt]
    wrenches: list[WrenchAt]
    starts_on: date | None
    held_by: list[str]
    unknown: list[str]


def at_hand(
    book: EngineBook, plan: Plan, ready: Ready, stores: Stores, today: date, hours_a_day: float
) -> AtHand:
    """What of a plan is at hand on a day; what is lacking counts as ordered on that day from the
    quickest supplier.
    """
    left = _Left(stores)
    parts = [
        _part(part, _needed_day(book, plan, part, hours_a_day), plan.engine, stores, left, today)
        for part in [*ready.parts, *_supplies(plan)]
    ]
    listed = [t for t in ready.tools if not (t.name == TORQUE_WRENCH and stores.wrenches)]
    tools = [_tool(tool, stores.tools, today) for tool in listed]
    lists = {"stock": stores.stock, "tools": stores.tools, "wrenches": stores.wrenches}
    unknown = [name for name, kept in lists.items() if not kept]
    waits = [(p.on, p.needed_day, p.words) for p in parts if p.on != today or p.here is None]
    waits += [(t.on, 0, f"{t.name}: {t.words}") for t in tools if t.is_here is False and t.on]
    return AtHand(
        parts=parts,
        tools=tools,
        wrenches=wrenches_at(ready.torques, stores.wrenches, today),
        starts_on=_starts_on(waits, today),
        held_by=[words for _, _, words in waits],
        unknown=unknown,
    )


def tools_of(stores: Stores) -> list[str] | None:
    """What a shop has to work with, by name: its tools, and wrenches where it has any. None where
    nobody keeps the list of tools.
    """
    if not stores.tools:
        return None
    return [tool.name for tool in stores.tools] + ([TORQUE_WRENCH] if stores.wrenches else [])


def _starts_on(waits: Iterable[tuple[date | None, int, str]], today: date) -> date | None:
    """The first working day on which all that is waited for is here when it is needed."""
    start = working_day(today, 0)
    for on, needed_day, _ in waits:
        if on is None:
            return None
        while working_day(start, needed_day) < on:
            start = working_day(start, 1)
    return start


def _supplies(plan: Plan) -> list[Part]:
    """What the steps use up. An amount stands behind the name, after a comma, and is no part of
    what lies on the shelf.
    """
    used = Counter(supply for step in plan.steps for supply in step.supplies)
    return [
        Part(item=name.partition(",")[0], name=name, count=count, price=0.0, why="used up")
        for name, count in used.items()
    ]


def _needed_day(book: EngineBook, plan: Plan, part: Part, hours_a_day: float) -> int:
    """The working day of a job on which a part goes in; the first for what must be here before."""
    if part.first or not part.key:
        return 0
    keys = set(book.kits[part.key].holds) if part.key in book.kits else {part.key}
    begins = [
        step.begins
        for step in plan.steps
        if step.phase != "remove"
        and (step.about in keys or any(a.fastener in keys for a in step.asked))
    ]
    return int(min(begins, default=0.0) / 60 / hours_a_day)


def _is_it(line: StockLine | OrderLine, part: Part, engine: str) -> bool:
    names = {within(name) for name in (part.name, part.item, part.key) if name}
    is_for = not line.engine or line.engine.casefold() == engine.casefold()
    return is_for and within(line.item) in names


class _Left:
    """What is left of stock and orders (soonest due first) while part after part takes its own:
    what two parts need lies there once.
    """

    def __init__(self, stores: Stores) -> None:
        self.stock = [(line, line.count) for line in stores.stock]
        by_due = sorted(stores.orders, key=lambda line: line.due_on or date.max)
        self.orders = [(line, line.count) for line in by_due]

    def from_stock(self, part: Part, engine: str) -> int:
        """How many lie there for a part, which takes what it needs of them."""
        found = sum(count for line, count in self.stock if _is_it(line, part, engine))
        still = part.count
        for i, (line, count) in enumerate(self.stock):
            taken = min(still, count) if _is_it(line, part, engine) else 0
            self.stock[i], still = (line, count - taken), still - taken
        return found

    def from_orders(self, part: Part, engine: str, still: int) -> list[tuple[OrderLine, int]]:
        """The orders that bring what a part still needs, each with how many of it."""
        found: list[tuple[OrderLine, int]] = []
        for i, (line, count) in enumerate(self.orders):
            taken = min(still, count) if _is_it(line, part, engine) else 0
            self.orders[i], still = (line, count - taken), still - taken
            found += [(line, taken)] if taken else []
        return found


def _part(
    part: Part, needed_day: int, engine: str, stores: Stores, left: _Left, today: date
) -> PartAt:
    here = left.from_stock(part, engine)
    coming = left.from_orders(part, engine, max(0, part.count - here))
    ordered = sum(count for _, count in coming)
    is_known = all(line.due_on is not None for line, _ in coming)
    on = max([today, *(line.due_on for line, _ in coming if line.due_on)])
    lacking = max(0, part.count - here - ordered)
    quick = min((s for s in stores.suppliers if s.days is not None), key=_days, default=None)
    if lacking:
        is_known = is_known and quick is not None
        on = max(on, working_day(today, _days(quick))) if quick else on
    said = [f"{here} here" if stores.stock else "nobody keeps a stock list"]
    if ordered:
        said.append(f"{ordered} ordered, due {on if is_known and not lacking else 'not known'}")
    if lacking and stores.stock:
        when = f"; ordered today at {quick.name} here on {on}" if quick else ", no supplier known"
        said.append(f"{lacking} lacking{when}")
    late = "" if needed_day == 0 else f"; not needed before day {needed_day + 1}"
    is_here_known = bool(stores.stock)
    return PartAt(
        name=part.name,
        count=part.count,
        here=here if is_here_known else None,
        ordered=ordered,
        lacking=lacking,
        on=on if is_known and is_here_known else None,
        needed_day=needed_day,
        first=part.first,
        state=f"{', '.join(said)}{late}",
        words=f"{part.count} × {part.name}: {', '.join(said)}{late}",
    )


def _days(supplier: Supplier) -> int:
    return supplier.days or 0


def _tool(tool: ReadyTool, owned: list[ShopTool], today: date) -> ToolAt:
    longest = "" if tool.longest_mm is None else f" At most {tool.longest_mm:g} mm under its head."
    instead = longest
    if tool.method:
        play = "with more play than the tool's own"
        known = "" if tool.play_deg is None else f" {tool.play_deg:g}°"
        instead += f" Without it: {tool.method} That is {play}{known}."
    if not owned:
        words = f"Nobody keeps a list of tools.{instead}"
        return ToolAt(name=tool.name, is_here=None, on=None, words=words)
    mine = next((t for t in owned if within(t.name) == within(tool.name)), None)
    if mine is None:
        words = f"Not in the shop: hire or buy it.{instead}"
        return ToolAt(name=tool.name, is_here=False, on=None, words=words)
    if mine.whereabouts is Whereabouts.OWNED or (mine.back_on and mine.back_on <= today):
        return ToolAt(name=tool.name, is_here=True, on=today, words=f"Here.{longest}")
    when = f", here on {mine.back_on}" if mine.back_on else ", nobody knows until when"
    words = f"{mine.whereabouts.words.capitalize()}{when}.{instead}"
    is_hired = mine.whereabouts is Whereabouts.HIRED and mine.back_on is None
    return ToolAt(
        name=tool.name,
        is_here=is_hired,
        on=today if is_hired else mine.back_on,
        words=f"Hired, here.{longest}" if is_hired else words,
    )
