"""The way back from a condition of release that is not met to the step behind it."""

from collections.abc import Iterator

from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.keys import Contact
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep


def step_of_marks(plan: Plan, tally: Tally, book: EngineBook, cam: str | None) -> PlanStep | None:
    """The last closed step in which a mark of a chain was read: of one that runs to this cam, or of
    any.
    """
    return _last(
        step
        for step in plan.steps
        if step.ref in tally.done
        and any(
            asked.contact and (cam is None or _shaft(book, asked.contact) == cam)
            for asked in step.asked
        )
    )


def step_of_pins(plan: Plan, tally: Tally) -> PlanStep | None:
    """The last closed step in which a pin, a holder or a lock went in."""
    return _last(
        step
        for step in plan.steps
        if step.ref in tally.done and any(seen.pins > 0 for seen in tally.done[step.ref].seen)
    )


def step_of_departure(plan: Plan, tally: Tally) -> PlanStep | None:
    """The first step that was left as it is."""
    left = {record.step for record in tally.departures}
    return next((step for step in plan.steps if step.ref in left), None)


def _shaft(book: EngineBook, contact: str) -> str | None:
    sprocket = book.sprockets.get(Contact.of(contact).sprocket)
    return sprocket.shaft if sprocket else None


def _last(steps: Iterator[PlanStep]) -> PlanStep | None:
    return next(iter(reversed(list(steps))), None)
