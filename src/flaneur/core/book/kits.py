"""Sets of parts as they are sold: what each holds, its price, and what is known against it."""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Id

Maker = Literal["maker", "aftermarket"]


class Kit(BookModel):
    """A set of parts. ``holds`` counts components and fasteners of the book by their ids;
    ``weakness`` is what is known to go wrong with it.
    """

    name: str
    made_by: Maker
    price: AtLeastZero
    holds: dict[Id, int] = Field(min_length=1)
    weakness: list[str] = Field(default_factory=list[str])
