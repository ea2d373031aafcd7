"""Parts that are no longer made as they were: what the new one needs beside it."""

from collections.abc import Collection, Iterator
from functools import lru_cache
from typing import TYPE_CHECKING

from flaneur.core.book.tasks import Component

if TYPE_CHECKING:
    from flaneur.core.book.schema import EngineBook

BOOKS_KEPT = 64


def with_revised(book: "EngineBook", renewed: Collection[str]) -> "EngineBook":
    """The book as it is with these components renewed: a revised part by its own name and price,
    held by the fasteners it needs, whose torque programs then hold.
    """
    changed = frozenset(k for k in renewed if book.components[k].revised)
    return _with(book, changed) if changed else book


def revised_bolts(book: "EngineBook", component: str) -> Iterator[str]:
    """Fasteners that come with the revised part alone."""
    revised = book.components[component].revised
    yield from revised.bolts.values() if revised else ()


@lru_cache(maxsize=BOOKS_KEPT)
def _with(book: "EngineBook", changed: frozenset[str]) -> "EngineBook":
    put = {key: _revised(book.components[key]) for key in changed}
    return book.model_copy(update={"components": {**book.components, **put}})


def _revised(component: Component) -> Component:
    revised = component.revised
    assert revised is not None
    return component.model_copy(
        update={
            "name": revised.name,
            "price": component.price if revised.price is None else revised.price,
            "fasteners": [revised.bolts.get(f, f) for f in component.fasteners],
        }
    )
