"""Engine books as YAML text, read and examined."""

from dataclasses import dataclass
from pathlib import Path

from flaneur.core.book.check import Check
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.check import clearance_checks
from flaneur.core.drive.check import geometry_checks
from flaneur.core.errors import BookError
from flaneur.core.plan.check import component_checks


def load_book(path: Path) -> EngineBook:
    """Read and fully check a book file. Raises BookError with one line per fault."""
    try:
        text = path.read_text(encoding="utf-8")
    except FileNotFoundError as error:
        raise BookError(
            f"There is no engine book at {path}.", [f"file: {path} does not exist"]
        ) from error
    except (UnicodeDecodeError, IsADirectoryError) as error:
        raise BookError(f"{path} is not a text file.", [f"file: {error}"]) from error
    return check_book(text)


@dataclass(frozen=True)
class Examined:
    """A book's text examined: the book where it could be read at all, and every check with what it
    found.
    """

    book: EngineBook | None
    checks: list[Check]

    @property
    def faults(self) -> list[str]:
        """Lines of every check that does not hold."""
        return [check.line for check in self.checks if not check.holds]


def book_checks(book: EngineBook) -> list[Check]:
    """Geometry, clearance and components of a book whose references are sound."""
    return [*geometry_checks(book), *clearance_checks(book), *component_checks(book)]


def examine(text: str) -> Examined:
    """Examine a book's text without raising: faults of form come alone, since nothing more can be
    computed then.
    """
    try:
        book = parse_book(text)
    except BookError as error:
        lines = [fault.partition(": ") for fault in error.faults]
        return Examined(None, [Check(path, found, "", False) for path, _, found in lines])
    return Examined(book, book_checks(book))


def check_book(text: str) -> EngineBook:
    """Parse a book and check references, geometry, clearance, and that its rules leave a lawful
    order of work.
    """
    book = parse_book(text)
    faults = [check.line for check in book_checks(book) if not check.holds]
    if faults:
        raise BookError(
            f"The engine book has {len(faults)} fault{'s' if len(faults) > 1 else ''}.",
            faults,
            read=faults[0],
            advice="Mend the file and check it again.",
        )
    return book
