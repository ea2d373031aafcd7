"""Logs of the vehicle and phaser sweeps."""

import re
from dataclasses import asdict

from flask import Blueprint, Response, request
from spectree import Response as Answers

from flaneur.api.errors import TooLarge
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.reading_models import LogOut, LogsOut, SweepIn
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, changing, file_name, phasers_of, reading, settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, ReadingError
from flaneur.core.signals.drivelog import DriveLog as Log
from flaneur.core.signals.drivelog import log_words, next_sweep, oil_state
from flaneur.core.signals.phaser import fit_phaser
from flaneur.core.signals.vehicle import sweep_commands
from flaneur.formats.logs import read_log, write_log
from flaneur.standins.protocol import LinkClient
from flaneur.store.changes import NotFound, record
from flaneur.store.readings import logs_of
from flaneur.store.tables import DriveLog

blueprint = Blueprint("logs", __name__)
RATE_HZ = 15
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


def _summary(log: Log, book: EngineBook, kind: str, oil: str) -> dict[str, object]:
    """What is read from a log, once."""
    keys = [k for k in book.phasers if k in log.command_deg and k in log.actual_deg]
    fits = [
        fit_phaser(book, k, log)
        for k in keys
        if float(log.command_deg[k].max()) > 3 or kind != "sweep"
    ]
    return {
        "oil": oil,
        "seconds": log.seconds,
        "rate_hz": log.rate_hz,
        "words": log_words(log),
        "fits": [asdict(f) for f in fits],
    }


@blueprint.get(f"{JOB}/logs")
@checked(resp=Answers(HTTP_200=LogsOut))
def get_logs(job_id: int) -> LogsOut:
    """All logs of a job with every phaser fitted, and what to do next."""
    with reading(job_id) as work:
        rows = logs_of(work.session, job_id)
        done = {str(r.summary.get("oil")) for r in rows if r.kind == "sweep"}
        return LogsOut(
            logs=[_log_out(r) for r in rows],
            phasers=phasers_of(work.book),
            advice=next_sweep(bool(work.book.phasers), done),
        )


@blueprint.post(f"{JOB}/logs/sweep")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut, HTTP_502=ErrorOut))
def sweep(job_id: int, json: SweepIn) -> Changed:
    """Run the guided sweep over the vehicle link and keep its log."""
    with changing(
        job_id, json.version
    ) as look:  # before the link is asked: a stale copy need not wait for it
        unknown = [p for p in json.phasers if p not in look.book.phasers]
        if unknown:
            raise ReadingError(
                "The book has no such phaser.",
                read=", ".join(unknown),
                expected=", ".join(look.book.phasers) or "none",
            )
        unit, book = f"unit-{look.job.unit_id}", look.book
    commands, seconds = sweep_commands(book, json.phasers)
    said = [{"at_s": c.at_s, "phaser": c.phaser, "deg": c.deg} for c in commands]
    link = LinkClient(settings().link_host, settings().link_port)
    message = {
        "do": "log",
        "engine": book.name,
        "unit": unit,
        "seconds": seconds,
        "rate_hz": RATE_HZ,
        "oil": json.oil,
        "commands": said,
    }
    log = read_log(str(link.ask(message)["log"]), book, "vehicle link")
    with changing(job_id, json.version) as work:
        return _keep(work, log, "sweep", json.oil)


@blueprint.post(f"{JOB}/logs/file")
@checked(resp=Answers(HTTP_200=Changed, HTTP_413=ErrorOut, HTTP_422=ErrorOut))
def log_from_file(job_id: int) -> Changed:
    """Keep a dropped-in CSV log (multipart field ``file``; ``version`` in the query)."""
    upload = request.files.get("file")
    if upload is None:
        raise CaptureError("No file arrived.", expected="a CSV log in the field “file”")
    content = upload.stream.read(MOST_BYTES + 1)
    if len(content) > MOST_BYTES:
        raise TooLarge(
            "The log is too large.",
            read=f"over {MOST_BYTES:,} bytes",
            expected=f"at most {MOST_BYTES:,} bytes",
        )
    text = request.args.get("version", "")
    with changing(job_id, int(text) if re.fullmatch("[0-9]{1,9}", text) else 0) as work:
        log = read_log(content, work.book, file_name(upload, "log"))
        return _keep(work, log, "log", oil_state(log))


def _keep(work: Work, log: Log, kind: str, oil: str) -> Changed:
    summary = _summary(log, work.book, kind, oil)
    row = DriveLog(
        job_id=work.job.id or 0,
        source=log.source,
        kind=kind,
        text=write_log(log),
        summary=summary,
        taken_by=work.by,
    )
    work.session.add(row)
    work.session.flush()
    verdicts = "; ".join(f"{f.name} {f.state}" for f in _log_out(row).fits) or "no phaser moved"
    what = (
        f"Phaser sweep, {oil}"
        if kind == "sweep"
        else f"Log of {log.seconds:.0f} s from {log.source}"
    )
    return work.changed(
        record(work.session, work.job, work.by, "log", f"{what}: {verdicts}.", {"log": row.id})
    )


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
