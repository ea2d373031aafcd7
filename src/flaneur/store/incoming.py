"""Files on their way in: their pieces, their state, and which column is which sensor."""

import hashlib
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

from sqlalchemy import delete
from sqlmodel import Session, col, select

from flaneur.core.errors import CaptureError, FlaneurError
from flaneur.store.changes import NotFound
from flaneur.store.tables import ChannelMap, Incoming, IncomingPiece

PIECE_BYTES = 4 << 20
UNDER_WAY = ("waiting", "reading", "decoding", "keeping")


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
    numbers = session.exec(select(IncomingPiece.number).where(IncomingPiece.incoming_id == incoming_id).order_by(col(IncomingPiece.number)))
    with path.open("wb") as out:
        for number in list(numbers):
            piece = session.get_one(IncomingPiece, (incoming_id, number))
            out.write(piece.data)
            session.expunge(piece)


def drop_pieces(session: Session, incoming_id: int) -> None:
    session.execute(delete(IncomingPiece).where(col(IncomingPiece.incoming_id) == incoming_id))


def incoming_by_id(session: Session, job_id: int | None, incoming_id: int, lock: bool = False) -> Incoming:
    query = select(Incoming).where(Incoming.id == incoming_id)
    row = session.exec(query.with_for_update() if lock else query).first()
    if row is None or (job_id is not None and row.job_id != job_id):
        raise NotFound("There is no such file on its way.", read=str(incoming_id))
    return row


def incoming_of(session: Session, job_id: int) -> list[Incoming]:
    """Files of a job that have not become a capture yet, or did so last."""
    rows = list(session.exec(select(Incoming).where(Incoming.job_id == job_id).order_by(col(Incoming.id))))
    return [r for r in rows if r.state not in ("done", "dismissed", "cancelled")] + [r for r in rows if r.state == "done"][-1:]


def waiting(session: Session) -> list[int]:
    """Files nobody has finished: left by a worker that was stopped."""
    return [i for i in session.exec(select(Incoming.id).where(col(Incoming.state).in_(UNDER_WAY))) if i is not None]


def signature(columns: list[str], engine: str) -> str:
    """What makes two sources the same: their columns' names, and the engine."""
    return hashlib.sha256("\x1f".join([engine, *sorted(columns)]).encode()).hexdigest()


def remembered(session: Session, columns: list[str], engine: str) -> dict[str, str] | None:
    found = session.get(ChannelMap, signature(columns, engine))
    return dict(found.mapping) if found else None


def remember(session: Session, columns: list[str], engine: str, mapping: dict[str, str], by: str) -> None:
    session.merge(ChannelMap(signature=signature(columns, engine), engine=engine, mapping=mapping, said_by=by))


def refusal_of(error: FlaneurError) -> dict[str, Any]:
    """An error as it is kept with the file it refused."""
    proposal = error.proposal if isinstance(error, CaptureError) else None
    return {
        "message": error.message,
        "read": error.read,
        "expected": error.expected,
        "advice": error.advice,
        "faults": [],
        "changes": [],
        "proposal": proposal or {},
    }
