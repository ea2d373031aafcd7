"""Captures and readings of a job."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import defer
from sqlmodel import Session, col, select

from flaneur.core.book.schema import EngineBook
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.phasers.drivelog import LogKind
from flaneur.core.readings.taken import PhaserState
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation
from flaneur.core.signals.digest import samples_digest
from flaneur.core.signals.kept import kept_correlation
from flaneur.store.asked import asked_once
from flaneur.store.blocks import Progress, pack_angle, write_blocks
from flaneur.store.changes import NotFound
from flaneur.store.tables import CaptureRow, DriveLog, Job, Photo, ReadingRow


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
        correlation=kept_correlation(found),
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
                kind=ReadingKind.CAM,
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
    row.correlation, row.angle, row.rpm = kept_correlation(found), pack_angle(found), found.rpm
    session.add(row)
    _keep_cams(
        session, row, found, by, {c.cam: states.get(c.cam, PhaserState()) for c in found.cams}
    )


@asked_once
def readings_of(session: Session, job_id: int, phase: str | None = None) -> list[ReadingRow]:
    """Readings of a job, oldest first, struck ones included."""
    query = select(ReadingRow).where(ReadingRow.job_id == job_id)
    if phase:
        query = query.where(ReadingRow.phase == phase)
    return list(session.exec(query.order_by(col(ReadingRow.id))))


def readings_of_each(
    session: Session, job_ids: Sequence[int], kinds: Collection[ReadingKind] = ()
) -> dict[int, list[ReadingRow]]:
    """Readings of each of these jobs, oldest first, asked for in one go; of some kinds only where
    they are said.
    """
    query = select(ReadingRow).where(col(ReadingRow.job_id).in_(job_ids))
    if kinds:
        query = query.where(col(ReadingRow.kind).in_(kinds))
    found: dict[int, list[ReadingRow]] = {job_id: [] for job_id in job_ids}
    for row in session.exec(query.order_by(col(ReadingRow.id))):
        found[row.job_id].append(row)
    return found


def captures_of(session: Session, job_id: int) -> list[CaptureRow]:
    """Captures of a job, oldest first."""
    return list(
        session.exec(
            select(CaptureRow).where(CaptureRow.job_id == job_id).order_by(col(CaptureRow.id))
        )
    )


# As SQLAlchemy sees the two columns, which pyright takes for their values.
_CORRELATION: Any = CaptureRow.correlation
_ANGLE: Any = CaptureRow.angle
_PICTURE: Any = Photo.content


def captures_listed(session: Session, job_id: int) -> list[CaptureRow]:
    """Captures of a job as a list shows them, oldest first: what was read from them and their
    angles are fetched only when somebody asks.
    """
    return list(
        session.exec(
            select(CaptureRow)
            .where(CaptureRow.job_id == job_id)
            .order_by(col(CaptureRow.id))
            .options(defer(_CORRELATION), defer(_ANGLE))
        )
    )


def photo_ids(session: Session, job_id: int) -> dict[int, list[int]]:
    """Keys of a job's photographs by the reading they are of, oldest first."""
    found: dict[int, list[int]] = {}
    rows = select(Photo.reading_id, Photo.id).where(Photo.job_id == job_id).order_by(col(Photo.id))
    for reading, photo in session.exec(rows):
        if reading is not None and photo is not None:
            found.setdefault(reading, []).append(photo)
    return found


def photos_of(session: Session, job_id: int) -> list[Photo]:
    """Photographs of a job, oldest first."""
    return list(session.exec(select(Photo).where(Photo.job_id == job_id).order_by(col(Photo.id))))


@dataclass(frozen=True)
class PhotoListed:
    """A photograph without its picture."""

    id: int
    caption: str
    taken_by: str


def photos_listed(session: Session, job_id: int) -> list[PhotoListed]:
    """Photographs of a job, oldest first, without their pictures."""
    asked = select(Photo.id, Photo.caption, Photo.taken_by).where(Photo.job_id == job_id)
    rows = session.exec(asked.order_by(col(Photo.id)))
    return [PhotoListed(key or 0, caption, by) for key, caption, by in rows]


def photos_by_id(session: Session, job_id: int, keys: Sequence[int]) -> list[Photo]:
    """These photographs of a job, oldest first; the large picture comes when it is asked for."""
    asked = select(Photo).where(Photo.job_id == job_id, col(Photo.id).in_(keys))
    return list(session.exec(asked.options(defer(_PICTURE)).order_by(col(Photo.id))))


def step_photos(session: Session, job_id: int) -> dict[str, list[tuple[int, str]]]:
    """Keys and captions of a job's photographs by the step of the bench they are of."""
    found: dict[str, list[tuple[int, str]]] = {}
    asked = select(Photo.step, Photo.id, Photo.caption).where(Photo.job_id == job_id)
    for step, key, caption in session.exec(asked.order_by(col(Photo.id))):
        if step is not None and key is not None:
            found.setdefault(step, []).append((key, caption))
    return found


def sweeps_of(session: Session, job_id: int, phase: Phase) -> list[tuple[int, dict[str, Any]]]:
    """What the sweeps of a job's phase came to, by their keys; their samples are not fetched."""
    asked = select(DriveLog.id, DriveLog.summary).where(
        DriveLog.job_id == job_id, DriveLog.phase == phase, DriveLog.kind == LogKind.SWEEP
    )
    rows = session.exec(asked.order_by(col(DriveLog.id)))
    return [(int(key or 0), dict(found)) for key, found in rows]


def logs_of(session: Session, job_id: int) -> list[DriveLog]:
    """Logs of a job, oldest first."""
    return list(
        session.exec(select(DriveLog).where(DriveLog.job_id == job_id).order_by(col(DriveLog.id)))
    )


def capture_by_id(session: Session, job_id: int, capture_id: int) -> CaptureRow:
    """A capture of a job. Raises NotFound."""
    row = session.get(CaptureRow, capture_id)
    if row is None or row.job_id != job_id:
        raise NotFound("There is no such capture in this job.", read=str(capture_id))
    return row


def reading_by_id(session: Session, job_id: int, reading_id: int) -> ReadingRow:
    """A reading of a job. Raises NotFound."""
    row = session.get(ReadingRow, reading_id)
    if row is None or row.job_id != job_id:
        raise NotFound("There is no such reading in this job.", read=str(reading_id))
    return row


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
