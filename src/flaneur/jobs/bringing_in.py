"""A job brought in from its file: taken in only when every page of it can be shown."""

from sqlmodel import Session

from flaneur.core.errors import FlaneurError
from flaneur.core.people import Person
from flaneur.formats.archive import ArchiveError, read_archive, verify_archive
from flaneur.formats.report import report_html
from flaneur.jobs.details import capture_detail
from flaneur.jobs.reporting import report_content
from flaneur.jobs.standing import standing
from flaneur.jobs.work import Work
from flaneur.store.depot import book_of
from flaneur.store.importing import import_job
from flaneur.store.keys import trust
from flaneur.store.readings import captures_of
from flaneur.store.tables import Job


def bring_in(session: Session, content: bytes, key_file: str, by: Person) -> Job:
    """Add a job from its file: as signed where its seal verifies, else as an open job. Raises
    ArchiveError.
    """
    archive = read_archive(content)
    job = import_job(session, archive, verify_archive(archive), trust(session, key_file), by.name)
    _rehearse(Work(session, job, book_of(session, job.book_id), by))
    return job


def where_signed(job: Job) -> str:
    """Whether, and by which depot, a job was signed, in words."""
    if job.signed_at_depot:
        return f"signed at {job.signed_at_depot}"
    return "signed" if job.signed_at else "open"


def _rehearse(work: Work) -> None:
    """Make every page of a job once before it is taken in: one that cannot be shown is refused, and
    leaves nothing.
    """
    try:
        standing(work.session, work.job)
        report_html(report_content(work))
        for row in captures_of(work.session, work.job_id):
            capture_detail(work, row)
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
