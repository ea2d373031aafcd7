"""Room of cams that are driven, over a whole cycle: in running, and set wrong by some teeth."""

from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.clearance.facing import Pair


def _lateness(contacts: Contacts, cam: str, late_deg: float, parked: bool) -> tuple[float, float]:
    """Between which latenesses a driven cam may be: the book's allowance, its phaser anywhere or
    parked.
    """
    early, late = (0.0, 0.0) if parked else contacts.travel_deg(cam)
    unsure = contacts.cam_unsure_deg
    return late_deg + early - unsure, late_deg + late + unsure


def piston_room_mm(
    contacts: Contacts, row: ValveRow, late_deg: float = 0.0, parked: bool = False
) -> float:
    """Least room of a row from its piston, its cam that much late."""
    return row.cycle_room_mm(*_lateness(contacts, row.group.cam, late_deg, parked))


def heads_room_mm(
    contacts: Contacts, pair: Pair, late_deg: dict[str, float] | None = None, parked: bool = False
) -> float | None:
    """Least distance of two heads, cams that much late; None when the book does not know."""
    if not pair.is_known:
        return None
    late = late_deg or {}
    cams = (pair.intake.group.cam, pair.exhaust.group.cam)
    intake, exhaust = (_lateness(contacts, c, late.get(c, 0.0), parked) for c in cams)
    return pair.cycle_mm(intake, exhaust)
