"""People who sign in."""

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlmodel import Session, select

from flaneur.store.tables import User

_hasher = PasswordHasher()
# Verified against when the login is unknown, so that an unknown login takes as long as a wrong
# password.
_NOBODY = _hasher.hash("nobody's password")


def add_user(
    session: Session,
    login: str,
    name: str,
    role: str,
    password: str,
    hasher: PasswordHasher = _hasher,
) -> User:
    user = User(login=login, name=name, role=role, password_hash=hasher.hash(password))
    session.add(user)
    session.flush()
    return user


def verify(session: Session, login: str, password: str) -> User | None:
    """The user behind a login and password, or None."""
    user = session.exec(select(User).where(User.login == login)).first()
    try:
        _hasher.verify(user.password_hash if user else _NOBODY, password)
    except (VerificationError, InvalidHashError):
        return None
    return user


def user_by_id(session: Session, user_id: int) -> User | None:
    return session.get(User, user_id)
