"""Readings of a job: typed, worked out on a sheet, photographed, struck out."""

from flaneur.core.errors import ReadingError
from flaneur.core.job.change import Change
from flaneur.core.job.progress import reading_phase
from flaneur.core.measuring.kinds import Phase, ReadingKind, phase_of
from flaneur.core.measuring.sheets import method_words, reading_name, typed_words, work_out
from flaneur.core.readings.taken import PhaserState
from flaneur.core.readings.typed import TypedCam
from flaneur.formats.photos import read_photo
from flaneur.jobs.work import Work
from flaneur.store.readings import reading_by_id
from flaneur.store.tables import JournalEntry, Photo, ReadingRow


def keep_typed_cam(work: Work, typed: TypedCam, phaser: PhaserState) -> tuple[JournalEntry, int]:
    """Keep a cam reading typed in from another tool."""
    has_phaser = work.book.phaser_of(typed.cam) is not None
    row = ReadingRow(
        job_id=work.job_id,
        phase=reading_phase(work.job.bench_started),
        kind=ReadingKind.CAM,
        part=typed.cam,
        value=typed.deviation_deg,
        stderr=typed.stderr_deg,
        detail={"is_assumed": typed.is_assumed},
        as_typed=typed.as_typed,
        phaser_state=phaser.state if has_phaser else "none",
        command_deg=phaser.command_deg if has_phaser else 0.0,
        instrument=typed.instrument,
        taken_by=work.by,
    )
    return _keep(work, row, typed.words)


def keep_sheet(
    work: Work,
    kind: ReadingKind,
    part: str,
    fields: dict[str, str],
    phase: Phase,
    instrument: str,
) -> tuple[JournalEntry, int]:
    """Work a worksheet out and keep it, every field as typed. Raises ReadingError."""
    answer = work_out(work.judged_by, kind, part, fields)
    row = ReadingRow(
        job_id=work.job_id,
        phase=phase_of(kind, phase),
        kind=kind,
        part=part,
        value=answer.value,
        stderr=answer.stderr,
        unit=answer.unit,
        words=answer.words,
        detail={
            "fields": fields,
            "working": list(answer.working),
            "band": answer.band,
            "of_limit": answer.of_limit,
        },
        as_typed=typed_words(work.book, kind, fields),
        instrument=instrument or method_words(work.book, kind, fields) or "worksheet",
        taken_by=work.by,
    )
    return _keep(work, row, answer.words)


def _keep(work: Work, row: ReadingRow, words: str) -> tuple[JournalEntry, int]:
    work.session.add(row)
    work.session.flush()
    return work.record(Change.READING, words, {"reading": row.id}), row.id or 0


def name_of(work: Work, row: ReadingRow) -> str:
    """What a reading is of, in words."""
    return reading_name(work.book, row.kind, row.part)


def add_photo(work: Work, reading_id: int, content: bytes, name: str) -> tuple[JournalEntry, int]:
    """Add a photograph to a reading, re-encoded and without camera data. Raises ReadingError for
    what is no picture.
    """
    picture = read_photo(content, name)
    row = reading_by_id(work.session, work.job_id, reading_id)
    photo = Photo(
        job_id=work.job_id,
        reading_id=row.id,
        width=picture.width,
        height=picture.height,
        content=picture.webp,
        small=picture.small,
        taken_by=work.by,
    )
    work.session.add(photo)
    work.session.flush()
    words = f"Photograph added: {name_of(work, row)}."
    return work.record(Change.PHOTO, words, {"reading": row.id}), photo.id or 0


def strike_out(work: Work, reading_id: int, reason: str) -> JournalEntry:
    """Strike a reading out with a reason; it stays readable."""
    row = reading_by_id(work.session, work.job_id, reading_id)
    row.struck = reason
    work.session.add(row)
    words = f"Struck out: {name_of(work, row)}. {reason}"
    return work.record(Change.STRUCK, words, {"reading": row.id})


def say_phaser(work: Work, reading_id: int, state: PhaserState) -> JournalEntry:
    """Say in which state the phaser was while a reading was taken. Raises ReadingError for a cam
    without one.
    """
    row = reading_by_id(work.session, work.job_id, reading_id)
    if work.book.phaser_of(row.part) is None:
        raise ReadingError("This cam has no phaser.", read=row.part)
    before = PhaserState.model_validate({"state": row.phaser_state, "command_deg": row.command_deg})
    row.phaser_state, row.command_deg = state.state, state.command_deg
    work.session.add(row)
    data = {"reading": row.id, "before": before.model_dump(), "after": state.model_dump()}
    words = f"{name_of(work, row)}: phaser was {state.words}, not {before.words}."
    return work.record(Change.PHASER, words, data)
