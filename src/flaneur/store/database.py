"""Engine and sessions."""

import select
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DBAPIError, DisconnectionError
from sqlmodel import Session

from flaneur.core.errors import ErrorCode, FlaneurError, RecordError
from flaneur.core.people import Person
from flaneur.store.naming import PERSON


class JobClosed(FlaneurError):
    """The job is signed and frozen, or its engine released."""

    code = ErrorCode.JOB_SIGNED


# How long the database works on one statement, waits for what another holds, and keeps a
# transaction nobody goes on with; ms. Past it the statement fails, with whatever it belonged to.
TIMEOUTS = {
    "statement_timeout": 60_000,
    "lock_timeout": 15_000,
    "idle_in_transaction_session_timeout": 600_000,
}


def connect(url: str) -> Engine:
    """A pool that notices a restarted database and gives up waiting after a few seconds; no
    statement holds others up for longer than TIMEOUTS. What was typed stays out of logs.
    """
    engine = create_engine(
        url,
        pool_size=8,
        pool_timeout=5,
        hide_parameters=True,
        connect_args={
            "connect_timeout": 3,
            "options": " ".join(f"-c {name}={ms}" for name, ms in TIMEOUTS.items()),
        },
    )
    event.listen(engine, "checkout", _still_there)
    return engine


def _still_there(connection: Any, *_: Any) -> None:
    """Raise DisconnectionError, which makes the pool connect anew, for a connection that its server
    has left: an idle one has nothing to read until the server says goodbye. Asking the server would
    tell no more and cost as much as the query itself.
    """
    looked = select.poll()
    looked.register(connection.fileno(), select.POLLIN | select.POLLHUP | select.POLLERR)
    if connection.closed or looked.poll(0):
        raise DisconnectionError("the server has closed this connection")


_JOINED: ContextVar[Session | None] = ContextVar("joined", default=None)
_LATER = "later"


@contextmanager
def one_look(url: str) -> Iterator[Session]:
    """A session on a database that is looked into once: every connection is closed afterwards."""
    engine = connect(url)
    try:
        with Session(engine) as session:
            yield session
    finally:
        engine.dispose()


@contextmanager
def transaction(engine: Engine, person: Person | None = None) -> Iterator[Session]:
    """One transaction: committed when the block ends, rolled back whole on any error. ``person`` is
    who is at work: what bears their name gets the key of their account.

    What the database's own guards refuse comes out as ours: JobClosed for a signed job, RecordError
    for a bent record. Inside ``joined`` it is part of the transaction that is under way.
    """
    under_way = _JOINED.get()
    if under_way is not None:
        yield under_way
        under_way.flush()
        return
    with Session(engine, expire_on_commit=False) as session:
        session.info[PERSON] = person
        try:
            yield session
            session.commit()
        except DBAPIError as error:
            session.rollback()
            raise _ours(error) from error
        except BaseException:
            session.rollback()
            raise


@contextmanager
def joined(engine: Engine, person: Person | None) -> Iterator[Session]:
    """One transaction of all that begin inside it: they are kept together or not at all."""
    with transaction(engine, person) as session:
        later = session.info.setdefault(_LATER, list[Callable[[], None]]())
        token = _JOINED.set(session)
        try:
            yield session
        finally:
            _JOINED.reset(token)
    for act in later:
        act()


def when_kept(act: Callable[[], None]) -> None:
    """Do what others wait for once what is under way is kept: at once, where nothing is."""
    under_way = _JOINED.get()
    if under_way is None:
        act()
    else:
        under_way.info[_LATER].append(act)


def _ours(error: DBAPIError) -> Exception:
    """The guards' refusals in our words (SQLSTATE FL001 and FL002); any other error as it is."""
    code, said = getattr(error.orig, "sqlstate", None), str(error.orig).splitlines()[0]
    if code == "FL001":
        return JobClosed(
            "This job is signed and its report frozen.",
            read=said,
            advice="Start a new job on the unit to go on.",
        )
    if code == "FL002":
        return RecordError(
            "The record does not allow this.",
            read=said,
            advice="Nothing was saved. Reload the page; tell the lead.",
        )
    return error
