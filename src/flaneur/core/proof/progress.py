"""Where a job stands and what to do next."""

from dataclasses import dataclass
from typing import Literal

STAGES = ("intake", "readings", "verdict", "plan", "bench", "proof", "handover")


def reading_phase(bench_started: bool) -> Literal["before", "after"]:
    """What a reading of the engine tells of: once its repair has begun, of the engine after it."""
    return "after" if bench_started else "before"


@dataclass(frozen=True)
class JobFacts:
    """What is known of a job's course; counts of steps and readings. ``captured_after``: every cam
    was read again.

    ``stopped``: a hard stop stands whose cause nobody has written; ``pins_missing``: put in and not
    counted out; ``marks_missed``: after turning.
    """

    has_complaint: bool
    readings_before: int
    has_plan: bool
    bench_started: bool
    steps_total: int
    steps_done: int
    next_step: str | None
    turned_by_hand: bool
    captured_after: bool
    can_capture: bool
    released: bool
    signed: bool
    stopped: bool = False
    pins_missing: int = 0
    marks_missed: bool = False


@dataclass(frozen=True)
class NextAction:
    """The stage a job is in (``done`` when signed) and the next thing to do, in words."""

    stage: str
    words: str


def next_action(facts: JobFacts) -> NextAction:
    """The first thing on the way to a signed report that is still missing."""
    if facts.signed:
        return NextAction("done", "Signed. Report and record are frozen.")
    if facts.released:
        return NextAction("handover", "A lead reads the report and signs it.")
    if facts.stopped:
        behind = ", and open the step behind it again" if facts.steps_done else ""
        return NextAction("bench", f"Do not turn on. Write what stopped the crank{behind}.")
    if facts.bench_started:
        if facts.steps_done < facts.steps_total:
            return NextAction(
                "bench", f"Step {facts.steps_done + 1} of {facts.steps_total}: {facts.next_step}."
            )
        if not facts.turned_by_hand:
            return NextAction("proof", "Turn two crank turns by hand and count the pins out.")
        if facts.pins_missing:
            return NextAction(
                "bench",
                f"Pins and holders not accounted for: {facts.pins_missing}. Find them before "
                "anything turns.",
            )
        if facts.marks_missed:
            return NextAction(
                "bench", "Marks were missed after turning. Open the step they rest on again."
            )
        if not facts.captured_after:
            words = (
                "Take a second capture with the engine running."
                if facts.can_capture
                else "Read every cam again by its marks and type it in."
            )
            return NextAction("proof", words)
        return NextAction("proof", "Release the engine, or mend what stands in the way.")
    if facts.has_plan:
        return NextAction("plan", "Get parts and tools ready, then start on the bench.")
    if facts.readings_before:
        return NextAction("verdict", "Read the verdict and choose what to renew.")
    if facts.has_complaint:
        words = (
            "Take a capture of crank and cam signals."
            if facts.can_capture
            else "Read the engine by its marks, lash and lengths."
        )
        return NextAction("readings", words)
    return NextAction("intake", "Write down the complaint.")
