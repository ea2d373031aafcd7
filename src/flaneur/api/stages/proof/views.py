"""Proof: turning by hand, marks, pins, a second capture, release."""

from flask import Blueprint
from spectree import Response

from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, HardStopOut
from flaneur.api.security import may_here
from flaneur.api.spec import checked
from flaneur.api.stages.proof.models import (
    CauseIn,
    HandsIn,
    LinkLine,
    ProofOut,
    ReleaseIn,
    StartOut,
    StopIn,
    TooLong,
)
from flaneur.api.work import JOB, capture_out, changed, changing, phasers_of, reading
from flaneur.core.choices import choices
from flaneur.core.measuring.kinds import Phase
from flaneur.core.picture.ladder_svg import ladder_drawings
from flaneur.core.picture.theme import SCREEN
from flaneur.core.proof.first_start import (
    LATE_PRESSURE,
    LATE_PRESSURE_S,
    LONG_RATTLE,
    LONG_RATTLE_S,
)
from flaneur.core.proof.release import may_release
from flaneur.core.proof.shown import comes_back, turned_at_bench
from flaneur.core.proof.starting import shown_before
from flaneur.jobs import linking, proving
from flaneur.jobs.first_start import heard_words
from flaneur.jobs.judging import ladder_of
from flaneur.jobs.standing import proof_of
from flaneur.store.readings import captures_listed

blueprint = Blueprint("proof", __name__)


@blueprint.get(f"{JOB}/proof")
@kept_while_unchanged()
@checked(resp=Response(HTTP_200=ProofOut))
def get_proof(job_id: int) -> ProofOut:
    """Every condition of release, and before and after on one ladder."""
    with reading(job_id) as work:
        found, ladder, proof = proof_of(work), ladder_of(work), work.book.proof
        bench, hands = found.bench, found.hands
        allowed, blocked = may_release(found.checks, None, is_lead=False)
        return ProofOut(
            round=len(bench.records),
            checks=found.checks,
            turned=turned_at_bench(work.book, found.plan, bench),
            link=[LinkLine(words=e.words, by=e.by, at=e.at) for e in linking.asked(work)],
            link_tasks=list(choices(linking.LinkTask)),
            comes_back=comes_back(work.book, found.plan),
            start=StartOut(
                in_the_way=found.in_the_way,
                shown=shown_before(found.checks),
                heard_before=heard_words(work, Phase.BEFORE),
                rattle=TooLong(after_s=LONG_RATTLE_S, words=LONG_RATTLE),
                pressure=TooLong(after_s=LATE_PRESSURE_S, words=LATE_PRESSURE),
            ),
            first_start=heard_words(work, Phase.AFTER),
            ladder=ladder,
            ladder_drawings=ladder_drawings(ladder, SCREEN),
            mark_checks=proof.mark_checks,
            text=proof.text,
            hand_turns=proof.hand_turns,
            pins_in=bench.pins_in,
            captures=[capture_out(c) for c in captures_listed(work.session, job_id)],
            phasers=phasers_of(work.book),
            turns=hands.turns,
            hard_stop=hands.hard_stop,
            pins_out=hands.pins_out,
            marks=hands.marks,
            stops=[HardStopOut.of(stop) for stop in hands.stops],
            is_stopped=hands.is_stopped,
            may_release=allowed,
            blocked_by=blocked,
            is_released=work.job.released_by is not None,
        )


@blueprint.put(f"{JOB}/proof/hands")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def put_hands(job_id: int, json: HandsIn) -> Changed:
    """Record turning by hand, the marks and the pins counted out."""
    with changing(job_id, json.version) as work:
        entry = proving.turn_by_hand(work, json.turns, json.hard_stop, json.marks, json.pins_out)
        return changed(work, entry)


@blueprint.post(f"{JOB}/proof/stop")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def put_stop(job_id: int, json: StopIn) -> Changed:
    """Write down where the crank stood at the hard stop that stands: what can meet there, and what
    set wrong would do it, is worked out from it.
    """
    with changing(job_id, json.version) as work:
        return changed(work, proving.stop_at(work, json.at))


@blueprint.post(f"{JOB}/proof/cause")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def put_cause(job_id: int, json: CauseIn) -> Changed:
    """Write what stopped the crank, and open the step behind it again. Afterwards the engine must
    turn clean.

    A stop felt before any step was closed has none behind it: then the cause stands alone.
    """
    with changing(job_id, json.version) as work:
        return changed(work, proving.write_cause(work, json.step, json.cause))


@blueprint.post(f"{JOB}/proof/release")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def release(job_id: int, json: ReleaseIn) -> Changed:
    """Release the engine. A lead may override what can be overridden with a written reason."""
    with changing(job_id, json.version) as work:
        is_lead = may_here("act:release over a condition")
        return changed(work, proving.release(work, json.override_reason, is_lead))
