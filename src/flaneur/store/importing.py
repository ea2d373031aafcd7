"""A whole job in from its file (docs/formats/job-archive.md).

A file that verifies and is sealed by this depot or a trusted one comes in as the signed job it is.
Anything else comes in as an open job, marked with who brought it and why it is not taken as signed:
its captures are decoded anew, its journal told in the words of the file, nobody's name put to what
nobody here saw them do.
"""

import base64
from dataclasses import dataclass

from sqlmodel import Session, select

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import BookError, ReadingError
from flaneur.core.job.change import Change
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import worksheets
from flaneur.core.record.canonical import digest_of_text
from flaneur.core.signals.correlation import Correlation
from flaneur.formats.archive import Archive, ArchiveError, Verified
from flaneur.formats.archive.models import LogPart, PhotoPart
from flaneur.formats.archive.verify import chain_in
from flaneur.formats.books import check_book
from flaneur.formats.photos import read_photo
from flaneur.store.bringing_bench import bring_after, bring_bench
from flaneur.store.bringing_captures import FROM_FILE, keep_capture, name_of, read_anew
from flaneur.store.changes import append_whole, record
from flaneur.store.depot import book_of, keep_book, newest_book_rows
from flaneur.store.tables import (
    Book,
    DriveLog,
    Job,
    Photo,
    ReadingRow,
    Report,
    Unit,
    now,
)
from flaneur.store.units import MAIN, Mounted, add_unit, engines_of

# What of a job is taken over only with a signature that is believed.
OF_A_SIGNATURE = (
    *("signed_by", "signed_at", "released_by", "override_reason", "version"),
    *("ended", "ended_why"),
)


@dataclass(frozen=True)
class Trust:
    """The keys this depot believes: its own, and those of others by their depot's name."""

    own: str | None
    others: dict[str, str]

    def word_on(self, archive: Archive, verified: Verified) -> str:
        """Why a file is not taken as signed; empty when it is."""
        if archive.job.signed_at is None:
            return "it was not signed"
        if not verified.holds:
            return f"it does not hold together ({verified.first_fault})"
        strangers = [key for key in verified.keys if key != self.own and key not in self.others]
        return (
            f"it is sealed with a key that nobody here trusts ({strangers[0][:16]}…)"
            if strangers
            else ""
        )

    def elsewhere(self, archive: Archive) -> str | None:
        """The depot that signed it, when it was not this one. Its name is the one this depot knows
        the key by.
        """
        key = archive.seal.public_key if archive.seal else ""
        return None if key == self.own else self.others.get(key)


def import_job(
    session: Session, archive: Archive, verified: Verified, trust: Trust, by: str
) -> Job:
    """Add a job from its file. Raises ArchiveError when its number is taken, its unit is another
    here, or it does not fit its book.
    """
    number = archive.job.number
    if session.exec(select(Job).where(Job.number == number)).first():
        raise ArchiveError(
            "This job is already here.", read=number, advice="Open it from the yard."
        )
    why_not = trust.word_on(archive, verified)
    book_id, book = _book(session, archive, by)
    _fits(archive, book)
    engine = _engine(session, archive, book_id, book, is_believed=not why_not)
    left_out = set(OF_A_SIGNATURE) if why_not else set[str]()
    kept = archive.job.model_dump(exclude={"plan", "hands", *left_out})
    kept["opened_by"] = name_of(archive.job.opened_by, why_not)
    job = Job(
        **kept,
        plan=archive.job.plan.model_dump(mode="json") if archive.job.plan else None,
        hands=archive.job.hands.model_dump(mode="json"),
        signed_at_depot=trust.elsewhere(archive) if not why_not else None,
        imported_by=by,
        imported_at=now(),
        import_note=_note(by, why_not),
        unit_id=engine.unit.id or 0,
        engine_id=engine.engine.id or 0,
        book_id=book_id,
    )
    session.add(job)
    session.flush()
    _rows(session, archive, job, book, why_not)
    if why_not:
        _tell(session, job, archive, by)
    else:
        _as_signed(session, job, archive)
    session.flush()
    return job


def _note(by: str, why_not: str) -> str:
    if why_not:
        return f"Brought in from a file by {by}; not taken as signed: {why_not}."
    return f"Brought in from a file by {by}; its seal was verified."


def _book(session: Session, archive: Archive, by: str) -> tuple[int, EngineBook]:
    """The book of a file: one that is here already, or else one that passes every check, for this
    job only.
    """
    known = session.exec(select(Book).where(Book.sha256 == digest_of_text(archive.book))).first()
    if known is None:
        try:
            check_book(archive.book)
        except BookError as error:
            fault = error.faults[0].line if error.faults else error.message
            raise ArchiveError(
                "The engine book in the job file has faults.",
                read=fault[:200],
                advice="Nothing was taken in.",
            ) from error
        known = keep_book(session, archive.book, came_by=by)
    return known.id or 0, book_of(session, known.id or 0)


def _fits(archive: Archive, book: EngineBook) -> None:
    """Raise ArchiveError when the file speaks of parts that its engine book does not know."""
    sheets = {sheet.kind: {part.id for part in sheet.parts} for sheet in worksheets(book)}
    known = {str(ReadingKind.CAM): set(book.cams), **sheets}
    for number, reading in enumerate(archive.readings, 1):
        if reading.part not in known.get(reading.kind, set()):
            raise _misfit(f"reading {number}: {reading.kind} of {reading.part}")
        if reading.capture_id is not None and not 1 <= reading.capture_id <= len(archive.captures):
            raise _misfit(f"reading {number}: capture {reading.capture_id}")
    for number, photo in enumerate(archive.photos, 1):
        if photo.reading_id is not None and not 1 <= photo.reading_id <= len(archive.readings):
            raise _misfit(f"photograph {number}: reading {photo.reading_id}")
    plan = archive.job.plan
    parts = {*archive.job.scope, *(plan.scope + plan.access + plan.renewed if plan else [])}
    if unknown := sorted(parts - set(book.components)):
        raise _misfit(f"part {unknown[0]}")
    if archive.job.bench_started and (plan is None or not plan.steps):
        raise _misfit("a bench without a plan")


def _misfit(read: str) -> ArchiveError:
    return ArchiveError(
        "The job file does not fit its engine book.",
        read=read[:200],
        expected="what the book knows",
        advice="Nothing was taken in.",
    )


def _engine(
    session: Session, archive: Archive, book_id: int, book: EngineBook, is_believed: bool
) -> Mounted:
    """The engine of a file: the one of that book on the unit here of that tag, or a new one on a
    new unit, worked by this depot's own book of the engine where there is one.
    """
    told = archive.unit
    unit = session.exec(select(Unit).where(Unit.tag == told.tag)).first()
    if unit is not None:
        carried = engines_of(session, unit.id or 0)
        fitting = [m for m in carried if book_of(session, m.engine.book_id).name == book.name]
        if unit.name != told.name or not fitting:
            engines = ", ".join(book_of(session, m.engine.book_id).name for m in carried)
            raise ArchiveError(
                "Another unit has this tag here.",
                read=f"{told.tag}: {told.name}, {book.name}",
                expected=f"{unit.name}, {engines or 'no engine'}",
                advice="Nothing was taken in. One of the two must get another tag first.",
            )
        return fitting[0]
    current = next(
        (key for key, own in newest_book_rows(session) if own.name == book.name), book_id
    )
    unit = Unit(tag=told.tag, name=told.name, kind=told.kind, place=told.place or None)
    baseline = {"baseline_deg": told.baseline_deg, "baseline_job": told.baseline_job}
    engine = add_unit(
        session,
        unit,
        f"{told.tag} {MAIN}",
        current,
        told.hours,
        f"{archive.job.opened_by}{FROM_FILE}"[:120],
        **(baseline if is_believed else {}),
    )
    return Mounted(engine, unit, MAIN)


def _rows(session: Session, archive: Archive, job: Job, book: EngineBook, why_not: str) -> None:
    job_id = job.id or 0
    captures: dict[int | None, tuple[int, Correlation | None]] = {}
    for number, part in enumerate(archive.captures, 1):
        captures[number] = keep_capture(session, part, job_id, book, why_not)
    readings: dict[int | None, int | None] = {}
    for number, part in enumerate(archive.readings, 1):
        capture_id, found = captures.get(part.capture_id, (None, None))
        row = ReadingRow(**read_anew(part, found), capture_id=capture_id, job_id=job_id)
        row.taken_by = name_of(part.taken_by, why_not)
        session.add(row)
        session.flush()
        readings[number] = row.id
    for photo in archive.photos:
        session.add(_photo(photo, readings.get(photo.reading_id), job_id, why_not))
    for log in archive.logs:
        session.add(_log(log, job_id, why_not))
    bring_bench(session, archive, job_id, lambda name: name_of(name, why_not))
    bring_after(session, archive, job_id, lambda name: name_of(name, why_not), not why_not)


def _photo(part: PhotoPart, reading_id: int | None, job_id: int, why_not: str) -> Photo:
    content = base64.b64decode(part.content)
    try:
        picture = read_photo(content, "photograph in the job file")
    except ReadingError as error:
        raise ArchiveError(
            "A photograph in the job file cannot be read.",
            read=error.read,
            advice="Nothing was taken in.",
        ) from error
    width, height = (picture.width, picture.height) if why_not else (part.width, part.height)
    return Photo(
        job_id=job_id,
        reading_id=reading_id,
        step=part.step,
        caption=part.caption,
        width=width,
        height=height,
        content=picture.webp if why_not else content,
        small=picture.small,
        taken_by=name_of(part.taken_by, why_not),
        taken_at=part.taken_at,
    )


def _log(part: LogPart, job_id: int, why_not: str) -> DriveLog:
    return DriveLog(
        **part.model_dump(exclude={"taken_by"}),
        taken_by=name_of(part.taken_by, why_not),
        job_id=job_id,
    )


def _tell(session: Session, job: Job, archive: Archive, by: str) -> None:
    """A journal of its own for an open job from a file: who brought it, and what the file says
    happened, and was added to its report.
    """
    record(session, job, by, Change.IMPORTED, job.import_note)
    for part in archive.addenda:
        added = part.statement
        said = f"The file says: {added.by}, {added.at:%Y-%m-%d %H:%M} UTC added: {added.text}"
        record(session, job, by, Change.TOLD, said[:20_000])
    for entry in archive.journal:
        said = f"The file says: {entry.by}, {entry.at:%Y-%m-%d %H:%M} UTC: {entry.words}"
        record(
            session,
            job,
            by,
            Change.TOLD,
            said[:20_000],
            {"by": entry.by, "at": entry.at.isoformat(), "kind": entry.kind},
        )


def _as_signed(session: Session, job: Job, archive: Archive) -> None:
    """The chain as it is, and the report with its seal."""
    append_whole(session, job, chain_in(archive.journal))
    report, seal = archive.report, archive.seal
    assert report is not None
    assert seal is not None
    session.add(
        Report(
            job_id=job.id or 0,
            html=report.html,
            pdf=base64.b64decode(report.pdf),
            sha256=report.sha256,
            signed_by=report.signed_by,
            signed_at=report.signed_at,
            head=seal.statement.head,
            unit=archive.unit.model_dump(mode="json"),
            statement=seal.statement.model_dump(mode="json"),
            signature=seal.signature,
            public_key=seal.public_key,
        )
    )
