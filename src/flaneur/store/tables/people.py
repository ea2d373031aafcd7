"""People who sign in, where they are signed in, and other depots whose seals are believed."""

from datetime import datetime
from enum import StrEnum

from sqlmodel import Field, Index, SQLModel

from flaneur.core.people import Role
from flaneur.store.tables.base import maybe_when, one_of, person_key, rule, when


class SignInEnd(StrEnum):
    """Why somebody is signed in no longer."""

    SIGNED_OUT = "signed_out"
    PASSWORD_CHANGED = "password_changed"
    DEACTIVATED = "deactivated"


class AccountAct(StrEnum):
    """What was done to an account."""

    ADDED = "added"
    ROLE_GIVEN = "role_given"
    DEACTIVATED = "deactivated"
    REACTIVATED = "reactivated"
    PASSWORD_RESET = "password_reset"
    PASSWORD_CHANGED = "password_changed"
    PIN_SET = "pin_set"
    PIN_DROPPED = "pin_dropped"


class User(SQLModel, table=True):
    """Somebody with an account. A deactivated one stands, with all that bears its name.
    ``pin_hash``: of the PIN they sign in with where they are known; None: they have none.
    ``is_password_due``: the password was given by somebody else and must be replaced first.
    """

    __tablename__ = "user_account"  # type: ignore[assignment]
    __table_args__ = (one_of("user_account", "role", Role),)

    id: int | None = Field(default=None, primary_key=True)
    login: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    role: str = Field(max_length=20)
    password_hash: str = Field(max_length=200)
    pin_hash: str | None = Field(default=None, max_length=200)
    is_active: bool = True
    is_password_due: bool = False

    @property
    def has_pin(self) -> bool:
        """Whether they have a PIN."""
        return self.pin_hash is not None


class SignIn(SQLModel, table=True):
    """Somebody signed in on one device. ``token``: SHA-256 of what its cookie holds."""

    __tablename__ = "sign_in"  # type: ignore[assignment]
    __table_args__ = (
        one_of("sign_in", "ended_by", SignInEnd),
        rule("sign_in", "ended_with_a_time", "(ended_by IS NULL) = (ended_at IS NULL)"),
        Index("ix_sign_in_known", "user_id", "address", "begun_at"),
    )

    token: str = Field(primary_key=True, max_length=64)
    user_id: int = Field(foreign_key="user_account.id")
    address: str = Field(max_length=60)
    begun_at: datetime = when()
    seen_at: datetime = when()
    ended_at: datetime | None = maybe_when()
    ended_by: str | None = Field(default=None, max_length=30)


class WrongSignIn(SQLModel, table=True):
    """A wrong password, or a login nobody has; kept for a day."""

    __tablename__ = "wrong_sign_in"  # type: ignore[assignment]
    __table_args__ = (
        Index("ix_wrong_sign_in_login", "login", "at"),
        Index("ix_wrong_sign_in_address", "address", "at"),
    )

    id: int | None = Field(default=None, primary_key=True)
    login: str = Field(max_length=60)
    address: str = Field(max_length=60)
    at: datetime = when()


class AccountEvent(SQLModel, table=True):
    """Something done to an account; ``by`` None: from the command line."""

    __tablename__ = "account_event"  # type: ignore[assignment]
    __table_args__ = (one_of("account_event", "act", AccountAct),)

    id: int | None = Field(default=None, primary_key=True)
    user_id: int = Field(foreign_key="user_account.id", index=True)
    act: str = Field(max_length=30)
    role: str | None = Field(default=None, max_length=20)
    at: datetime = when()
    by: str | None = Field(default=None, max_length=120)
    by_id: int | None = person_key()


class TrustedKey(SQLModel, table=True):
    """The public key of another depot whose signed jobs are taken as signed. Taken off the list, it
    stays on record.
    """

    __tablename__ = "trusted_key"  # type: ignore[assignment]
    __table_args__ = (rule("trusted_key", "key_is_hexadecimal", "public_key ~ '^[0-9a-f]{64}$'"),)

    public_key: str = Field(primary_key=True, max_length=64)
    depot: str = Field(max_length=120)
    added_by: str = Field(max_length=120)
    added_by_id: int | None = person_key()
    added_at: datetime = when()
    removed_by: str | None = Field(default=None, max_length=120)
    removed_by_id: int | None = person_key()
    removed_at: datetime | None = maybe_when()
