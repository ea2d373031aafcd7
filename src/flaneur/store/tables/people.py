"""People who sign in, and other depots whose seals are believed."""

from datetime import datetime

from sqlmodel import Field, SQLModel

from flaneur.core.people import Role
from flaneur.store.tables.base import maybe_when, one_of, person_key, rule, when


class User(SQLModel, table=True):
    """Somebody with an account."""

    __tablename__ = "user_account"  # type: ignore[assignment]
    __table_args__ = (one_of("user_account", "role", Role),)

    id: int | None = Field(default=None, primary_key=True)
    login: str = Field(unique=True, index=True, max_length=60)
    name: str = Field(max_length=120)
    role: str = Field(max_length=20)
    password_hash: str = Field(max_length=200)


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
