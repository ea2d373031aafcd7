"""A book compiled once: what follows from it alone, worked out at first need and kept with it."""

from dataclasses import dataclass
from functools import cached_property, lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.view import ClearanceView, TouchMap, clearance_view, touch_map
from flaneur.core.drive.facts import PartFacts, part_facts
from flaneur.core.drive.train import DriveTrain

BOOKS_KEPT, MAPS_KEPT = 32, 64


@dataclass(frozen=True)
class Engine:
    """A book and what follows from it. Two are equal when their books are."""

    book: EngineBook

    @cached_property
    def train(self) -> DriveTrain:
        """The drive train of the book."""
        return DriveTrain(self.book)

    @cached_property
    def facts(self) -> list[PartFacts]:
        """What the book says of every part."""
        return part_facts(self.book)

    @cached_property
    def clearance(self) -> ClearanceView:
        """Where valves can touch, and where the crank may be turned."""
        return clearance_view(self.book)


@lru_cache(maxsize=BOOKS_KEPT)
def compiled(book: EngineBook) -> Engine:
    """The compiled engine of a book, one for each content."""
    return Engine(book)


@lru_cache(maxsize=MAPS_KEPT)
def touch_map_of(book: EngineBook, cam: str | None) -> TouchMap:
    """The touch map of a cam, or of any."""
    return touch_map(book, cam)
