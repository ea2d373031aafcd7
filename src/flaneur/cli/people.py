"""flaneur user …: accounts from the console, for a shop without a lead. They need the running
server's database, which script/flaneur finds.
"""

import argparse
import os
from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import Engine
from sqlalchemy.exc import OperationalError

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.people import Role
from flaneur.jobs import accounts as jobs
from flaneur.store import accounts as store
from flaneur.store.database import connect, transaction


class NoDatabase(FlaneurError):
    """The server's database cannot be reached."""

    code = ErrorCode.DATABASE_AWAY


@contextmanager
def _database() -> Iterator[Engine]:
    url = os.environ.get("FLANEUR_DATABASE_URL", "")
    if not url:
        raise NoDatabase(
            "No database is named.",
            expected="FLANEUR_DATABASE_URL, or FLANEUR_DATA of a server that runs here",
            advice="Start script/server first.",
        )
    engine = connect(url)
    try:
        yield engine
    except OperationalError as error:
        raise NoDatabase(
            "The database does not answer.",
            read=str(error.orig).splitlines()[0],
            advice="Start script/server, and say FLANEUR_DATA and FLANEUR_DB_PORT if it was given "
            "others.",
        ) from error
    finally:
        engine.dispose()


def everybody(_: argparse.Namespace) -> int:
    """Everybody with an account."""
    with _database() as engine, transaction(engine) as session:
        for user in store.users(session):
            state = "active" if user.is_active else "deactivated"
            print(f"{user.login:20} {user.role:12} {state:12} {user.name}")
    return 0


def add(options: argparse.Namespace) -> int:
    """Make an account, and print its one-time password."""
    with _database() as engine:
        told = jobs.add(engine, options.login, options.name, Role(options.role), None)
    _tell(options.login, told)
    return 0


def _tell(login: str, password: str) -> None:
    print(f"One-time password of {login}: {password}")
    print("It must be replaced at the first sign-in.")


CHANGES = {
    "deactivate": jobs.deactivate,
    "reactivate": jobs.reactivate,
    "reset": jobs.reset,
}


def change(options: argparse.Namespace) -> int:
    """Change the account of a login as ``options.change`` says, and tell a password where there is
    a new one.
    """
    with _database() as engine:
        with transaction(engine) as session:
            key = store.user_of_login(session, options.login).id or 0
        if options.change == "role":
            told = jobs.give_role(engine, key, Role(options.role), None)
        else:
            told = CHANGES[options.change](engine, key, None)
    if told is None:
        print(f"{options.login}: done.")
    else:
        _tell(options.login, told)
    return 0
