"""Jobs as files: out with the depot's seal, in with a look at whose it is."""

from flask import Blueprint, Response
from spectree import Response as Answers

from flaneur.api.heavy import takes_a_while
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.security import person
from flaneur.api.spec import checked
from flaneur.api.work import JOB, database, reading, sent_file, settings, signing_key
from flaneur.formats.archive import Archive, ArchiveError, pack, wrap
from flaneur.jobs.bringing_in import bring_in, where_signed
from flaneur.store.database import transaction
from flaneur.store.exporting import export_job

blueprint = Blueprint("archives", __name__)


@blueprint.get(f"{JOB}/archive.json")
def archive(job_id: int) -> Response:
    """The whole job as a JSON file, sealed where it is signed, and signed as a file by this
    depot.
    """
    found = _wrapped(job_id)
    return _file(found.model_dump_json(), "application/json", f"{found.job.number}.json")


@blueprint.get(f"{JOB}/archive.zip")
def packed(job_id: int) -> Response:
    """The same as a zip: rows as JSON, samples as Parquet, photographs, and the report, each a file
    that other programs read.
    """
    found = _wrapped(job_id)
    return _file(pack(found), "application/zip", f"{found.job.number}.zip")


def _wrapped(job_id: int) -> Archive:
    with reading(job_id) as work:
        return wrap(export_job(work.session, work.job), signing_key())


def _file(content: str | bytes, mimetype: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, mimetype=mimetype, headers=headers)


@blueprint.post("/api/import")
@takes_a_while
@checked(resp=Answers(HTTP_200=Changed, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def import_archive() -> Changed:
    """Add a job from its file, a zip or JSON (multipart field ``file``): as signed where its seal
    verifies, else as an open job.
    """
    missing = ArchiveError("No file arrived.", expected="a job file in the field “file”")
    _, content = sent_file("job file", settings().archive_limit_bytes, missing)
    with transaction(database(), person()) as session:
        job = bring_in(session, content, settings().signing_key_file, person())
        words = f"Job {job.number} brought in, {where_signed(job)}. {job.import_note}"
        return Changed(id=job.id or 0, version=job.version, words=words)
