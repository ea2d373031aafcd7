"""How many teeth a cam can stand off before its valves touch, and what is left at each."""

from dataclasses import dataclass, replace

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.clearance.driven import heads_room_mm, piston_room_mm
from flaneur.core.clearance.facing import Pair, distinct, pairs
from flaneur.core.drive.train import DriveTrain

MOST_TEETH = 12
NEAR_TEETH = 3


@dataclass(frozen=True)
class ToothReach:
    """One valve row. ``early`` and ``late`` are the fewest teeth off at which it keeps less than
    the reserve from its piston or from the valves beside it, the phaser parked; ``phased_*`` with
    the phaser anywhere, as when running. None: not up to twelve teeth. ``room_mm`` and
    ``phased_room_mm`` are the least rooms at −3…3 teeth, early negative; None is unknown.
    """

    cam: str
    row: ValveRow
    tooth_deg: float
    early: int | None
    late: int | None
    phased_early: int | None
    phased_late: int | None
    room_mm: tuple[float | None, ...]
    phased_room_mm: tuple[float | None, ...]
    meets: str


def cam_sprocket(book: EngineBook, cam: str) -> str | None:
    """The sprocket a cam is driven by."""
    return next(
        (
            s
            for c in book.chains.values()
            for s in c.loop
            if s in book.sprockets and s != c.driver and book.sprockets[s].shaft == cam
        ),
        None,
    )


def tooth_reaches(contacts: Contacts, train: DriveTrain) -> list[ToothReach]:
    """One line per valve row whose cam a chain drives. The rows of a group have the same room, each
    at its own time.
    """
    result: list[ToothReach] = []
    known: dict[object, ToothReach] = {}
    beside = distinct(pairs(contacts))
    for row in contacts.rows:
        sprocket = cam_sprocket(contacts.book, row.group.cam)
        if sprocket is None:
            continue
        tooth = train.tooth_deg(sprocket)
        own = [
            pair for pair in beside if row.group_id in (pair.intake.group_id, pair.exhaust.group_id)
        ]
        others = tuple(
            (pair.alike, *(contacts.travel_deg(r.group.cam) for r in (pair.intake, pair.exhaust)))
            for pair in own
        )
        like = (row.alike, tooth, contacts.travel_deg(row.group.cam), others)
        if like not in known:
            known[like] = _reach(contacts, row, tooth, own)
        result.append(replace(known[like], cam=row.group.cam, row=row))
    return result


def _reach(contacts: Contacts, row: ValveRow, tooth: float, own: list[Pair]) -> ToothReach:
    rooms: dict[tuple[int, bool], tuple[float, str]] = {}

    def room(teeth: int, parked: bool) -> tuple[float, str]:
        if (teeth, parked) not in rooms:
            found = [(piston_room_mm(contacts, row, teeth * tooth, parked), "their pistons")]
            for pair in own:
                apart = heads_room_mm(contacts, pair, {row.group.cam: teeth * tooth}, parked)
                if apart is None and teeth:
                    found.append((float("-inf"), "perhaps the valves beside them (unknown)"))
                elif apart is not None:
                    found.append((apart, "the valves beside them"))
            rooms[teeth, parked] = min(found)
        return rooms[teeth, parked]

    def first(sign: int, parked: bool) -> int | None:
        return next(
            (
                k
                for k in range(1, MOST_TEETH + 1)
                if room(sign * k, parked)[0] < contacts.reserve_mm
            ),
            None,
        )

    near = range(-NEAR_TEETH, NEAR_TEETH + 1)
    known = [
        tuple(
            None if room(k, parked)[0] == float("-inf") else round(room(k, parked)[0], 3)
            for k in near
        )
        for parked in (True, False)
    ]
    ends = (first(-1, True), first(1, True), first(-1, False), first(1, False))
    touching = [sign * k for sign, k in ((-1, ends[2]), (1, ends[3])) if k is not None]
    meets = sorted({room(k, False)[1] for k in touching})
    return ToothReach(row.group.cam, row, tooth, *ends, known[0], known[1], " and ".join(meets))
