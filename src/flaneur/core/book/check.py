"""One line of a book's check."""

from dataclasses import dataclass
from typing import Self

from flaneur.core.errors import Fault


@dataclass(frozen=True)
class Check:
    """Where in the book (``path``), what was found there, what was expected, and whether it
    holds.
    """

    path: str
    found: str
    expected: str
    holds: bool

    @property
    def line(self) -> str:
        """The check in one line: where, what was found, what was expected."""
        return self.fault.line

    @property
    def fault(self) -> Fault:
        """What is wrong where the check does not hold."""
        return Fault(self.path, self.found, self.expected)

    @classmethod
    def failing(cls, fault: Fault) -> Self:
        """The check that found ``fault``."""
        return cls(*fault, holds=False)
