"""What happens within a step before it is answered: bolts brought to a stage one by one, and timers
that run while something soaks or cures.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

from flaneur.core.errors import ErrorCode, StepError
from flaneur.core.plan.steps import AskedKind, PlanStep


class EventKind(StrEnum):
    """What may happen within a step: a bolt brought to a stage, a timer begun, a bolt's trace,
    something else fitted than the book's own fastener, a burst of the starter.
    """

    BOLT = "bolt"
    TIMER = "timer"
    TRACE = "trace"
    FITTED = "fitted"
    BURST = "burst"


WAITING = "waiting"
LONGEST_AGO = timedelta(days=14)


@dataclass(frozen=True)
class Event:
    """One thing that happened within a step; ``answered`` times the step had been answered."""

    step: str
    answered: int
    kind: EventKind
    item: str
    number: int
    by: str
    at: datetime


def bolts_done(events: Sequence[Event], question: int) -> int:
    """How many bolts were brought to a stage; ``question`` is its place among what is asked."""
    return sum(e.kind is EventKind.BOLT and e.item == str(question) for e in events)


def next_bolts(step: PlanStep, events: Sequence[Event], item: str, number: int) -> list[int]:
    """Bolts that are brought to a stage: ``number``, or for 0 all that are left. Raises StepError
    for another than the next of the pattern, or a stage before its turn.
    """
    place = int(item) if item.isdecimal() else -1
    asked = step.asked[place] if 0 <= place < len(step.asked) else None
    if asked is None or asked.stage is None:
        raise StepError("The step has no such stage.", read=item, expected="a stage of its bolts")
    count, done = bolts_of(step, asked.fastener), bolts_done(events, place)
    for earlier, other in enumerate(step.asked[:place]):
        is_before = other.stage is not None and other.fastener == asked.fastener
        if is_before and bolts_done(events, earlier) < count:
            raise StepError(
                f"“{other.ask}” comes first.",
                read=asked.ask,
                expected=f"all {count} through the stage before",
            )
    if done >= count:
        raise StepError("Every bolt is through this stage.", read=f"bolt {number} of {count}")
    if number not in (0, done + 1):
        raise StepError(
            f"Bolt {done + 1} comes next.",
            read=f"bolt {number} of {count}",
            expected=f"bolt {done + 1}, in the order of the pattern",
        )
    return [number] if number else list(range(done + 1, count + 1))


def next_burst(step: PlanStep, events: Sequence[Event], at: datetime) -> int:
    """The number of a burst begun now. Raises StepError where the step has none, the last one rests
    still, or there were as many as it may take.
    """
    if step.bursts is None:
        raise StepError("This step has no bursts.", read=step.title, expected="priming the oil")
    done = [e.at for e in events if e.kind is EventKind.BURST]
    if len(done) >= step.bursts.most:
        raise StepError(
            "No further burst: the oil does not come.",
            read=f"{len(done)} bursts",
            expected=f"{step.bursts.most} at most",
            advice=step.remedy,
        )
    rests_until = (
        max(done) + timedelta(seconds=step.bursts.crank_s + step.bursts.rest_s) if done else at
    )
    if at < rests_until - timedelta(seconds=1):
        left = math.ceil((rests_until - at).total_seconds())
        raise StepError(
            "The starter rests.",
            read=f"{left} s are left",
            expected=f"{step.bursts.rest_s:g} s between two bursts",
        )
    return len(done) + 1


def fastener_of(item: str) -> str:
    """The fastener in whose place something is fitted: its id stands first, the code after it."""
    return item.partition(" ")[0]


def chosen(events: Sequence[Event]) -> dict[str, str]:
    """What is fitted in place of the book's own, by fastener: the item names both."""
    items = [e.item for e in events if e.kind is EventKind.FITTED]
    return {fastener_of(item): item.partition(" ")[2] for item in items}


def fits(step: PlanStep, events: Sequence[Event], item: str) -> None:
    """Check that something else is fitted. Raises StepError for what the book does not know, and
    once a bolt of it was tightened.
    """
    known = {f"{f.fastener} {f.code}": f for f in step.fitted}
    if item not in known:
        raise StepError(
            "The book knows no such bolt.", read=item, expected=", ".join(known) or "its own"
        )
    places = {str(i) for i, a in enumerate(step.asked) if a.fastener == known[item].fastener}
    if any(e.kind is EventKind.BOLT and e.item in places for e in events):
        raise StepError(
            "Its program has begun.",
            read=known[item].name,
            expected="what is fitted said before the first bolt is tightened",
            advice="Take the last bolts back first.",
        )


def stop_gap(step: PlanStep) -> StepError | None:
    """Why a step is held where a stop-gap is fitted (code ``step_held``); None where none is."""
    names = [f.name for f in step.fitted if f.is_chosen and f.is_stop_gap]
    if not names:
        return None
    return StepError(
        f"A stop-gap is fitted: {', '.join(names)}.",
        read=", ".join(names),
        expected="a new one by the book's program",
        advice="Fit a new one. A lead alone leaves it so, for a written reason.",
        code=ErrorCode.STEP_HELD,
    )


def bolts_of(step: PlanStep, fastener: str | None) -> int:
    """How many of a fastener a step has."""
    return next(
        (
            a.expected or 1
            for a in step.asked
            if a.kind is AskedKind.COUNT and a.fastener == fastener
        ),
        1,
    )


def begun_at(said: datetime | None, now: datetime) -> datetime:
    """When a waiting was begun: now, or earlier as it was said. Raises StepError for a time that
    cannot be.
    """
    if said is None:
        return now
    if said > now + timedelta(minutes=2) or said < now - LONGEST_AGO:
        raise StepError(
            "Nothing can have begun then.",
            read=f"{said:%Y-%m-%d %H:%M %Z}",
            expected=f"at most {LONGEST_AGO.days} days ago, and not ahead of {now:%H:%M %Z}",
            advice="Look at the tablet's clock.",
        )
    return min(said, now)


def still_waiting(
    step: PlanStep, events: Sequence[Event], said: datetime | None, now: datetime
) -> StepError | None:
    """Why a step's waiting is not over (code ``step_held``), None where it is: ``said`` is when it
    was begun, where no timer was. Raises StepError for a time that cannot be.
    """
    if not step.waiting:
        return None
    timer = next((e.at for e in events if e.kind is EventKind.TIMER), None)
    begun = timer or (begun_at(said, now) if said else None)
    whole = f"{step.waiting:g} min" if step.waiting < 180 else f"{step.waiting / 60:g} h"
    if begun is None:
        return StepError(
            "Nobody said when it was begun.",
            read="no timer",
            expected=f"{whole} of waiting",
            advice="Begin the timer, or write when it was begun.",
            code=ErrorCode.STEP_HELD,
        )
    over = begun + timedelta(minutes=step.waiting)
    if over <= now:
        return None
    left = math.ceil((over - now).total_seconds() / 60)
    return StepError(
        f"It is not over yet: {left} min are left.",
        read=f"begun {begun:%H:%M %Z}",
        expected=f"{whole}, until {over:%H:%M %Z}",
        advice="Other work may go on meanwhile; the timer runs.",
        code=ErrorCode.STEP_HELD,
    )
