"""One line of a book's check."""

from dataclasses import dataclass


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
        return f"{self.path}: {self.found}" + (
            f", expected {self.expected}" if self.expected else ""
        )
