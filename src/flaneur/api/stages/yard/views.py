"""The yard: units, open jobs by stage, and starting a job."""

from dataclasses import asdict

from flask import Blueprint, current_app
from spectree import Response

from flaneur.api.models import Changed, ErrorOut
from flaneur.api.security import by_name, person
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.yard.models import (
    Found,
    HitOut,
    JobLine,
    NewJob,
    SearchQuery,
    Yard,
    YardPlace,
)
from flaneur.api.work import database, units_out
from flaneur.core.job.progress import STAGES
from flaneur.jobs.opening import open_job
from flaneur.jobs.searching import search
from flaneur.store.database import transaction
from flaneur.store.depot import know_books
from flaneur.store.jobs import open_jobs
from flaneur.store.units import mounted, places, unit_by_id, units

blueprint = Blueprint("yard", __name__)
_OF_THE_JOB = set(JobLine.model_fields) - {"unit", "tag", "place"}


@blueprint.get("/api/yard")
@checked(resp=Response(HTTP_200=Yard))
def yard() -> Yard:
    """All units, and jobs with their stage and next action."""
    with transaction(database()) as session:
        carried, waiting = mounted(session), open_jobs(session)
        known = {u.id: u for u in units(session)}
        know_books(session, {found.engine.book_id for found in carried})
        lines: list[JobLine] = []
        for line in current_app.config["YARD"].all(session):
            unit, plain = known[line.unit_id], {k: getattr(line, k) for k in _OF_THE_JOB}
            where = unit.place or ""
            lines.append(
                JobLine.model_construct(**plain, unit=unit.name, tag=unit.tag, place=where)
            )
        return Yard(
            places=[
                YardPlace(name=p.name, is_bay=p.is_bay) for p in places(session) if not p.is_retired
            ],
            units=units_out(session, [m for m in carried if not m.unit.is_retired], waiting),
            jobs=lines,
            stages=list(STAGES),
        )


@blueprint.get("/api/search")
@checked(resp=Response(HTTP_200=Found))
def find(query: SearchQuery) -> Found:
    """Jobs, units, engines and parts by a piece of what they are called."""
    with transaction(database()) as session:
        lines = current_app.config["YARD"].all(session)
        hits = search(session, query.q, lines, query.book)
        return Found(hits=[HitOut(**asdict(hit)) for hit in hits])


@blueprint.post("/api/jobs")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def start_job(json: NewJob) -> Changed:
    """Open a job on a unit."""
    with transaction(database(), person()) as session:
        unit = unit_by_id(session, json.unit_id)
        prefix = shop_of(session).job_prefix
        job = open_job(session, unit, by_name(), prefix, json.engine_id or 0, json.comeback_of)
        return Changed(
            id=job.id or 0, version=job.version, words=f"Job {job.number} opened on {unit.name}."
        )
