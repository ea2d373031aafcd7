"""Accounts: signing in and out, and what a lead does for those who work here."""

import secrets
from collections.abc import Callable, Sequence
from datetime import datetime

from sqlalchemy import Engine
from sqlmodel import Session

from flaneur.core.errors import ErrorCode, FlaneurError, at_field
from flaneur.core.passwords import LONGEST, SHORTEST, Weakness, one_time_password, weakness
from flaneur.core.people import Person, Role
from flaneur.core.signing_in import wait_until
from flaneur.store import accounts as store
from flaneur.store.database import transaction
from flaneur.store.tables import AccountAct, SignInEnd, User, now


class AccountError(FlaneurError):
    """An account cannot be made or changed so."""

    code = ErrorCode.ACCOUNT_REFUSED


class WrongPassword(FlaneurError):
    """Login and password do not belong together."""

    code = ErrorCode.FORBIDDEN


class TooManyTries(FlaneurError):
    """Somebody guesses: the next try is taken at ``until``."""

    code = ErrorCode.TOO_MANY

    def __init__(self, until: datetime) -> None:
        self.wait_s = max(1, round((until - now()).total_seconds()))
        super().__init__(
            "Too many wrong passwords.",
            read=f"the next try is taken in {self.wait_s} s",
            advice="Wait, or ask a lead for a new password.",
        )


def guarded(
    engine: Engine,
    login: str,
    address: str,
    is_right: Callable[[], bool],
    refusal: FlaneurError,
) -> None:
    """Let a secret be tried: wrong tries are kept, and after some of them waited for. Raises
    ``refusal`` and TooManyTries.
    """
    with transaction(engine) as session:
        tries = store.wrong_tries(session, login, address)
        is_known = bool(tries) and store.is_known_at(session, login, address)
    until = wait_until(tries, login, address, is_known=is_known, now=now())
    if until is not None:
        raise TooManyTries(until)
    if is_right():
        return
    with transaction(engine) as session:
        store.keep_wrong_try(session, login, address)
    raise refusal


def check_password(engine: Engine, login: str, password: str, address: str) -> User:
    """The person of a login, by password. Raises WrongPassword and TooManyTries."""
    found = list[User]()

    def is_right() -> bool:
        with transaction(engine) as session:
            user = store.verify(session, login, password)
        found.extend([user] if user else [])
        return user is not None

    wrong = WrongPassword("Login or password is not right.", advice="Try again, or ask a lead.")
    guarded(engine, login, address, is_right, wrong)
    return found[0]


def sign_in(engine: Engine, login: str, password: str, address: str) -> tuple[User, str]:
    """Sign somebody in: who it is, and the token their device keeps."""
    user = check_password(engine, login, password, address)
    return user, begin_at(engine, user, address)


def begin_at(engine: Engine, user: User, address: str) -> str:
    """Sign somebody in who has shown who they are: the token their device keeps."""
    token = secrets.token_urlsafe(32)
    with transaction(engine) as session:
        store.begin(session, user, token, address)
    return token


def found(engine: Engine, login: str, name: str, password: str, address: str) -> tuple[User, str]:
    """Make the first lead of an empty database, and sign them in. Raises AccountError where
    somebody is there already.
    """
    with transaction(engine) as session:
        if store.is_founded(session):
            raise AccountError(
                "This depot has its first lead.", advice="Sign in, or ask a lead for an account."
            )
        user = _add(session, login, name, Role.LEAD, password, None)
    return user, begin_at(engine, user, address)


def add(
    engine: Engine, login: str, name: str, role: Role, by: Person | None, password: str = ""
) -> str:
    """Make an account. Its one-time password, unless one is given."""
    given = password or one_time_password()
    with transaction(engine, by) as session:
        _add(session, login, name, role, given, by, is_due=not password)
    return given


def _add(
    session: Session,
    login: str,
    name: str,
    role: Role,
    password: str,
    by: Person | None,
    is_due: bool = False,
) -> User:
    if any(user.login == login for user in store.users(session)):
        raise AccountError(
            "This login is taken.",
            read=login,
            advice="Choose another, or reactivate the account.",
            field="login",
        )
    if not is_due:
        with at_field("password"):
            _check_strength(password, (login, name))
    user = store.add_user(session, login, name, role, password, is_password_due=is_due)
    store.note(session, user, AccountAct.ADDED, by.name if by else None, role)
    return user


def give_role(engine: Engine, user_id: int, role: Role, by: Person | None) -> None:
    """Make somebody a lead or a technician."""
    with transaction(engine, by) as session:
        user = store.user_for_change(session, user_id)
        if user.role == role:
            return
        _keep_a_lead(session, user)
        user.role = role
        store.note(session, user, AccountAct.ROLE_GIVEN, by.name if by else None, role)


def deactivate(engine: Engine, user_id: int, by: Person | None) -> None:
    """Let somebody sign in no longer. All that bears their name stands."""
    with transaction(engine, by) as session:
        user = store.user_for_change(session, user_id)
        if not user.is_active:
            return
        _keep_a_lead(session, user)
        user.is_active = False
        store.end_all(session, user_id, SignInEnd.DEACTIVATED)
        store.note(session, user, AccountAct.DEACTIVATED, by.name if by else None)


def reactivate(engine: Engine, user_id: int, by: Person | None) -> str:
    """Let somebody sign in again, with a one-time password."""
    with transaction(engine, by) as session:
        user = store.user_for_change(session, user_id)
        user.is_active = True
        return _reset(session, user, AccountAct.REACTIVATED, by)


def reset(engine: Engine, user_id: int, by: Person | None) -> str:
    """A one-time password for somebody who forgot theirs; they are signed out everywhere."""
    with transaction(engine, by) as session:
        user = store.user_for_change(session, user_id)
        if not user.is_active:
            raise AccountError(
                "This account is not active.", read=user.login, advice="Reactivate it first."
            )
        return _reset(session, user, AccountAct.PASSWORD_RESET, by)


def _reset(session: Session, user: User, act: AccountAct, by: Person | None) -> str:
    password = one_time_password()
    store.give_password(user, password, is_due=True)
    store.give_pin(user, "")
    store.end_all(session, user.id or 0, SignInEnd.PASSWORD_CHANGED)
    store.note(session, user, act, by.name if by else None)
    return password


def change_own(
    engine: Engine, person: Person, login: str, old: str, new: str, *, token: str, address: str
) -> None:
    """Replace one's own password; one stays signed in here and nowhere else."""
    with at_field("old"):
        check_password(engine, login, old, address)
    with at_field("new"):
        if new == old:
            raise AccountError("This is the password you have.", advice="Choose another.")
        _check_strength(new, (login, person.name))
    with transaction(engine, person) as session:
        user = store.user_for_change(session, person.id or 0)
        store.give_password(user, new, is_due=False)
        store.end_all(session, person.id or 0, SignInEnd.PASSWORD_CHANGED, but=token)
        store.note(session, user, AccountAct.PASSWORD_CHANGED, person.name)


def _keep_a_lead(session: Session, user: User) -> None:
    if store.leads_at_work(session) == [user.id]:
        raise AccountError(
            "This is the only lead.",
            read=user.name,
            expected="at least one lead who may sign in",
            advice="Make somebody else a lead first.",
        )


def _check_strength(password: str, known: Sequence[str]) -> None:
    match weakness(password, known):
        case Weakness.SHORT:
            said = ("The password is too short.", f"{len(password)} letters")
        case Weakness.LONG:
            said = ("The password is too long.", f"{len(password)} letters")
        case Weakness.COMMON:
            said = ("This password is soon guessed.", "common words, names, or keys in a row")
        case None:
            return
    raise AccountError(
        said[0],
        read=said[1],
        expected=f"{SHORTEST} to {LONGEST} letters that are not easily guessed",
        advice="Three or four words that do not belong together do well.",
    )
