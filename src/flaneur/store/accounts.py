"""People who sign in, and where they are signed in."""

import hashlib
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, or_, text, update
from sqlmodel import Session, col, func, select

from flaneur.core.people import Role
from flaneur.core.signing_in import KNOWN_FOR, LOOKED_BACK, WrongTry
from flaneur.store.changes import NotFound
from flaneur.store.tables import AccountAct, AccountEvent, SignIn, SignInEnd, User, WrongSignIn
from flaneur.store.tables.base import now

WRONG_TRIES_KEPT = timedelta(days=1)
SEEN_EVERY = timedelta(minutes=1)

_hasher = PasswordHasher()


@cache
def _nobodys() -> str:
    """Verified against when the login is unknown, so that an unknown login takes as long as a wrong
    password.
    """
    return _hasher.hash("nobody's password")


def add_user(
    session: Session,
    login: str,
    name: str,
    role: str,
    password: str,
    hasher: PasswordHasher = _hasher,
    is_password_due: bool = False,
) -> User:
    user = User(
        login=login,
        name=name,
        role=role,
        password_hash=hasher.hash(password),
        is_password_due=is_password_due,
    )
    session.add(user)
    session.flush()
    return user


def verify(session: Session, login: str, password: str) -> User | None:
    """The user behind a login and password, or None; none who was deactivated."""
    user = session.exec(select(User).where(User.login == login)).first()
    try:
        _hasher.verify(user.password_hash if user else _nobodys(), password)
    except (VerificationError, InvalidHashError):
        return None
    return user if user and user.is_active else None


def give_password(user: User, password: str, is_due: bool) -> None:
    """Replace somebody's password; ``is_due``: they must choose their own before anything else."""
    user.password_hash = _hasher.hash(password)
    user.is_password_due = is_due


def give_pin(user: User, pin: str) -> None:
    """Replace somebody's PIN; an empty one takes it away."""
    user.pin_hash = _hasher.hash(pin) if pin else None


def verify_pin(session: Session, login: str, pin: str) -> User | None:
    """The user behind a login and PIN, or None; none who has no PIN, or was deactivated."""
    user = session.exec(select(User).where(User.login == login)).first()
    try:
        _hasher.verify((user and user.pin_hash) or _nobodys(), pin)
    except (VerificationError, InvalidHashError):
        return None
    return user if user and user.is_active and user.pin_hash else None


def users(session: Session) -> list[User]:
    """Everybody, by name."""
    return list(session.exec(select(User).order_by(col(User.name))))


def user_for_change(session: Session, user_id: int) -> User:
    """An account, held until the transaction ends. Raises NotFound."""
    user = session.exec(select(User).where(User.id == user_id).with_for_update()).first()
    if user is None:
        raise NotFound(
            "There is no such account.",
            read=str(user_id),
            advice="Choose one on the page of people.",
        )
    return user


def user_of_login(session: Session, login: str) -> User:
    """An account by its login, held until the transaction ends. Raises NotFound."""
    found = session.exec(select(User.id).where(User.login == login)).first()
    if found is None:
        raise NotFound("There is no such account.", read=login, advice="List the accounts.")
    return user_for_change(session, found)


def leads_at_work(session: Session) -> list[int]:
    """Keys of the leads who may sign in, held until the transaction ends: two who demote each other
    at once come one after the other.
    """
    rows = session.exec(
        select(User)
        .where(User.role == Role.LEAD, col(User.is_active))
        .order_by(col(User.id))
        .with_for_update()
    )
    return [user.id or 0 for user in rows]


def is_founded(session: Session) -> bool:
    """Whether there is anybody yet."""
    return session.exec(select(User.id).limit(1)).first() is not None


def note(
    session: Session, user: User, act: AccountAct, by: str | None, role: str | None = None
) -> None:
    """Keep what was done to an account, and by whom."""
    session.add(AccountEvent(user_id=user.id or 0, act=act, by=by, role=role))


def events(session: Session, most: int) -> list[AccountEvent]:
    """The last things done to accounts, the newest first."""
    newest = select(AccountEvent).order_by(col(AccountEvent.id).desc()).limit(most)
    return list(session.exec(newest))


def last_seen(session: Session) -> dict[int, datetime]:
    """When each was last seen signed in."""
    rows = session.exec(
        select(SignIn.user_id, func.max(SignIn.seen_at)).group_by(col(SignIn.user_id))
    )
    return dict(rows.all())


def token_hash(token: str) -> str:
    """What is kept of a cookie's token."""
    return hashlib.sha256(token.encode()).hexdigest()


def begin(session: Session, user: User, token: str, address: str) -> None:
    """Keep that somebody is signed in on a device."""
    session.add(SignIn(token=token_hash(token), user_id=user.id or 0, address=address))


@dataclass(frozen=True)
class SignedInAs:
    """Who is signed in, as every request asks."""

    id: int
    login: str
    name: str
    role: str
    is_password_due: bool
    has_pin: bool


# Every request begins with it.
_SIGNED_IN = text("""
SELECT person.id, person.login, person.name, person.role, person.is_password_due,
  person.pin_hash IS NOT NULL AS has_pin, sign_in.seen_at
FROM sign_in JOIN user_account AS person ON person.id = sign_in.user_id
WHERE sign_in.token = :token AND sign_in.ended_at IS NULL AND sign_in.begun_at > :begun
  AND sign_in.seen_at > :seen AND person.is_active
""")


def signed_in(session: Session, token: str, hours: float, idle_hours: float) -> SignedInAs | None:
    """Who holds this token; None once it was ended, grew old, was not used for long, or its person
    was deactivated.
    """
    at = now()
    asked = {
        "token": token_hash(token),
        "begun": at - timedelta(hours=hours),
        "seen": at - timedelta(hours=idle_hours),
    }
    row = session.execute(_SIGNED_IN, asked).first()
    if row is None:
        return None
    if at - row.seen_at > SEEN_EVERY:
        session.execute(
            update(SignIn).where(col(SignIn.token) == asked["token"]).values(seen_at=at)
        )
    return SignedInAs(row.id, row.login, row.name, row.role, row.is_password_due, row.has_pin)


def end(session: Session, token: str) -> None:
    """Let a token hold no longer: its person signed out."""
    _end(session, col(SignIn.token) == token_hash(token), SignInEnd.SIGNED_OUT)


def end_all(session: Session, user_id: int, why: SignInEnd, but: str = "") -> None:
    """Let none of somebody's tokens hold any longer, save the one at hand."""
    others = (col(SignIn.user_id) == user_id) & (col(SignIn.token) != token_hash(but))
    _end(session, others, why)


def _end(session: Session, which: object, why: SignInEnd) -> None:
    ending = update(SignIn).where(which, col(SignIn.ended_at).is_(None))  # type: ignore[arg-type]
    session.execute(ending.values(ended_at=now(), ended_by=why))


def is_known_at(session: Session, login: str, address: str) -> bool:
    """Whether somebody signed in at that address lately."""
    found = session.exec(
        select(SignIn.token)
        .join(User, col(User.id) == SignIn.user_id)
        .where(User.login == login, SignIn.address == address, SignIn.begun_at > now() - KNOWN_FOR)
        .limit(1)
    )
    return found.first() is not None


def wrong_tries(session: Session, login: str, address: str) -> list[WrongTry]:
    """Wrong tries lately of that login anywhere, and of any login at that address."""
    rows = session.exec(
        select(WrongSignIn).where(
            or_(col(WrongSignIn.login) == login, col(WrongSignIn.address) == address),
            WrongSignIn.at > now() - LOOKED_BACK,
        )
    )
    return [WrongTry(row.login, row.address, row.at) for row in rows]


def keep_wrong_try(session: Session, login: str, address: str) -> None:
    """Keep a wrong try; those of days ago are forgotten."""
    session.execute(delete(WrongSignIn).where(col(WrongSignIn.at) < now() - WRONG_TRIES_KEPT))
    session.add(WrongSignIn(login=login[:60], address=address))
