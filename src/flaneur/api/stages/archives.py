"""Jobs as files: out with the depot's seal, in with a look at whose it is."""

from flask import Blueprint, Response, current_app, request
from spectree import Response as Answers

from flaneur.api.errors import TooLarge
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.report_content import report_content
from flaneur.api.security import by_name
from flaneur.api.spec import checked
from flaneur.api.stages.viewer import detail_of
from flaneur.api.work import JOB, Work, reading, settings, signing_key
from flaneur.core.errors import FlaneurError
from flaneur.formats.archive import ArchiveError, read_archive, verify_archive, wrap
from flaneur.formats.report import report_html
from flaneur.store.archive import export_job, import_job
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.jobs import progress
from flaneur.store.keys import trust
from flaneur.store.readings import captures_of

blueprint = Blueprint("archives", __name__)


@blueprint.get(f"{JOB}/archive.json")
def archive(job_id: int) -> Response:
    """The whole job as a JSON file, sealed where it is signed, and signed as a file by this
    depot.
    """
    with reading(job_id) as work:
        found = wrap(export_job(work.session, work.job), signing_key())
        name = f"{work.job.number}.json"
    disposition = f'attachment; filename="{name}"'
    return Response(
        found.model_dump_json(),
        mimetype="application/json",
        headers={"Content-Disposition": disposition},
    )


@blueprint.post("/api/import")
@checked(resp=Answers(HTTP_200=Changed, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def import_archive() -> Changed:
    """Add a job from its JSON file (multipart field ``file``): as signed where its seal verifies,
    else as an open job.
    """
    upload, limit = request.files.get("file"), settings().archive_limit_bytes
    if upload is None:
        raise ArchiveError("No file arrived.", expected="a job file in the field “file”")
    content = upload.stream.read(limit + 1)
    if len(content) > limit:
        raise TooLarge(
            "The job file is too large.",
            read=f"over {limit:,} bytes",
            expected=f"at most {limit:,} bytes",
        )
    found = read_archive(content)
    verified = verify_archive(found)
    with transaction(current_app.config["ENGINE"]) as session:
        job = import_job(
            session, found, verified, trust(session, settings().signing_key_file), by_name()
        )
        _rehearse(Work(session, job, book_of(session, job.book_id), by_name()))
        where = (
            f"signed at {job.signed_at_depot}"
            if job.signed_at_depot
            else "signed"
            if job.signed_at
            else "open"
        )
        return Changed(
            id=job.id or 0,
            version=job.version,
            words=f"Job {job.number} brought in, {where}. {job.import_note}",
        )


def _rehearse(work: Work) -> None:
    """Make every page of a job once before it is taken in: one that cannot be shown is refused, and
    leaves nothing.
    """
    try:
        progress(work.session, work.job)
        report_html(report_content(work))
        for row in captures_of(work.session, work.job.id or 0):
            detail_of(work, row)
    except ArchiveError:
        raise
    except FlaneurError as error:
        raise _unshowable(str(error)) from error
    except (ValueError, TypeError, KeyError, IndexError, AttributeError, ArithmeticError) as error:
        raise _unshowable(type(error).__name__) from error


def _unshowable(read: str) -> ArchiveError:
    return ArchiveError(
        "The job in this file cannot be shown.",
        read=read[:200],
        expected="a job Flaneur wrote",
        advice="Nothing was taken in.",
    )
