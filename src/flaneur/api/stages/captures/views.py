"""Captures on their way in: from the box, or from a file through the queue."""

from flask import Blueprint, request
from spectree import Response as Answers

from flaneur.api.models import Changed, ErrorOut, Named, Nothing, StrikeIn
from flaneur.api.spec import checked
from flaneur.api.stages.captures.models import CaptureIn, IncomingList, IncomingOut, MappingIn
from flaneur.api.work import (
    JOB,
    changed,
    changing,
    database,
    file_name,
    phaser_states,
    queue,
    reading,
    settings,
    too_large,
)
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.measuring.kinds import Phase
from flaneur.devices.box import BoxClient
from flaneur.jobs import capturing
from flaneur.store.database import transaction, when_kept
from flaneur.store.incoming import in_pieces, incoming_of, receive, refusal_out, stop
from flaneur.store.pulse import WORKER, is_away
from flaneur.store.queue import put_in
from flaneur.store.tables import Incoming

blueprint = Blueprint("captures", __name__)
INCOMING = f"{JOB}/incoming/<int(max=2147483647):incoming_id>"


@blueprint.post(f"{JOB}/captures/box")
@checked(resp=Answers(HTTP_200=Changed, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def capture_from_box(job_id: int, json: CaptureIn) -> Changed:
    """Record from the capture box, decode, and keep capture and readings."""
    box = BoxClient(settings().box_host, settings().box_port)
    states = phaser_states(json.phasers)
    # Looked at before the box is asked: a stale copy need not wait for it.
    with changing(job_id, json.version) as work:
        unit, engine = capturing.engine_to_start(work), work.book.name
    if json.phase is Phase.AFTER:
        with reading(job_id) as work:
            capturing.tell_the_stand_in(work, box)
    commands = capturing.commanded_deg(states)
    capture = box.capture(engine, unit, json.seconds, capturing.BOX_RATE_HZ, commands)
    with changing(job_id, json.version) as work:
        return changed(work, *capturing.keep(work, capture, json.phase, states))


@blueprint.post(f"{JOB}/captures/<int(max=2147483647):capture_id>/strike")
@checked(resp=Answers(HTTP_200=Changed, HTTP_404=ErrorOut, HTTP_409=ErrorOut))
def strike_capture_out(job_id: int, capture_id: int, json: StrikeIn) -> Changed:
    """Take a capture back as a whole, with a reason: it and its readings stay readable and no
    longer count.
    """
    with changing(job_id, json.version) as work:
        return changed(work, capturing.take_capture_back(work, capture_id, json.reason))


def _incoming_out(row: Incoming, book: EngineBook) -> IncomingOut:
    trouble = refusal_out(row)
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
        trouble=ErrorOut.model_validate(trouble) if trouble else None,
        wanted=[Named(id=w.channel, name=w.name) for w in book.tone_wheels.values()],
    )


@blueprint.post(f"{JOB}/captures/file")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def capture_from_file(job_id: int) -> IncomingOut:
    """Take a dropped-in file (multipart field ``file``; ``phase`` in the query) and put it in the
    queue to be decoded.
    """
    phase = Phase.AFTER if request.args.get("phase") == Phase.AFTER else Phase.BEFORE
    limit = settings().upload_limit_bytes
    if (request.content_length or 0) > limit:
        raise too_large("file", f"{request.content_length:,} bytes", limit)
    upload = request.files.get("file")
    if upload is None:
        raise CaptureError("No file arrived.", expected="a capture in the field “file”")
    name = file_name(upload, "file")
    # Only to see that the job is open: keeping a large file takes seconds.
    with changing(job_id, None) as work:
        book, sender = work.book, work.person
    refuse = too_large("file", f"over {limit:,} bytes", limit)
    with transaction(database(), sender) as session:
        row = Incoming(job_id=job_id, phase=phase, name=name, size=0, taken_by=sender.name)
        row = receive(session, row, in_pieces(upload.stream, limit, refuse))
    when_kept(lambda: put_in(queue(), row.id or 0))
    return _incoming_out(row, book)


@blueprint.get(f"{JOB}/incoming")
@checked(resp=Answers(HTTP_200=IncomingList))
def files_on_their_way(job_id: int) -> IncomingList:
    """Dropped-in files that are not captures yet, and the last that became one."""
    with reading(job_id) as work:
        rows = incoming_of(work.session, job_id)
        return IncomingList(
            files=[_incoming_out(r, work.book) for r in rows],
            is_worker_away=bool(rows) and is_away(work.session, WORKER),
        )


@blueprint.post(f"{INCOMING}/mapping")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def say_channels(job_id: int, incoming_id: int, json: MappingIn) -> IncomingOut:
    """Say which column is which sensor; decoding goes on. It is remembered for files with the same
    columns.
    """
    with changing(job_id, None) as work:
        row = capturing.say_channels(work, incoming_id, json.mapping, json.remember)
        book = work.book
    when_kept(lambda: put_in(queue(), incoming_id))
    return _incoming_out(row, book)


@blueprint.post(f"{INCOMING}/cancel")
@checked(resp=Answers(HTTP_200=IncomingOut, HTTP_404=ErrorOut))
def cancel(job_id: int, incoming_id: int, json: Nothing) -> IncomingOut:
    """Stop a file on its way at once, or put a refused one aside. Nothing of it is kept."""
    del json
    with reading(job_id) as work:
        return _incoming_out(stop(work.session, job_id, incoming_id), work.book)
