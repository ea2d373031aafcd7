"""Readings: captures from the box or a file, typed-in readings, plunger extensions, striking out."""

import tempfile
from pathlib import Path

from flask import Blueprint, request
from spectree import Response
from werkzeug.datastructures import FileStorage

from flaneur.api.errors import TooLarge
from flaneur.api.models import (
    CamIn,
    CaptureIn,
    Changed,
    ErrorOut,
    Named,
    Phase,
    PhaserChange,
    PhaserIn,
    PlungerIn,
    PlungerSheet,
    ReadingOut,
    ReadingsOut,
    StrikeIn,
    Trace,
    Traces,
)
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, capture_out, changing, ladder_of, phasers_of, reading, settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantity
from flaneur.core.diagnosis.readings import PhaserState, typed_deviation_deg
from flaneur.core.errors import CaptureError, ReadingError
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.fold import fold
from flaneur.formats.captures import from_parquet, read_csv
from flaneur.standins.protocol import BoxClient
from flaneur.store.changes import record
from flaneur.store.jobs import bench_of, plan_of
from flaneur.store.readings import capture_by_id, captures_of, keep_capture, reading_by_id, readings_of, strike, valid
from flaneur.store.tables import ReadingRow

blueprint = Blueprint("readings", __name__)
BOX_RATE_HZ = 50_000.0


@blueprint.get(f"{JOB}/readings")
@checked(resp=Response(HTTP_200=ReadingsOut))
def get_readings(job_id: int) -> ReadingsOut:
    """All readings with the ladder."""
    with reading(job_id) as work:
        rows = readings_of(work.session, job_id)
        counting = {r.id for r in valid(rows)}
        book = work.book
        sheets = [
            PlungerSheet(chain=a.chain, tensioner=t.name, book_mm=t.book_plunger_mm, max_mm=t.max_plunger_mm)
            for a in book.arms.values()
            for t in (book.tensioners[a.tensioner],)
        ]
        return ReadingsOut(
            ladder=ladder_of(work),
            readings=[_reading_out(book, r, r.id in counting) for r in rows],
            captures=[capture_out(c) for c in captures_of(work.session, job_id)],
            cams=[Named(id=c, name=book.shafts[c].name) for c in book.cams],
            phasers=phasers_of(book),
            plungers=sheets,
            channels=[w.channel for w in book.tone_wheels.values()],
            upload_limit_bytes=settings().upload_limit_bytes,
        )


def _tensioner_name(book: EngineBook, chain: str) -> str:
    arm = next(a for a in book.arms.values() if a.chain == chain)
    return book.tensioners[arm.tensioner].name


def _reading_out(book: EngineBook, row: ReadingRow, counts: bool) -> ReadingOut:
    is_cam = row.kind == "cam"
    return ReadingOut(
        id=row.id or 0,
        phase=row.phase,
        kind=row.kind,
        part=row.part,
        name=book.shafts[row.part].name if is_cam else f"{_tensioner_name(book, row.part)} plunger",
        value=row.value,
        unit="° crank" if is_cam else "mm",
        stderr=row.stderr,
        scatter_deg=row.scatter_deg,
        cycles=row.cycles,
        phaser_state=row.phaser_state,
        command_deg=row.command_deg,
        has_phaser=is_cam and book.phaser_of(row.part) is not None,
        as_typed=row.as_typed,
        instrument=row.instrument,
        taken_by=row.taken_by,
        taken_at=row.taken_at,
        struck=row.struck,
        counts=counts,
    )


@blueprint.post(f"{JOB}/captures/box")
@checked(resp=Response(HTTP_200=Changed, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def capture_from_box(job_id: int, json: CaptureIn) -> Changed:
    """Record from the capture box, decode, and keep capture and readings."""
    with reading(job_id) as look:
        unit, engine = f"unit-{look.job.unit_id}", look.book.name
    commands = {k: p.command_deg for k, p in json.phasers.items() if p.state == "commanded"}
    box = BoxClient(settings().box_host, settings().box_port)
    if json.phase == "after":
        tell_the_stand_in(job_id, box)
    capture = box.capture(engine, unit, json.seconds, BOX_RATE_HZ, commands)
    with changing(job_id, json.version) as work:
        return _keep(work, capture, json.phase, json.phasers)


def tell_the_stand_in(job_id: int, box: BoxClient) -> None:
    """Let a simulated engine become what was done to it on the bench; a real box has no part in this."""
    if not box.ask({"do": "hello"}).get("stand_in"):
        return
    with reading(job_id) as work:
        plan, bench = plan_of(work.job), bench_of(work.session, work.job)
        if plan is None:
            return
        fitted = {ref.partition(":")[2] for ref in bench.done if ref.startswith("fit:")}
        message = {
            "do": "repair",
            "engine": work.book.name,
            "unit": f"unit-{work.job.unit_id}",
            "renewed": [c for c in plan.renewed if c in fitted],
            "came_off": [c for c in plan.access if c in fitted],
            "tooth_errors": bench.tooth_errors,
        }
    box.ask(message)


@blueprint.post(f"{JOB}/captures/file")
@checked(resp=Response(HTTP_200=Changed, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def capture_from_file(job_id: int) -> Changed:
    """Decode a dropped-in CSV file (multipart field ``file``; ``version``, ``phase`` in the query)."""
    version = int(request.args.get("version", "0") or 0)
    phase: Phase = "after" if request.args.get("phase") == "after" else "before"
    limit = settings().upload_limit_bytes
    if (request.content_length or 0) > limit:
        raise TooLarge("The file is too large.", read=f"{request.content_length:,} bytes", expected=f"at most {limit:,} bytes")
    upload = request.files.get("file")
    if upload is None:
        raise CaptureError("No file arrived.", expected="a CSV capture in the field “file”")
    capture = _read_upload(upload, limit)
    with changing(job_id, version) as work:
        return _keep(work, capture, phase, {})


def _read_upload(upload: FileStorage, limit: int) -> Capture:
    """Copy the upload to a file in pieces and read it there."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "capture.csv"
        size = 0
        with path.open("wb") as out:
            while piece := upload.stream.read(1 << 20):
                size += len(piece)
                if size > limit:
                    raise TooLarge("The file is too large.", read=f"over {limit:,} bytes", expected=f"at most {limit:,} bytes")
                out.write(piece)
        return read_csv(path, source=(upload.filename or "file")[:120])


def _keep(work: Work, capture: Capture, phase: str, phasers: dict[str, PhaserIn]) -> Changed:
    found = correlate(capture, work.book)
    states = {k: PhaserState(state=p.state, command_deg=p.command_deg) for k, p in phasers.items()}
    row = keep_capture(work.session, work.job, work.book, phase, capture, found, work.by, states)
    worst = max(found.cams, key=lambda c: abs(c.deviation_deg))
    late = "late" if worst.deviation_deg >= 0 else "early"
    words = (
        f"Captured {capture.seconds:.1f} s from {capture.source}{' after the repair' if phase == 'after' else ''}: "
        f"{work.book.shafts[worst.cam].name} {abs(worst.deviation_deg):.1f}° {late}, the furthest off."
    )
    return work.changed(record(work.session, work.job, work.by, "capture", words, {"capture": row.id}))


@blueprint.post(f"{JOB}/readings/cam")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def type_cam(job_id: int, json: CamIn) -> Changed:
    """Type in a cam reading in cam or crank degrees, advance or retard positive; kept as typed."""
    with changing(job_id, json.version) as work:
        if json.cam not in work.book.cams:
            raise ReadingError("The book has no such cam.", read=json.cam, expected=", ".join(work.book.cams))
        value = typed_deviation_deg(json.value, json.degrees_of, json.positive)
        spread = abs(parse_quantity(json.uncertainty, "angle", "deg").value) * (2 if json.degrees_of == "cam" else 1)
        if spread == 0:
            raise ReadingError("No instrument is exact.", read=json.uncertainty, expected="an uncertainty above zero")
        typed = f"{json.value} {json.degrees_of} degrees, {json.positive} positive"
        phaser = json.phaser if work.book.phaser_of(json.cam) else None
        row = ReadingRow(
            job_id=job_id,
            phase="before",
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
        return _keep_reading(work, row, f"{work.book.shafts[json.cam].name}: typed {typed}, {abs(value):.1f}° crank {_late(value)}.")


def _late(value: float) -> str:
    return "late" if value >= 0 else "early"


def _keep_reading(work: Work, row: ReadingRow, words: str) -> Changed:
    work.session.add(row)
    work.session.flush()
    return work.changed(record(work.session, work.job, work.by, "reading", words, {"reading": row.id}))


@blueprint.post(f"{JOB}/readings/plunger")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def type_plunger(job_id: int, json: PlungerIn) -> Changed:
    """Type in a plunger extension with its unit."""
    with changing(job_id, json.version) as work:
        if json.chain not in work.book.chains:
            raise ReadingError("The book has no such chain.", read=json.chain, expected=", ".join(work.book.chains))
        value = parse_quantity(json.value, "length").value
        spread = parse_quantity(json.uncertainty, "length", "mm").value
        arm = next(a for a in work.book.arms.values() if a.chain == json.chain)
        tensioner = work.book.tensioners[arm.tensioner]
        if not 0 <= value <= tensioner.max_plunger_mm or spread <= 0:
            raise ReadingError(
                f"The plunger of {tensioner.name} cannot stand there.",
                read=f"{json.value} ± {json.uncertainty}",
                expected=f"0 to {tensioner.max_plunger_mm:g} mm with an uncertainty above zero",
                advice="Measure again.",
            )
        row = ReadingRow(
            job_id=job_id,
            phase="before",
            kind="plunger",
            part=json.chain,
            value=value,
            stderr=spread,
            as_typed=json.value,
            instrument=json.instrument,
            taken_by=work.by,
        )
        return _keep_reading(
            work, row, f"{tensioner.name}: plunger out {value:.1f} mm ({json.value} typed), book {tensioner.book_plunger_mm:g} mm."
        )


@blueprint.post(f"{JOB}/readings/<int(max=2147483647):reading_id>/strike")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def strike_out(job_id: int, reading_id: int, json: StrikeIn) -> Changed:
    """Strike a reading out with a reason; it stays readable."""
    with changing(job_id, json.version) as work:
        row = reading_by_id(work.session, job_id, reading_id)
        strike(row, json.reason)
        work.session.add(row)
        name = _reading_out(work.book, row, False).name
        return work.changed(record(work.session, work.job, work.by, "struck", f"Struck out: {name}. {json.reason}", {"reading": row.id}))


@blueprint.put(f"{JOB}/readings/<int(max=2147483647):reading_id>/phaser")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def set_phaser(job_id: int, reading_id: int, json: PhaserChange) -> Changed:
    """Say in which state the phaser was while a reading was taken."""
    with changing(job_id, json.version) as work:
        row = reading_by_id(work.session, job_id, reading_id)
        if work.book.phaser_of(row.part) is None:
            raise ReadingError("This cam has no phaser.", read=row.part)
        row.phaser_state, row.command_deg = json.state, json.command_deg
        work.session.add(row)
        name = _reading_out(work.book, row, True).name
        state = json.state if json.state != "commanded" else f"commanded to {json.command_deg:g}°"
        return work.changed(record(work.session, work.job, work.by, "phaser", f"{name}: phaser was {state}.", {"reading": row.id}))


@blueprint.get(f"{JOB}/captures/<int(max=2147483647):capture_id>/traces")
@checked(resp=Response(HTTP_200=Traces, HTTP_404=ErrorOut))
def traces(job_id: int, capture_id: int) -> Traces:
    """Folded traces of a capture, with the book's edges underneath."""
    with reading(job_id) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        capture = from_parquet(row.content)
        folded = fold(capture, correlate(capture, work.book), work.book)
        names = {w.channel: w.name for w in work.book.tone_wheels.values()}
        return Traces(
            capture=capture_out(row),
            traces=[Trace(name=names[t.channel], **{k: getattr(t, k) for k in Trace.model_fields if k != "name"}) for t in folded],
        )
