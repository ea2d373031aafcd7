"""One answer about clearance for whoever asks from outside: the whole of it as figures, for one
book.
"""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.loosened import Loosening, Tight
from flaneur.core.clearance.off import ValvesOff, valves_off
from flaneur.core.clearance.offview import OffView, SwingView, off_view
from flaneur.core.clearance.view import (
    HeadsView,
    ReserveView,
    TeethView,
    heads_view,
    reserve_view,
    teeth_views,
    window_words,
    windows_of,
)
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults


class Risk(BaseModel):
    """A cylinder whose valves of these kinds can come within the reserve of their piston at this
    crank angle, cams loose.
    """

    model_config = ConfigDict(frozen=True)

    cylinder: int
    kinds: list[str]


class ClearanceAnswer(BaseModel):
    """``windows`` for every cam loose; ``ranges`` and ``jumps`` for each set of chains asked for
    (else each by itself, and all); ``teeth_off`` for one contact set wrong. ``known`` false:
    nothing else may be relied on. ``reason`` is the tightest.
    """

    model_config = ConfigDict(frozen=True)

    engine: str
    known: bool
    words: str
    crank_deg: float
    reserve: ReserveView | None = None
    windows: list[list[int]] = []
    piston_windows: list[list[int]] = []
    heads: HeadsView | None = None
    risk: list[Risk] = []
    ranges: list[OffView] = []
    jumps: list[SwingView] = []
    teeth: list[TeethView] = []
    teeth_off: ValvesOff | None = None
    reason: Tight | None = None


def clearance_answer(
    book: EngineBook,
    crank_deg: float | None = None,
    chains: tuple[str, ...] = (),
    held: tuple[str, ...] = (),
    parked: bool = False,
    tooth: tuple[str, int] | None = None,
) -> ClearanceAnswer:
    """Clearance of a book at a crank angle (the service position's by default). Raises BookError
    for what it lacks.
    """
    crank = book.service_position.crank_deg if crank_deg is None else crank_deg
    train = DriveTrain(book)
    late = _late(train, tooth) if tooth else {}
    if book.clearance is None:
        return ClearanceAnswer(
            engine=book.name,
            known=False,
            words="Clearance unknown: treat as touching.",
            crank_deg=crank,
            teeth_off=valves_off(book, late) if tooth else None,
        )
    contacts = Contacts(book)
    loosening, heads = Loosening(contacts, train, parked), heads_view(contacts)
    loose, piston = windows_of(contacts, heads)
    timed = tuple(chain for chain in train.chains if train.times_cams(chain))
    sets = (
        [chains]
        if chains
        else [*((chain,) for chain in timed), *([timed] if len(timed) > 1 else [])]
    )
    ranges = [off_view(loosening, chosen, crank, None, list(held)) for chosen in sets]
    limits = [limit for view in ranges for limit in view.limits]
    row, room = contacts.tightest_loose(crank)
    loosest = Tight(what=f"{row.name}, fully open", room_mm=round(room, 2), turn_deg=0.0)
    return ClearanceAnswer(
        engine=book.name,
        known=True,
        words=window_words(contacts, heads),
        crank_deg=crank,
        reserve=reserve_view(contacts),
        windows=loose,
        piston_windows=piston,
        heads=heads,
        risk=[Risk(cylinder=c, kinds=kinds) for c, kinds in contacts.at_risk(crank).items()],
        ranges=ranges,
        jumps=[swing for view in ranges for swing in view.swings],
        teeth=teeth_views(contacts, train),
        teeth_off=valves_off(book, late) if tooth else None,
        reason=min(limits, key=lambda limit: abs(limit.turn_deg), default=loosest),
    )


def _late(train: DriveTrain, tooth: tuple[str, int]) -> dict[str, float]:
    contact, teeth = tooth
    if contact not in train.contacts():
        raise BookError(
            "The book has no such contact of chain and sprocket.",
            read=contact,
            expected=", ".join(train.contacts()),
        )
    late, _ = train.shaft_late_deg(Faults(jumped_teeth={contact: teeth}))
    return {cam: late[cam] for cam in train.book.cams}
