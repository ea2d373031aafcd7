"""Ways of doing a job that a book knows besides its usual one, and the book as it is on one."""

from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, TypeVar, cast

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Id
from flaneur.core.book.tasks import Component, Operation
from flaneur.core.errors import PlanError

if TYPE_CHECKING:
    from flaneur.core.book.schema import EngineBook

BOOKS_KEPT = 64
T = TypeVar("T", bound=BookModel)


class Risk(BookModel):
    """What can go wrong on a way: how likely, and what it then costs more. ``falls_back``: the job
    is then done the usual way after all. ``is_grave``: an engine or a person may be hurt.
    """

    what: str
    chance: Annotated[float, Field(gt=0, lt=1)]
    minutes: AtLeastZero = 0.0
    price: AtLeastZero = 0.0
    falls_back: bool = False
    is_grave: bool = False


class Way(BookModel):
    """Another way than the book's usual one, as far as it differs: components and operations that
    are other or new, and operations it does ``without``.

    ``choice`` is what is chosen: of ways with the same one only one is taken. It is open where the
    scope holds one of ``serves``, and nothing beside them where it serves them ``alone``.
    """

    choice: Id
    name: str
    text: str
    serves: list[Id] = Field(min_length=1, description="Components it is a way to.")
    alone: bool = Field(default=False, description="Only when nothing else is renewed.")
    components: dict[Id, Component] = Field(default_factory=dict[str, Component])
    operations: dict[Id, Operation] = Field(default_factory=dict[str, Operation])
    without: list[Id] = Field(default_factory=list[str])
    risks: list[Risk] = Field(default_factory=list[Risk])
    loses: list[str] = Field(
        default_factory=list[str], description="What the engine does without afterwards."
    )
    locks_out: list[Id] = Field(
        default_factory=list[str], description="Components of phasers that move no cam afterwards."
    )
    needs_lead: bool = Field(default=False, description="A lead signs for it.")

    def is_open(self, scope: set[str]) -> bool:
        """Whether it may be chosen for a scope."""
        return bool(scope & set(self.serves)) and (not self.alone or scope <= set(self.serves))


def check_ways(book: "EngineBook", chosen: tuple[str, ...], scope: set[str]) -> None:
    """Raise PlanError unless these ways can be gone together for a scope."""
    unknown = [w for w in chosen if w not in book.ways]
    if unknown:
        raise PlanError(
            "The plan names ways this engine does not have.",
            read=", ".join(unknown),
            expected=", ".join(book.ways)
            or f"none: the book of {book.name} has its usual way only",
            advice="Choose from the ways of the book.",
        )
    taken: dict[str, str] = {}
    for key in chosen:
        way = book.ways[key]
        other = taken.setdefault(way.choice, key)
        if other != key:
            raise PlanError(
                "Two ways exclude each other.",
                read=f"{book.ways[other].name}, and {way.name}",
                expected="one of them",
                advice="Leave one out.",
            )
        if not way.is_open(scope):
            names = ", ".join(book.components[c].name for c in way.serves)
            raise PlanError(
                f"“{way.name}” is no way to this.",
                read=", ".join(
                    book.components[c].name for c in sorted(scope & set(book.components))
                ),
                expected=f"{names} and nothing beside" if way.alone else f"with {names}",
                advice="Choose another way, or go the usual one.",
            )


def on_ways(book: "EngineBook", chosen: tuple[str, ...]) -> "EngineBook":
    """The book as its rules are on the ways chosen; itself for none."""
    return _with_ways(book, chosen) if chosen else book


@lru_cache(maxsize=BOOKS_KEPT)
def _with_ways(book: "EngineBook", chosen: tuple[str, ...]) -> "EngineBook":
    ways = [book.ways[key] for key in chosen]
    left_out = {key for way in ways for key in way.without}
    components = _laid_over(Component, book.components, [w.components for w in ways])
    operations = _laid_over(Operation, book.operations, [w.operations for w in ways])
    kept = {key: o for key, o in operations.items() if key not in left_out}
    return book.model_copy(update={"components": components, "operations": kept})


def _laid_over(
    model: type[T], base: Mapping[str, T], ways: Iterable[Mapping[str, T]]
) -> dict[str, T]:
    """Entries as they are with what each way changes of them; two ways may change one entry."""
    out = dict(base)
    for way in ways:
        for key, entry in way.items():
            if key in base and out[key] != base[key]:
                plain, other, now = (e.model_dump() for e in (base[key], entry, out[key]))
                out[key] = model.model_validate(_changed(plain, other, now))
            else:
                out[key] = entry
    return out


def _changed(base: object, other: object, now: object) -> object:
    """``now`` with what ``other`` changes of ``base``."""
    if other == base:
        return now
    if not all(isinstance(told, dict) for told in (base, other, now)):
        return other
    was, told = cast("dict[str, object]", base), cast("dict[str, object]", other)
    out = cast("dict[str, object]", now)
    changed = {k: _changed(was.get(k), v, out.get(k)) for k, v in told.items()}
    return out | changed
