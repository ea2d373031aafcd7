"""The capture box, live."""

import time

from flask import Blueprint, Flask, current_app
from flask_login import current_user
from spectree import Response as Answers

from flaneur.api.errors import AtTheBox, NotConnected
from flaneur.api.live import LiveSession, Owner
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.reading_models import LiveCam, LiveCommand, LiveIn, LiveKeep, LiveOut, Nothing
from flaneur.api.security import by_name
from flaneur.api.spec import checked
from flaneur.api.stages.captures import BOX_RATE_HZ, keep, tell_the_stand_in
from flaneur.api.work import JOB, Work, changing, phasers_of, reading, settings
from flaneur.core.errors import CaptureError, FlaneurError
from flaneur.core.proof.progress import reading_phase
from flaneur.standins.protocol import BoxClient
from flaneur.store.changes import job_for_change
from flaneur.store.database import transaction
from flaneur.store.depot import book_of

blueprint = Blueprint("live", __name__)


def _sessions() -> dict[int, LiveSession]:
    return current_app.config.setdefault("LIVE", {})


def _session(job_id: int) -> LiveSession:
    """The live look of a job, for who started it. Raises NotFound, NotConnected, or AtTheBox for
    anybody else.
    """
    with reading(job_id):
        found = _sessions().get(job_id)
    if found is None:
        raise NotConnected("The box is not connected.", advice="Connect it first.")
    if not _is_mine(found):
        raise _somebody_else(found)
    return found


def _is_mine(live: LiveSession) -> bool:
    return live.owner.user_id == str(current_user.id)


def _somebody_else(live: LiveSession) -> AtTheBox:
    recording = f", recording for {live.recording_s:.0f} s" if live.recording_s is not None else ""
    return AtTheBox(
        f"{live.owner.name} is at the box.",
        read=f"started {live.seconds:.0f} s ago{recording}",
        expected="whoever started it, or somebody who takes it over",
        advice=f"Ask {live.owner.name}. Taking it over keeps what is being recorded.",
    )


def _out(job_id: int) -> LiveOut:
    with reading(job_id) as work:
        book = work.book
    live = _sessions().get(job_id)
    if live is None:
        blank = {
            "state": "off",
            "trouble": "",
            "seconds": 0.0,
            "held_s": 0.0,
            "recording_s": None,
            "rpm": None,
            "quality": [],
            "cams": [],
        }
        return LiveOut(**blank, phasers=phasers_of(book), commands={}, by=None, is_mine=False)
    shown = live.shown
    cams = [
        LiveCam(
            cam=c.cam,
            name=book.shafts[c.cam].name,
            deviation_deg=c.deviation_deg,
            stderr_deg=c.stderr_deg,
            scatter_deg=c.scatter_deg,
            history_s=[t for t, _ in list(shown.history.get(c.cam, []))],
            history_deg=[d for _, d in list(shown.history.get(c.cam, []))],
        )
        for c in shown.cams
    ]
    return LiveOut(
        state=shown.state,
        trouble=shown.trouble,
        seconds=live.seconds,
        held_s=live.held_s,
        recording_s=live.recording_s,
        rpm=shown.rpm,
        quality=shown.quality,
        cams=cams,
        phasers=phasers_of(book),
        commands=live.commands,
        by=live.owner.name,
        is_mine=_is_mine(live),
    )


@blueprint.get(f"{JOB}/live")
@checked(resp=Answers(HTTP_200=LiveOut))
def look(job_id: int) -> LiveOut:
    """What the box shows now; looking keeps one's own connection alive."""
    live = _sessions().get(job_id)
    if live is not None and _is_mine(live):
        live.watched_at = time.monotonic()
    return _out(job_id)


@blueprint.post(f"{JOB}/live")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_409=ErrorOut, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def connect(job_id: int, json: LiveIn) -> LiveOut:
    """Connect the box to this job's engine and start it, cold if wanted. From somebody else it is
    taken over only when asked.
    """
    with changing(job_id, None) as work:
        work.book.check_capturable()
        book, unit = work.book, f"unit-{work.job.unit_id}"
    app: Flask = current_app._get_current_object()  # type: ignore[attr-defined]
    old = _sessions().get(job_id)
    if old is not None:
        if not _is_mine(old) and old.shown.state in ("live", "connecting") and not json.take_over:
            raise _somebody_else(old)
        _sessions().pop(job_id, None)
        _keep_record(app, job_id, old)
        old.stop()
    box = BoxClient(settings().box_host, settings().box_port, timeout_s=10)
    if json.phase == "after":
        tell_the_stand_in(job_id, box)
    owner = Owner(str(current_user.id), by_name(), json.phase)
    _sessions()[job_id] = LiveSession(
        box, book, unit, BOX_RATE_HZ, json.cold, owner, lambda live: _keep_record(app, job_id, live)
    )
    return _out(job_id)


def _keep_record(app: Flask, job_id: int, live: LiveSession) -> None:
    """A record under way that the box or a person breaks off is kept as far as it came, in the name
    of who made it.
    """
    if live.recording_s is None or live.recording_s < 1:
        return
    with app.app_context():
        try:
            capture = live.recorded()
            with transaction(app.config["ENGINE"]) as session:
                job = job_for_change(session, job_id, None)
                work = Work(session, job, book_of(session, job.book_id), live.owner.name)
                keep(work, capture, live.owner.phase, {})
            live.end_record()
        except FlaneurError as error:
            live.shown.trouble += f" What came could not be kept: {error}"


@blueprint.post(f"{JOB}/live/command")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def command(job_id: int, json: LiveCommand) -> LiveOut:
    """Hold a speed, let it fall, or command phasers."""
    live = _session(job_id)
    for key, deg in json.phasers.items():
        phaser = live.book.phasers.get(key)
        if phaser is None or deg > phaser.range_deg:
            raise CaptureError(
                "This phaser cannot go there.",
                read=f"{key} to {deg:g}°",
                expected="a phaser of the book within its travel",
            )
    live.command(json.rpm, json.idle, json.phasers)
    return _out(job_id)


@blueprint.post(f"{JOB}/live/record")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_502=ErrorOut))
def start_record(job_id: int, json: Nothing) -> LiveOut:
    """Record from now on."""
    del json
    _session(job_id).record()
    return _out(job_id)


@blueprint.post(f"{JOB}/live/keep")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def keep_live(job_id: int, json: LiveKeep) -> Changed:
    """Keep the last ``seconds``, or without a number what was recorded since record was pressed, as
    a capture.
    """
    live = _session(job_id)
    capture = live.last(json.seconds) if json.seconds is not None else live.recorded()
    with changing(job_id, json.version) as work:
        kept = keep(work, capture, reading_phase(work.job.bench_started), json.phasers)
    if json.seconds is None:
        live.end_record()  # only now: a keep that was refused as stale can be pressed again
    return kept


@blueprint.post(f"{JOB}/live/stop")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_409=ErrorOut))
def disconnect(job_id: int, json: Nothing) -> LiveOut:
    """Let go of the box. A record under way is kept first."""
    del json
    live = _session(job_id) if job_id in _sessions() else None
    if live is not None:
        _sessions().pop(job_id, None)
        app: Flask = current_app._get_current_object()  # type: ignore[attr-defined]
        _keep_record(app, job_id, live)
        live.stop()
    return _out(job_id)
