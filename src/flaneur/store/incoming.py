"""Files on their way in: their pieces, their one state machine, and which column is which sensor.

waiting → reading → decoding → keeping → done, each step only by the worker that holds the claim;
from any of them to asking (a person says the columns, then waiting again), refused, or cancelled.
Nobody but ``claim`` begins a file, and only the holder of the claim moves it on: a worker that lost
it finds out at its next step and keeps nothing.
"""

import hashlib
import uuid
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

from sqlalchemy import CursorResult, Engine, delete, text, update
from sqlalchemy.exc import DBAPIError
from sqlmodel import Session, col, select

from flaneur.core.errors import CaptureError, FlaneurError
from flaneur.store.changes import NotFound
from flaneur.store.tables import ChannelMap, Incoming, IncomingPiece, State

PIECE_BYTES = 4 << 20
LOCK_CLASS = 20611  # of advisory locks on files at work, one each
MOST_ATTEMPTS = 2


AT_WORK = (State.READING, State.DECODING, State.KEEPING)
GONE = (State.CANCELLED, State.DISMISSED)


class ClaimLost(Exception):
    """Somebody cancelled the file, or another worker took it up: nothing of it may be kept."""


def receive(session: Session, row: Incoming, pieces: Iterable[bytes]) -> Incoming:
    """Keep a file piece by piece. The whole is there or nothing is, since it is one transaction."""
    session.add(row)
    session.flush()
    for number, piece in enumerate(pieces):
        session.add(IncomingPiece(incoming_id=row.id or 0, number=number, data=piece))
        row.size += len(piece)
        session.flush()
        session.expunge_all()
        session.add(row)
    return row


def in_pieces(stream: Any, limit: int, refuse: FlaneurError) -> Iterator[bytes]:
    """Read a stream in pieces; ``refuse`` is raised once it is longer than ``limit`` bytes."""
    total = 0
    while piece := stream.read(PIECE_BYTES):
        total += len(piece)
        if total > limit:
            raise refuse
        yield piece


def write_out(session: Session, incoming_id: int, path: Path) -> None:
    """Put the pieces together again in a file."""
    numbers = session.exec(
        select(IncomingPiece.number)
        .where(IncomingPiece.incoming_id == incoming_id)
        .order_by(col(IncomingPiece.number))
    )
    with path.open("wb") as out:
        for number in list(numbers):
            piece = session.get_one(IncomingPiece, (incoming_id, number))
            out.write(piece.data)
            session.expunge(piece)


def drop_pieces(session: Session, incoming_id: int) -> None:
    session.execute(delete(IncomingPiece).where(col(IncomingPiece.incoming_id) == incoming_id))


def incoming_by_id(
    session: Session, job_id: int | None, incoming_id: int, lock: bool = False
) -> Incoming:
    """A file on its way. Raises NotFound."""
    query = (
        select(Incoming).where(Incoming.id == incoming_id).execution_options(populate_existing=True)
    )
    row = session.exec(query.with_for_update(key_share=True) if lock else query).first()
    if row is None or (job_id is not None and row.job_id != job_id):
        raise NotFound("There is no such file on its way.", read=str(incoming_id))
    return row


def incoming_of(session: Session, job_id: int) -> list[Incoming]:
    """Files of a job that have not become a capture yet, or did so last."""
    rows = list(
        session.exec(select(Incoming).where(Incoming.job_id == job_id).order_by(col(Incoming.id)))
    )
    return [r for r in rows if r.state not in (State.DONE, *GONE)] + [
        r for r in rows if r.state == State.DONE
    ][-1:]


@contextmanager
def at_work(engine: Engine, incoming_id: int) -> Iterator[bool]:
    """Hold a file while working at it, across transactions; yields False when somebody else does.

    The database lets go of it when this process dies or the connection breaks: so it is known that
    nobody works at it.
    """
    key = {"class": LOCK_CLASS, "id": incoming_id}
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        held = bool(
            connection.execute(text("SELECT pg_try_advisory_lock(:class, :id)"), key).scalar()
        )
        try:
            yield held
        finally:
            if held:
                with suppress(DBAPIError):
                    connection.execute(text("SELECT pg_advisory_unlock(:class, :id)"), key)


def claim(session: Session, incoming_id: int) -> str | None:
    """Begin a waiting file: the claim to move it on, or None when it does not wait. Only one of two
    gets it.
    """
    token = str(uuid.uuid4())
    change = {
        "state": State.READING,
        "claim": token,
        "attempts": Incoming.attempts + 1,
        "progress": 0.02,
    }
    return token if _change(session, incoming_id, (State.WAITING,), None, change) else None


def move_on(session: Session, incoming_id: int, token: str, state: State, **values: Any) -> None:
    """Bring a file to ``state`` with what is known of it. Raises ClaimLost when the claim no longer
    holds.
    """
    if state not in AT_WORK:
        values["claim"] = None
    if not _change(session, incoming_id, AT_WORK, token, {"state": state, **values}):
        raise ClaimLost


def _change(
    session: Session,
    incoming_id: int,
    states: Iterable[State],
    token: str | None,
    values: dict[str, Any],
) -> bool:
    query = update(Incoming).where(
        col(Incoming.id) == incoming_id, col(Incoming.state).in_(list(states))
    )
    if token is not None:
        query = query.where(col(Incoming.claim) == token)
    done = session.execute(query.values(**values).execution_options(synchronize_session=False))
    assert isinstance(done, CursorResult)
    return done.rowcount == 1


def stop(session: Session, job_id: int, incoming_id: int) -> Incoming:
    """Cancel a file at once, wherever it stands, or put one aside that was refused or done. Its
    pieces go.
    """
    row = incoming_by_id(session, job_id, incoming_id, lock=True)
    if row.state not in GONE:
        row.state = State.DISMISSED if row.state in (State.REFUSED, State.DONE) else State.CANCELLED
        row.claim = None
        session.add(row)
        drop_pieces(session, incoming_id)
    return row


def take_up_again(engine: Engine) -> list[int]:
    """Files that wait, those among them that a worker left half way: each is begun again once, then
    refused with words.
    """
    with Session(engine) as session:
        rows = list(
            session.exec(
                select(Incoming.id, Incoming.state).where(
                    col(Incoming.state).in_([State.WAITING, *AT_WORK])
                )
            )
        )
    ready: list[int] = []
    for key, state in rows:
        if key is None:
            continue
        if state == State.WAITING or _is_taken_up(engine, key):
            ready.append(key)
    return ready


def _is_taken_up(engine: Engine, incoming_id: int) -> bool:
    with at_work(engine, incoming_id) as is_free, Session(engine) as session:
        if not is_free:
            return False
        row = incoming_by_id(session, None, incoming_id, lock=True)
        if row.state not in AT_WORK:
            return False
        row.claim, row.progress = None, 0.0
        again = row.attempts < MOST_ATTEMPTS
        row.state = State.WAITING if again else State.REFUSED
        if not again:
            row.refusal = refusal_of(
                CaptureError(
                    "Flaneur was interrupted twice while it read this file.",
                    advice="Drop it in again, or a shorter one.",
                )
            )
        session.add(row)
        session.commit()
        return again


def signature(columns: list[str], engine: str) -> str:
    """What makes two sources the same: their columns' names, and the engine."""
    return hashlib.sha256("\x1f".join([engine, *sorted(columns)]).encode()).hexdigest()


def remembered(session: Session, columns: list[str], engine: str) -> dict[str, str] | None:
    found = session.get(ChannelMap, signature(columns, engine))
    return dict(found.mapping) if found else None


def remember(
    session: Session, columns: list[str], engine: str, mapping: dict[str, str], by: str
) -> None:
    session.merge(
        ChannelMap(signature=signature(columns, engine), engine=engine, mapping=mapping, said_by=by)
    )


def refusal_out(row: Incoming) -> dict[str, Any] | None:
    """Why a file was refused or what it asks, as an error on the wire; None when nothing did."""
    said = row.refusal or {}
    return said if said.get("message") else None


def refusal_of(error: FlaneurError) -> dict[str, Any]:
    """An error as it is kept with the file it refused."""
    return {
        "code": error.code,
        "message": error.message,
        "read": error.read,
        "expected": error.expected,
        "advice": error.advice,
    }
