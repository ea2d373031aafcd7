"""What stands fast while plans of a book are walked: its clearance, its chains, who drives whom."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Task
from flaneur.core.drive.train import DriveTrain
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.loose import LooseCams
from flaneur.core.plan.position import Position


class Ground:
    """One book as plans of it are walked. Without clearance data every turn with a loose cam is
    taken to touch.
    """

    def __init__(self, book: EngineBook) -> None:
        self.book = book
        self.loose = LooseCams(book) if book.clearance is not None else None
        self.chains = {
            key: [c for c, part in book.components.items() if part.part == key]
            for key in book.chains
        }
        train = DriveTrain(book)
        self.timed = frozenset(c for c in train.chains if train.times_cams(c))

    def held_driven(self, position: Position) -> list[str]:
        """Cams that a tool holds while the crank drives them: then nothing turns."""
        return sorted(set(position.held) - self.free_cams(position))

    def free_cams(self, position: Position) -> set[str]:
        """Cams that nothing ties to the crank."""
        if self.loose is None:
            return set(self.book.cams) if position.loose & self.timed else set()
        return {cam for group in self.loose.groups(position) for cam in group}

    def position_of(self, chain: str) -> float:
        """Crank angle at which a chain is timed: its marks' own, or the service position."""
        for mark in self.book.marks.values():
            is_on = mark.is_timing and mark.wheel in self.book.chains[chain].loop
            if is_on and mark.at_deg is not None:
                return mark.at_deg
        return self.book.service_position.crank_deg


def task_of(book: EngineBook, ref: str) -> Task | None:
    """The task behind a step; None for a torque step, which is made of its fasteners."""
    verb, key = StepRef.of(ref)
    if verb is Verb.OPERATION:
        return book.operations[key]
    component = book.components[key]
    return {Verb.REMOVE: component.remove, Verb.FIT: component.fit}.get(verb)


def makers_word(book: EngineBook, ref: str) -> str | None:
    """What the maker says of valves that touch in a step; fitting speaks for the bolts too."""
    task = task_of(book, ref) or book.components[StepRef.of(ref).key].fit
    return task.maker_touches
