"""Changes that were made under a key: claimed, answered, and found again."""

from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy import delete, update
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col

from flaneur.store.tables import SentOnce
from flaneur.store.tables.base import now

KEPT_FOR = timedelta(days=30)


@dataclass(frozen=True)
class Sending:
    """A request as its key knows it: whose, method and address, SHA-256 of its body."""

    key: str
    person_id: int
    what: str
    body: str


def claim(session: Session, sending: Sending) -> SentOnce | None:
    """Claim a key for this transaction; None: it is ours. Else the change that was made under it.

    Where another transaction is at it, this waits for its end.
    """
    row = {**sending.__dict__, "answer": "", "at": now()}
    made = session.execute(
        insert(SentOnce).values(row).on_conflict_do_nothing().returning(col(SentOnce.key))
    )
    return None if made.first() else session.get_one(SentOnce, sending.key)


def answered(session: Session, key: str, answer: str) -> None:
    """Keep what was answered, and let go of what nobody will send again."""
    session.execute(update(SentOnce).where(col(SentOnce.key) == key).values(answer=answer))
    session.execute(delete(SentOnce).where(col(SentOnce.at) < now() - KEPT_FOR))
