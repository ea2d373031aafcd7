"""A whole job out as one file (docs/formats/job-archive.md)."""

import base64
from collections.abc import Iterable
from typing import Any, TypeVar

from sqlalchemy import inspect
from sqlmodel import Session, SQLModel, col, select

from flaneur.core.meters import Meter
from flaneur.formats.archive import FORMAT, Archive, Seal
from flaneur.formats.captures import to_parquet
from flaneur.store.after import addenda_of, follow_ups_of
from flaneur.store.blocks import load_capture
from flaneur.store.changes import entries
from flaneur.store.keeping import is_let_go
from flaneur.store.readings import captures_of, logs_of, photos_of, readings_of
from flaneur.store.tables import (
    BenchEvent,
    BenchRecord,
    Book,
    CaptureRow,
    EngineRow,
    Job,
    PutIn,
    Report,
    SecondLook,
    Shift,
    Unit,
)
from flaneur.store.units import run_of


def _row(row: SQLModel, *leave_out: str) -> dict[str, Any]:
    gone = {"id", "job_id", "unit_id", "engine_id", "book_id", *leave_out}
    for left in inspect(row).unloaded:
        getattr(row, left)  # what was left in the database is fetched
    people = {k for k in type(row).model_fields if k.endswith("by_id")}  # keys of this database
    values = row.model_dump(exclude=gone | people)
    return {
        k: base64.b64encode(v).decode() if isinstance(v, bytes) else v for k, v in values.items()
    }


def report_of(session: Session, job: Job) -> Report | None:
    """The signed report of a job."""
    return session.exec(select(Report).where(Report.job_id == job.id)).first()


def seal_of(report: Report | None) -> Seal | None:
    """The seal under a report; None where there is no report."""
    if report is None:
        return None
    return Seal.model_validate(
        {
            "statement": report.statement,
            "public_key": report.public_key,
            "signature": report.signature,
        }
    )


# How a job came here is no part of the job.
_OF_THIS_DATABASE = (
    *("signed_at_depot", "imported_by", "imported_at", "import_note"),
    "comeback_of_id",
)


def export_job(session: Session, job: Job, with_samples: bool = True) -> Archive:
    """Everything a job is made of, with its seal where it is signed. A signed job goes with its
    unit as it was then.

    Without samples it serves to say what a signature covers: samples stand there by their hash.
    """
    assert job.id is not None
    captures, readings = captures_of(session, job.id), readings_of(session, job.id)
    capture_number = {c.id: i for i, c in enumerate(captures, 1)}
    reading_number = {r.id: i for i, r in enumerate(readings, 1)}
    notes = entries(session, job.id)
    version_of = {n.id: n.version for n in notes}
    report = report_of(session, job)
    unit = report.unit if report and report.unit else unit_now(session, job)
    return Archive.model_validate(
        {
            "format": FORMAT,
            "book": session.get_one(Book, job.book_id).text,
            "unit": unit,
            "job": _row(job, *_OF_THIS_DATABASE),
            "captures": [_capture(session, c, with_samples) for c in captures],
            "readings": [
                {**_row(r), "capture_id": capture_number.get(r.capture_id)} for r in readings
            ],
            "bench": [_row(b) for b in _of_the_bench(session, BenchRecord, job.id)],
            "journal": [{**_row(n), "reverses": version_of.get(n.reverses)} for n in notes],
            "report": _row(report, "head", "unit", "statement", "signature", "public_key")
            if report
            else None,
            "photos": [
                {**_row(p, "small"), "reading_id": reading_number.get(p.reading_id)}
                for p in photos_of(session, job.id)
            ],
            "logs": [_row(log) for log in logs_of(session, job.id)],
            "events": [_row(e) for e in _of_the_bench(session, BenchEvent, job.id)],
            "put_in": [_row(line) for line in _of_the_bench(session, PutIn, job.id)],
            "shifts": [_row(s) for s in _of_the_bench(session, Shift, job.id)],
            "looks": [_row(look, "token") for look in _of_the_bench(session, SecondLook, job.id)],
            "follow_ups": [_row(f) for f in follow_ups_of(session, job.id)],
            "addenda": [
                {k: getattr(a, k) for k in ("statement", "signature", "public_key")}
                for a in addenda_of(session, job.id)
            ],
            "seal": seal_of(report),
        }
    )


Kept = TypeVar("Kept", BenchRecord, BenchEvent, PutIn, Shift, SecondLook)


def _of_the_bench(session: Session, table: type[Kept], job_id: int) -> Iterable[Kept]:
    """The rows of a job in a table, in the order they were written."""
    return session.exec(select(table).where(table.job_id == job_id).order_by(col(table.id)))


def _capture(session: Session, row: CaptureRow, with_samples: bool) -> dict[str, Any]:
    kept = _row(row, "incoming_id")
    if not with_samples or is_let_go(session, row):
        return {**kept, "content": ""}
    samples = load_capture(session, row)
    return {**kept, "content": base64.b64encode(to_parquet(samples)).decode()}


def unit_now(session: Session, job: Job) -> dict[str, Any]:
    """A job's unit as the archive has it: with what belongs to its engine."""
    unit, engine = session.get_one(Unit, job.unit_id), session.get_one(EngineRow, job.engine_id)
    return {
        "tag": unit.tag,
        "name": unit.name,
        "kind": unit.kind,
        "place": unit.place or "",
        "hours": run_of(session, job.engine_id) if engine.meter == Meter.HOURS else None,
        "baseline_deg": engine.baseline_deg,
        "baseline_job": engine.baseline_job,
    }
