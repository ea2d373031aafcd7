"""Where a job stands and what to do next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.job.agreement import Agreed
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.hands import HandTurns
from flaneur.core.proof.ways import step_of_marks, step_of_pins
from flaneur.core.readings.counting import Kept, counting
from flaneur.core.wording import counted


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
class Step:
    """A step of the plan as the way there names it; ``number`` counts from one."""

    number: int
    title: str
    ref: str

    @property
    def words(self) -> str:
        """Number and title."""
        return f"step {self.number}: {self.title}"


@dataclass(frozen=True)
class JobFacts:
    """What is known of a job's course; counts of steps and readings. ``captured_after``: every cam
    was read again.

    ``stopped``: a hard stop stands whose cause nobody has written; ``pins_missing``: put in and not
    counted out; ``marks_missed``: after turning; ``is_agreed``: the owner said yes to the plan.
    ``hand_turns`` is how many the book asks for, ``mark_step`` the last step in which a mark was
    read, ``pin_step`` the last in which something was put in; ``is_ended`` without a repair.
    """

    has_complaint: bool
    readings_before: int
    has_plan: bool
    is_agreed: bool
    bench_started: bool
    steps_total: int
    steps_done: int
    next_step: Step | None
    hand_turns: float
    turned_by_hand: bool
    captured_after: bool
    can_capture: bool
    released: bool
    signed: bool
    stopped: bool = False
    pins_missing: int = 0
    marks_missed: bool = False
    mark_step: Step | None = None
    pin_step: Step | None = None
    is_ended: bool = False


@dataclass(frozen=True)
class NextAction:
    """The stage a job is in (``done`` when signed), the next thing to do in words, and what stands
    on the press that leads there; ``step`` is the bench's step it leads to.
    """

    stage: JobStage
    words: str
    press: str
    step: str | None = None


SIGNED = NextAction(
    JobStage.DONE, "Signed. Report and record are frozen.", "Look at the signed report"
)


def next_action(facts: JobFacts) -> NextAction:
    """The first thing on the way to a signed report that is still missing."""
    if facts.signed:
        return SIGNED
    if facts.is_ended:
        words = "Ended without a repair: a lead reads the report and signs it."
        return NextAction(JobStage.HANDOVER, words, "Read the report")
    if facts.released:
        words = "A lead reads the report and signs it."
        return NextAction(JobStage.HANDOVER, words, "Read the report")
    if facts.stopped:
        behind = ", and open the step behind it again" if facts.steps_done else ""
        words = f"Do not turn on. Write what stopped the crank{behind}."
        return NextAction(JobStage.BENCH, words, "Write what stopped the crank")
    if facts.bench_started:
        return _on_the_bench(facts)
    if facts.has_plan and not facts.is_agreed:
        words = "Show the owner the estimate, and write the go-ahead down."
        return NextAction(JobStage.PLAN, words, "To the estimate")
    if facts.has_plan:
        words = "Get parts and tools ready, then start on the bench."
        return NextAction(JobStage.PLAN, words, "See what to have ready")
    if facts.readings_before:
        words = "Read the verdict and choose what to renew."
        return NextAction(JobStage.VERDICT, words, "Read the verdict")
    if facts.has_complaint:
        words, press = (
            ("Take a capture of crank and cam signals.", "Take a capture")
            if facts.can_capture
            else ("Read the engine by its marks, lash and lengths.", "Read the engine by hand")
        )
        return NextAction(JobStage.READINGS, words, press)
    return NextAction(JobStage.INTAKE, "Write down the complaint.", "Write down the complaint")


def _on_the_bench(facts: JobFacts) -> NextAction:
    """From the first step to the release."""
    if facts.steps_done < facts.steps_total and facts.next_step:
        step = facts.next_step
        words = f"Step {step.number} of {facts.steps_total}: {step.title}."
        press = f"On to {step.words}" if facts.steps_done else f"Begin with {step.words}"
        return NextAction(JobStage.BENCH, words, press, step.ref)
    if not facts.turned_by_hand:
        turns = counted(facts.hand_turns, "crank turn")
        words = f"Turn {turns} by hand and count out what went in."
        return NextAction(JobStage.PROOF, words, "Turn it by hand")
    if facts.pins_missing:
        words = (
            f"Not accounted for: {counted(facts.pins_missing, 'piece')} that went in or were laid "
            "aside. Find them before anything turns."
        )
        return _back(words, facts.pin_step)
    if facts.marks_missed:
        words = "Marks were missed after turning. Open the step they rest on again."
        return _back(words, facts.mark_step)
    if not facts.captured_after:
        words, press = (
            ("Take a second capture with the engine running.", "Take the second capture")
            if facts.can_capture
            else ("Read every cam again by its marks and type it in.", "Read the cams again")
        )
        return NextAction(JobStage.PROOF, words, press)
    words = "Release the engine, or mend what stands in the way."
    return NextAction(JobStage.PROOF, words, "See what stands in the way of release")


def _back(words: str, step: Step | None) -> NextAction:
    """Back to a closed step; to the bench where no step stands out."""
    if step is None:
        return NextAction(JobStage.BENCH, words, "Back to the bench")
    return NextAction(JobStage.BENCH, words, f"Back to {step.words}", step.ref)


def job_facts(
    book: EngineBook,
    rows: Sequence[Kept],
    plan: Plan | None,
    tally: Tally,
    hands: HandTurns,
    intake: Mapping[str, object],
    agreed: Agreed | None,
    is_started: bool,
    is_released: bool,
    is_signed: bool,
    is_ended: bool = False,
) -> JobFacts:
    """What of a job's record decides where it stands."""
    valid = counting(rows)
    steps = plan.steps if plan else []
    read_after = {r.part for r in valid if r.phase == Phase.AFTER and r.kind == ReadingKind.CAM}
    return JobFacts(
        has_complaint=bool(intake.get("complaint")),
        readings_before=sum(r.phase == Phase.BEFORE for r in valid),
        has_plan=bool(steps),
        is_agreed=bool(agreed and plan and agreed.is_for(plan)),
        bench_started=is_started,
        steps_total=len(steps),
        steps_done=len(tally.done),
        next_step=_named(plan, next((s for s in steps if s.ref not in tally.done), None)),
        turned_by_hand=hands.turns is not None,
        captured_after=read_after >= set(book.cams),
        can_capture=book.can_be_captured,
        released=is_released,
        signed=is_signed,
        stopped=hands.is_stopped,
        pins_missing=_missing(tally, hands),
        marks_missed=not all(hands.marks.values()),
        hand_turns=book.proof.hand_turns,
        mark_step=_named(plan, plan and step_of_marks(plan, tally, book, None)),
        pin_step=_named(plan, plan and step_of_pins(plan, tally)),
        is_ended=is_ended,
    )


def _missing(tally: Tally, hands: HandTurns) -> int:
    """Pieces that went in and did not come out, once they were counted."""
    if hands.pins_out is None:
        return 0
    return abs(tally.pins_in - hands.pins_out) + sum(line.count for line in tally.laid)


def _named(plan: Plan | None, step: PlanStep | None) -> Step | None:
    if plan is None or step is None:
        return None
    return Step(plan.steps.index(step) + 1, step.title, step.ref)
