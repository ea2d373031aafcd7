"""Proof: turning by hand, marks, pins, a second capture, release."""

from dataclasses import dataclass
from typing import Any

from flask import Blueprint
from spectree import Response

from flaneur.api.models import CauseIn, Changed, ErrorOut, HandsIn, ProofOut, ReleaseIn
from flaneur.api.security import may_here
from flaneur.api.spec import checked
from flaneur.api.stages.bench import StepError, open_again
from flaneur.api.work import JOB, Work, capture_out, changing, ladder_of, phasers_of, reading
from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import FlaneurError
from flaneur.core.proof.release import Check, HandTurns, HardStop, may_release, release_checks
from flaneur.store.changes import record
from flaneur.store.jobs import bench_of, hands_of, plan_of
from flaneur.store.readings import cam_readings, captures_of, readings_of, valid
from flaneur.store.tables import now

blueprint = Blueprint("proof", __name__)


class ReleaseError(FlaneurError):
    """The engine may not be released yet."""


@dataclass(frozen=True)
class _State:
    checks: list[Check]
    hands: HandTurns
    pins_in: int
    round: int


def state_of(work: Work) -> _State:
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    hands = hands_of(work.job)
    open_steps = len(plan.steps) - len(bench.done) if plan else 0
    after = cam_readings(valid(readings_of(work.session, work.job.id or 0, "after")))
    checks = release_checks(
        work.book, after, hands, bench.pins_in, open_steps, len(bench.departures)
    )
    if plan is None:
        checks.insert(
            0, Check(name="Plan", state="unknown", words="Nothing was planned.", overridable=False)
        )
    return _State(checks, hands, bench.pins_in, len(bench.records))


@blueprint.get(f"{JOB}/proof")
@checked(resp=Response(HTTP_200=ProofOut))
def get_proof(job_id: int) -> ProofOut:
    """Every condition of release, and before and after on one ladder."""
    with reading(job_id) as work:
        state = state_of(work)
        allowed, blocked = may_release(state.checks, None, is_lead=False)
        proof = work.book.proof
        return ProofOut(
            round=state.round,
            checks=state.checks,
            ladder=ladder_of(work),
            mark_checks=proof.mark_checks,
            text=proof.text,
            hand_turns=proof.hand_turns,
            pins_in=state.pins_in,
            captures=[capture_out(c) for c in captures_of(work.session, job_id)],
            phasers=phasers_of(work.book),
            turns=state.hands.turns,
            hard_stop=state.hands.hard_stop,
            pins_out=state.hands.pins_out,
            marks=state.hands.marks,
            stops=state.hands.stops,
            is_stopped=state.hands.is_stopped,
            may_release=allowed,
            blocked_by=blocked,
            is_released=work.job.released_by is not None,
        )


@blueprint.put(f"{JOB}/proof/hands")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def put_hands(job_id: int, json: HandsIn) -> Changed:
    """Record turning by hand, the marks and the pins counted out."""
    with changing(job_id, json.version) as work:
        turns = parse_quantity(json.turns, "plain").value
        if not 0 <= turns <= 50:
            raise ReleaseError(
                "That many turns cannot be right.", read=json.turns, expected="0 to 50 crank turns"
            )
        before = hands_of(work.job)
        if before.is_stopped:
            raise ReleaseError(
                "A hard stop stands: do not turn on.",
                read=f"felt by {before.stops[-1].by}" if before.stops else "felt before",
                expected="its cause in writing, and the step behind it opened again",
                advice="Write the cause at the bench or here first.",
            )
        unknown = [m for m in json.marks if m not in work.book.proof.mark_checks]
        if unknown:
            raise ReleaseError(
                "The book has no such mark to check.",
                read=unknown[0],
                expected="; ".join(work.book.proof.mark_checks),
            )
        stops = before.stops
        if json.hard_stop:
            stops = [*stops, HardStop(by=work.by, at=now().isoformat(), turns=turns)]
        hands = HandTurns(
            turns=turns,
            hard_stop=json.hard_stop,
            marks=json.marks,
            pins_out=json.pins_out,
            stops=stops,
        )
        work.job.hands = hands.model_dump(mode="json")
        missed = [m for m, met in json.marks.items() if not met]
        words = (
            f"Turned {turns:g} crank turns by hand, "
            f"{'a hard stop felt' if json.hard_stop else 'no hard stop'}. "
            f"{json.pins_out} pins and holders counted out. "
            f"{'Marks missed: ' + ', '.join(missed) if missed else 'Marks met'}."
        )
        # A hard stop stays: its entry is of a kind that undo does not take back.
        kind, data = (
            ("hard stop", {})
            if json.hard_stop
            else ("hands", {"before": before.model_dump(mode="json")})
        )
        return work.changed(record(work.session, work.job, work.by, kind, words, data))


@blueprint.post(f"{JOB}/proof/cause")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def put_cause(job_id: int, json: CauseIn) -> Changed:
    """Write what stopped the crank, and open the step behind it again. Afterwards the engine must
    turn clean.

    A stop felt before any step was closed has none behind it: then the cause stands alone.
    """
    with changing(job_id, json.version) as work:
        hands = hands_of(work.job)
        if not hands.is_stopped:
            raise ReleaseError(
                "No hard stop stands without its cause.",
                expected="a hard stop recorded while turning by hand",
            )
        words, data = _step_behind(work, json.step, json.cause)
        last = (
            hands.stops[-1]
            if hands.stops
            else HardStop(by=work.by, at=now().isoformat(), turns=hands.turns or 0.0)
        )
        explained = last.model_copy(
            update={"cause": json.cause, "step": json.step, "cause_by": work.by}
        )
        work.job.hands = HandTurns(stops=[*hands.stops[:-1], explained]).model_dump(mode="json")
        words = f"The hard stop: {json.cause.rstrip('.')}. {words}"
        return work.changed(record(work.session, work.job, work.by, "cause", words, data))


def _step_behind(work: Work, ref: str | None, cause: str) -> tuple[str, dict[str, Any]]:
    """The step behind a hard stop, open from now on. Raises StepError when one is closed and none
    was named.
    """
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    step = next((s for s in plan.steps if s.ref == ref), None) if plan else None
    if step is not None and step.ref not in bench.done:
        return f"{step.title} is open.", {}
    if ref is None and not bench.done:
        return "No step of the bench was closed yet.", {}
    if ref is None:
        raise StepError(
            "Name the step behind the hard stop.",
            read="no step",
            expected="a step of the plan, closed or open",
        )
    return open_again(work, ref, cause)


@blueprint.post(f"{JOB}/proof/release")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def release(job_id: int, json: ReleaseIn) -> Changed:
    """Release the engine. A lead may override what can be overridden with a written reason."""
    with changing(job_id, json.version) as work:
        state = state_of(work)
        reason = json.override_reason.strip() or None
        allowed, blocked = may_release(
            state.checks, reason, is_lead=may_here("act:release over a condition")
        )
        if not allowed:
            raise ReleaseError(
                "The engine may not be released yet.",
                read="; ".join(blocked),
                advice="Mend what stands in the way.",
            )
        overridden = [c.name for c in state.checks if c.state != "met"]
        work.job.released_by = work.by
        work.job.override_reason = reason if overridden else None
        words = (
            "Released: every condition met."
            if not overridden
            else f"Released over {', '.join(overridden)}. Reason: {reason}"
        )
        return work.changed(record(work.session, work.job, work.by, "released", words))
