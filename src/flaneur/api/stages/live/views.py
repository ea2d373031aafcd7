"""The capture box, live."""

import time

from flask import Blueprint, current_app
from spectree import Response as Answers

from flaneur.api.errors import error_out
from flaneur.api.models import Changed, ErrorOut, Nothing
from flaneur.api.security import person
from flaneur.api.spec import checked
from flaneur.api.stages.live.models import (
    FirstStartIn,
    LiveCam,
    LiveCommand,
    LiveIn,
    LiveKeep,
    LiveOut,
    LivePhaser,
)
from flaneur.api.work import JOB, changed, changing, database, phaser_states, reading, settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.gauss import Z90
from flaneur.core.job.progress import reading_phase
from flaneur.core.proof.first_start import settled_s
from flaneur.devices.box import BoxClient
from flaneur.devices.live import LiveSession, LiveStatus, Owner
from flaneur.jobs import live as jobs
from flaneur.jobs.capturing import keep
from flaneur.jobs.first_start import Started, keep_first_start

blueprint = Blueprint("live", __name__)


def _looks() -> jobs.LiveLooks:
    return current_app.config.setdefault("LIVE", jobs.LiveLooks(database()))


def _mine(job_id: int) -> LiveSession:
    with reading(job_id):
        return _looks().mine(job_id, person())


def _is_mine(live: LiveSession) -> bool:
    return live.owner.person == person()


def _out(job_id: int) -> LiveOut:
    with reading(job_id) as work:
        book = work.book
    live = _looks().of(job_id)
    shown = live.shown if live else None
    return LiveOut(
        state=shown.state if shown else LiveStatus.OFF,
        look=live.key if live else None,
        trouble=error_out(shown.trouble) if shown and shown.trouble else None,
        seconds=live.seconds if live else 0.0,
        held_s=live.held_s if live else 0.0,
        recording_s=live.recording_s if live else None,
        rpm=shown.rpm if shown else None,
        quality=shown.quality if shown else [],
        cams=_cams(book, live) if live else [],
        phasers=[
            LivePhaser(id=key, name=phaser.name, angles_deg=jobs.phaser_steps_deg(book, key))
            for key, phaser in book.phasers.items()
        ],
        commands=live.commands if live else {},
        by=live.owner.name if live else None,
        is_mine=_is_mine(live) if live else False,
        tolerance_deg=book.limits.cam_deviation_deg,
        speeds_rpm=list(jobs.SPEEDS_RPM),
    )


def _cams(book: EngineBook, live: LiveSession) -> list[LiveCam]:
    history = {cam: list(line) for cam, line in list(live.shown.history.items())}
    return [
        LiveCam(
            cam=c.cam,
            name=book.shafts[c.cam].name,
            deviation_deg=c.deviation_deg,
            stderr_deg=c.stderr_deg,
            half_90=Z90 * c.stderr_deg,
            scatter_deg=c.scatter_deg,
            history_s=[t for t, _ in history.get(c.cam, [])],
            history_deg=[d for _, d in history.get(c.cam, [])],
            settled_s=settled_s(history.get(c.cam, []), book.limits.cam_deviation_deg),
        )
        for c in live.shown.cams
    ]


@blueprint.get(f"{JOB}/live")
@checked(resp=Answers(HTTP_200=LiveOut))
def look(job_id: int) -> LiveOut:
    """What the box shows now; looking keeps one's own connection alive."""
    live = _looks().of(job_id)
    if live is not None and _is_mine(live):
        live.watched_at = time.monotonic()
    return _out(job_id)


@blueprint.post(f"{JOB}/live")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_409=ErrorOut, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def connect(job_id: int, json: LiveIn) -> LiveOut:
    """Connect the box to this job's engine and start it, cold if wanted. From somebody else it is
    taken over only when asked.
    """
    box = BoxClient(settings().box_host, settings().box_port, timeout_s=10)
    owner = Owner(person(), json.phase)
    _looks().connect(job_id, box, owner, cold=json.cold, take_over=json.take_over)
    return _out(job_id)


@blueprint.post(f"{JOB}/live/command")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_502=ErrorOut, HTTP_422=ErrorOut))
def command(job_id: int, json: LiveCommand) -> LiveOut:
    """Hold a speed, let it fall, or command phasers."""
    jobs.command(_mine(job_id), json.rpm, json.idle, json.phasers)
    return _out(job_id)


@blueprint.post(f"{JOB}/live/record")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_502=ErrorOut))
def start_record(job_id: int, json: Nothing) -> LiveOut:
    """Record from now on."""
    del json
    _mine(job_id).record()
    return _out(job_id)


@blueprint.post(f"{JOB}/live/keep")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def keep_live(job_id: int, json: LiveKeep) -> Changed:
    """Keep the last ``seconds``, or without a number what was recorded since record was pressed, as
    a capture.
    """
    live = _mine(job_id)
    capture = live.last(json.seconds) if json.seconds is not None else live.recorded()
    with changing(job_id, json.version) as work:
        phase = reading_phase(work.job.bench_started)
        kept = changed(work, *keep(work, capture, phase, phaser_states(json.phasers)))
    if json.seconds is None:
        live.end_record()  # only now: a keep that was refused as stale can be pressed again
    return kept


@blueprint.post(f"{JOB}/live/first-start")
@checked(resp=Answers(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def first_start(job_id: int, json: FirstStartIn) -> Changed:
    """Write down the first start after the repair: what was heard, what the oil did, and how soon
    each cam settled, from the box as it runs.
    """
    live = _mine(job_id)
    seen = Started(json.rattle_s, json.pressure.strip(), json.pressure_s, json.standing.strip())
    with changing(job_id, json.version) as work:
        return changed(work, keep_first_start(work, live, seen))


@blueprint.post(f"{JOB}/live/stop")
@checked(resp=Answers(HTTP_200=LiveOut, HTTP_409=ErrorOut))
def disconnect(job_id: int, json: Nothing) -> LiveOut:
    """Let go of the box. A record under way is kept first."""
    del json
    if _looks().of(job_id) is not None:
        _looks().let_go(job_id, _mine(job_id))
    return _out(job_id)
