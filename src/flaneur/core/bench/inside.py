"""What was laid into the engine by hand, beside what the plan puts in: counted in, counted out, and
nothing turns while a count is open.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import on_ways
from flaneur.core.errors import StepError
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.plan.tour import toured
from flaneur.core.plan.wording import inside_words
from flaneur.core.wording import counted

MOST_AT_ONCE = 50


class LaidPiece(StrEnum):
    """What people lay into an engine and forget."""

    RAG = "rag"
    PIN = "pin"
    WEDGE = "wedge"
    HOLDER = "holder"
    LOCK = "lock"
    PLUG = "plug"
    MAGNET = "magnet"


@dataclass(frozen=True)
class Laid:
    """One line of the count: ``count`` pieces put in at a place, or taken out (negative)."""

    piece: LaidPiece
    place: str
    count: int
    by: str
    at: datetime


def still_in(lines: Sequence[Laid]) -> list[Laid]:
    """What is still in, by piece and place, in the order it was first put in; by whom and when it
    was put in last.
    """
    there: dict[tuple[LaidPiece, str], Laid] = {}
    for line in lines:
        key = (line.piece, line.place.casefold())
        had = there.get(key)
        if had is None:
            there[key] = line
        elif line.count > 0:
            there[key] = replace(had, count=had.count + line.count, by=line.by, at=line.at)
        else:
            there[key] = replace(had, count=had.count + line.count)
    return [line for line in there.values() if line.count > 0]


def counts(lines: Sequence[Laid], piece: LaidPiece, place: str, count: int) -> None:
    """Check a line before it is written. Raises StepError for a count that cannot be."""
    if not 0 < abs(count) <= MOST_AT_ONCE:
        raise StepError(
            "That many cannot be right.", read=str(count), expected=f"1 to {MOST_AT_ONCE} pieces"
        )
    if count > 0:
        return
    held = next(
        (
            e.count
            for e in still_in(lines)
            if e.piece is piece and e.place.casefold() == place.casefold()
        ),
        0,
    )
    if -count > held:
        raise StepError(
            "More came out than went in.",
            read=f"{counted(-count, str(piece))} out of {place}",
            expected=f"{held} at most: so many were counted in",
            advice="Count again. What went in uncounted is counted in first.",
        )


def said(line: Laid) -> str:
    """A line in the words of the bench: “2 rags, front cover”."""
    return f"{counted(abs(line.count), str(line.piece))}, {line.place}"


def list_words(lines: Sequence[Laid]) -> str:
    """Everything still in, in one line."""
    return "; ".join(said(line) for line in lines)


def turns_crank(book: EngineBook, ref: str) -> bool:
    """Whether a step turns the crank, if only to bolts that show one after another. One that the
    book does not know may turn it.
    """
    verb, key = StepRef.of(ref)
    if key not in (book.operations if verb is Verb.OPERATION else book.components):
        return True
    if toured(book, ref):
        return True
    if verb is Verb.OPERATION:
        effects = book.operations[key].effects
    elif verb is Verb.TORQUE:
        return False
    else:
        component = book.components[key]
        effects = (component.remove if verb is Verb.REMOVE else component.fit).effects
    return bool(
        effects.crank_to_deg is not None or effects.crank_by_deg is not None or effects.full_turns
    )


def put_in_by_plan(book: EngineBook, plan: Plan | None, closed: Collection[str]) -> list[str]:
    """What the plan has in the engine where its closed steps end, in words."""
    last = None
    for step in plan.steps if plan else []:
        if step.ref not in closed:
            break
        last = step
    return inside_words(book, last.state) if last and last.state else []


def turning_steps(book: EngineBook, plan: Plan | None) -> list[str]:
    """Steps of a plan that turn the crank."""
    if plan is None:
        return []
    there = on_ways(book, tuple(plan.ways))
    return [s.ref for s in plan.steps if turns_crank(there, s.ref)]


def must_be_counted_out(
    book: EngineBook, plan: Plan | None, step: PlanStep, laid: Sequence[Laid]
) -> None:
    """Raise StepError for a step that turns the crank while something laid in is still there.
    Nobody may leave it so.
    """
    if laid and step.ref in turning_steps(book, plan):
        raise StepError(
            "Do not turn: the count is open.",
            read=f"still in the engine: {list_words(laid)}",
            expected="everything counted out before the crank turns",
            advice="Take it out and count it out, at “In the engine”.",
        )
