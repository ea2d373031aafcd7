"""The bench beside its steps: what is laid into the engine, who has the job, photographs and second
looks.
"""

from typing import Any

from flask import Blueprint, request
from flask_login import current_user
from spectree import Response

from flaneur.api.errors import InvalidInput
from flaneur.api.models import Changed, ErrorOut, PhotoOut
from flaneur.api.security import address
from flaneur.api.spec import checked
from flaneur.api.stages.bench.models import (
    AskedColleague,
    AskIn,
    HandOverIn,
    LaidOut,
    LayIn,
    LeavingOut,
    LookOut,
    MeasureOut,
    ShiftOut,
    StepPhoto,
    TakeOverIn,
)
from flaneur.api.work import (
    JOB,
    changed,
    changing,
    database,
    file_name,
    reading,
    sent_file,
    settings,
)
from flaneur.core.bench.inside import put_in_by_plan, said, turning_steps
from flaneur.core.bench.looking import OPINION_WORDS, PHOTOGRAPHED, Opinion
from flaneur.core.bench.off import measures_of_plan
from flaneur.core.bench.tally import Tally
from flaneur.core.errors import ReadingError
from flaneur.core.plan.plan import Plan
from flaneur.core.record.bounds import unprintable
from flaneur.jobs import inside, looks, shifts
from flaneur.jobs.pins import check_signature
from flaneur.jobs.work import Work
from flaneur.store.bench import looks_of
from flaneur.store.readings import readings_of, step_photos
from flaneur.store.tables import SecondLook

blueprint = Blueprint("hands", __name__)


def hands_on(work: Work, plan: Plan | None, bench: Tally) -> dict[str, Any]:
    """What the bench shows beside its steps."""
    shift = shifts.waiting_shift(work)
    photos = step_photos(work.session, work.job_id)
    taken = {(r.kind, r.part) for r in readings_of(work.session, work.job_id) if not r.struck}
    return {
        "laid": [
            LaidOut(piece=e.piece, place=e.place, count=e.count, words=said(e), by=e.by, at=e.at)
            for e in bench.laid
        ],
        "planned_in": put_in_by_plan(work.book, plan, bench.done),
        "turning": turning_steps(work.book, plan),
        "shift": ShiftOut(**{k: getattr(shift, k) for k in ShiftOut.model_fields})
        if shift
        else None,
        "holder": shifts.holder(work),
        "photos": {
            step: [StepPhoto(id=key, caption=caption) for key, caption in some]
            for step, some in photos.items()
        },
        "to_photograph": [
            s.ref for s in (plan.steps if plan else []) if s.template in PHOTOGRAPHED
        ],
        "to_measure": {
            ref: [
                MeasureOut(
                    kind=m.kind, part=m.part, title=m.title, is_taken=(m.kind, m.part) in taken
                )
                for m in some
            ]
            for ref, some in measures_of_plan(work.book, plan).items()
        },
        "looks": [_look_out(look) for look in looks_of(work.session, work.job_id)],
    }


def _look_out(look: SecondLook) -> LookOut:
    opinion = Opinion(look.opinion) if look.opinion else None
    return LookOut(
        step=look.step,
        question=look.question,
        asked_by=look.asked_by,
        asked_at=look.asked_at,
        until=look.until,
        answered_by=look.answered_by,
        opinion=opinion,
        words=OPINION_WORDS[opinion] if opinion else "",
        answer=look.answer,
        answered_at=look.answered_at,
    )


@blueprint.post(f"{JOB}/bench/inside")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def lay(job_id: int, json: LayIn) -> Changed:
    """Count what is laid into the engine by hand in, or out again."""
    with changing(job_id, None) as work:
        return changed(work, inside.lay(work, json.piece, json.place, json.count))


@blueprint.get(f"{JOB}/bench/leaving")
@checked(resp=Response(HTTP_200=LeavingOut))
def leaving(job_id: int) -> LeavingOut:
    """How the engine stands, and whether it may be left so."""
    with reading(job_id) as work:
        left = shifts.leaving_now(work)
        return LeavingOut(
            version=work.job.version,
            stands=list(left.stands),
            against=list(left.against),
            mind=list(left.mind),
        )


@blueprint.post(f"{JOB}/bench/shift")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def hand_over(job_id: int, json: HandOverIn) -> Changed:
    """Hand the job over as the engine stands."""
    with changing(job_id, None) as work:
        return changed(work, shifts.hand_over(work, json.note))


@blueprint.post(f"{JOB}/bench/shift/take")
@checked(resp=Response(HTTP_200=Changed, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def take_over(job_id: int, json: TakeOverIn) -> Changed:
    """Take the job over, by signature: one's password, or one's PIN."""
    login = str(current_user.login)
    check_signature(database(), login, json.secret, json.is_pin, address())
    with changing(job_id, None) as work:
        return changed(work, shifts.take_over(work))


@blueprint.post(f"{JOB}/bench/photos")
@checked(resp=Response(HTTP_200=PhotoOut, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def add_photo(job_id: int) -> PhotoOut:
    """Add a photograph (multipart field ``file``) to a step, with a ``caption``; it is re-encoded
    and its camera data dropped.
    """
    missing = ReadingError(
        "No photograph arrived.", expected="a JPEG, PNG or WebP in the field “file”"
    )
    upload, content = sent_file("photograph", settings().photo_limit_bytes, missing)
    name = file_name(upload, "photograph")
    step, caption = (request.args.get(k, "").strip() for k in ("step", "caption"))
    if len(caption) > 200 or unprintable(caption) is not None:
        raise InvalidInput(
            "The caption cannot be kept.",
            read=f"{len(caption)} letters",
            expected="at most 200 letters in one line",
            field="caption",
        )
    with changing(job_id, None) as work:
        entry, photo_id = looks.add_photo(work, step, content, name, caption)
        return PhotoOut(id=photo_id, version=entry.version)


@blueprint.post(f"{JOB}/bench/looks")
@checked(resp=Response(HTTP_200=AskedColleague, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def ask_colleague(job_id: int, json: AskIn) -> AskedColleague:
    """Ask a colleague for a second look: a link that shows the step and its photographs, good for a
    day and one answer.
    """
    with changing(job_id, None) as work:
        entry, token, until = looks.ask(work, json.step, json.question)
        return AskedColleague(version=entry.version, path=f"/look/{token}", until=until)
