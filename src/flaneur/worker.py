"""The worker: takes files from the queue in PostgreSQL, decodes them, and keeps what they hold.

One task a file. It writes its progress as it goes, stops when it is told to, and leaves either a whole capture
with its readings or nothing but words that say why not.
"""

import contextlib
import logging
import os
import tempfile
import time
from pathlib import Path

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued
from sqlalchemy import Engine
from sqlmodel import Session

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, FlaneurError
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.identify import better_books, propose_channels, renamed
from flaneur.formats.captures import read_capture
from flaneur.store.changes import job_for_change, record
from flaneur.store.database import connect, transaction
from flaneur.store.depot import book_of, newest_books
from flaneur.store.incoming import (
    UNDER_WAY,
    drop_pieces,
    incoming_by_id,
    refusal_of,
    remembered,
    waiting,
    write_out,
)
from flaneur.store.readings import keep_capture
from flaneur.store.tables import Incoming, Job

log = logging.getLogger("flaneur.worker")
TASK = "decode_incoming"


class Cancelled(Exception):
    """Somebody pressed cancel."""


class Asking(Exception):
    """Which column is which sensor must be said by a person first."""


def queue_url(database_url: str) -> str:
    """The database's address as psycopg takes it."""
    return database_url.replace("postgresql+psycopg://", "postgresql://")


def make_queue(database_url: str, engine: Engine | None = None) -> procrastinate.App:
    """The task queue with its task, for the worker's own process (or a test)."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=queue_url(database_url)))
    database = engine or connect(database_url)

    @app.task(name=TASK, queue="captures")
    def decode(incoming_id: int) -> None:
        decode_incoming(database, incoming_id)

    return app


def deferrer(database_url: str) -> procrastinate.App:
    """The task queue as the web process needs it: to put tasks in. Open it before use."""
    return procrastinate.App(connector=procrastinate.SyncPsycopgConnector(conninfo=queue_url(database_url), min_size=1, max_size=2))


def put_in(queue: procrastinate.App, incoming_id: int) -> None:
    """Ask for a file to be decoded; asking twice does no harm."""
    with contextlib.suppress(AlreadyEnqueued):
        queue.configure_task(TASK, queue="captures", queueing_lock=f"incoming-{incoming_id}").defer(incoming_id=incoming_id)


class _Watch:
    """Writes progress at most every fifth of a second, each time looking whether to stop."""

    def __init__(self, engine: Engine, incoming_id: int) -> None:
        self.engine, self.incoming_id, self.last = engine, incoming_id, 0.0

    def say(self, state: str, progress: float, at_once: bool = True) -> None:
        if not at_once and time.monotonic() - self.last < 0.2:
            return
        self.last = time.monotonic()
        with transaction(self.engine) as session:
            row = incoming_by_id(session, None, self.incoming_id, lock=True)
            if row.is_cancelled:
                raise Cancelled
            row.state, row.progress = state, progress
            session.add(row)


def decode_incoming(engine: Engine, incoming_id: int) -> None:
    """Bring one file in. Whatever goes wrong is kept with the file as words."""
    with transaction(engine) as session:
        if incoming_by_id(session, None, incoming_id).state not in UNDER_WAY:
            return
    watch = _Watch(engine, incoming_id)
    try:
        watch.say("reading", 0.02)
        with transaction(engine) as session, tempfile.TemporaryDirectory() as folder:
            row = incoming_by_id(session, None, incoming_id)
            path = Path(folder) / "capture"
            write_out(session, incoming_id, path)
            session.expunge_all()
            watch.say("reading", 0.15)
            capture = read_capture(path, row.name)
        with transaction(engine) as session:
            job = session.get_one(Job, row.job_id)
            book = book_of(session, job.book_id)
        watch.say("decoding", 0.4)
        capture, found = _decoded(engine, row, capture, book)
        watch.say("keeping", 0.55)
        with transaction(engine) as session:
            _keep(session, incoming_id, capture, found, watch)
    except Cancelled:
        _end(engine, incoming_id, "cancelled", {})
    except Asking:
        return
    except FlaneurError as error:
        _end(engine, incoming_id, "refused", refusal_of(error))
    except MemoryError:
        _end(engine, incoming_id, "refused", refusal_of(CaptureError("The file is too large for this machine.", advice="Cut it shorter.")))
    except Exception:
        log.exception("file %s failed", incoming_id)
        _end(
            engine,
            incoming_id,
            "refused",
            refusal_of(CaptureError("Flaneur could not read this file.", advice="Keep the file and tell the lead.")),
        )
        raise


def _end(engine: Engine, incoming_id: int, state: str, refusal: dict[str, object]) -> None:
    with transaction(engine) as session:
        row = incoming_by_id(session, None, incoming_id, lock=True)
        row.state, row.refusal, row.progress = state, refusal, 0.0
        session.add(row)
        if state == "cancelled":
            drop_pieces(session, incoming_id)


def _decoded(engine: Engine, row: Incoming, capture: Capture, book: EngineBook) -> tuple[Capture, Correlation]:
    """The capture under the book's names, and its reading. Raises Asking when the columns must be named first."""
    columns = list(capture.channels)
    wanted = [book.crank_wheel.channel, *book.cam_wheels]
    with transaction(engine) as session:
        known = row.mapping or remembered(session, columns, book.name)
    if not known and set(wanted) <= set(columns):
        known = {name: name for name in wanted}
    if known and set(known.values()) >= set(wanted):
        named = renamed(capture, known)
        try:
            return named, correlate(named, book)
        except CaptureError as error:
            proposal = propose_channels(named, book)
            if proposal:
                back = {theirs: own for own, theirs in known.items()}
                _ask(engine, row, columns, {back[n]: c for n, c in proposal.items()}, error)
            _other_engine(engine, capture, book, error)
            raise
    proposal = propose_channels(capture, book)
    if proposal is None:
        _other_engine(engine, capture, book, None)
    ask = CaptureError(
        "The columns are not named as in the book.",
        read=", ".join(columns),
        expected=", ".join(wanted),
        advice="Their patterns say which is which; look and confirm." if proposal else "Say which column is which sensor.",
    )
    _ask(engine, row, columns, proposal or {}, ask)
    raise Asking


def _ask(engine: Engine, row: Incoming, columns: list[str], proposal: dict[str, str], why: FlaneurError) -> None:
    with transaction(engine) as session:
        kept = incoming_by_id(session, None, row.id or 0, lock=True)
        kept.state, kept.columns, kept.proposal, kept.refusal = "asking", columns, proposal, refusal_of(why)
        session.add(kept)
    raise Asking


def _other_engine(engine: Engine, capture: Capture, book: EngineBook, cause: CaptureError | None) -> None:
    """Raise CaptureError naming the book that fits better, if there is one."""
    with transaction(engine) as session:
        others = [b for b in newest_books(session) if b.name != book.name]
    better = better_books(capture, others)
    if better:
        raise CaptureError(
            "This looks like a capture of another engine.",
            read=cause.read if cause else f"patterns of {better[0]}",
            expected=f"the patterns of {book.name}",
            advice=f"It fits the book of {' or '.join(better)}. Check which unit was recorded.",
        ) from cause


def _keep(session: Session, incoming_id: int, capture: Capture, found: Correlation, watch: _Watch) -> None:
    row = incoming_by_id(session, None, incoming_id)
    job = session.get_one(Job, row.job_id)
    book = book_of(session, job.book_id)
    kept = keep_capture(
        session,
        job,
        book,
        row.phase,
        capture,
        found,
        row.taken_by,
        {},
        lambda share: watch.say("keeping", 0.55 + 0.44 * share, at_once=False),
    )
    # Locked only now: a large file takes seconds to keep, and nobody should wait for it.
    job = job_for_change(session, row.job_id, None)
    record(session, job, row.taken_by, "capture", capture_words(book, capture, found, row.phase), {"capture": kept.id})
    session.flush()
    session.refresh(row, with_for_update=True)
    if row.is_cancelled:
        raise Cancelled
    row.state, row.progress, row.capture_id, row.refusal = "done", 1.0, kept.id, {}
    session.add(row)
    drop_pieces(session, incoming_id)


def capture_words(book: EngineBook, capture: Capture, found: Correlation, phase: str) -> str:
    """What the notebook says of a new capture."""
    worst = max(found.cams, key=lambda c: abs(c.deviation_deg))
    late = "late" if worst.deviation_deg >= 0 else "early"
    return (
        f"Captured {capture.seconds:.1f} s from {capture.source}{' after the repair' if phase == 'after' else ''}: "
        f"{book.shafts[worst.cam].name} {abs(worst.deviation_deg):.1f}° {late}, the furthest off."
    )


def main() -> None:
    """Run until told to stop. Files that a stopped worker left half way are started again."""
    logging.basicConfig(level=logging.INFO)
    url = os.environ["FLANEUR_DATABASE_URL"]
    engine = connect(url)
    queue = make_queue(url, engine)
    with transaction(engine) as session:
        left = waiting(session)
    with deferrer(url).open() as app:
        for incoming_id in left:
            put_in(app, incoming_id)
    queue.run_worker(queues=["captures"], concurrency=1, fetch_job_polling_interval=1.0, delete_jobs="always")


if __name__ == "__main__":
    main()
