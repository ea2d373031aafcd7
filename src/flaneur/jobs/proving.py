"""Proving an engine: turning by hand, the cause of a hard stop, release."""

from typing import Any

from flaneur.core.errors import ReleaseError, StepError
from flaneur.core.job.change import Change
from flaneur.core.proof.release import may_release
from flaneur.core.proof.retest import open_retest
from flaneur.core.proof.turning import (
    explained,
    may_stand_alone,
    must_be_empty,
    standing_stop,
    stopped_at,
    turned,
    turned_words,
)
from flaneur.jobs.after import cold_start_is_due
from flaneur.jobs.bench import open_again
from flaneur.jobs.standing import bench_of, proof_of
from flaneur.jobs.work import Work
from flaneur.store.jobs import hands_of
from flaneur.store.plans import plan_of
from flaneur.store.tables import JournalEntry, now


def turn_by_hand(
    work: Work, typed_turns: str, hard_stop: bool, marks: dict[str, bool], pins_out: int
) -> JournalEntry:
    """Record turning by hand, the marks and the pins counted out. Raises ReleaseError."""
    must_be_empty(bench_of(work.session, work.job))
    before, at = hands_of(work.job), now().isoformat()
    hands = turned(work.book, before, typed_turns, hard_stop, marks, pins_out, work.by, at)
    work.job.hands = hands.model_dump(mode="json")
    words = turned_words(hands)
    if hard_stop:  # it stays: its entry is of a kind that undo does not take back
        return work.record(Change.HARD_STOP, words)
    return work.record(Change.HANDS, words, {"before": before.model_dump(mode="json")})


def stop_at(work: Work, typed: str) -> JournalEntry:
    """Write down where the crank stood at the hard stop that stands. Raises ReleaseError."""
    hands = stopped_at(hands_of(work.job), typed)
    work.job.hands = hands.model_dump(mode="json")
    return work.record(Change.HARD_STOP, f"Hard stop: {hands.stops[-1].felt}")


def write_cause(work: Work, ref: str | None, cause: str) -> JournalEntry:
    """Write what stopped the crank, and open the step behind it again. Afterwards the engine must
    turn clean. A stop felt before any step was closed has none behind it. Raises ReleaseError and
    StepError.
    """
    hands = hands_of(work.job)
    stop = standing_stop(hands, work.by, now().isoformat())
    words, data = _step_behind(work, ref, cause)
    work.job.hands = explained(hands, stop, cause, ref, work.by).model_dump(mode="json")
    return work.record(Change.CAUSE, f"The hard stop: {cause.rstrip('.')}. {words}", data)


def _step_behind(work: Work, ref: str | None, cause: str) -> tuple[str, dict[str, Any]]:
    """The step behind a hard stop, open from now on. Raises StepError when one is closed and none
    was named.
    """
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    step = next((s for s in plan.steps if s.ref == ref), None) if plan else None
    if step is not None and step.ref not in bench.done:
        return f"{step.title} is open.", {}
    if ref is None and may_stand_alone(bench):
        return "No step of the bench was closed yet.", {}
    if ref is None:
        raise StepError(
            "Name the step behind the hard stop.",
            read="no step",
            expected="a step of the plan, closed or open",
        )
    return open_again(work, ref, cause)


def release(work: Work, override_reason: str, is_lead: bool) -> JournalEntry:
    """Release the engine. A lead may override what can be overridden with a written reason. Raises
    ReleaseError naming what stands in the way.
    """
    proof = proof_of(work)
    checks = proof.checks
    reason = override_reason.strip() or None
    allowed, blocked = may_release(checks, reason, is_lead=is_lead)
    if not allowed:
        raise ReleaseError(
            "The engine may not be released yet.",
            read="; ".join(blocked),
            advice="Mend what stands in the way.",
        )
    overridden = [c.name for c in checks if c.state != "met"]
    cold = open_retest(proof.plan, proof.bench)
    if cold is not None:
        cold_start_is_due(work, cold)
    work.job.released_by = work.by
    work.job.override_reason = reason if overridden else None
    words = (
        "Released: every condition met."
        if not overridden
        else f"Released over {', '.join(overridden)}. Reason: {reason}"
    )
    return work.record(Change.RELEASED, words)
