"""A job's head, its intake, and undo."""

from functools import partial
from typing import Any

from flask import Blueprint, current_app
from pydantic import ValidationError
from spectree import Response

from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, VersionIn
from flaneur.api.security import may_here, require
from flaneur.api.spec import checked
from flaneur.api.stages.intake.models import (
    Intake,
    IntakeIn,
    JobOut,
    NextOut,
    NotebookEntry,
    PartStateOut,
    ReplaceableOut,
)
from flaneur.api.work import JOB, changed, changing, reading, unit_of_job
from flaneur.core.choices import choices
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.job.states import part_states
from flaneur.core.keys import Verb, keys_done
from flaneur.core.measuring.told import AccessoryNoise, OilState, Rattle, Starts
from flaneur.core.picture.drawn import drawn
from flaneur.core.readings.renewed import replaceable
from flaneur.jobs.intake import shown_hours, write_intake
from flaneur.jobs.judging import verdict_of
from flaneur.jobs.standing import standing
from flaneur.jobs.undoing import is_a_leads, last_undoable, undo
from flaneur.jobs.work import Work
from flaneur.store.changes import Note, notes_of
from flaneur.store.jobs import mark_of_readings
from flaneur.store.lately import Lately
from flaneur.store.tables import Job, ReadingRow

blueprint = Blueprint("intake", __name__)
UNDO_DECISION = "act:undo what a lead decided"


@blueprint.get(JOB)
@kept_while_unchanged()
@checked(resp=Response(HTTP_200=JobOut, HTTP_404=ErrorOut))
def job(job_id: int) -> JobOut:
    """What every stage of a job shows: unit, stage, next action, drive face, notebook."""
    with reading(job_id) as work:
        session, row, book = work.session, work.job, work.book
        mark = mark_of_readings(session, job_id)  # before what it stands for is read
        stands = standing(session, row)
        notes = notes_of(session, job_id)
        reversed_ids = {e.reverses for e in notes if e.reverses}
        plan, done = stands.plan, stands.bench.done
        fitted = keys_done(set(done), Verb.FIT)
        states = part_states(
            book,
            _verdict(work, mark, stands.readings),
            plan.renewed if plan else [],
            fitted,
        )
        return JobOut(
            id=job_id,
            number=row.number,
            version=row.version,
            unit=unit_of_job(session, row),
            engine=book.name,
            stage=stands.next.stage,
            next=NextOut(words=stands.next.words, press=stands.next.press, step=stands.next.step),
            notice=book.notice,
            intake=_shown(row.intake),
            oil_states=choices(OilState),
            accessory_noises=choices(AccessoryNoise),
            rattles=choices(Rattle),
            starts=choices(Starts),
            replaceable=tuple(
                ReplaceableOut(of=r.of, name=r.name, parts=r.parts) for r in replaceable(book)
            ),
            is_signed=row.signed_at is not None,
            is_released=row.released_by is not None or row.ended is not None,
            bench_started=row.bench_started,
            notebook=[
                NotebookEntry(
                    id=e.id,
                    at=e.at,
                    by=e.by,
                    kind=e.kind,
                    words=e.words,
                    reverses=e.reverses,
                    is_reversed=e.id in reversed_ids,
                )
                for e in notes
            ],
            can_undo=row.signed_at is None and _may_undo(row, last_undoable(notes)),
            signed_at_depot=row.signed_at_depot,
            imported_by=row.imported_by,
            import_note=row.import_note,
            book_id=row.book_id,
            can_capture=book.can_be_captured,
            face=drawn(book).picture,
            states=[PartStateOut(part=p, state=s, words=s.words) for p, s in states.items()],
        )


def _verdict(work: Work, mark: str, rows: list[ReadingRow]) -> Verdict:
    """The verdict on a job, asked for anew only where what it rests on has changed."""
    known: Lately[tuple[int, str], Verdict] = current_app.config["VERDICTS"]
    made = partial(verdict_of, work, with_evidence=False, rows=rows)
    return known.of((work.job_id, mark), made)


def _may_undo(job: Job, entry: Note | None) -> bool:
    return entry is not None and (not is_a_leads(job, entry) or may_here(UNDO_DECISION))


def _shown(stored: dict[str, Any]) -> Intake:
    """The intake as it is kept, field by field: what could not be typed today is left empty, so
    that it can be typed anew.
    """
    values = {**stored, "hours": shown_hours(stored)}
    shown = Intake()
    for key in Intake.model_fields:
        try:
            shown = Intake.model_validate(
                {**shown.model_dump(), key: values.get(key, getattr(shown, key))}
            )
        except ValidationError:
            continue
    return shown


@blueprint.put(f"{JOB}/intake")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut))
def put_intake(job_id: int, json: IntakeIn) -> Changed:
    """Write the intake down; running hours accept a unit."""
    with changing(job_id, json.version) as work:
        return changed(work, write_intake(work, json.model_dump(exclude={"version"})))


@blueprint.post(f"{JOB}/undo")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut))
def post_undo(job_id: int, json: VersionIn) -> Changed:
    """Take back the last change that can be taken back, by appending its reversal."""
    with changing(job_id, json.version, even_released=True) as work:
        entry = last_undoable(notes_of(work.session, job_id))
        if entry is not None and is_a_leads(work.job, entry):
            require(UNDO_DECISION)
        return changed(work, undo(work.session, work.job, work.by))
