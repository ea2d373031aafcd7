"""While it is open: parts that could be renewed with little more, what each costs now, and what it
costs to come back for it.
"""

from collections.abc import Collection, Sequence

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import check_ways, on_ways
from flaneur.core.errors import PlanError
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.plan import effort

LITTLE = 0.25  # of the minutes of coming back for it: beyond that it is a job of its own


class Offer(BaseModel):
    """A part that is not in the plan. ``minutes`` and ``price`` are what it adds now, ``later_*``
    what a job for it alone takes, on the book's usual way. ``is_off``: it comes off anyway.
    """

    model_config = ConfigDict(frozen=True)

    component: str
    name: str
    is_off: bool
    minutes: float
    price: float
    later_minutes: float
    later_price: float


def offers(
    book: EngineBook, scope: Sequence[str], kept: Collection[str] = (), ways: Collection[str] = ()
) -> list[Offer]:
    """What could be renewed while it is open, what saves most first. Nothing of it is chosen.
    Raises PlanError for ways that cannot be gone to the scope.
    """
    check_ways(book, tuple(ways), set(scope))
    there = on_ways(book, tuple(sorted(ways)))
    off, renewed = closed_set(there, scope), {*scope, *renewed_set(there, scope, kept)}
    minutes, _, price = effort(there, scope, kept)
    found: list[Offer] = []
    for key, part in book.components.items():
        if (
            not part.renewable
            or part.one_use
            or key in renewed
            or not _goes(book, ways, scope, key)
        ):
            continue
        more, _, dearer = effort(there, [*scope, key], kept)
        later, _, later_price = effort(book, [key])
        if more - minutes <= LITTLE * later:
            found.append(
                Offer(
                    component=key,
                    name=part.name,
                    is_off=key in off,
                    minutes=max(0.0, more - minutes),
                    price=dearer - price,
                    later_minutes=later,
                    later_price=later_price,
                )
            )
    return sorted(found, key=lambda o: o.minutes - o.later_minutes)


def _goes(book: EngineBook, ways: Collection[str], scope: Sequence[str], key: str) -> bool:
    """Whether the ways can still be gone with one part more."""
    try:
        check_ways(book, tuple(ways), {*scope, key})
    except PlanError:
        return False
    return True
