"""Readings: all of a job's, typed-in cams, worksheets with photographs, striking out."""

from flask import Blueprint
from flask import Response as FlaskResponse
from spectree import Response

from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, Named, PhotoOut, StrikeIn
from flaneur.api.spec import checked
from flaneur.api.stages.readings.models import (
    CamIn,
    InstrumentOut,
    PhaserChange,
    ReadingOut,
    ReadingsOut,
    SheetAnswer,
    SheetIn,
    SheetSave,
)
from flaneur.api.work import (
    JOB,
    capture_out,
    changed,
    changing,
    file_name,
    phasers_of,
    reading,
    sent_file,
    settings,
)
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.gauss import Z90
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import (
    figure_words,
    part_name,
    reading_name,
    work_out,
    worksheets,
)
from flaneur.core.picture.ladder_svg import ladder_drawings
from flaneur.core.picture.theme import SCREEN
from flaneur.core.readings.counting import counting
from flaneur.core.readings.taken import PhaserState
from flaneur.core.readings.typed import Instrument, typed_cam
from flaneur.core.wording import late_words
from flaneur.jobs import readings as jobs
from flaneur.jobs.judging import ladder_of
from flaneur.store.changes import NotFound
from flaneur.store.jobs import mark_of_readings
from flaneur.store.readings import captures_listed, photo_ids, readings_of
from flaneur.store.tables import Photo, ReadingRow

blueprint = Blueprint("readings", __name__)
READING = f"{JOB}/readings/<int(max=2147483647):reading_id>"


@blueprint.get(f"{JOB}/readings")
@kept_while_unchanged(mark_of_readings)
@checked(resp=Response(HTTP_200=ReadingsOut))
def get_readings(job_id: int) -> ReadingsOut:
    """All readings with the ladder."""
    with reading(job_id) as work:
        rows, book = readings_of(work.session, job_id), work.book
        ladder = ladder_of(work)
        valid = {r.id for r in counting(rows)}
        made = photo_ids(work.session, job_id)
        return ReadingsOut(
            ladder=ladder,
            ladder_drawings=ladder_drawings(ladder, SCREEN),
            readings=[_reading_out(book, r, r.id in valid, made.get(r.id or 0, [])) for r in rows],
            captures=[capture_out(c) for c in captures_listed(work.session, job_id)],
            cams=[Named(id=c, name=book.shafts[c].name) for c in book.cams],
            phasers=phasers_of(book),
            worksheets=worksheets(work.judged_by),
            channels=[w.channel for w in book.tone_wheels.values()],
            upload_limit_bytes=settings().upload_limit_bytes,
            instruments=[
                InstrumentOut(code=i, words=i.words, assumed_deg=i.assumed_deg) for i in Instrument
            ],
        )


def _figure(row: ReadingRow) -> str:
    """A reading's figure in words; empty where the answer is a word."""
    if row.value is None:
        return ""
    if row.kind == ReadingKind.CAM:
        return late_words(row.value)
    return figure_words(row.value, row.unit)


def _reading_out(book: EngineBook, row: ReadingRow, counts: bool, photos: list[int]) -> ReadingOut:
    return ReadingOut(
        **{k: getattr(row, k) for k in _PLAIN},
        id=row.id or 0,
        name=reading_name(book, row.kind, row.part),
        half_90=Z90 * row.stderr if row.stderr else None,
        part_name=part_name(book, row.kind, row.part),
        figure=_figure(row),
        band=str(row.detail.get("band", "")),
        of_limit=row.detail.get("of_limit"),
        working=[str(w) for w in row.detail.get("working", [])],
        is_assumed=bool(row.detail.get("is_assumed")),
        photos=photos,
        has_phaser=row.kind == ReadingKind.CAM and book.phaser_of(row.part) is not None,
        counts=counts,
    )


_MADE = {
    "id",
    "name",
    "part_name",
    "figure",
    "half_90",
    "band",
    "of_limit",
    "working",
    "is_assumed",
    "photos",
    "has_phaser",
    "counts",
}
_PLAIN = [k for k in ReadingOut.model_fields if k not in _MADE]


@blueprint.post(f"{JOB}/readings/cam")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def type_cam(job_id: int, json: CamIn) -> Changed:
    """Type in a cam reading in cam or crank degrees, advance or retard positive; kept as typed."""
    with changing(job_id, json.version) as work:
        typed = typed_cam(
            work.book,
            json.cam,
            json.value,
            json.degrees_of,
            json.positive,
            json.uncertainty,
            json.instrument,
            json.tool,
        )
        phaser = PhaserState(state=json.phaser.state, command_deg=json.phaser.command_deg)
        return changed(work, *jobs.keep_typed_cam(work, typed, phaser))


@blueprint.post(f"{JOB}/worksheet")
@checked(resp=Response(HTTP_200=SheetAnswer, HTTP_422=ErrorOut))
def preview_sheet(job_id: int, json: SheetIn) -> SheetAnswer:
    """What a worksheet works out so far, without keeping it."""
    with reading(job_id) as work:
        answer = work_out(work.judged_by, json.kind, json.part, json.fields)
        return SheetAnswer(
            answer=answer,
            figure=figure_words(answer.value, answer.unit) if answer.value is not None else "",
            half_90=Z90 * answer.stderr if answer.stderr else None,
        )


@blueprint.post(f"{JOB}/readings/worksheet")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def keep_sheet(job_id: int, json: SheetSave) -> Changed:
    """Work a worksheet out and keep it, every field as typed."""
    with changing(job_id, json.version) as work:
        kept = jobs.keep_sheet(work, json.kind, json.part, json.fields, json.phase, json.instrument)
        return changed(work, *kept)


@blueprint.post(f"{READING}/photos")
@checked(resp=Response(HTTP_200=PhotoOut, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def add_photo(job_id: int, reading_id: int) -> PhotoOut:
    """Add a photograph (multipart field ``file``) to a reading; it is re-encoded and its camera
    data dropped.
    """
    missing = ReadingError(
        "No photograph arrived.", expected="a JPEG, PNG or WebP in the field “file”"
    )
    upload, content = sent_file("photograph", settings().photo_limit_bytes, missing)
    name = file_name(upload, "photograph")
    with changing(job_id, None) as work:
        entry, photo_id = jobs.add_photo(work, reading_id, content, name)
        return PhotoOut(id=photo_id, version=entry.version)


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


@blueprint.post(f"{READING}/strike")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def strike_out(job_id: int, reading_id: int, json: StrikeIn) -> Changed:
    """Strike a reading out with a reason; it stays readable."""
    with changing(job_id, json.version) as work:
        return changed(work, jobs.strike_out(work, reading_id, json.reason))


@blueprint.put(f"{READING}/phaser")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def set_phaser(job_id: int, reading_id: int, json: PhaserChange) -> Changed:
    """Say in which state the phaser was while a reading was taken."""
    with changing(job_id, json.version) as work:
        state = PhaserState(state=json.state, command_deg=json.command_deg)
        return changed(work, jobs.say_phaser(work, reading_id, state))
