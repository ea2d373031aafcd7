"""What the tables are made of: times, names with their keys, kinds from enums, and JSON that is
read through models.
"""

from collections.abc import Iterable
from datetime import UTC, datetime
from enum import StrEnum
from functools import cache
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import CheckConstraint, Column, DateTime, Dialect
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.types import TypeDecorator
from sqlmodel import Field


def now() -> datetime:
    """The time of the record, always UTC."""
    return datetime.now(UTC)


def when() -> Any:
    """A time of the record, now unless said."""
    return Field(default_factory=now, sa_column=Column(DateTime(timezone=True), nullable=False))


def maybe_when() -> Any:
    """A time that may not have come."""
    return Field(default=None, sa_column=Column(DateTime(timezone=True)))


def person_key() -> Any:
    """The account of whom the name beside it is; None for a name that came with a file."""
    return Field(default=None, foreign_key="user_account.id", index=True)


def one_of(table: str, column: str, members: Iterable[StrEnum | str]) -> CheckConstraint:
    """A CHECK that a column holds one of an enum's values."""
    values = ", ".join(f"'{m}'" for m in members)
    return CheckConstraint(f"{column} IN ({values})", name=f"{table}_{column}_is_known")


def rule(table: str, name: str, text: str) -> CheckConstraint:
    """A CHECK of a table by name."""
    return CheckConstraint(text, name=f"{table}_{name}")


@cache
def _adapter(model: Any) -> TypeAdapter[Any]:
    return TypeAdapter(model)


class Kept(TypeDecorator[Any]):
    """JSON of a model, with the version of its shape beside it: ``{"version": 1, "value": …}``.

    What is written must fit the model (ValueError else); what is read in an older shape is brought
    to the newest by ``Model.upgraded(value, version)`` where the model has one. The value stays
    plain JSON: whoever uses it reads it through the model.
    """

    impl = JSONB
    cache_ok = True

    def __init__(self, model: Any, version: int = 1) -> None:
        super().__init__()
        self.model, self.version = model, version

    def process_bind_param(self, value: Any, dialect: Dialect) -> Any:
        """Check a value and put its version beside it."""
        del dialect
        if value is None:
            return None
        _adapter(self.model).validate_python(value)
        return {"version": self.version, "value": value}

    def process_result_value(self, value: Any, dialect: Dialect) -> Any:
        """The value in the newest shape. Raises ValueError for a shape of a later version."""
        del dialect
        if value is None:
            return None
        version = int(value["version"])
        if version == self.version:
            return value["value"]
        if version > self.version:
            raise ValueError(f"kept by a later version of Flaneur: shape {version}")
        return self.model.upgraded(value["value"], version)


def kept(model: Any, default: Any = dict) -> Any:
    """A JSON column read through a model; ``default`` None makes it optional."""
    column: Column[Any] = Column(Kept(model), nullable=default is None)
    if default is None:
        return Field(default=None, sa_column=column)
    return Field(default_factory=default, sa_column=column)


Names = list[str]
Degrees = dict[str, float]
Mapping = dict[str, str]
Loose = dict[str, Any]
