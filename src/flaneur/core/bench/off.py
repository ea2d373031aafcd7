"""What a part that came off is measured by: it closes the loop on the verdict."""

from dataclasses import dataclass

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import on_ways
from flaneur.core.keys import StepRef, Verb
from flaneur.core.measuring.kinds import MEASURED_OFF, ReadingKind
from flaneur.core.measuring.sheets import reading_name, sheet_of
from flaneur.core.plan.plan import Plan


@dataclass(frozen=True)
class Measure:
    """A worksheet for a part that lies on the bench, by what it is called."""

    kind: ReadingKind
    part: str
    title: str


def measures_of(book: EngineBook, ref: str) -> list[Measure]:
    """What the part a step takes off is measured by; none where it takes none off."""
    verb, key = StepRef.of(ref)
    part = book.components[key].part if verb is Verb.REMOVE else None
    if part is None:
        return []
    return [
        Measure(kind, part, reading_name(book, kind, part))
        for kind in MEASURED_OFF
        if part in {p.id for p in sheet_of(book, kind).parts}
    ]


def measures_of_plan(book: EngineBook, plan: Plan | None) -> dict[str, list[Measure]]:
    """The same of every step of a plan that has any."""
    there = on_ways(book, tuple(plan.ways)) if plan else book
    found = {s.ref: measures_of(there, s.ref) for s in plan.steps} if plan else {}
    return {ref: some for ref, some in found.items() if some}
