"""What is drawn of a book alone, worked out at first need and kept with its content."""

from dataclasses import dataclass
from functools import cached_property, lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.picture.drive import drive_picture
from flaneur.core.picture.lobes import Lobe, lobes
from flaneur.core.picture.shapes import DrivePicture

BOOKS_KEPT = 32


@dataclass(frozen=True)
class Drawn:
    """The pictures of a book."""

    book: EngineBook

    @cached_property
    def picture(self) -> DrivePicture:
        """The drive as the book has it."""
        return drive_picture(self.book)

    @cached_property
    def lobes(self) -> list[Lobe]:
        """Cam lobes of the first cylinder and the one opposite."""
        return lobes(self.book)


@lru_cache(maxsize=BOOKS_KEPT)
def drawn(book: EngineBook) -> Drawn:
    """The pictures of a book, one for each content."""
    return Drawn(book)
