"""Bringing a dropped-in file in: put together, read, decoded, kept.

It writes its progress as it goes, stops when it is told to, and leaves either a whole capture with
its readings or nothing but words that say why not.
"""

import contextlib
import logging
import tempfile
import time
from dataclasses import replace
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.exc import DBAPIError
from sqlmodel import Session

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.people import Person
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.identify import (
    better_books,
    in_time,
    propose_channels,
    renamed,
    shared_words,
)
from flaneur.formats.captures import read_capture
from flaneur.jobs.capturing import capture_words
from flaneur.store.changes import job_for_change, record
from flaneur.store.database import transaction
from flaneur.store.depot import book_of, newest_books
from flaneur.store.incoming import (
    ClaimLost,
    State,
    at_work,
    claim,
    drop_pieces,
    incoming_by_id,
    move_on,
    refusal_of,
    remembered,
    write_out,
)
from flaneur.store.readings import keep_capture
from flaneur.store.tables import Incoming, Job

log = logging.getLogger(__name__)


class Asking(Exception):
    """Which column is which sensor must be said by a person first."""


class _Watch:
    """Moves a claimed file on: at most every fifth of a second where it only counts, each time
    finding out whether to stop.
    """

    def __init__(self, engine: Engine, incoming_id: int, token: str) -> None:
        self.engine, self.incoming_id, self.token, self.last = engine, incoming_id, token, 0.0

    def say(self, state: State, progress: float, at_once: bool = True) -> None:
        """Write down how far it is. Raises ClaimLost when it was cancelled."""
        if at_once or time.monotonic() - self.last > 0.2:
            self.last = time.monotonic()
            self.move(state, progress=progress)

    def move(self, state: State, **values: object) -> None:
        """One step of the file in a transaction of its own."""
        with transaction(self.engine) as session:
            move_on(session, self.incoming_id, self.token, state, **values)


def decode_incoming(engine: Engine, incoming_id: int) -> None:
    """Bring one file in, if it waits and nobody else is at it. Whatever goes wrong is kept with the
    file as words.
    """
    with at_work(engine, incoming_id) as is_mine:
        if not is_mine:
            return
        with transaction(engine) as session:
            token = claim(session, incoming_id)
        if token is not None:
            _bring_in(engine, incoming_id, _Watch(engine, incoming_id, token))


def _bring_in(engine: Engine, incoming_id: int, watch: _Watch) -> None:
    try:
        capture, row, book = _read(engine, incoming_id, watch)
        watch.say(State.DECODING, 0.4)
        capture, found = _decoded(engine, row, capture, book, watch)
        watch.say(State.KEEPING, 0.55)
        with transaction(engine, Person(row.taken_by, row.taken_by_id)) as session:
            _keep(session, incoming_id, capture, found, watch)
    except (ClaimLost, Asking):
        return
    except FlaneurError as error:
        _refuse(watch, error)
    except MemoryError:
        _refuse(
            watch, CaptureError("The file is too large for this machine.", advice="Cut it shorter.")
        )
    except DBAPIError:
        raise  # the database went away: the file is taken up again when it is back
    except Exception:
        log.exception("file %s failed", incoming_id)
        _refuse(
            watch,
            CaptureError(
                "Flaneur could not read this file.", advice="Keep the file and tell the lead."
            ),
        )
        raise


def _read(engine: Engine, incoming_id: int, watch: _Watch) -> tuple[Capture, Incoming, EngineBook]:
    """The samples as the file has them. The file is put together in one transaction and parsed
    outside of it.
    """
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "capture"
        with transaction(engine) as session:
            row = incoming_by_id(session, None, incoming_id)
            book = book_of(session, session.get_one(Job, row.job_id).book_id)
            write_out(session, incoming_id, path)
            session.expunge_all()
        watch.say(State.READING, 0.15)
        return (
            read_capture(path, row.name, meanwhile=lambda: watch.say(State.READING, 0.2)),
            row,
            book,
        )


def _refuse(watch: _Watch, error: FlaneurError) -> None:
    with contextlib.suppress(ClaimLost):
        watch.move(State.REFUSED, refusal=refusal_of(error), progress=0.0)


def _decoded(
    engine: Engine, row: Incoming, capture: Capture, book: EngineBook, watch: _Watch
) -> tuple[Capture, Correlation]:
    """The capture under the book's names, and its reading. Raises Asking when the columns must be
    named first.
    """
    columns = list(capture.channels)
    wanted = [book.crank_wheel.channel, *book.cam_wheels]
    with transaction(engine) as session:
        known = row.mapping or remembered(session, columns, book.name)
    if not known and set(wanted) <= set(columns):
        known = {name: name for name in wanted}
    if known and set(known.values()) >= set(wanted):
        named = in_time(renamed(capture, known), book)
        try:
            found = correlate(named, book)
            with transaction(engine) as session:
                said = shared_words(book, newest_books(session))
            return named, replace(found, quality=(*found.quality, *said))
        except CaptureError as error:
            proposal = propose_channels(named, book)
            if proposal:
                back = {theirs: own for own, theirs in known.items()}
                error.code = ErrorCode.CHANNELS_SWAPPED
                raise _ask(
                    watch, columns, {back[n]: c for n, c in proposal.items()}, error
                ) from error
            _other_engine(engine, capture, book, error)
            raise
    proposal = propose_channels(capture, book)
    if proposal is None:
        _other_engine(engine, capture, book, None)
    ask = CaptureError(
        "The columns are not named as in the book.",
        code=ErrorCode.COLUMNS_UNNAMED,
        read=", ".join(columns),
        expected=", ".join(wanted),
        advice="Their patterns say which is which; look and confirm."
        if proposal
        else "Say which column is which sensor.",
    )
    raise _ask(watch, columns, proposal or {}, ask)


def _ask(watch: _Watch, columns: list[str], proposal: dict[str, str], why: FlaneurError) -> Asking:
    watch.move(State.ASKING, columns=columns, proposal=proposal, refusal=refusal_of(why))
    return Asking()


def _other_engine(
    engine: Engine, capture: Capture, book: EngineBook, cause: CaptureError | None
) -> None:
    """Raise CaptureError naming the book that fits better, if there is one."""
    with transaction(engine) as session:
        every = newest_books(session)
        others = [b for b in every if b.name != book.name and b.can_be_captured]
    better = better_books(capture, others)
    if better:
        raise CaptureError(
            "This looks like a capture of another engine.",
            code=ErrorCode.OTHER_ENGINE,
            read=cause.read if cause else f"patterns of {better[0]}",
            expected=f"the patterns of {book.name}",
            advice=f"It fits the book of {' or '.join(better)}. Check which unit was recorded.",
        ) from cause


def _keep(
    session: Session, incoming_id: int, capture: Capture, found: Correlation, watch: _Watch
) -> None:
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
        lambda share: watch.say(State.KEEPING, 0.55 + 0.44 * share, at_once=False),
        incoming_id,
    )
    # Locked only now: a large file takes seconds to keep, and nobody should wait for it.
    job = job_for_change(session, row.job_id, None)
    record(
        session,
        job,
        row.taken_by,
        Change.CAPTURE,
        capture_words(book, capture, found, row.phase),
        {"capture": kept.id},
    )
    move_on(
        session, incoming_id, watch.token, State.DONE, progress=1.0, capture_id=kept.id, refusal={}
    )
    drop_pieces(session, incoming_id)
