"""Whether a book says of its fasteners what can be: places, lengths, where they show."""

import math
from collections.abc import Iterator
from itertools import combinations

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Component, Fastener
from flaneur.core.errors import Fault

CLOSEST_MM = 12.0


def bolt_faults(book: EngineBook, path: str, fastener: Fastener) -> Iterator[Fault]:
    """Each has a place of its own, a length it can have, and a crank angle where it shows."""
    there, count = fastener.places, fastener.count
    if fastener.shows and len(fastener.shows.at_deg) != count:
        yield Fault(f"{path}.shows.at_deg", f"{len(fastener.shows.at_deg)} angles", f"{count}")
    if there is None:
        return
    if len(there.at_mm) != count:
        yield Fault(f"{path}.places.at_mm", f"{len(there.at_mm)} places", f"{count}")
    close = [
        f"{i} and {j}"
        for (i, one), (j, other) in combinations(enumerate(there.at_mm, 1), 2)
        if math.dist(one, other) < CLOSEST_MM
    ]
    if close:
        yield Fault(f"{path}.places.at_mm", f"{close[0]} touch", f"{CLOSEST_MM:g} mm apart")
    long = set(there.long)
    if long - set(range(1, count + 1)) or bool(long) != (len(fastener.lengths_mm) > 1):
        yield Fault(
            f"{path}.places.long",
            str(there.long),
            f"numbers from 1 to {count} where lengths_mm has two, none where it has one",
        )
    if there.plane is not None and there.plane not in book.planes:
        yield Fault(f"{path}.places.plane", f"no drive plane is called {there.plane}")


def shown_faults(book: EngineBook, path: str, component: Component) -> Iterator[Fault]:
    """One kind of a component's fasteners shows one by one: a tour is of one kind."""
    toured = [f for f in component.fasteners if f in book.fasteners and book.fasteners[f].shows]
    if len(toured) > 1:
        yield Fault(f"{path}.fasteners", f"{', '.join(toured)} have angles", "one kind of them")
