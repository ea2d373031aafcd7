"""Readings: all of a job's, typed-in cams, worksheets with photographs, striking out."""

from flask import Blueprint, request
from flask import Response as FlaskResponse
from spectree import Response

from flaneur.api.errors import TooLarge
from flaneur.api.models import (
    CamIn,
    Changed,
    ErrorOut,
    Named,
    PhaserChange,
    ReadingOut,
    ReadingsOut,
    StrikeIn,
)
from flaneur.api.reading_models import PhotoOut, SheetAnswer, SheetIn, SheetSave
from flaneur.api.spec import checked
from flaneur.api.work import (
    JOB,
    Work,
    capture_out,
    changing,
    file_name,
    ladder_of,
    phasers_of,
    reading,
    settings,
)
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantity
from flaneur.core.diagnosis.readings import typed_deviation_deg
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.sheets import MEASURED_OFF, reading_name, work_out, worksheets
from flaneur.core.proof.progress import reading_phase
from flaneur.formats.photos import read_photo
from flaneur.store.changes import NotFound, record
from flaneur.store.readings import captures_of, photos_of, reading_by_id, readings_of, strike, valid
from flaneur.store.tables import Photo, ReadingRow

blueprint = Blueprint("readings", __name__)


@blueprint.get(f"{JOB}/readings")
@checked(resp=Response(HTTP_200=ReadingsOut))
def get_readings(job_id: int) -> ReadingsOut:
    """All readings with the ladder."""
    with reading(job_id) as work:
        rows = readings_of(work.session, job_id)
        counting = {r.id for r in valid(rows)}
        book = work.book
        photos: dict[int | None, list[int]] = {}
        for photo in photos_of(work.session, job_id):
            photos.setdefault(photo.reading_id, []).append(photo.id or 0)
        return ReadingsOut(
            ladder=ladder_of(work),
            readings=[_reading_out(book, r, r.id in counting, photos.get(r.id, [])) for r in rows],
            captures=[capture_out(c) for c in captures_of(work.session, job_id)],
            cams=[Named(id=c, name=book.shafts[c].name) for c in book.cams],
            phasers=phasers_of(book),
            worksheets=worksheets(book),
            channels=[w.channel for w in book.tone_wheels.values()],
            upload_limit_bytes=settings().upload_limit_bytes,
        )


def _reading_out(book: EngineBook, row: ReadingRow, counts: bool, photos: list[int]) -> ReadingOut:
    return ReadingOut(
        **{k: getattr(row, k) for k in _PLAIN},
        id=row.id or 0,
        name=reading_name(book, row.kind, row.part),
        band=str(row.detail.get("band", "")),
        working=[str(w) for w in row.detail.get("working", [])],
        photos=photos,
        has_phaser=row.kind == "cam" and book.phaser_of(row.part) is not None,
        counts=counts,
    )


_PLAIN = [
    k
    for k in ReadingOut.model_fields
    if k not in ("id", "name", "band", "working", "photos", "has_phaser", "counts")
]


@blueprint.post(f"{JOB}/readings/cam")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def type_cam(job_id: int, json: CamIn) -> Changed:
    """Type in a cam reading in cam or crank degrees, advance or retard positive; kept as typed."""
    with changing(job_id, json.version) as work:
        if json.cam not in work.book.cams:
            raise ReadingError(
                "The book has no such cam.", read=json.cam, expected=", ".join(work.book.cams)
            )
        value = typed_deviation_deg(json.value, json.degrees_of, json.positive)
        spread = abs(parse_quantity(json.uncertainty, "angle", "deg").value) * (
            2 if json.degrees_of == "cam" else 1
        )
        if spread == 0:
            raise ReadingError(
                "No instrument is exact.",
                read=json.uncertainty,
                expected="an uncertainty above zero",
            )
        typed = f"{json.value} {json.degrees_of} degrees, {json.positive} positive"
        phaser = json.phaser if work.book.phaser_of(json.cam) else None
        row = ReadingRow(
            job_id=job_id,
            phase=reading_phase(work.job.bench_started),
            kind="cam",
            part=json.cam,
            value=value,
            stderr=spread,
            as_typed=typed,
            phaser_state=phaser.state if phaser else "none",
            command_deg=phaser.command_deg if phaser else 0.0,
            instrument=json.instrument,
            taken_by=work.by,
        )
        return _keep_reading(
            work,
            row,
            f"{work.book.shafts[json.cam].name}: typed {typed}, {abs(value):.1f}° crank "
            f"{_late(value)}.",
        )


def _late(value: float) -> str:
    return "late" if value >= 0 else "early"


def _keep_reading(work: Work, row: ReadingRow, words: str) -> Changed:
    work.session.add(row)
    work.session.flush()
    return work.changed(
        record(work.session, work.job, work.by, "reading", words, {"reading": row.id}), row.id
    )


@blueprint.post(f"{JOB}/worksheet")
@checked(resp=Response(HTTP_200=SheetAnswer, HTTP_422=ErrorOut))
def preview_sheet(job_id: int, json: SheetIn) -> SheetAnswer:
    """What a worksheet works out so far, without keeping it."""
    with reading(job_id) as work:
        return SheetAnswer(answer=work_out(work.book, json.kind, json.part, json.fields))


@blueprint.post(f"{JOB}/readings/worksheet")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def keep_sheet(job_id: int, json: SheetSave) -> Changed:
    """Work a worksheet out and keep it, every field as typed."""
    with changing(job_id, json.version) as work:
        answer = work_out(work.book, json.kind, json.part, json.fields)
        asked = {
            b.key
            for s in worksheets(work.book)
            if s.kind == json.kind
            for b in s.blanks
            if b.kind != "choice" and b.key != "uncertainty"
        }
        typed = "; ".join(v for k, v in json.fields.items() if k in asked and v.strip())
        row = ReadingRow(
            job_id=job_id,
            phase="before" if json.kind in MEASURED_OFF else json.phase,
            kind=json.kind,
            part=json.part,
            value=answer.value,
            stderr=answer.stderr,
            unit=answer.unit,
            words=answer.words,
            detail={"fields": json.fields, "working": list(answer.working), "band": answer.band},
            as_typed=typed[:200],
            instrument=json.instrument or json.fields.get("method", "") or "worksheet",
            taken_by=work.by,
        )
        return _keep_reading(work, row, answer.words)


@blueprint.post(f"{JOB}/readings/<int(max=2147483647):reading_id>/photos")
@checked(resp=Response(HTTP_200=PhotoOut, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def add_photo(job_id: int, reading_id: int) -> PhotoOut:
    """Add a photograph (multipart field ``file``) to a reading; it is re-encoded and its camera
    data dropped.
    """
    upload, limit = request.files.get("file"), settings().photo_limit_bytes
    if upload is None:
        raise ReadingError(
            "No photograph arrived.", expected="a JPEG, PNG or WebP in the field “file”"
        )
    content = upload.stream.read(limit + 1)
    if len(content) > limit:
        raise TooLarge(
            "The photograph is too large.",
            read=f"over {limit:,} bytes",
            expected=f"at most {limit:,} bytes",
        )
    picture = read_photo(content, file_name(upload, "photograph"))
    with changing(job_id, None) as work:
        row = reading_by_id(work.session, job_id, reading_id)
        photo = Photo(
            job_id=job_id,
            reading_id=row.id,
            width=picture.width,
            height=picture.height,
            content=picture.webp,
            taken_by=work.by,
        )
        work.session.add(photo)
        work.session.flush()
        name = _reading_out(work.book, row, False, []).name
        entry = record(
            work.session,
            work.job,
            work.by,
            "photo",
            f"Photograph added: {name}.",
            {"reading": row.id},
        )
        return PhotoOut(id=photo.id or 0, version=entry.version)


@blueprint.get(f"{JOB}/photos/<int(max=2147483647):photo_id>")
def photo(job_id: int, photo_id: int) -> FlaskResponse:
    """A photograph as WebP."""
    with reading(job_id) as work:
        row = work.session.get(Photo, photo_id)
        if row is None or row.job_id != job_id:
            raise NotFound("There is no such photograph.", read=str(photo_id))
        return FlaskResponse(
            row.content, mimetype="image/webp", headers={"Cache-Control": "private, max-age=86400"}
        )


@blueprint.post(f"{JOB}/readings/<int(max=2147483647):reading_id>/strike")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def strike_out(job_id: int, reading_id: int, json: StrikeIn) -> Changed:
    """Strike a reading out with a reason; it stays readable."""
    with changing(job_id, json.version) as work:
        row = reading_by_id(work.session, job_id, reading_id)
        strike(row, json.reason)
        work.session.add(row)
        name = _reading_out(work.book, row, False, []).name
        return work.changed(
            record(
                work.session,
                work.job,
                work.by,
                "struck",
                f"Struck out: {name}. {json.reason}",
                {"reading": row.id},
            )
        )


@blueprint.put(f"{JOB}/readings/<int(max=2147483647):reading_id>/phaser")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def set_phaser(job_id: int, reading_id: int, json: PhaserChange) -> Changed:
    """Say in which state the phaser was while a reading was taken."""
    with changing(job_id, json.version) as work:
        row = reading_by_id(work.session, job_id, reading_id)
        if work.book.phaser_of(row.part) is None:
            raise ReadingError("This cam has no phaser.", read=row.part)
        before = {"state": row.phaser_state, "command_deg": row.command_deg}
        row.phaser_state, row.command_deg = json.state, json.command_deg
        work.session.add(row)
        name = _reading_out(work.book, row, True, []).name
        was, now = (
            _phaser_words(before["state"], before["command_deg"]),
            _phaser_words(row.phaser_state, row.command_deg),
        )
        data = {
            "reading": row.id,
            "before": before,
            "after": {"state": row.phaser_state, "command_deg": row.command_deg},
        }
        return work.changed(
            record(
                work.session,
                work.job,
                work.by,
                "phaser",
                f"{name}: phaser was {now}, not {was}.",
                data,
            )
        )


def _phaser_words(state: object, command_deg: object) -> str:
    return str(state) if state != "commanded" else f"commanded to {command_deg:g}°"
