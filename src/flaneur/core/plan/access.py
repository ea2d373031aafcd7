"""What must come off to reach the parts, and nothing more."""

from collections.abc import Iterable

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError


def closed_set(book: EngineBook, scope: Iterable[str]) -> list[str]:
    """Smallest set of components that contains ``scope`` and is closed under the book's rules, in
    book order.

    Rules: what covers a part comes off with it; what the book renews together goes together; what
    cannot be lifted alone brings along what comes with it; a one-use part is renewed when anything
    it is covered by comes off. Raises PlanError for a component the book does not know.
    """
    wanted = list(scope)
    unknown = [c for c in wanted if c not in book.components]
    if unknown:
        raise PlanError(
            "The plan names parts this engine does not have.",
            read=", ".join(unknown),
            expected=f"components of {book.name}",
            advice="Choose from the list of the book.",
        )
    found: set[str] = set()
    open_list = wanted
    while open_list:
        component = open_list.pop()
        if component in found:
            continue
        found.add(component)
        known = book.components[component]
        open_list += known.covered_by + known.renew_with + known.comes_with
        open_list += [
            k for k, c in book.components.items() if c.one_use and component in c.covered_by
        ]
    return [key for key in book.components if key in found]


def renewed_set(book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()) -> list[str]:
    """Components that get new parts: the scope but for what is ``kept``, what the book renews with
    it, and one-use parts that come off.
    """
    removed, wanted = closed_set(book, scope), set(scope) - set(kept)
    together: set[str] = set()
    pending = list(wanted)
    while pending:
        component = pending.pop()
        if component not in together:
            together.add(component)
            pending += book.components[component].renew_with
    return [c for c in removed if c in together or book.components[c].one_use]
