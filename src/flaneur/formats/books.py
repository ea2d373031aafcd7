"""Engine books on disk."""

from pathlib import Path

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.check import geometry_faults
from flaneur.core.errors import BookError
from flaneur.core.plan.order import work_order


def load_book(path: Path) -> EngineBook:
    """Read and fully check a book file. Raises BookError with one line per fault."""
    try:
        text = path.read_text(encoding="utf-8")
    except FileNotFoundError as error:
        raise BookError(f"There is no engine book at {path}.", [f"file: {path} does not exist"]) from error
    except (UnicodeDecodeError, IsADirectoryError) as error:
        raise BookError(f"{path} is not a text file.", [f"file: {error}"]) from error
    return check_book(text)


def check_book(text: str) -> EngineBook:
    """Parse a book and check references, geometry and that its rules leave a lawful order of work."""
    book = parse_book(text)
    faults = geometry_faults(book)
    if faults:
        raise BookError(
            f"The engine book has {len(faults)} fault{'s' if len(faults) > 1 else ''}.",
            faults,
            read=faults[0],
            advice="Mend the file and check it again.",
        )
    work_order(book, [k for k, c in book.components.items() if c.renewable])
    return book
