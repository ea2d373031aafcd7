"""Where a pivoting arm and its face stand for a given plunger extension."""

import math
from dataclasses import dataclass

from flaneur.core.book.drive import Arm, Tensioner
from flaneur.core.drive.loop import Disc
from flaneur.core.errors import BookError, Fault


def clock_to_heading(clock_deg: float) -> float:
    """Math heading in radians (anticlockwise from +x) of a clock direction in degrees."""
    return math.radians(90.0 - clock_deg)


@dataclass(frozen=True)
class ArmPose:
    """The arm's face as a disc, and how far the arm has swung from its book position, radians."""

    disc: Disc
    swing: float


def arm_pose(
    arm_id: str, arm: Arm, tensioner: Tensioner, plunger_mm: float, wear_mm: float = 0.0
) -> ArmPose:
    """Pose of an arm at a plunger extension; the pad keeps to the plunger's axis direction.

    A shoe without a pivot goes straight along with the plunger. Otherwise the pad's travel along
    the plunger axis is |q|·(cos(γ+φ) − cos γ) for a swing φ, with q the pad seen from the pivot;
    solved in closed form. Raises BookError when the plunger cannot reach that far.
    """
    heading = clock_to_heading(tensioner.direction_clock_deg)
    if arm.pivot_mm is None:
        out = plunger_mm - tensioner.book_plunger_mm
        x, y = (
            arm.centre_mm[0] + out * math.cos(heading),
            arm.centre_mm[1] + out * math.sin(heading),
        )
        return ArmPose(Disc(arm_id, x, y, arm.radius_mm - wear_mm, arm.wrap), 0.0)
    qx, qy = tensioner.pad_mm[0] - arm.pivot_mm[0], tensioner.pad_mm[1] - arm.pivot_mm[1]
    lever = math.hypot(qx, qy)
    gamma = math.atan2(qy, qx) - heading
    gamma = (gamma + math.pi) % (2 * math.pi) - math.pi
    cosine = math.cos(gamma) + (plunger_mm - tensioner.book_plunger_mm) / lever
    if abs(cosine) > 1:
        raise BookError(
            f"The plunger of {arm.tensioner} cannot swing {arm_id} to {plunger_mm:.1f} mm.",
            [
                Fault(
                    f"arms.{arm_id}",
                    f"lever {lever:.1f} mm, asked extension {plunger_mm:.1f} mm",
                )
            ],
        )
    swing = math.copysign(math.acos(cosine), gamma) - gamma
    cx, cy = arm.centre_mm[0] - arm.pivot_mm[0], arm.centre_mm[1] - arm.pivot_mm[1]
    c, s = math.cos(swing), math.sin(swing)
    disc = Disc(
        arm_id,
        arm.pivot_mm[0] + c * cx - s * cy,
        arm.pivot_mm[1] + s * cx + c * cy,
        arm.radius_mm - wear_mm,
        arm.wrap,
    )
    return ArmPose(disc, swing)
