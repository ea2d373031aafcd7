"""Which way a cam turns when its chain comes off, how hard, how far, and what that would touch."""

import math
from dataclasses import dataclass

import numpy as np

from flaneur.core.book.valves import Holding
from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.clearance.motion import lift_mm, slope_mm_per_rad


@dataclass(frozen=True)
class Jump:
    """What one cam does when let go. Torque in N·m in running direction; ``turn_deg`` cam degrees, running positive."""

    cam: str
    torque_nm: float
    turn_deg: float
    touches: tuple[str, ...]


def cam_torque_nm(rows: list[ValveRow], crank_deg: float, turn_cam_deg: float = 0.0) -> float:
    """Torque of the valve springs on a cam turned on by ``turn_cam_deg`` from its book place, in running direction.

    Energy of a spring is F·x + k·x²/2; the torque is minus its slope over the cam's angle, with the lift law's own
    derivative (virtual work).
    """
    total = 0.0
    for row in rows:
        angle = crank_deg + 2 * turn_cam_deg - row.fires_deg - row.group.centreline_deg
        lift = float(lift_mm(row.group, angle))
        force = row.group.spring_n + row.group.spring_n_per_mm * lift
        total -= row.group.valves_each * force * float(slope_mm_per_rad(row.group, angle)) / 1000.0
    return total


def jump(contacts: Contacts, cam: str, crank_deg: float, holding: Holding | None = None) -> Jump:
    """What a cam does at this crank angle when its chain comes off, with what a holding school leaves free.

    It turns on until friction can hold it, at most half a turn; whatever it would touch on the way with the crank
    standing is named. A tool or a chain tied to the sprocket carries the torque: it stays.
    """
    rows = [row for row in contacts.rows_of(cam) if not _followers_out(row, holding)]
    torque = cam_torque_nm(rows, crank_deg)
    friction = contacts.engine.cam_friction_nm
    held = holding is not None and holding.school != "followers_out" and (not holding.cams or cam in holding.cams)
    if held or abs(torque) <= friction:
        return Jump(cam, torque, 0.0, ())
    sign = math.copysign(1.0, torque)
    turn = 0.0
    while abs(turn) < 180.0 and sign * cam_torque_nm(rows, crank_deg, turn) > friction:
        turn += sign * 0.5
    swept = np.arange(0.0, abs(turn) + 0.5, 0.5) * sign
    crank = np.full(swept.shape, crank_deg)
    touches = [row.name for row in rows if bool(np.any(contacts.margin_mm(row, crank, -2 * swept) <= 0))]
    return Jump(cam, torque, turn, tuple(touches))


def _followers_out(row: ValveRow, holding: Holding | None) -> bool:
    return holding is not None and row.cylinder in holding.followers_out.get(row.group_id, [])
