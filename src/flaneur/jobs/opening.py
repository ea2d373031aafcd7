"""Opening a job on a unit."""

from sqlmodel import Session

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.meters import Meter
from flaneur.store.changes import record
from flaneur.store.depot import current_of
from flaneur.store.jobs import new_number
from flaneur.store.tables import Book, EngineRow, Job, Unit
from flaneur.store.units import engines_of, run_of


class JobRefused(FlaneurError):
    """A job cannot be opened."""

    code = ErrorCode.BOOK_UNUSABLE


def open_job(
    session: Session,
    unit: Unit,
    by: str,
    prefix: str,
    engine_id: int = 0,
    comeback_of: int | None = None,
) -> Job:
    """Start a job on an engine of a unit; without ``engine_id`` on its only one, or on that of the
    signed job it comes back from. Raises JobRefused for a unit without that engine, a comeback of
    what is not signed, and when its book was never adopted here.
    """
    assert unit.id is not None
    before = _came_back(session, unit, comeback_of) if comeback_of is not None else None
    engine = _engine(session, unit, before.engine_id if before else engine_id)
    book = session.get_one(Book, engine.book_id)
    book_id = current_of(session, book.name)
    if book_id is None:
        raise JobRefused(
            "Nobody has adopted this unit's engine book yet.",
            read=f"{book.name}, which came with a job file",
            expected="a book that a lead has adopted",
            advice="A lead reads its checks under Engine books and adopts it.",
        )
    run = run_of(session, engine.id or 0) if engine.meter == Meter.HOURS else None
    job = Job(
        number=new_number(session, prefix),
        unit_id=unit.id,
        engine_id=engine.id or 0,
        book_id=book_id,
        opened_by=by,
        baseline_deg=dict(engine.baseline_deg),
        intake={"hours": run} if run is not None else {},
        comeback_of_id=before.id if before else None,
    )
    session.add(job)
    session.flush()
    comeback = f" It comes back from {before.number}." if before else ""
    words = f"Job {job.number} opened on {unit.name} ({unit.tag}).{comeback}"
    record(session, job, by, Change.OPENED, words)
    return job


def _came_back(session: Session, unit: Unit, job_id: int) -> Job:
    """The signed job of this unit that another comes back from."""
    job = session.get(Job, job_id)
    if job is None or job.unit_id != unit.id or job.signed_at is None:
        raise JobRefused(
            "No job comes back from that one.",
            read=job.number if job else str(job_id),
            expected=f"a signed job of {unit.name}",
            code=ErrorCode.INPUT_INVALID,
        )
    return job


def _engine(session: Session, unit: Unit, engine_id: int) -> EngineRow:
    carried = engines_of(session, unit.id or 0)
    fitting = [m.engine for m in carried if engine_id in (0, m.engine.id)]
    if unit.is_retired or not fitting:
        raise JobRefused(
            "No job can be started here.",
            read=f"{unit.name}, {'retired' if unit.is_retired else 'without this engine'}",
            expected="a unit at work, and an engine it carries",
            advice="A lead mounts an engine under Units.",
        )
    if len(fitting) > 1:
        raise JobRefused(
            "This unit has more than one engine.",
            read=", ".join(m.position for m in carried),
            expected="one of them",
            advice="Choose the engine.",
        )
    return fitting[0]
