"""What can be seen with some parts off: a mark behind its cover proves nothing."""

from functools import lru_cache

from flaneur.core.book.marks import Mark
from flaneur.core.book.schema import EngineBook

COVER = "cover"


@lru_cache(maxsize=64)
def covers_of(book: EngineBook, component: str) -> tuple[str, ...]:
    """Covers that come off before a component does, whatever lies between, in book order."""
    found = set[str]()
    pending, done = [component], set[str]()
    while pending:
        here = pending.pop()
        for cover in book.components[here].covered_by if here in book.components else []:
            if cover not in done:
                done.add(cover)
                pending.append(cover)
                if book.components[cover].kind == COVER:
                    found.add(cover)
    return tuple(key for key in book.components if key in found)


def behind(book: EngineBook, mark: Mark) -> tuple[str, ...]:
    """Covers that hide a mark: as the book says, else those over the chain of its wheel."""
    if mark.behind is not None:
        return tuple(mark.behind)
    over = [key for key, chain in book.chains.items() if mark.wheel in chain.loop]
    parts = over or list(book.chains)
    hidden = dict.fromkeys(
        cover
        for key, component in book.components.items()
        if component.part in parts
        for cover in covers_of(book, key)
    )
    return tuple(hidden)


def is_seen(book: EngineBook, key: str, off: frozenset[str]) -> bool:
    """Whether a mark can be seen with these components off."""
    mark = book.marks[key]
    carriers = mark.carried_by or _carriers(book, mark.wheel)
    return off.issuperset(behind(book, mark)) and not off.intersection(carriers)


def _carriers(book: EngineBook, wheel: str) -> list[str]:
    """Components that a wheel goes away with: itself, or the phaser it belongs to."""
    own = [key for key, c in book.components.items() if c.part == wheel]
    sprocket = book.sprockets.get(wheel)
    if sprocket is None or sprocket.fixed_by not in ("phaser", "taper"):
        return own
    phaser = book.phaser_of(sprocket.shaft)
    return own + [key for key, c in book.components.items() if phaser and c.part == phaser]


def seen(book: EngineBook, off: frozenset[str]) -> list[str]:
    """All timing marks that can be seen."""
    return [k for k, mark in book.marks.items() if mark.is_timing and is_seen(book, k, off)]
