"""Engine books as YAML text, read and examined."""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from flaneur.core.book.check import Check
from flaneur.core.book.loading import TEXTS_KEPT, parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.check import clearance_checks
from flaneur.core.drive.check import geometry_checks
from flaneur.core.drive.wearing import wearing_checks
from flaneur.core.errors import BookError, Fault
from flaneur.core.plan.check import component_checks


def load_book(path: Path) -> EngineBook:
    """Read and fully check a book file. Raises BookError with one line per fault."""
    try:
        text = path.read_text(encoding="utf-8")
    except FileNotFoundError as error:
        raise BookError(
            f"There is no engine book at {path}.", [Fault("file", f"{path} does not exist")]
        ) from error
    except (UnicodeDecodeError, IsADirectoryError) as error:
        raise BookError(f"{path} is not a text file.", [Fault("file", str(error))]) from error
    return check_book(text)


@dataclass(frozen=True)
class Examined:
    """A book's text examined: the book where it could be read at all, and every check with what it
    found.
    """

    book: EngineBook | None
    checks: list[Check]

    @property
    def faults(self) -> list[Fault]:
        """What every check that does not hold found."""
        return _failed(self.checks)


def book_checks(book: EngineBook) -> list[Check]:
    """Geometry, wear, clearance, components and steps of a book whose references are sound; what
    needs a sound drive is left out where the drive is not.
    """
    drive = [*geometry_checks(book), *clearance_checks(book)]
    if not all(check.holds for check in drive):
        return [*drive, *component_checks(book, is_sound=False)]
    return [*drive, *wearing_checks(book), *component_checks(book)]


def examine(text: str) -> Examined:
    """Examine a book's text without raising: faults of form come alone, since nothing more can be
    computed then.
    """
    try:
        book = parse_book(text)
    except BookError as error:
        return Examined(None, [Check.failing(fault) for fault in error.faults])
    return Examined(book, book_checks(book))


@lru_cache(maxsize=TEXTS_KEPT)
def check_book(text: str) -> EngineBook:
    """Parse a book and check references, geometry, clearance, and that its rules leave a lawful
    order of work, once a text.
    """
    book = parse_book(text)
    faults = _failed(book_checks(book))
    if faults:
        raise BookError.of(faults)
    return book


def _failed(checks: list[Check]) -> list[Fault]:
    return [check.fault for check in checks if not check.holds]
