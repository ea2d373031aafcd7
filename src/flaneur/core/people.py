"""People as every part of the house knows them: who somebody is, and what they may be."""

from dataclasses import dataclass
from enum import StrEnum


class Role(StrEnum):
    """What somebody may be."""

    TECHNICIAN = "technician"
    LEAD = "lead"


@dataclass(frozen=True)
class Person:
    """Somebody at work: the name the record keeps, and the key of their account (None: not of
    this database).
    """

    name: str
    id: int | None = None
