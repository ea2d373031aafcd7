"""What a sweep of a phaser came to, as diagnosis takes it."""

from collections.abc import Mapping, Sequence

from flaneur.core.book.schema import EngineBook
from flaneur.core.phasers.found import PhaserState
from flaneur.core.readings.tests import Sweep, SweepWord

_SAID: Mapping[PhaserState, tuple[SweepWord, ...]] = {
    PhaserState.SOUND: (),
    PhaserState.SLOW: ("slow",),
    PhaserState.DRIFTING: ("drifts",),
    PhaserState.HUNTING: ("hunts",),
    PhaserState.NOT_PARKING: ("not_parking",),
    PhaserState.STUCK: ("stuck",),
}


def swept(book: EngineBook, log: str, fits: Sequence[Mapping[str, object]]) -> list[Sweep]:
    """The phasers of a log whose answer tells something; ``fits`` as they were kept. Angles that
    are off with the drive, or with a base not learned, say nothing of the phaser itself.
    """
    found: list[Sweep] = []
    for fit in fits:
        state, part = PhaserState.coded(fit.get("state")), str(fit.get("phaser"))
        if state is not None and state in _SAID and part in book.phasers:
            found.append(Sweep(kind="sweep", id=log, part=part, found=list(_SAID[state])))
    return found
