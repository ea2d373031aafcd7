"""What a plan buys: parts one by one, or a kit with what is missing beside it."""

from collections import Counter
from collections.abc import Collection

from flaneur.core.book.kits import Kit, Maker
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError
from flaneur.core.plan.parts import Part
from flaneur.core.plan.plan import Plan
from flaneur.core.wording import counted


def bought_as(book: EngineBook, plan: Plan, kit: str = "") -> Plan:
    """A plan whose parts are bought so: one by one (none), or in this kit of the book with the
    rest beside it. Raises PlanError for a kit the book has not, or that holds nothing of use.
    """
    if not kit:
        return plan
    if kit not in book.kits:
        raise PlanError(
            "The book has no such kit.", read=kit, expected=", ".join(book.kits) or "no kit at all"
        )
    held = book.kits[kit]
    if kit not in useful_kits(book, plan):
        raise PlanError(
            f"{held.name} holds nothing that this plan needs.",
            read=kit,
            expected=", ".join(useful_kits(book, plan)) or "parts bought one by one",
        )
    parts = _parts(plan, kit, held)
    price = sum(p.price * p.count for p in parts)
    return plan.model_copy(update={"kit": kit, "parts": parts, "price": price})


def useful_kits(book: EngineBook, plan: Plan) -> list[str]:
    """Kits of the book that hold something the plan needs."""
    wanted = {p.key for p in plan.parts}
    return [key for key, kit in book.kits.items() if wanted & set(kit.holds)]


def kit_of(book: EngineBook, scope: Collection[str], made_by: Maker) -> str:
    """The kit of such a maker that saves most against the components of a scope bought one by one;
    none, where the book has none that saves anything.
    """
    saves = {
        key: sum(book.components[c].price for c in kit.holds if c in scope) - kit.price
        for key, kit in book.kits.items()
        if kit.made_by == made_by
    }
    best = max(saves, key=saves.__getitem__, default="")
    return best if best and saves[best] > 0 else ""


def needed(plan: Plan) -> Counter[str]:
    """New parts of a plan that is bought one by one, by the ids of components and fasteners."""
    found: Counter[str] = Counter()
    for part in plan.parts:
        found[part.key] += part.count
    return found


def _parts(plan: Plan, key: str, kit: Kit) -> list[Part]:
    """The kit, and what of the plan it has too few of."""
    left = Counter(kit.holds)
    beside: list[Part] = []
    for part in plan.parts:
        taken = min(part.count, left[part.key])
        left[part.key] -= taken
        if part.count > taken:
            beside.append(part.model_copy(update={"count": part.count - taken}))
    holds = counted(sum((needed(plan) & Counter(kit.holds)).values()), "part")
    return [
        Part(key=key, item=kit.name, name=kit.name, count=1, price=kit.price, why=f"for {holds}"),
        *beside,
    ]
