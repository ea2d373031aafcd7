"""What must be there before an engine is opened: parts each with its price, kits against what the
plan needs, tools with what replaces them, the torques a wrench must reach.
"""

from collections import Counter
from collections.abc import Iterable, Mapping

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.revised import with_revised
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Component, Fastener
from flaneur.core.book.ways import on_ways
from flaneur.core.fasteners.program import size_words
from flaneur.core.plan.buying import bought_as, needed, useful_kits
from flaneur.core.plan.parts import Part
from flaneur.core.plan.plan import Plan
from flaneur.core.wording import within


class ReadyModel(BaseModel):
    """What the list is made of."""

    model_config = ConfigDict(frozen=True)


class KitLine(ReadyModel):
    """A kit against what the plan needs, by names: still ``missing``, ``superfluous`` in it, or
    ``short``: too few. ``price`` with what is missing bought singly is ``total``; ``singly`` is
    what its useful parts cost one by one.
    """

    key: str
    name: str
    is_maker: bool
    price: float
    total: float
    singly: float
    missing: list[str]
    short: list[str]
    superfluous: list[str]
    weakness: list[str]


class ReadyTool(ReadyModel):
    """A tool: in how many steps, the first of them, and what does without it (with the play it
    leaves, degrees of its shaft); how long a holding bolt may be at most.
    """

    name: str
    steps: int
    first: str
    method: str
    play_deg: float | None
    longest_mm: float | None


class TorqueLine(ReadyModel):
    """What a wrench must reach: newton metres from and to, and the angle turned on from there.

    ``room_deg``: how far a wrench can swing there, None where the book does not say.
    """

    fastener: str
    size: str
    holes: str
    count: int
    least_nm: float
    most_nm: float
    angle_deg: float
    room_deg: float | None


class Ready(ReadyModel):
    """All of it. ``least_nm`` and ``most_nm``: the range of wrenches the plan needs."""

    parts: list[Part]
    supplies: list[str]
    price: float
    kits: list[KitLine]
    tools: list[ReadyTool]
    torques: list[TorqueLine]
    least_nm: float | None
    most_nm: float | None


def make_ready(book: EngineBook, plan: Plan, kit: str = "") -> Ready:
    """What a plan of this book needs to have at hand, its parts bought singly or in a kit. ``plan``
    is the one bought singly. Raises PlanError for a kit that holds nothing of use.
    """
    there = with_revised(on_ways(book, tuple(plan.ways)), plan.renewed)
    torques, bought = _torques(there, plan), bought_as(there, plan, kit)
    return Ready(
        parts=bought.parts,
        supplies=plan.supplies,
        price=bought.price,
        kits=_kits(there, plan),
        tools=_tools(there, plan),
        torques=torques,
        least_nm=min((t.least_nm for t in torques), default=None),
        most_nm=max((t.most_nm for t in torques), default=None),
    )


def _kits(book: EngineBook, plan: Plan) -> list[KitLine]:
    """Kits that hold anything of use, the cheapest way to all that is needed first."""
    wanted = needed(plan)
    found: list[KitLine] = []
    for key in useful_kits(book, plan):
        kit = book.kits[key]
        held = Counter(kit.holds)
        useful = wanted & held
        lacking = wanted - held
        found.append(
            KitLine(
                key=key,
                name=kit.name,
                is_maker=kit.made_by == "maker",
                price=kit.price,
                total=kit.price + _price(book, lacking),
                singly=_price(book, useful),
                missing=_names(book, {k: n for k, n in lacking.items() if k not in held}),
                short=_names(book, {k: n for k, n in lacking.items() if k in held}),
                superfluous=_names(book, held - wanted),
                weakness=kit.weakness,
            )
        )
    return sorted(found, key=lambda line: line.total)


def _price(book: EngineBook, parts: Counter[str]) -> float:
    return sum(n * _entry(book, key).price for key, n in parts.items())


def _entry(book: EngineBook, key: str) -> Component | Fastener:
    return book.components.get(key) or book.fasteners[key]


def _names(book: EngineBook, parts: Mapping[str, int]) -> list[str]:
    return [
        f"{n} × {_entry(book, key).name}" if n > 1 else _entry(book, key).name
        for key, n in parts.items()
    ]


def _tools(book: EngineBook, plan: Plan) -> list[ReadyTool]:
    known = {within(tool.name): tool for tool in book.tools.values()}
    found: list[ReadyTool] = []
    for name in plan.tools:
        steps = [s for s in plan.steps if name in s.tools]
        tool = known.get(name)
        found.append(
            ReadyTool(
                name=name,
                steps=len(steps),
                first=steps[0].title if steps else "",
                method=(tool.workshop_method or "") if tool else "",
                play_deg=tool.play_deg if tool else None,
                longest_mm=tool.longest_mm if tool else None,
            )
        )
    return found


def _torques(book: EngineBook, plan: Plan) -> list[TorqueLine]:
    found: dict[str, TorqueLine] = {}
    for key in _fasteners(book, plan.access):
        fastener = book.fasteners[key]
        torques = [s.value for s in fastener.stages if s.kind == "torque"]
        if torques and key not in found:
            found[key] = TorqueLine(
                fastener=fastener.name,
                size=size_words(fastener).strip(" ,"),
                holes=fastener.holes or "",
                count=fastener.count,
                least_nm=min(torques),
                most_nm=max(torques),
                room_deg=fastener.room_deg,
                angle_deg=sum(s.value for s in fastener.stages if s.kind == "angle"),
            )
    return list(found.values())


def _fasteners(book: EngineBook, components: Iterable[str]) -> list[str]:
    return [f for c in components for f in book.components[c].fasteners]
