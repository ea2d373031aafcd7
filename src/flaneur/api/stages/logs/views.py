"""Logs of the vehicle and phaser sweeps."""

import re

from flask import Blueprint, Response, request
from spectree import Response as Answers

from flaneur.api.models import Changed, ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.logs.models import LinkIn, LogOut, LogsOut, PhaserByOil, SweepIn
from flaneur.api.work import (
    JOB,
    changed,
    changing,
    file_name,
    phasers_of,
    reading,
    sent_file,
    settings,
)
from flaneur.core.errors import CaptureError
from flaneur.core.phasers.drivelog import LogKind, next_sweep, oil_state
from flaneur.devices.link import LinkClient
from flaneur.formats.logs import read_log
from flaneur.jobs import linking, sweeping
from flaneur.jobs.capturing import unit_at_box
from flaneur.store.changes import NotFound
from flaneur.store.readings import logs_of
from flaneur.store.tables import DriveLog

blueprint = Blueprint("logs", __name__)
MOST_BYTES = 20_000_000


def _log_out(row: DriveLog) -> LogOut:
    """A kept log; its phasers were fitted when it was taken."""
    return LogOut.model_validate(
        {
            **row.summary,
            "id": row.id,
            "source": row.source,
            "kind": row.kind,
            "taken_by": row.taken_by,
            "taken_at": row.taken_at,
        }
    )


@blueprint.get(f"{JOB}/logs")
@checked(resp=Answers(HTTP_200=LogsOut))
def get_logs(job_id: int) -> LogsOut:
    """All logs of a job with every phaser fitted, and what to do next."""
    with reading(job_id) as work:
        logs, phasers = [_log_out(r) for r in logs_of(work.session, job_id)], phasers_of(work.book)
        done = {log.oil for log in logs if log.kind is LogKind.SWEEP}
        return LogsOut(
            logs=logs,
            phasers=phasers,
            by_oil=[PhaserByOil.of(p, logs) for p in phasers],
            advice=next_sweep(bool(work.book.phasers), done),
        )


@blueprint.post(f"{JOB}/logs/sweep")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def sweep(job_id: int, json: SweepIn) -> Changed:
    """Run the guided sweep over the vehicle link and keep its log."""
    # Looked at before the link is asked: a stale copy need not wait for it.
    with changing(job_id, json.version) as look:
        sweeping.check_phasers(look.book, json.phasers)
        unit, book = unit_at_box(look), look.book
    link = LinkClient(settings().link_host, settings().link_port)
    log = sweeping.sweep(link, book, unit, json.phasers, json.oil)
    with changing(job_id, json.version) as work:
        return changed(work, sweeping.keep_log(work, log, LogKind.SWEEP, json.oil))


@blueprint.post(f"{JOB}/logs/link")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def ask_link(job_id: int, json: LinkIn) -> Changed:
    """Read or clear the control unit's codes, or let it learn its base anew, over the vehicle link;
    the notebook keeps what it answered.
    """
    with changing(job_id, json.version) as look:
        unit, engine = unit_at_box(look), look.book.name
    codes = linking.ask(
        LinkClient(settings().link_host, settings().link_port), json.task, unit, engine
    )
    with changing(job_id, json.version) as work:
        return changed(work, linking.record(work, json.task, codes))


@blueprint.post(f"{JOB}/logs/file")
@checked(resp=Answers(HTTP_200=Changed, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def log_from_file(job_id: int) -> Changed:
    """Keep a dropped-in CSV log (multipart field ``file``; ``version`` in the query)."""
    missing = CaptureError("No file arrived.", expected="a CSV log in the field “file”")
    upload, content = sent_file("log", MOST_BYTES, missing)
    text = request.args.get("version", "")
    with changing(job_id, int(text) if re.fullmatch("[0-9]{1,9}", text) else 0) as work:
        log = read_log(content, work.book, file_name(upload, "log"))
        return changed(work, sweeping.keep_log(work, log, LogKind.LOG, oil_state(log)))


@blueprint.get(f"{JOB}/logs/<int(max=2147483647):log_id>.csv")
def export_log(job_id: int, log_id: int) -> Response:
    """A log as CSV."""
    with reading(job_id) as work:
        row = work.session.get(DriveLog, log_id)
        if row is None or row.job_id != job_id:
            raise NotFound("There is no such log.", read=str(log_id))
        name = f"{work.job.number}-log-{log_id}.csv"
        return Response(
            row.text,
            mimetype="text/csv",
            headers={"Content-Disposition": f'attachment; filename="{name}"'},
        )
