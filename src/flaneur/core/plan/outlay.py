"""What a scope of renewal takes: working time, waiting, and the price of its parts, by the plan's
own access and order.
"""

from dataclasses import dataclass
from functools import lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.access import closed_set
from flaneur.core.plan.plan import effort

SCOPES_KEPT = 512


@dataclass(frozen=True)
class Outlay:
    """Working and waiting minutes, price of the parts, and what comes off."""

    minutes: float
    waiting_minutes: float
    price: float
    off: frozenset[str]


NOTHING = Outlay(0.0, 0.0, 0.0, frozenset())


@lru_cache(maxsize=SCOPES_KEPT)
def outlay(book: EngineBook, scope: tuple[str, ...], kept: tuple[str, ...] = ()) -> Outlay:
    """What renewing a scope takes, what is ``kept`` of it set right and not renewed. Raises
    PlanError for a part the book does not have.
    """
    if not scope:
        return NOTHING
    return Outlay(*effort(book, scope, kept), frozenset(closed_set(book, scope)))
