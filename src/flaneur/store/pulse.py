"""Signs of life of what runs in the background."""

from datetime import timedelta

from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session

from flaneur.store.tables import Pulse, now

WORKER = "worker"
GONE_AFTER = timedelta(seconds=20)


def beat(session: Session, name: str) -> None:
    """Say that it is at work now."""
    at = now()
    statement = insert(Pulse).values(name=name, at=at)
    session.execute(statement.on_conflict_do_update(index_elements=["name"], set_={"at": at}))


def is_away(session: Session, name: str) -> bool:
    """Whether it gave no sign of life lately."""
    found = session.get(Pulse, name)
    return found is None or now() - found.at > GONE_AFTER
