"""A whole job as one JSON document, and back (docs/formats/job-archive.md)."""

import base64
from datetime import datetime
from typing import Any

from pydantic import BaseModel, ConfigDict
from sqlmodel import Session, SQLModel, col, select

from flaneur.core.errors import FlaneurError
from flaneur.formats.captures import from_parquet, to_parquet
from flaneur.store.blocks import load_capture, write_blocks
from flaneur.store.changes import entries
from flaneur.store.depot import keep_book
from flaneur.store.readings import captures_of, logs_of, photos_of, readings_of
from flaneur.store.tables import BenchRecord, Book, CaptureRow, DriveLog, Job, JournalEntry, Photo, ReadingRow, Report, Unit

FORMAT = "flaneur-job/1"


class ArchiveError(FlaneurError):
    """A job file cannot be read or does not fit this database."""


class Archive(BaseModel):
    """Rows of a job with ids counted from one inside the file."""

    model_config = ConfigDict(extra="forbid")

    format: str
    book: str
    unit: dict[str, Any]
    job: dict[str, Any]
    captures: list[dict[str, Any]]
    readings: list[dict[str, Any]]
    bench: list[dict[str, Any]]
    journal: list[dict[str, Any]]
    report: dict[str, Any] | None
    photos: list[dict[str, Any]] = []
    logs: list[dict[str, Any]] = []


def _row(row: SQLModel, leave_out: set[str]) -> dict[str, Any]:
    values = row.model_dump(exclude={"job_id", "unit_id", "book_id", *leave_out})
    return {
        k: v.isoformat() if isinstance(v, datetime) else base64.b64encode(v).decode() if isinstance(v, bytes) else v
        for k, v in values.items()
    }


def export_job(session: Session, job: Job) -> Archive:
    """Everything a job is made of. Times are ISO 8601, binary content base64."""
    assert job.id is not None
    captures, readings = captures_of(session, job.id), readings_of(session, job.id)
    bench = list(session.exec(select(BenchRecord).where(BenchRecord.job_id == job.id).order_by(col(BenchRecord.id))))
    notes = entries(session, job.id)
    maps = {
        "capture": {c.id: i for i, c in enumerate(captures, 1)},
        "reading": {r.id: i for i, r in enumerate(readings, 1)},
        "bench": {b.id: i for i, b in enumerate(bench, 1)},
        "journal": {n.id: i for i, n in enumerate(notes, 1)},
    }
    report = session.exec(select(Report).where(Report.job_id == job.id)).first()
    return Archive(
        format=FORMAT,
        book=session.get_one(Book, job.book_id).text,
        unit=_row(session.get_one(Unit, job.unit_id), {"id"}),
        job=_row(job, {"id"}),
        captures=[{**_row(c, {"id"}), "content": base64.b64encode(to_parquet(load_capture(session, c))).decode()} for c in captures],
        readings=[{**_row(r, {"id"}), "capture_id": maps["capture"].get(r.capture_id)} for r in readings],
        bench=[_row(b, {"id"}) for b in bench],
        journal=[{**_row(n, {"id"}), "reverses": maps["journal"].get(n.reverses), "data": _translated(n.data, maps)} for n in notes],
        report=_row(report, {"id"}) if report else None,
        photos=[{**_row(p, {"id"}), "reading_id": maps["reading"].get(p.reading_id)} for p in photos_of(session, job.id)],
        logs=[_row(log, {"id"}) for log in logs_of(session, job.id)],
    )


def _translated(data: dict[str, Any], maps: dict[str, dict[Any, Any]]) -> dict[str, Any]:
    """Row ids inside a journal entry's data, from one numbering to the other."""
    kinds = {"capture": "capture", "reading": "reading", "records": "bench", "reopened": "bench", "of": "journal"}
    result = dict(data)
    for key, kind in kinds.items():
        value = data.get(key)
        if isinstance(value, list):
            result[key] = [maps[kind].get(v, v) for v in value]
        elif value is not None:
            result[key] = maps[kind].get(value, value)
    return result


_TIMES = ("opened_at", "signed_at", "taken_at", "done_at", "at")
_BYTES = ("content", "pdf", "angle")


def _values(row: dict[str, Any]) -> dict[str, Any]:
    values = dict(row)
    for key in _TIMES:
        if values.get(key):
            values[key] = datetime.fromisoformat(values[key])
    for key in _BYTES:
        if values.get(key) is not None:
            values[key] = base64.b64decode(values[key])
    return values


def import_job(session: Session, archive: Archive) -> Job:
    """Add an exported job. Raises ArchiveError when its number is taken or the file is of another format."""
    if archive.format != FORMAT:
        raise ArchiveError("This is not a job file.", read=archive.format, expected=FORMAT)
    number = str(archive.job.get("number", ""))
    if session.exec(select(Job).where(Job.number == number)).first():
        raise ArchiveError("This job is already here.", read=number, advice="Open it from the yard.")
    try:
        return _insert(session, archive)
    except (KeyError, TypeError, ValueError) as error:
        raise ArchiveError("The job file is damaged.", read=f"{type(error).__name__}: {error}"[:120], expected=FORMAT) from error


def _insert(session: Session, archive: Archive) -> Job:
    book_id = keep_book(session, archive.book).id or 0
    unit = session.exec(select(Unit).where(Unit.tag == archive.unit["tag"])).first()
    if unit is None:
        unit = Unit(**archive.unit, book_id=book_id)
        session.add(unit)
        session.flush()
    job = Job(**_values(archive.job), unit_id=unit.id or 0, book_id=book_id)
    session.add(job)
    session.flush()
    job_id = job.id or 0
    maps: dict[str, dict[Any, Any]] = {"capture": {}, "reading": {}, "bench": {}, "journal": {}}

    def add(kind: str, index: int, row: SQLModel) -> None:
        session.add(row)
        session.flush()
        maps[kind][index] = row.id  # type: ignore[attr-defined]

    for i, values in enumerate(archive.captures, 1):
        row = _values(values)
        samples = from_parquet(row.pop("content"))
        kept = CaptureRow(**{**row, "channels": list(samples.channels), "samples": samples.samples}, job_id=job_id)
        add("capture", i, kept)
        write_blocks(session, kept.id or 0, samples)
    for i, values in enumerate(archive.readings, 1):
        row = _values(values)
        row["capture_id"] = maps["capture"].get(row["capture_id"])
        add("reading", i, ReadingRow(**row, job_id=job_id))
    for values in archive.photos:
        row = _values(values)
        row["reading_id"] = maps["reading"].get(row["reading_id"])
        session.add(Photo(**row, job_id=job_id))
    for values in archive.logs:
        session.add(DriveLog(**_values(values), job_id=job_id))
    for i, values in enumerate(archive.bench, 1):
        add("bench", i, BenchRecord(**_values(values), job_id=job_id))
    for i, values in enumerate(archive.journal, 1):
        row = _values(values)
        row["reverses"] = maps["journal"].get(row["reverses"])
        row["data"] = _translated(row["data"], maps)
        add("journal", i, JournalEntry(**row, job_id=job_id))
    if archive.report:
        session.add(Report(**_values(archive.report), job_id=job_id))
    session.flush()
    return job
