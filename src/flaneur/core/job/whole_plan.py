"""A plan with all that is asked of it: roads, position, what is at hand, what else could be
renewed, what it costs, and its marks and counts.
"""

from collections.abc import Collection, Iterable, Sequence
from datetime import date

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.estimate import Estimate, estimate
from flaneur.core.decision.rates import Rates
from flaneur.core.plan.answer import PlanAnswer, answer
from flaneur.core.plan.cheat import Cheat, cheat_of
from flaneur.core.plan.offers import Offer, offers
from flaneur.core.stores.at_hand import AtHand, at_hand, tools_of
from flaneur.core.stores.lists import Stores


class WholePlan(PlanAnswer):
    """The plan's answer, held against the shop's lists and rates."""

    at_hand: AtHand
    offers: list[Offer]
    estimate: Estimate
    cheat: Cheat


def whole_plan(
    book: EngineBook,
    scope: Sequence[str],
    today: date,
    kept: Collection[str] = (),
    ways: Iterable[str] = (),
    kit: str = "",
    now: str = "unknown",
    lean_deg: float = 0.0,
    stores: Stores | None = None,
    rates: Rates | None = None,
) -> WholePlan:
    """Everything about a scope on a day; lists that nobody gave are not known. Raises PlanError."""
    stores, rates = stores or Stores(), rates or Rates()
    found = answer(book, scope, kept, ways, now, lean_deg, tools_of(stores), kit)
    at = at_hand(book, found, found.ready, stores, today, rates.hours_a_day)
    return WholePlan(
        **{name: getattr(found, name) for name in PlanAnswer.model_fields},
        at_hand=at,
        offers=offers(book, found.scope, found.kept, found.ways),
        estimate=estimate(book, found, found.road, found.roads, rates, at.starts_on),
        cheat=cheat_of(book, found),
    )
