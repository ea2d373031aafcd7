"""Whose hand wrote what is sent later.

What is written at the bench while the server is away waits on the tablet, and is sent by whoever is
signed in when it is back. Each person's pen, given to their device while they are signed in, goes
with what they wrote: the record bears the name of who wrote it, with the rights they have now.
"""

from dataclasses import dataclass
from datetime import timedelta

from itsdangerous import BadSignature, SignatureExpired, URLSafeTimedSerializer
from sqlmodel import Session

from flaneur.api.errors import Forbidden
from flaneur.store.tables import User

AUTHOR = "author"
PEN_HEADER = "X-Written-By"
# What may be written while the server is away.
WRITTEN_LATER = frozenset({"bench.close_step", "bench.happen"})
GOOD_FOR = timedelta(days=14)


@dataclass(frozen=True)
class Author:
    """Somebody in whose name a request is made."""

    user_id: int
    name: str
    role: str


def _pens(secret: str) -> URLSafeTimedSerializer:
    return URLSafeTimedSerializer(secret, salt="written by")


def pen_of(secret: str, user_id: int) -> str:
    """A pen of this person, good for 14 days."""
    return str(_pens(secret).dumps(user_id))


def author(session: Session, secret: str, pen: str) -> Author:
    """Whose pen this is. Raises Forbidden for one that is none, too old, or of somebody whose
    account is closed.
    """
    try:
        key = _pens(secret).loads(pen[:400], max_age=int(GOOD_FOR.total_seconds()))
    except SignatureExpired as error:
        raise _refused(f"written over {GOOD_FOR.days} days ago") from error
    except BadSignature as error:
        raise _refused("a signature that is not this depot's") from error
    user = session.get(User, key)
    if user is None or not user.is_active or user.is_password_due:
        raise _refused(
            f"{user.name}, whose account is not open" if user else "nobody of this depot"
        )
    return Author(user.id or 0, user.name, user.role)


def _refused(read: str) -> Forbidden:
    return Forbidden(
        "This cannot be recorded in the name of who wrote it.",
        read=read,
        expected="somebody with an open account who wrote it on this depot's tablet",
        advice="It stays on the tablet. Read it and record it in your own name.",
    )
