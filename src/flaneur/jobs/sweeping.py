"""Logs of the vehicle and phaser sweeps."""

from dataclasses import asdict
from typing import Any

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.job.change import Change
from flaneur.core.job.progress import reading_phase
from flaneur.core.phasers.drivelog import DriveLog as Log
from flaneur.core.phasers.drivelog import LogKind, log_words
from flaneur.core.phasers.fit import STEP_DEG, fit_phaser
from flaneur.core.phasers.found import PhaserResponseFit
from flaneur.core.phasers.sweep import sweep_commands
from flaneur.devices.link import LinkClient
from flaneur.formats.logs import read_log, write_log
from flaneur.jobs.work import Work
from flaneur.store.tables import DriveLog, JournalEntry

RATE_HZ = 15


def check_phasers(book: EngineBook, phasers: list[str]) -> None:
    """Raise ReadingError for a phaser the book does not know."""
    unknown = [p for p in phasers if p not in book.phasers]
    if unknown:
        raise ReadingError(
            "The book has no such phaser.",
            read=", ".join(unknown),
            expected=", ".join(book.phasers) or "none",
        )


def sweep(link: LinkClient, book: EngineBook, unit: str, phasers: list[str], oil: str) -> Log:
    """Run the guided sweep over the vehicle link. Raises DeviceError."""
    commands, seconds = sweep_commands(book, phasers)
    message = {
        "do": "log",
        "engine": book.name,
        "unit": unit,
        "seconds": seconds,
        "rate_hz": RATE_HZ,
        "oil": oil,
        "commands": [{"at_s": c.at_s, "phaser": c.phaser, "deg": c.deg} for c in commands],
    }
    return read_log(str(link.ask(message)["log"]), book, "vehicle link")


def keep_log(work: Work, log: Log, kind: LogKind, oil: str) -> JournalEntry:
    """Keep a log with every phaser fitted."""
    fits = _fits(work.book, log, kind)
    summary: dict[str, Any] = {
        "oil": oil,
        "seconds": log.seconds,
        "rate_hz": log.rate_hz,
        "words": log_words(log),
        "fits": [asdict(f) for f in fits],
    }
    row = DriveLog(
        job_id=work.job_id,
        source=log.source,
        kind=kind,
        phase=reading_phase(work.job.bench_started),
        text=write_log(log),
        summary=summary,
        taken_by=work.by,
    )
    work.session.add(row)
    work.session.flush()
    verdicts = "; ".join(f"{f.name} {f.state_words}" for f in fits) or "no phaser moved"
    is_sweep = kind is LogKind.SWEEP
    what = f"Phaser sweep, {oil}" if is_sweep else f"Log of {log.seconds:.0f} s from {log.source}"
    return work.record(Change.LOG, f"{what}: {verdicts}.", {"log": row.id})


def _fits(book: EngineBook, log: Log, kind: LogKind) -> list[PhaserResponseFit]:
    """A sweep's phasers that were commanded, or every phaser of another log."""
    keys = [k for k in book.phasers if k in log.command_deg and k in log.actual_deg]
    is_sweep = kind is LogKind.SWEEP
    moved = [k for k in keys if not is_sweep or float(log.command_deg[k].max()) > STEP_DEG]
    return [fit_phaser(book, key, log) for key in moved]
