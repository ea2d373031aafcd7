"""Where a job stands and what to do next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.plan.plan import Plan
from flaneur.core.proof.release import HandTurns
from flaneur.core.readings.counting import Kept, counting


class JobStage(StrEnum):
    """The stages of a job in their order; ``DONE`` once its report is signed."""

    INTAKE = "intake"
    READINGS = "readings"
    VERDICT = "verdict"
    PLAN = "plan"
    BENCH = "bench"
    PROOF = "proof"
    HANDOVER = "handover"
    DONE = "done"


STAGES = tuple(stage for stage in JobStage if stage is not JobStage.DONE)


def reading_phase(bench_started: bool) -> Phase:
    """What a reading of the engine tells of: once its repair has begun, of the engine after it."""
    return Phase.AFTER if bench_started else Phase.BEFORE


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

    stage: JobStage
    words: str


SIGNED = NextAction(JobStage.DONE, "Signed. Report and record are frozen.")


def next_action(facts: JobFacts) -> NextAction:
    """The first thing on the way to a signed report that is still missing."""
    if facts.signed:
        return SIGNED
    if facts.released:
        return NextAction(JobStage.HANDOVER, "A lead reads the report and signs it.")
    if facts.stopped:
        behind = ", and open the step behind it again" if facts.steps_done else ""
        return NextAction(JobStage.BENCH, f"Do not turn on. Write what stopped the crank{behind}.")
    if facts.bench_started:
        if facts.steps_done < facts.steps_total:
            return NextAction(
                JobStage.BENCH,
                f"Step {facts.steps_done + 1} of {facts.steps_total}: {facts.next_step}.",
            )
        if not facts.turned_by_hand:
            return NextAction(
                JobStage.PROOF, "Turn two crank turns by hand and count the pins out."
            )
        if facts.pins_missing:
            return NextAction(
                JobStage.BENCH,
                f"Pins and holders not accounted for: {facts.pins_missing}. Find them before "
                "anything turns.",
            )
        if facts.marks_missed:
            return NextAction(
                JobStage.BENCH, "Marks were missed after turning. Open the step they rest on again."
            )
        if not facts.captured_after:
            words = (
                "Take a second capture with the engine running."
                if facts.can_capture
                else "Read every cam again by its marks and type it in."
            )
            return NextAction(JobStage.PROOF, words)
        return NextAction(JobStage.PROOF, "Release the engine, or mend what stands in the way.")
    if facts.has_plan:
        return NextAction(JobStage.PLAN, "Get parts and tools ready, then start on the bench.")
    if facts.readings_before:
        return NextAction(JobStage.VERDICT, "Read the verdict and choose what to renew.")
    if facts.has_complaint:
        words = (
            "Take a capture of crank and cam signals."
            if facts.can_capture
            else "Read the engine by its marks, lash and lengths."
        )
        return NextAction(JobStage.READINGS, words)
    return NextAction(JobStage.INTAKE, "Write down the complaint.")


def job_facts(
    book: EngineBook,
    rows: Sequence[Kept],
    plan: Plan | None,
    tally: Tally,
    hands: HandTurns,
    intake: Mapping[str, object],
    is_started: bool,
    is_released: bool,
    is_signed: bool,
) -> JobFacts:
    """What of a job's record decides where it stands."""
    valid = counting(rows)
    steps = plan.steps if plan else []
    read_after = {r.part for r in valid if r.phase == Phase.AFTER and r.kind == ReadingKind.CAM}
    return JobFacts(
        has_complaint=bool(intake.get("complaint")),
        readings_before=sum(r.phase == Phase.BEFORE for r in valid),
        has_plan=bool(steps),
        bench_started=is_started,
        steps_total=len(steps),
        steps_done=len(tally.done),
        next_step=next((s.title for s in steps if s.ref not in tally.done), None),
        turned_by_hand=hands.turns is not None,
        captured_after=read_after >= set(book.cams),
        can_capture=book.can_be_captured,
        released=is_released,
        signed=is_signed,
        stopped=hands.is_stopped,
        pins_missing=abs(tally.pins_in - hands.pins_out) if hands.pins_out is not None else 0,
        marks_missed=not all(hands.marks.values()),
    )
