"""What valves have left when a chain is set wrong: the worse of phaser parked and phaser anywhere,
as when running.
"""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.facing import distinct, pairs
from flaneur.core.clearance.loosened import cycle_room_mm, pair_room_mm
from flaneur.core.errors import BookError

UNKNOWN = "unknown: treat as touching"


class RoomOff(BaseModel):
    """Least room of like valves over a cycle, mm, cams as far off the book as it allows; None is
    unknown.
    """

    model_config = ConfigDict(frozen=True)

    what: str
    parked_mm: float | None
    running_mm: float | None


class ValvesOff(BaseModel):
    """Which valves touch over a whole turn of the cycle, phasers anywhere. ``touches`` None means
    unknown.
    """

    model_config = ConfigDict(frozen=True)

    bent: list[str]
    clear: list[str]
    touches: bool | None
    rooms: list[RoomOff] = []
    reserve: str = ""


def valves_off(book: EngineBook, late_deg: dict[str, float]) -> ValvesOff:
    """Least room of every valve group, and of valves beside each other, with cams that late (crank
    degrees).

    Raises BookError for a cam the book lacks or a lateness that is no number; a cam left out stands
    as the book says.
    """
    if book.clearance is None:
        return ValvesOff(bent=[], clear=[f"Valves {UNKNOWN}."], touches=None)
    contacts = Contacts(book)
    contacts.check_cams(list(late_deg))
    for cam, late in late_deg.items():
        if not math.isfinite(late):
            raise BookError(
                "A cam's lateness is no number.",
                [cam],
                read=str(late),
                expected="crank degrees, late positive",
            )
    kept = contacts.reserve_mm
    rooms: list[RoomOff] = []
    bent: list[str] = []
    clear: list[str] = []
    for key, row in contacts.first_rows().items():
        late = late_deg.get(row.group.cam, 0.0)
        parked, running = (
            cycle_room_mm(contacts, row, late, parked=True),
            cycle_room_mm(contacts, row, late),
        )
        cylinders = ", ".join(str(c) for c in row.group.cylinders)
        rooms.append(RoomOff(what=key, parked_mm=round(parked, 3), running_mm=round(running, 3)))
        line = _line(
            row.group.name, "their pistons", f"in cylinders {cylinders}", parked, running, kept
        )
        (bent if running < kept else clear).append(line)
    unknown = False
    for pair in distinct(pairs(contacts)):
        names = (
            f"{pair.intake.group.name} and "
            f"{pair.exhaust.group.name[0].lower()}{pair.exhaust.group.name[1:]}"
        )
        parked, running = (pair_room_mm(contacts, pair, late_deg, parked=p) for p in (True, False))
        rooms.append(
            RoomOff(
                what=f"{pair.intake.group_id}/{pair.exhaust.group_id}",
                parked_mm=None if parked is None else round(parked, 3),
                running_mm=None if running is None else round(running, 3),
            )
        )
        if parked is None or running is None:
            is_moved = late_deg.get(pair.intake.group.cam, 0.0) != late_deg.get(
                pair.exhaust.group.cam, 0.0
            )
            unknown = unknown or is_moved
            (bent if is_moved else clear).append(
                f"{names} of one cylinder may meet each other: {UNKNOWN}."
            )
        else:
            line = _line(names, "each other", "", parked, running, kept)
            (bent if running < kept else clear).append(line)
    touches = (
        None
        if unknown and not any(r.running_mm is not None and r.running_mm < kept for r in rooms)
        else bool(bent)
    )
    return ValvesOff(
        bent=bent, clear=clear, touches=touches, rooms=rooms, reserve=reserve_words(contacts)
    )


def _line(name: str, other: str, where: str, parked: float, running: float, kept: float) -> str:
    worst, when = (
        (parked, "even parked")
        if parked <= running
        else (running, "running, the phaser anywhere in its travel")
    )
    if abs(parked - running) < 0.05:
        when = "at rest and running"
    at = f" {where}" if where else ""
    if worst <= 0:
        return f"{name} meet {other}{at}, {when}: bent."
    if worst < kept:
        return (
            f"{name} come to {worst:.1f} mm from {other}{at}, {when}: under the reserve of "
            f"{kept:g} mm, treat as touching."
        )
    return f"{name} keep {worst:.1f} mm from {other}, {when}."


def reserve_words(contacts: Contacts) -> str:
    """What is counted against every figure, in a phrase."""
    return (
        f"{contacts.reserve_mm:g} mm kept, crank ±{contacts.crank_unsure_deg:g}°, cams "
        f"±{contacts.cam_unsure_deg:g}°"
    )
