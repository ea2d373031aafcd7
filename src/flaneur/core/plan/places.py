"""Where a person stands for a step: at which bank, or at which end of the engine."""

from functools import lru_cache

from flaneur.core.book.schema import MAIN, EngineBook
from flaneur.core.keys import StepRef, Verb

Places = dict[str, str]


def place_of(book: EngineBook, ref: str) -> str | None:
    """Bank or drive plane a step is done at; None where it is none of them in particular."""
    verb, key = StepRef.of(ref)
    places = _places(book)
    if verb is not Verb.OPERATION:
        return places.get(key)
    operation = book.operations[key]
    cams = {*operation.effects.holds, *operation.effects.lets_go, *operation.effects.works}
    banks = {book.shafts[c].bank for c in cams} if cams else set[str | None]()
    if not banks:
        banks = {places.get(c) for c in operation.needed_for}
    return next(iter(banks)) if len(banks) == 1 else None


@lru_cache(maxsize=64)
def _places(book: EngineBook) -> Places:
    """Place of every component: of a part its bank, else its plane; of a cover what it covers."""
    found: Places = {}
    for key, component in book.components.items():
        place = _of_part(book, component.part) if component.part else None
        if place is not None:
            found[key] = place
    for key in book.components:
        if key in found:
            continue
        under = {found[k] for k, c in book.components.items() if key in c.covered_by and k in found}
        found[key] = under.pop() if len(under) == 1 else MAIN
    return found


def _of_part(book: EngineBook, part: str) -> str | None:
    chain = _chain_of(book, part)
    shafts = {book.phasers[part].shaft} if part in book.phasers else set[str]()
    if chain is not None:
        shafts = shafts or book.shafts_on(chain)
    elif part in book.sprockets:
        shafts = {book.sprockets[part].shaft}
    banks = {bank for s in shafts if (bank := book.shafts[s].bank) is not None}
    if len(banks) == 1:
        return banks.pop()
    if chain is not None:
        return next(
            (book.sprockets[w].plane for w in book.chains[chain].loop if w in book.sprockets), MAIN
        )
    return MAIN if shafts else None


def _chain_of(book: EngineBook, part: str) -> str | None:
    if part in book.chains:
        return part
    for key, arm in book.arms.items():
        if part in (key, arm.tensioner):
            return arm.chain
    return book.guides[part].chain if part in book.guides else None
