"""Parts to have ready for a plan: what is chosen, what is used once, what the book renews with it,
and what a revised part needs beside it.
"""

from collections.abc import Collection, Iterable

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.revised import revised_bolts
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Fastener
from flaneur.core.fasteners.program import size_words


class Part(BaseModel):
    """A part to have ready; ``key`` is its component's or fastener's in the book. ``why``: chosen,
    one-use, or renewed with; ``item``: its name on a shelf, without what it is of. ``size`` and
    ``holes`` tell bolts apart; ``first``: why it is ordered before the engine is opened.
    """

    model_config = ConfigDict(frozen=True)

    key: str = ""
    item: str = ""
    name: str
    count: int
    price: float
    why: str
    size: str = ""
    holes: str = ""
    first: str = ""


def parts_of(
    book: EngineBook, scope: Collection[str], renewed: Collection[str], access: Iterable[str]
) -> list[Part]:
    """Every new part of a plan, one by one."""
    again = set(renewed)
    parts: list[Part] = []
    for key in renewed:
        component = book.components[key]
        why = "chosen" if key in scope else "one-use" if component.one_use else "renewed with it"
        parts.append(
            Part(
                key=key,
                item=component.name,
                name=component.name,
                count=1,
                price=component.price,
                why=why,
                first=component.revised.why if component.revised else "",
            )
        )
    for key in access:
        component = book.components[key]
        new = set(revised_bolts(book, key)) if key in again else set[str]()
        parts += [
            _bolts(component.name, f, book.fasteners[f], f in new)
            for f in component.fasteners
            if book.fasteners[f].one_use or f in new
        ]
    return parts


def _bolts(of: str, key: str, fastener: Fastener, is_another: bool) -> Part:
    return Part(
        key=key,
        item=fastener.name,
        name=f"{fastener.name} ({of})",
        count=fastener.count,
        price=fastener.price,
        why="the revised part needs them" if is_another else "one-use",
        size=size_words(fastener).strip(" ()"),
        holes=fastener.holes or "",
        first=f"{of} does not hold with the old ones." if is_another else "",
    )
