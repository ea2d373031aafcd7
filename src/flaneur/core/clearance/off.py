"""What valves have left when a chain is set wrong: the worse of phaser parked and phaser anywhere,
as when running.
"""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.driven import heads_room_mm, piston_room_mm
from flaneur.core.clearance.facing import distinct, pairs
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
    """Which valves touch over a whole turn of the cycle, phasers anywhere. ``touches`` None when
    none is known to and it is not known of all; ``unknown`` says of which.
    """

    model_config = ConfigDict(frozen=True)

    bent: list[str]
    clear: list[str]
    unknown: list[str] = []
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
        return ValvesOff(bent=[], clear=[], unknown=[f"Valves {UNKNOWN}."], touches=None)
    contacts = Contacts(book)
    contacts.check_cams(list(late_deg))
    for cam, late in late_deg.items():
        if not math.isfinite(late):
            raise BookError(
                "A cam's lateness is no number.",
                read=f"{cam} {late}",
                expected="crank degrees, late positive",
            )
    kept = contacts.reserve_mm
    rooms: list[RoomOff] = []
    bent: list[str] = []
    clear: list[str] = []
    for key, row in contacts.first_rows().items():
        late = late_deg.get(row.group.cam, 0.0)
        parked, running = (
            piston_room_mm(contacts, row, late, parked=True),
            piston_room_mm(contacts, row, late),
        )
        cylinders = ", ".join(str(c) for c in row.group.cylinders)
        rooms.append(RoomOff(what=key, parked_mm=round(parked, 3), running_mm=round(running, 3)))
        line = _line(
            row.group.name, "their pistons", f"in cylinders {cylinders}", parked, running, kept
        )
        (bent if running < kept else clear).append(line)
    unknown: list[str] = []
    for pair in distinct(pairs(contacts)):
        intake, exhaust = pair.intake.group, pair.exhaust.group
        names = f"{intake.name} and {exhaust.name[0].lower()}{exhaust.name[1:]}"
        parked, running = (heads_room_mm(contacts, pair, late_deg, p) for p in (True, False))
        rooms.append(
            RoomOff(
                what=f"{pair.intake.group_id}/{pair.exhaust.group_id}",
                parked_mm=None if parked is None else round(parked, 3),
                running_mm=None if running is None else round(running, 3),
            )
        )
        if parked is not None and running is not None:
            line = _line(names, "each other", "", parked, running, kept)
            (bent if running < kept else clear).append(line)
        elif late_deg.get(intake.cam, 0.0) != late_deg.get(exhaust.cam, 0.0):
            unknown.append(f"{names} of one cylinder may meet each other: {UNKNOWN}.")
    return ValvesOff(
        bent=bent,
        clear=clear,
        unknown=unknown,
        touches=True if bent else None if unknown else False,
        rooms=rooms,
        reserve=reserve_words(contacts),
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
    shown = math.floor(10 * worst) / 10  # never more than there is
    if worst <= 0:
        return f"{name} meet {other}{at}, {when}: bent."
    if worst < kept:
        return (
            f"{name} come to {shown:.1f} mm from {other}{at}, {when}: under the reserve of "
            f"{kept:g} mm, treat as touching."
        )
    return f"{name} keep {shown:.1f} mm from {other}, {when}."


def reserve_words(contacts: Contacts) -> str:
    """What is counted against every figure, in a phrase."""
    return (
        f"{contacts.reserve_mm:g} mm kept, crank ±{contacts.crank_unsure_deg:g}°, cams "
        f"±{contacts.cam_unsure_deg:g}°"
    )
