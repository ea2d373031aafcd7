"""Engine and sessions."""

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Engine, create_engine
from sqlmodel import Session


def connect(url: str) -> Engine:
    """A pool that notices a restarted database and gives up waiting after a few seconds."""
    return create_engine(url, pool_pre_ping=True, pool_size=8, pool_timeout=5, connect_args={"connect_timeout": 3})


@contextmanager
def transaction(engine: Engine) -> Iterator[Session]:
    """One transaction: committed when the block ends, rolled back whole on any error."""
    with Session(engine, expire_on_commit=False) as session:
        try:
            yield session
            session.commit()
        except BaseException:
            session.rollback()
            raise
