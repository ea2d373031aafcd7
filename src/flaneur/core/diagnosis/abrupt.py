"""Faults that move what is read all at once: a jumped tooth, a phaser off park, a slipped tone
wheel, a part worn out of turn, a guide that is gone, a tensioner that is stuck, a plunger misread.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.gone import shift_when_gone
from flaneur.core.diagnosis.odds import Odds
from flaneur.core.diagnosis.response import Response, response_of
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.engine.compiled import compiled
from flaneur.core.gauss import chance, log_odds
from flaneur.core.keys import Contact, SuspectKey, SuspectKind

Floats = NDArray[np.float64]
TEETH_SHARE = {-3: 0.02, -2: 0.08, -1: 0.3, 1: 0.43, 2: 0.13, 3: 0.04}
TONE_SLIP_SD_DEG = 8.0
PHASER_SHARE = (0.4, 0.3)  # mean and standard deviation of a fault's offset, as shares of the range


@dataclass(frozen=True)
class Abrupt:
    """One abrupt fault. ``shift`` (rows of the response,): what it adds outright. ``wear_index``
    lets one gradual unknown wear out of turn; ``gone_index`` takes a guide out (its shift stands
    for its wear); ``phaser``, ``wheel`` and ``blind`` free that phaser's offset, that cam's (or the
    crank's) tone wheel, or that chain's plunger, ``stuck`` where it is the plunger that does not
    follow. ``alike``: contacts that nothing read can tell
    apart from the first.
    """

    key: SuspectKey
    log_odds: float
    shift: Floats = field(repr=False)
    wear_index: int | None = None
    gone_index: int | None = None
    phaser: str = ""
    wheel: str = ""
    blind: str = ""
    stuck: str = ""
    teeth: int = 0
    alike: tuple[str, ...] = ()

    @property
    def prior(self) -> float:
        """Its chance before any reading."""
        return chance(self.log_odds)

    @property
    def only_shifts(self) -> bool:
        """Whether it changes nothing but what is expected: configurations that differ in such
        faults alone share their covariance.
        """
        return bool(self.teeth)


def contact_classes(book: EngineBook, response: Response) -> list[tuple[tuple[str, ...], Floats]]:
    """Contacts whose jumps cannot be told apart by anything read, each with what one tooth late
    adds to every row.
    """
    train = compiled(book).train
    found: list[tuple[list[str], Floats]] = []
    for contact in train.contacts():
        if not any(train.jump_deg(contact).values()):
            continue  # a chain that turns no cam, such as an oil pump's
        chain, sprocket = Contact.of(contact)
        shift = np.zeros(response.lines.rows)
        for shaft in train.moved_by(contact):
            if shaft in response.lines.shafts:
                shift[response.lines.late(shaft)] = train.tooth_deg(sprocket)
        for members, known in found:
            if Contact.of(members[0]).chain == chain and np.allclose(known, shift):
                members.append(contact)
                break
        else:
            found.append(([contact], shift))
    return [(tuple(members), shift) for members, shift in found]


def abrupt_faults(
    book: EngineBook, items: list[WearUnknown], odds: Odds, fitted: frozenset[str]
) -> list[Abrupt]:
    """Every single abrupt fault of a book. ``fitted``: parts that were put in since the engine was
    new, whose chains may have been put together wrong.
    """
    response = response_of(book)
    lines = response.lines
    still = np.zeros(lines.rows)
    faults: list[Abrupt] = []
    faces = {**book.guides, **book.arms}
    for i, item in enumerate(items):
        key = SuspectKey(SuspectKind.WEAR, item.key)
        faults.append(Abrupt(key, log_odds(item.worn_out), still, wear_index=i))
    for members, shift in contact_classes(book, response):
        chain = Contact.of(members[0]).chain
        touched = fitted & {chain, *(f for f, face in faces.items() if face.chain == chain)}
        times = odds.misassembly_factor if touched else 1.0
        prior = min(0.3, book.limits.jump_prior * len(members) * times)
        faults += [
            Abrupt(
                SuspectKey(SuspectKind.JUMP, members[0]),
                log_odds(prior * share),
                teeth * shift,
                teeth=teeth,
                alike=members[1:],
            )
            for teeth, share in TEETH_SHARE.items()
        ]
    for key, phaser in book.phasers.items():
        suspect = SuspectKey(SuspectKind.PHASER, key)
        faults.append(Abrupt(suspect, log_odds(phaser.fault_prior), still, phaser=key))
    for key, wheel in book.tone_wheels.items():
        suspect = SuspectKey(SuspectKind.TONE, key)
        cam = wheel.shaft if wheel.shaft in book.cams else "crank"
        faults.append(Abrupt(suspect, log_odds(wheel.slip_prior), still, wheel=cam))
    for arm in book.arms.values():
        if arm.chain in lines.parts:
            stuck, misread = (
                SuspectKey(kind, arm.tensioner) for kind in (SuspectKind.STUCK, SuspectKind.MISREAD)
            )
            chain = arm.chain
            faults.append(Abrupt(stuck, log_odds(odds.stuck), still, blind=chain, stuck=chain))
            faults.append(Abrupt(misread, log_odds(odds.misread), still, blind=chain))
    for i, item in enumerate(items):
        if item.key in book.guides:
            suspect = SuspectKey(SuspectKind.GONE, item.key)
            shift = shift_when_gone(book, item.key)
            faults.append(Abrupt(suspect, log_odds(odds.gone), shift, gone_index=i))
    return faults
