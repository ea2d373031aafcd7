"""What closes a step, in which order, what opens it again, and the words the notebook keeps."""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass

from flaneur.core.bench.answers import Seen, check_step
from flaneur.core.bench.meaning import why_it_stays_open
from flaneur.core.bench.tally import Tally
from flaneur.core.errors import StepError
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep

SHORTEST_REASON = 5
FEW = 5


@dataclass(frozen=True)
class Closing:
    """A step as it was answered: right, left as it is for a reason, or still open. ``against``:
    what else stands against it, where all was seen as it should be.
    """

    step: PlanStep
    seen: tuple[Seen, ...]
    departure: str | None
    against: tuple[str, ...] = ()

    @property
    def is_right(self) -> bool:
        """Whether everything was seen as the book wants it, and nothing stands against it."""
        return all(s.ok for s in self.seen) and not self.against

    @property
    def is_closed(self) -> bool:
        """Whether the step is closed by it."""
        return self.is_right or self.departure is not None

    def words(self, also_opened: Sequence[str]) -> str:
        """What the notebook says of it, with the titles of the steps it opened again."""
        figures = "; ".join([*(s.said for s in self.seen), *self.against])
        if self.is_right:
            said = f"{self.step.title}: done. {figures}."
        elif self.departure:
            said = (
                f"{self.step.title}: left as it is, not right. {figures}. Reason: {self.departure}"
            )
        else:
            said = f"{self.step.title}: not right. {figures}."
        return said + (f" Reopened: {', '.join(also_opened)}." if also_opened else "")


def step_of(plan: Plan | None, ref: str) -> PlanStep:
    """A step of the plan. Raises StepError when there is none of that key."""
    found = next((s for s in plan.steps if s.ref == ref), None) if plan else None
    if found is None:
        raise StepError("The plan has no such step.", read=ref, expected="a step of the plan")
    return found


def answer_step(
    plan: Plan | None,
    is_started: bool,
    done: Collection[str],
    ref: str,
    answers: list[str],
    departure: str | None,
    against: Callable[[PlanStep], list[StepError]] = lambda _: [],
) -> Closing:
    """Answer a step. With a ``departure`` (a written reason) one that is not right is left as it
    is; ``against`` tells what stands against closing it, whatever was seen. Raises StepError when
    the bench has not started, an earlier step is open, an answer cannot be read, what is off may
    not be left so by anybody, or something stands against it and no reason is given.
    """
    if plan is None or not is_started:
        raise StepError("The bench has not started.", advice="Start it from Plan.")
    step = step_of(plan, ref)
    _in_order(plan, done, step)
    seen = tuple(check_step(step, answers))
    reason = (departure or "").strip()
    if reason and len(reason) < SHORTEST_REASON:
        raise StepError(
            "The reason is too short.", read=f"“{reason}”", expected="why the step is left as it is"
        )
    is_right = all(s.ok for s in seen)
    if reason and not is_right and (open_because := why_it_stays_open(step, seen)):
        raise StepError(
            "This is not left as it is, whatever the reason.",
            read="; ".join(s.said for s in seen if not s.ok),
            expected=step.looks_right,
            advice=open_because,
        )
    held = against(step) if is_right else []
    if held and not reason:
        raise held[0]
    is_left = bool(reason) and (bool(held) or not is_right)
    words = tuple(error.message.rstrip(".") for error in held)
    return Closing(step, seen, reason if is_left else None, words)


def _in_order(plan: Plan, done: Collection[str], step: PlanStep) -> None:
    """Raise StepError when an earlier step is still open: order is what keeps valves straight."""
    for earlier in plan.steps:
        if earlier.ref == step.ref:
            return
        if earlier.ref not in done:
            raise StepError(
                f"“{earlier.title}” comes first.",
                read=step.title,
                expected=earlier.title,
                advice="Close the steps in order.",
            )


def closed_step(plan: Plan | None, tally: Tally, ref: str) -> PlanStep:
    """A closed step, to be opened again. Raises StepError when there is none, or it is open."""
    step = step_of(plan, ref)
    if step.ref not in tally.done:
        raise StepError("This step is open.", read=step.title, expected="a closed step")
    return step


def opened_words(plan: Plan, step: PlanStep, opened: Collection[str], why: str) -> str:
    """What the notebook says of a step opened again, with those that rested on it."""
    titles = [s.title for s in plan.steps if s.ref in opened and s.ref != step.ref]
    return f"{step.title}: opened again, because {why.rstrip('.')}.{_with_it(titles)}"


def _with_it(titles: list[str]) -> str:
    if len(titles) > FEW:
        return (
            f" With it the {len(titles)} steps that rest on it, from {titles[0]} to {titles[-1]}."
        )
    return f" With it: {', '.join(titles)}." if titles else ""
