"""flaneur user …: accounts from the console, for a shop without a lead. They need the running
server's database, which script/flaneur finds.
"""

import argparse
import os
from collections.abc import Callable, Iterator
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


def _list(_: argparse.Namespace) -> int:
    with _database() as engine, transaction(engine) as session:
        for user in store.users(session):
            state = "active" if user.is_active else "deactivated"
            print(f"{user.login:20} {user.role:12} {state:12} {user.name}")
    return 0


def _add(options: argparse.Namespace) -> int:
    with _database() as engine:
        told = jobs.add(engine, options.login, options.name, Role(options.role), None)
    _tell(options.login, told)
    return 0


def _tell(login: str, password: str) -> None:
    print(f"One-time password of {login}: {password}")
    print("It must be replaced at the first sign-in.")


def _change(change: Callable[[Engine, int, argparse.Namespace], str | None]) -> object:
    """A command that changes an account by its login, and tells a password where there is a new
    one.
    """

    def run(options: argparse.Namespace) -> int:
        with _database() as engine:
            with transaction(engine) as session:
                key = store.user_of_login(session, options.login).id or 0
            told = change(engine, key, options)
        if told is None:
            print(f"{options.login}: done.")
        else:
            _tell(options.login, told)
        return 0

    return run


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Put the commands under ``user``."""
    user = commands.add_parser("user", help="accounts of the running server").add_subparsers(
        required=True, metavar="COMMAND"
    )
    user.add_parser("list", help="everybody with an account").set_defaults(run=_list)
    add = user.add_parser("add", help="make an account, and print its one-time password")
    add.add_argument("login")
    add.add_argument("name", help="as the record shall write it")
    add.add_argument("--role", choices=[*Role], default=Role.TECHNICIAN.value)
    add.set_defaults(run=_add)
    role = user.add_parser("role", help="make somebody a lead or a technician")
    role.add_argument("login")
    role.add_argument("role", choices=[*Role])
    role.set_defaults(
        run=_change(lambda engine, key, said: jobs.give_role(engine, key, Role(said.role), None))
    )
    for name, change, words in (
        ("deactivate", jobs.deactivate, "let somebody sign in no longer"),
        ("reactivate", jobs.reactivate, "let somebody sign in again"),
        ("reset", jobs.reset, "a one-time password for somebody who forgot theirs"),
    ):
        parser = user.add_parser(name, help=words)
        parser.add_argument("login")
        parser.set_defaults(run=_change(lambda engine, key, _, do=change: do(engine, key, None)))
