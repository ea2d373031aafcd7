"""The owner's estimate: what is proposed, what it costs with its spread, what else there is, and
when it can be done. Money is in the shop's currency; what nobody priced is said, not left out.
"""

import math
from collections.abc import Sequence
from datetime import date

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.rates import Rates
from flaneur.core.plan.days import working_day
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.roads import Danger, Road, Roads


class EstimateModel(BaseModel):
    """What an estimate is made of."""

    model_config = ConfigDict(frozen=True)


class EstimateLine(EstimateModel):
    """One line of the sum: what, how much of it in words, and its price; None: nobody priced it."""

    what: str
    words: str
    price: float | None


class OtherRoad(EstimateModel):
    """Another road to the same repair, with its price all told and what speaks against it."""

    name: str
    price: float
    hours: float
    against: list[str]


class Estimate(EstimateModel):
    """An estimate. ``price`` is the sum of its lines, ``low_price`` to ``high_price`` holds it nine
    times in ten as far as working time goes; ``worse``: what may come on top, with its odds.

    ``days`` working days from ``starts_on`` to ``done_on``; both None where nobody knows when what
    it needs will be here.
    """

    road: str
    renewed: list[str]
    set_right: list[str]
    untouched: list[str]
    lines: list[EstimateLine]
    price: float
    low_price: float
    high_price: float
    hours: float
    worse: list[Danger]
    loses: list[str]
    others: list[OtherRoad]
    no_returns: list[str]
    days: int
    starts_on: date | None
    done_on: date | None
    notice: str


def estimate(
    book: EngineBook,
    plan: Plan,
    road: Road,
    others: Roads,
    rates: Rates,
    starts_on: date | None = None,
) -> Estimate:
    """The estimate of a plan that goes a road; ``others`` are all the roads there are."""
    lines = _lines(plan, rates)
    price = price_of(plan, rates)
    swing = rates.labour_per_h / 60 * (plan.high_minutes - plan.minutes)
    days = max(1, math.ceil(plan.elapsed_minutes / 60 / rates.hours_a_day))
    return Estimate(
        road=road.name,
        renewed=[book.components[c].name for c in plan.renewed],
        set_right=[book.components[c].name for c in plan.kept],
        untouched=road.untouched,
        lines=lines,
        price=price,
        low_price=max(0.0, price - swing),
        high_price=price + swing,
        hours=plan.minutes / 60,
        worse=road.dangers,
        loses=[*road.loses, *road.weakness],
        others=_others(road, others.roads, rates),
        no_returns=[f"{s.title}: {s.no_return}" for s in plan.steps if s.no_return],
        days=days,
        starts_on=starts_on,
        done_on=working_day(starts_on, days - 1) if starts_on else None,
        notice=plan.notice,
    )


def all_told(minutes: float, helper_minutes: float, parts: float, rates: Rates) -> float:
    """Work of one or two people, and parts."""
    return (minutes + helper_minutes) / 60 * rates.labour_per_h + parts


def price_of(plan: Plan, rates: Rates) -> float:
    """What a plan costs, work and parts."""
    return sum(line.price or 0.0 for line in _lines(plan, rates))


def _lines(plan: Plan, rates: Rates) -> list[EstimateLine]:
    helper = sum(s.minutes for s in plan.helper)
    rate = f"at {rates.labour_per_h:g} an hour"
    lines = [
        EstimateLine(
            what="Work",
            words=f"{plan.minutes / 60:.1f} h {rate}",
            price=all_told(plan.minutes, 0, 0, rates),
        )
    ]
    if helper:
        words = f"{helper / 60:.1f} h {rate}"
        lines.append(
            EstimateLine(what="A second person", words=words, price=all_told(helper, 0, 0, rates))
        )
    lines += [
        EstimateLine(
            what=part.name, words=f"{part.count} × {part.price:.2f}", price=part.count * part.price
        )
        for part in plan.parts
    ]
    lines += [
        EstimateLine(what=s, words="not priced by the book", price=None) for s in plan.supplies
    ]
    return lines


def _others(road: Road, roads: Sequence[Road], rates: Rates) -> list[OtherRoad]:
    return [
        OtherRoad(
            name=other.name,
            price=all_told(other.minutes, other.helper_minutes, other.price, rates),
            hours=other.minutes / 60,
            against=_against(other),
        )
        for other in roads
        if (other.scope, other.ways, other.kit) != (road.scope, road.ways, road.kit)
    ]


def _against(road: Road) -> list[str]:
    dangers = [f"{d.chance:.0%}: {d.what}" for d in road.dangers]
    return [*dangers, *road.loses, *road.weakness]
