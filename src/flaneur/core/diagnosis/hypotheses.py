"""The abrupt faults and their combinations, as shifts and spreads of what would be read."""

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.engine.compiled import compiled
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
TEETH = (-2, -1, 1, 2)
TEETH_SHARE = {-2: 0.1, -1: 0.3, 1: 0.45, 2: 0.15}
TONE_SLIP_SD_DEG = 8.0


@dataclass(frozen=True)
class Abrupt:
    """One abrupt fault: the suspect it belongs to, its prior odds, and what it does to the cams.

    ``shift_deg`` moves cams outright (jumped teeth); ``spread_deg`` moves them along a direction by
    an unknown amount of standard deviation ``spread_sd``; ``wear_index`` lets one gradual unknown
    wear out of turn; ``phaser_index`` frees that phaser's offset; ``teeth`` is how far a jump is
    late.
    """

    suspect: str
    log_odds: float
    shift_deg: Floats
    spread_deg: Floats
    spread_sd: float = 0.0
    wear_index: int | None = None
    phaser_index: int | None = None
    teeth: int = 0


def abrupt_faults(book: EngineBook, items: list[WearUnknown]) -> list[Abrupt]:
    """Every single abrupt fault of a book; degrees are crank degrees per cam in book order."""
    train = compiled(book).train
    cams = book.cams
    still = np.zeros(len(cams))
    faults: list[Abrupt] = []

    def odds(p: float) -> float:
        return float(np.log(p / (1 - p)))

    def suspect(kind: SuspectKind, part: str) -> str:
        return str(SuspectKey(kind, part))

    for i, item in enumerate(items):
        part = book.chains.get(item.key) or book.guides.get(item.key) or book.arms[item.key]
        faults.append(
            Abrupt(
                suspect(SuspectKind.WEAR, item.key),
                odds(part.wear.worn_out),
                still,
                still,
                wear_index=i,
            )
        )
    for contact in train.contacts():
        tooth = train.jump_deg(contact)
        direction = np.array([tooth[cam] for cam in cams])
        if not direction.any():
            continue  # a chain that turns no cam, such as an oil pump's
        for teeth in TEETH:
            faults.append(
                Abrupt(
                    suspect(SuspectKind.JUMP, contact),
                    odds(book.limits.jump_prior * TEETH_SHARE[teeth]),
                    teeth * direction,
                    still,
                    teeth=teeth,
                )
            )
    for p, (key, phaser) in enumerate(book.phasers.items()):
        faults.append(
            Abrupt(
                suspect(SuspectKind.PHASER, key),
                odds(phaser.fault_prior),
                still,
                still,
                phaser_index=p,
            )
        )
    for key, wheel in book.tone_wheels.items():
        along = np.array(
            [-1.0 if wheel.kind != "vanes" else float(cam == wheel.shaft) for cam in cams]
        )
        faults.append(
            Abrupt(
                suspect(SuspectKind.TONE, key),
                odds(wheel.slip_prior),
                still,
                along,
                TONE_SLIP_SD_DEG,
            )
        )
    return faults


def configurations(faults: list[Abrupt], most: int = 2) -> list[tuple[int, ...]]:
    """All sets of up to ``most`` faults of different suspects, as indices; the empty set first."""
    sets: list[tuple[int, ...]] = [()]
    for size in range(1, most + 1):
        for combo in combinations(range(len(faults)), size):
            if len({faults[i].suspect for i in combo}) == size:
                sets.append(combo)
    return sets
