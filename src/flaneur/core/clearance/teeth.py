"""How many teeth a cam can stand off before its valves meet the pistons, and what that would have bent."""

from dataclasses import dataclass, replace

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.drive.train import DriveTrain

MOST_TEETH = 12


@dataclass(frozen=True)
class ToothReach:
    """One valve row. ``early`` and ``late`` are the fewest teeth off at which it touches, None for none up to 12.

    ``phased`` counts the same with the phaser anywhere in its travel, as when running; ``room_mm`` is the least room
    at −3…3 teeth (early negative) with the phaser parked.
    """

    cam: str
    row: ValveRow
    tooth_deg: float
    early: int | None
    late: int | None
    phased_early: int | None
    phased_late: int | None
    room_mm: tuple[float, ...]


def cam_sprocket(book: EngineBook, cam: str) -> str | None:
    """The sprocket a cam is driven by."""
    return next(
        (s for c in book.chains.values() for s in c.loop if s in book.sprockets and s != c.driver and book.sprockets[s].shaft == cam), None
    )


def phaser_travel_deg(book: EngineBook, cam: str) -> list[float]:
    """Lateness a cam's phaser can add, crank degrees, in steps of at most 5°; nought alone without a phaser."""
    key = book.phaser_of(cam)
    if key is None:
        return [0.0]
    phaser = book.phasers[key]
    sign = -1.0 if phaser.moves == "advance" else 1.0
    steps = max(2, int(phaser.range_deg / 5) + 2)
    return [float(v) for v in sign * np.linspace(0.0, phaser.range_deg, steps)]


def tooth_reaches(contacts: Contacts, train: DriveTrain) -> list[ToothReach]:
    """One line per valve row whose cam a chain drives. The rows of a group have the same room, each at its own time."""
    result: list[ToothReach] = []
    known: dict[str, ToothReach] = {}
    for row in contacts.rows:
        sprocket = cam_sprocket(contacts.book, row.group.cam)
        if sprocket is None:
            continue
        if row.group_id not in known:
            known[row.group_id] = _reach(contacts, row, train.tooth_deg(sprocket))
        result.append(replace(known[row.group_id], row=row))
    return result


def _reach(contacts: Contacts, row: ValveRow, tooth: float) -> ToothReach:
    travel = phaser_travel_deg(contacts.book, row.group.cam)

    def first(sign: int, shifts: list[float]) -> int | None:
        touching = (k for k in range(1, MOST_TEETH + 1) if any(contacts.least_margin_mm(row, sign * k * tooth + s) <= 0 for s in shifts))
        return next(touching, None)

    room = tuple(round(contacts.least_margin_mm(row, k * tooth), 3) for k in range(-3, 4))
    return ToothReach(row.group.cam, row, tooth, first(-1, [0.0]), first(1, [0.0]), first(-1, travel), first(1, travel), room)
