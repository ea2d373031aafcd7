"""How far a cam may stand off before its alignment tool does not go on."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.engine.compiled import compiled
from flaneur.core.readings.tests import ToolFit

ORDINARY_PLAY_DEG = 2.0  # crank degrees, of a tool the book does not have
NEAR_DEG, CYCLE_DEG = 3.0, 720.0


def play_deg(book: EngineBook, test: ToolFit) -> float | None:
    """Play of the tool a cam is checked with, crank degrees each way; None where it was tried away
    from the crank angle of the check, so that it says nothing.
    """
    check = book.check_of(test.part)
    if check is None:
        return ORDINARY_PLAY_DEG
    off = (test.crank_deg - check.crank_deg + CYCLE_DEG / 2) % CYCLE_DEG - CYCLE_DEG / 2
    if abs(off) > NEAR_DEG:
        return None
    if check.tool is None:
        return ORDINARY_PLAY_DEG
    return book.tools[check.tool].play_deg * compiled(book).train.crank_per_turn[test.part]
