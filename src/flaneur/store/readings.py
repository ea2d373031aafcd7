"""Captures and readings of a job."""

from dataclasses import asdict
from typing import Any

from sqlmodel import Session, col, select

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.readings import (
    CamReading,
    DirectReading,
    PhaserState,
    PlungerReading,
    Readings,
    speaks_of_timing,
)
from flaneur.core.record.samples import samples_digest
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation
from flaneur.store.blocks import Progress, pack_angle, write_blocks
from flaneur.store.changes import NotFound
from flaneur.store.tables import CaptureRow, DriveLog, Job, Photo, ReadingRow


def correlation_json(found: Correlation) -> dict[str, Any]:
    """What was read from a capture, as it is kept: everything of every cam, and the crank wheel's
    fingerprint.
    """
    fingerprint = found.fingerprint
    return {
        "cams": [asdict(c) for c in found.cams],
        "cycle_offset_deg": found.cycle_offset_deg,
        "crank": {"turns": found.crank.turns, "bad_turns": found.crank.bad_turns},
        "fingerprint": None
        if fingerprint is None
        else {
            "error_deg": [round(float(v), 4) for v in fingerprint.error_deg],
            "stderr_deg": fingerprint.stderr_deg,
            "turns": fingerprint.turns,
            "is_clear": fingerprint.is_clear,
        },
    }


def keep_capture(
    session: Session,
    job: Job,
    book: EngineBook,
    phase: str,
    capture: Capture,
    found: Correlation,
    by: str,
    phasers: dict[str, PhaserState],
    progress: Progress = lambda _: None,
    incoming_id: int | None = None,
) -> CaptureRow:
    """Store a capture, what was read from it, and one reading per cam. A newer capture takes the
    place of an older one's readings.

    ``incoming_id`` is the file it came from, which becomes one capture only: IntegrityError the
    second time.
    """
    assert job.id is not None
    row = CaptureRow(
        job_id=job.id,
        phase=phase,
        source=capture.source,
        seconds=capture.seconds,
        rate_hz=capture.rate_hz,
        rpm=found.rpm,
        taken_by=by,
        quality=list(found.quality),
        notes=list(found.notes),
        correlation=correlation_json(found),
        channels=list(capture.channels),
        samples=capture.samples,
        angle=pack_angle(found),
        sha256=samples_digest(capture),
        incoming_id=incoming_id,
    )
    session.add(row)
    session.flush()
    write_blocks(session, row.id or 0, capture, progress)
    states = {
        c: phasers.get(key, PhaserState())
        if (key := book.phaser_of(c))
        else PhaserState(state="none")
        for c in book.cams
    }
    _keep_cams(session, row, found, by, states)
    return row


def _keep_cams(
    session: Session, row: CaptureRow, found: Correlation, by: str, states: dict[str, PhaserState]
) -> None:
    for cam in found.cams:
        session.add(
            ReadingRow(
                job_id=row.job_id,
                phase=row.phase,
                kind="cam",
                part=cam.cam,
                value=cam.deviation_deg,
                stderr=cam.stderr_deg,
                unit="°",
                phaser_state=states[cam.cam].state,
                command_deg=states[cam.cam].command_deg,
                instrument=f"capture of {row.source}"[:120],
                capture_id=row.id,
                scatter_deg=cam.scatter_deg,
                cycles=cam.cycles,
                taken_by=by,
                taken_at=row.taken_at,
            )
        )
    session.flush()


def read_again(
    session: Session, row: CaptureRow, found: Correlation, left_out: list[dict[str, Any]], by: str
) -> None:
    """Put a new reading of a kept capture in the place of the old one, which stays readable, struck
    out.
    """
    old = session.exec(
        select(ReadingRow).where(ReadingRow.capture_id == row.id, col(ReadingRow.struck).is_(None))
    )
    states: dict[str, PhaserState] = {}
    for reading in old:
        states[reading.part] = PhaserState.model_validate(
            {"state": reading.phaser_state, "command_deg": reading.command_deg}
        )
        reading.struck = "the capture was read again with other stretches left out"
        session.add(reading)
    row.left_out, row.quality, row.notes = left_out, list(found.quality), list(found.notes)
    row.correlation, row.angle, row.rpm = correlation_json(found), pack_angle(found), found.rpm
    session.add(row)
    _keep_cams(
        session, row, found, by, {c.cam: states.get(c.cam, PhaserState()) for c in found.cams}
    )


def readings_of(session: Session, job_id: int, phase: str | None = None) -> list[ReadingRow]:
    """Readings of a job, oldest first, struck ones included."""
    query = select(ReadingRow).where(ReadingRow.job_id == job_id)
    if phase:
        query = query.where(ReadingRow.phase == phase)
    return list(session.exec(query.order_by(col(ReadingRow.id))))


def captures_of(session: Session, job_id: int) -> list[CaptureRow]:
    """Captures of a job, oldest first."""
    return list(
        session.exec(
            select(CaptureRow).where(CaptureRow.job_id == job_id).order_by(col(CaptureRow.id))
        )
    )


def photos_of(session: Session, job_id: int) -> list[Photo]:
    return list(session.exec(select(Photo).where(Photo.job_id == job_id).order_by(col(Photo.id))))


def logs_of(session: Session, job_id: int) -> list[DriveLog]:
    return list(
        session.exec(select(DriveLog).where(DriveLog.job_id == job_id).order_by(col(DriveLog.id)))
    )


def capture_by_id(session: Session, job_id: int, capture_id: int) -> CaptureRow:
    row = session.get(CaptureRow, capture_id)
    if row is None or row.job_id != job_id:
        raise NotFound("There is no such capture in this job.", read=str(capture_id))
    return row


def reading_by_id(session: Session, job_id: int, reading_id: int) -> ReadingRow:
    row = session.get(ReadingRow, reading_id)
    if row is None or row.job_id != job_id:
        raise NotFound("There is no such reading in this job.", read=str(reading_id))
    return row


def valid(rows: list[ReadingRow]) -> list[ReadingRow]:
    """Readings that count: not struck, and for each cam and phase only the newest capture's beside
    typed ones.

    Reading an old capture again does not make it the newest: captures count in the order they were
    kept.
    """
    newest: dict[tuple[str, str], int] = {}
    for row in rows:
        if row.struck is None and row.capture_id is not None:
            newest[row.phase, row.part] = max(newest.get((row.phase, row.part), 0), row.capture_id)
    return [
        r
        for r in rows
        if r.struck is None and (r.capture_id is None or r.capture_id == newest[r.phase, r.part])
    ]


LARGEST_DEG, LARGEST_MM = 720.0, 10_000.0


def _is_figure(value: float | None, stderr: float | None, largest: float) -> bool:
    """Whether a kept figure can be one; what was kept before figures had bounds may not be, and
    then says nothing.
    """
    return (
        value is not None and stderr is not None and abs(value) <= largest and 0 < stderr <= largest
    )


def cam_readings(rows: list[ReadingRow]) -> list[CamReading]:
    """Cam readings with a figure that can be one."""
    return [
        CamReading(
            id=str(r.id),
            cam=r.part,
            deviation_deg=r.value or 0.0,
            stderr_deg=r.stderr or 0.0,
            phaser=PhaserState.model_validate(
                {"state": r.phaser_state, "command_deg": r.command_deg}
            ),
        )
        for r in rows
        if r.kind == "cam" and _is_figure(r.value, r.stderr, LARGEST_DEG)
    ]


MOST_HOURS = 500_000.0


def known_hours(job: Job) -> float | None:
    """Running hours of a job's intake; None where none are written or what is kept cannot be
    hours.
    """
    hours = job.intake.get("hours")
    return float(hours) if isinstance(hours, int | float) and 0 <= hours <= MOST_HOURS else None


def for_diagnosis(session: Session, job: Job, book: EngineBook, phase: str = "before") -> Readings:
    """A job's valid readings as diagnosis takes them."""
    assert job.id is not None
    rows = valid(readings_of(session, job.id, phase))
    plungers = [
        PlungerReading(
            id=str(r.id), chain=r.part, plunger_mm=r.value or 0.0, stderr_mm=r.stderr or 0.0
        )
        for r in rows
        if r.kind == "plunger"
        and _is_figure(r.value, r.stderr, LARGEST_MM)
        and (r.value or 0.0) >= 0
        and speaks_of_timing(book, r.part)
    ]
    direct = [
        DirectReading(id=str(r.id), part=r.part, value=r.value or 0.0, stderr=r.stderr or 0.0)
        for r in rows
        if r.kind in ("chain_length", "liner")
        and _is_figure(r.value, r.stderr, LARGEST_MM)
        and speaks_of_timing(book, r.part)
    ]
    oil = job.intake.get("oil_state", "unknown")
    return Readings(
        engine=book.name,
        hours=known_hours(job),
        oil=oil if oil in ("good", "poor") else "unknown",
        cams=cam_readings(rows),
        plungers=plungers,
        direct=direct,
        baseline_deg={cam: deg for cam, deg in job.baseline_deg.items() if abs(deg) <= LARGEST_DEG},
    )


def strike_capture(session: Session, row: CaptureRow, reason: str) -> list[int]:
    """Take a capture back as a whole: it and its readings stay readable and no longer count. Ids of
    the readings struck.
    """
    row.struck = reason
    session.add(row)
    readings = list(
        session.exec(
            select(ReadingRow).where(
                ReadingRow.capture_id == row.id, col(ReadingRow.struck).is_(None)
            )
        )
    )
    for reading in readings:
        reading.struck = f"its capture was taken back: {reason}"[:400]
        session.add(reading)
    return [r.id or 0 for r in readings]


def restore(session: Session, readings: list[int]) -> None:
    """Let struck readings count again."""
    for reading in session.exec(select(ReadingRow).where(col(ReadingRow.id).in_(readings))):
        reading.struck = None
        session.add(reading)


def strike(row: ReadingRow, reason: str | None) -> None:
    """Strike a reading out, or with None restore it. It is never erased."""
    row.struck = reason
