"""Captures on their way in: from the box, or from a file through the queue."""

from flask import Blueprint, current_app, request
from spectree import Response as Answers

from flaneur.api.errors import TooLarge
from flaneur.api.models import CaptureIn, Changed, ErrorOut, Named, Phase, PhaserIn, StrikeIn
from flaneur.api.reading_models import (
    IncomingList,
    IncomingOut,
    MappingIn,
    Nothing,
)
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, changing, file_name, queue, reading, settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.readings import PhaserState
from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.standins.protocol import BoxClient
from flaneur.store.changes import record
from flaneur.store.database import transaction
from flaneur.store.incoming import (
    State,
    in_pieces,
    incoming_by_id,
    incoming_of,
    receive,
    remember,
    stop,
)
from flaneur.store.jobs import bench_of, plan_of
from flaneur.store.readings import capture_by_id, keep_capture, strike_capture
from flaneur.store.tables import Incoming
from flaneur.worker import capture_words, put_in

blueprint = Blueprint("captures", __name__)
BOX_RATE_HZ = 50_000.0
INCOMING = f"{JOB}/incoming/<int(max=2147483647):incoming_id>"


@blueprint.post(f"{JOB}/captures/box")
@checked(resp=Answers(HTTP_200=Changed, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def capture_from_box(job_id: int, json: CaptureIn) -> Changed:
    """Record from the capture box, decode, and keep capture and readings."""
    with changing(
        job_id, json.version
    ) as work:  # before the box is asked: a stale copy need not wait for it
        work.book.check_capturable()
        unit, engine = f"unit-{work.job.unit_id}", work.book.name
    commands = {k: p.command_deg for k, p in json.phasers.items() if p.state == "commanded"}
    box = BoxClient(settings().box_host, settings().box_port)
    if json.phase == "after":
        tell_the_stand_in(job_id, box)
    capture = box.capture(engine, unit, json.seconds, BOX_RATE_HZ, commands)
    with changing(job_id, json.version) as work:
        return keep(work, capture, json.phase, json.phasers)


def tell_the_stand_in(job_id: int, box: BoxClient) -> None:
    """Let a simulated engine become what was done to it on the bench; a real box has no part in
    this.
    """
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


def keep(work: Work, capture: Capture, phase: str, phasers: dict[str, PhaserIn]) -> Changed:
    """Decode a capture and keep it with its readings."""
    found = correlate(capture, work.book)
    states = {k: PhaserState(state=p.state, command_deg=p.command_deg) for k, p in phasers.items()}
    row = keep_capture(work.session, work.job, work.book, phase, capture, found, work.by, states)
    words = capture_words(work.book, capture, found, phase)
    return work.changed(
        record(work.session, work.job, work.by, "capture", words, {"capture": row.id}), row.id
    )


@blueprint.post(f"{JOB}/captures/<int(max=2147483647):capture_id>/strike")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_409=ErrorOut))
def strike_capture_out(job_id: int, capture_id: int, json: StrikeIn) -> Changed:
    """Take a capture back as a whole, with a reason: it and its readings stay readable and no
    longer count.
    """
    with changing(job_id, json.version) as work:
        row = capture_by_id(work.session, job_id, capture_id)
        if row.struck is not None:
            raise CaptureError(
                "This capture was taken back already.",
                read=row.struck,
                expected="a capture that counts",
            )
        readings = strike_capture(work.session, row, json.reason)
        words = f"Capture C{row.id} of {row.source} taken back: {json.reason}"
        data = {"capture": row.id, "readings": readings}
        return work.changed(record(work.session, work.job, work.by, "capture struck", words, data))


def _incoming_out(row: Incoming, book: EngineBook) -> IncomingOut:
    said = row.refusal or {}
    wanted = [Named(id=w.channel, name=w.name) for w in book.tone_wheels.values()]
    return IncomingOut(
        id=row.id or 0,
        name=row.name,
        size=row.size,
        phase=row.phase,
        state=row.state,
        progress=row.progress,
        columns=row.columns,
        proposal=row.proposal,
        capture_id=row.capture_id,
        message=str(said.get("message", "")),
        read=str(said.get("read", "")),
        expected=str(said.get("expected", "")),
        advice=str(said.get("advice", "")),
        wanted=wanted,
    )


@blueprint.post(f"{JOB}/captures/file")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def capture_from_file(job_id: int) -> IncomingOut:
    """Take a dropped-in file (multipart field ``file``; ``phase`` in the query) and put it in the
    queue to be decoded.
    """
    phase: Phase = "after" if request.args.get("phase") == "after" else "before"
    limit = settings().upload_limit_bytes
    too_large = TooLarge(
        "The file is too large.", read=f"over {limit:,} bytes", expected=f"at most {limit:,} bytes"
    )
    if (request.content_length or 0) > limit:
        raise TooLarge(
            "The file is too large.",
            read=f"{request.content_length:,} bytes",
            expected=f"at most {limit:,} bytes",
        )
    upload = request.files.get("file")
    if upload is None:
        raise CaptureError("No file arrived.", expected="a capture in the field “file”")
    file_name(upload, "file")
    with changing(
        job_id, None
    ) as work:  # only to see that the job is open: keeping a large file takes seconds
        book, by = work.book, work.by
    with transaction(current_app.config["ENGINE"]) as session:
        row = Incoming(
            job_id=job_id, phase=phase, name=file_name(upload, "file"), size=0, taken_by=by
        )
        row = receive(session, row, in_pieces(upload.stream, limit, too_large))
    put_in(queue(), row.id or 0)
    return _incoming_out(row, book)


@blueprint.get(f"{JOB}/incoming")
@checked(resp=Answers(HTTP_200=IncomingList))
def files_on_their_way(job_id: int) -> IncomingList:
    """Dropped-in files that are not captures yet, and the last that became one."""
    with reading(job_id) as work:
        return IncomingList(
            files=[_incoming_out(r, work.book) for r in incoming_of(work.session, job_id)]
        )


@blueprint.post(f"{INCOMING}/mapping")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def say_channels(job_id: int, incoming_id: int, json: MappingIn) -> IncomingOut:
    """Say which column is which sensor; decoding goes on. It is remembered for files with the same
    columns.
    """
    with changing(job_id, None) as work:
        row = incoming_by_id(work.session, job_id, incoming_id, lock=True)
        if row.state not in (State.ASKING, State.REFUSED):
            raise CaptureError("This file asks nothing.", read=row.state)
        wanted = [w.channel for w in work.book.tone_wheels.values()]
        if sorted(json.mapping.values()) != sorted(wanted):
            raise CaptureError(
                "Every sensor needs one column.",
                read=", ".join(json.mapping.values()) or "none",
                expected=", ".join(wanted),
            )
        if row.columns and not set(json.mapping) <= set(row.columns):
            raise CaptureError(
                "The file has no such column.",
                read=", ".join(json.mapping),
                expected=", ".join(row.columns),
            )
        row.mapping, row.state, row.refusal, row.progress, row.attempts = (
            json.mapping,
            State.WAITING,
            {},
            0.0,
            0,
        )
        work.session.add(row)
        if json.remember:
            remember(work.session, row.columns, work.book.name, json.mapping, work.by)
        book = work.book
    put_in(queue(), incoming_id)
    return _incoming_out(row, book)


@blueprint.post(f"{INCOMING}/cancel")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_404=ErrorOut))
def cancel(job_id: int, incoming_id: int, json: Nothing) -> IncomingOut:
    """Stop a file on its way at once, or put a refused one aside. Nothing of it is kept."""
    del json
    with reading(job_id) as work:
        return _incoming_out(stop(work.session, job_id, incoming_id), work.book)
