"""The roads there are to a repair: every lawful choice among the ways of a book, walked, compared.

A road costs working time, time until it is done, money, a helper, tools to be had, and what can go
wrong. One that is worse than another in all of these is not shown; one in which a valve can meet a
piston is not offered. Which is taken is a person's to say.
"""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from itertools import product

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import Risk
from flaneur.core.errors import PlanError
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.buying import bought_as, useful_kits
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.wording import within

MOST_ROADS = 256
ALL_OF_IT = ", all that is off renewed"


class RoadModel(BaseModel):
    """What a comparison of roads is made of."""

    model_config = ConfigDict(frozen=True)


class Danger(RoadModel):
    """What can go wrong on a road: how likely, and what it then costs more, minutes and money."""

    what: str
    chance: float
    minutes: float
    price: float
    is_grave: bool


class RoadDifference(RoadModel):
    """Steps of one road that another does not have, by their titles."""

    only_here: list[str]
    only_there: list[str]


class Road(RoadModel):
    """One road: its ways, what it takes, what it risks, what it leaves.

    ``expected_minutes`` and ``expected_price`` hold what the dangers cost on average;
    ``adds`` are parts renewed beside what was asked for, since they are off anyway; ``untouched``
    are parts of the drive that stay as they are; ``weakness`` is what is known against the ``kit``
    its parts are bought in (none: singly); ``differs`` compares it with the
    road before it in the list.
    """

    ways: list[str]
    kit: str
    name: str
    text: str
    scope: list[str]
    adds: list[str] = []
    minutes: float
    low_minutes: float
    high_minutes: float
    elapsed_minutes: float
    price: float
    expected_minutes: float
    expected_price: float
    helper_minutes: float
    helper_stretches: int
    steps: int
    tools: list[str]
    tools_missing: list[str]
    dangers: list[Danger]
    loses: list[str]
    weakness: list[str]
    untouched: list[str]
    needs_lead: bool
    is_usual: bool
    differs: RoadDifference | None = None


class NotOffered(RoadModel):
    """A road that is not offered, and why: it is worse in every respect, or not lawful."""

    ways: list[str]
    kit: str
    name: str
    why: str


class Roads(RoadModel):
    """Roads to one scope, least expected work first, and those that are not offered."""

    roads: list[Road]
    not_offered: list[NotOffered]


@dataclass(frozen=True)
class _Made:
    road: Road
    plan: Plan


def roads(
    book: EngineBook,
    scope: Sequence[str],
    kept: Collection[str] = (),
    owned: Collection[str] | None = None,
) -> Roads:
    """Every road to a scope that is lawful, safe, and not worse than another in all respects.
    ``owned`` are the tools of the shop, None: nobody said. Raises PlanError when there is none.
    """
    made: list[_Made] = []
    left: list[NotOffered] = []
    usual = usual_plan(book, scope, kept)
    for chosen, ways in _choices(book, scope, kept):
        try:
            plan = make_plan(book, chosen, kept, ways, is_quick=True)
            for kit in ("", *useful_kits(book, plan)):
                bought = bought_as(book, plan, kit)
                made.append(_Made(road_of(book, bought, usual, owned, set(scope)), bought))
        except PlanError as error:
            name = road_name(book, ways)
            left.append(NotOffered(ways=list(ways), kit="", name=name, why=str(error)))
    if not made:
        raise PlanError(
            "No lawful road leads there.",
            read=left[0].why if left else ", ".join(scope),
            expected="a road on which no valve can meet a piston",
            advice="Choose another scope, or mend the engine book.",
        )
    shown: list[_Made] = []
    for one in made:
        better = next((m for m in made if m is not one and is_worse(one.road, m.road)), None)
        if better is None:
            shown.append(one)
        else:
            why = f"“{better.road.name}” is better, or no worse, in every respect"
            left.append(_not_offered(one.road, why))
    shown.sort(key=lambda m: (m.road.expected_minutes, m.road.ways, m.road.price))
    compared = [
        m.road.model_copy(update={"differs": _difference(m.plan, shown[i - 1].plan)})
        if i
        else m.road
        for i, m in enumerate(shown)
    ]
    return Roads(roads=compared, not_offered=left)


def _choices(
    book: EngineBook, scope: Sequence[str], kept: Collection[str]
) -> list[tuple[list[str], tuple[str, ...]]]:
    """What is renewed, on which ways: as it was chosen, and with all that is off anyway."""
    chosen = [(list(scope), ways) for ways in combinations(book, scope)]
    more = [*scope, *while_open(book, scope, kept)]
    return chosen + ([(more, ())] if len(more) > len(scope) else [])


def _not_offered(road: Road, why: str) -> NotOffered:
    return NotOffered(ways=road.ways, kit=road.kit, name=road.name, why=why)


def while_open(book: EngineBook, scope: Sequence[str], kept: Collection[str] = ()) -> list[str]:
    """Parts of the drive that come off on the usual road and are not renewed."""
    renewed = set(renewed_set(book, scope, kept)) | set(scope)
    return [
        key
        for key in closed_set(book, scope)
        if key not in renewed and book.components[key].part and book.components[key].renewable
    ]


def combinations(book: EngineBook, scope: Iterable[str]) -> list[tuple[str, ...]]:
    """Every set of ways that can be gone together for a scope, the usual one (none) first."""
    wanted = set(scope)
    choices: dict[str, list[tuple[str, ...]]] = {}
    for key, way in book.ways.items():
        if way.is_open(wanted):
            choices.setdefault(way.choice, [()]).append((key,))
    found = [tuple(sorted(sum(taken, ()))) for taken in product(*choices.values())]
    return sorted(found, key=len)[:MOST_ROADS]


def lockout_ways(book: EngineBook, scope: Collection[str]) -> list[str]:
    """The ways on which phasers of a scope are locked out instead of renewed."""
    return [k for k, w in book.ways.items() if w.locks_out and w.is_open(set(scope))]


def road_name(book: EngineBook, ways: Iterable[str]) -> str:
    """A road by its ways; the book's usual one by its own name."""
    return ", ".join(book.ways[w].name for w in ways) or book.usual_way


def usual_plan(book: EngineBook, scope: Sequence[str], kept: Collection[str] = ()) -> Plan | None:
    """The plan a road falls back on; None where the usual way is not lawful."""
    try:
        return make_plan(book, scope, kept, is_quick=True)
    except PlanError:
        return None


def road_of(
    book: EngineBook,
    plan: Plan,
    usual: Plan | None,
    owned: Collection[str] | None = None,
    wanted: Collection[str] | None = None,
) -> Road:
    """What a plan is as a road beside the usual one; ``wanted`` is the scope that was asked for.
    Raises PlanError for a road that may have to fall back on one that is not lawful.
    """
    adds = [] if wanted is None else [c for c in plan.scope if c not in wanted]
    ways = [book.ways[w] for w in plan.ways]
    dangers = [_danger(risk, usual) for way in ways for risk in way.risks]
    lost_minutes = sum(d.chance * d.minutes for d in dangers)
    lost_price = sum(d.chance * d.price for d in dangers)
    kit = book.kits.get(plan.kit)
    return Road(
        ways=plan.ways,
        kit=plan.kit,
        name=road_name(book, plan.ways)
        + (ALL_OF_IT if adds else "")
        + (f"; {within(kit.name)}" if kit else ""),
        text=" ".join(way.text for way in ways),
        scope=plan.scope,
        adds=[book.components[c].name for c in adds],
        minutes=plan.minutes,
        low_minutes=plan.low_minutes,
        high_minutes=plan.high_minutes,
        elapsed_minutes=plan.elapsed_minutes,
        price=plan.price,
        expected_minutes=plan.minutes + lost_minutes,
        expected_price=plan.price + lost_price,
        helper_minutes=sum(s.minutes for s in plan.helper),
        helper_stretches=len(plan.helper),
        steps=len(plan.steps),
        tools=plan.tools,
        tools_missing=_missing(plan.tools, owned),
        dangers=dangers,
        loses=[words for way in ways for words in way.loses],
        weakness=kit.weakness if kit else [],
        untouched=_untouched(book, plan),
        needs_lead=any(way.needs_lead for way in ways),
        is_usual=not plan.ways and not adds and not plan.kit,
    )


def _missing(tools: Iterable[str], owned: Collection[str] | None) -> list[str]:
    """Tools that the shop does not own; none where nobody said."""
    mine = None if owned is None else {within(name) for name in owned}
    return [] if mine is None else [tool for tool in tools if within(tool) not in mine]


def is_worse(road: Road, other: Road) -> bool:
    """Whether a road is no better than another in any respect, and worse in one. What it loses,
    what can gravely go wrong on it and what is known against its parts count as respects of their
    own.
    """
    mine, theirs = _respects(road), _respects(other)
    no_better = all(a >= b for a, b in zip(mine, theirs, strict=True))
    mine_lost, theirs_lost = ({*r.loses, *r.weakness} for r in (road, other))
    loses_as_much = mine_lost >= theirs_lost
    lacks_as_much = set(road.tools_missing) >= set(other.tools_missing)
    is_other = (
        mine != theirs or mine_lost != theirs_lost or road.tools_missing != other.tools_missing
    )
    return no_better and loses_as_much and lacks_as_much and is_other


def _respects(road: Road) -> tuple[float, ...]:
    return (
        road.minutes,
        road.expected_minutes,
        road.elapsed_minutes,
        road.price,
        road.expected_price,
        road.helper_minutes,
        road.helper_stretches,
        sum(d.chance for d in road.dangers if d.is_grave),
        float(road.needs_lead),
        -float(len(road.adds)),
    )


def _danger(risk: Risk, usual: Plan | None) -> Danger:
    if risk.falls_back and usual is None:
        raise PlanError(
            "This road may have to fall back on one that is not lawful.",
            read=risk.what,
            expected="a usual way that is lawful for the same scope",
            advice="Mend the engine book.",
        )
    return Danger(
        what=risk.what,
        chance=risk.chance,
        minutes=risk.minutes + (usual.minutes if usual and risk.falls_back else 0.0),
        price=risk.price,
        is_grave=risk.is_grave,
    )


def _untouched(book: EngineBook, plan: Plan) -> list[str]:
    """Parts of the drive that wear and are neither renewed nor lifted off."""
    return [
        c.name
        for key, c in book.components.items()
        if c.part and c.renewable and key not in plan.access
    ]


def _difference(plan: Plan, other: Plan) -> RoadDifference:
    mine = {s.ref: s.title for s in plan.steps}
    theirs = {s.ref: s.title for s in other.steps}
    return RoadDifference(
        only_here=[t for ref, t in mine.items() if ref not in theirs],
        only_there=[t for ref, t in theirs.items() if ref not in mine],
    )
