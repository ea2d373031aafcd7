"""An adapter between wrench and fastener: what to set so that the fastener gets what it should."""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.errors import ReadingError

LONGEST_MM = 2000.0


class Lever(BaseModel):
    """A wrench with an adapter on it: from the pivot to the middle of the grip, the adapter's
    offset, and its angle off the wrench's line (0 straight on, 90 square, 180 pointing back).
    """

    model_config = ConfigDict(frozen=True)

    length_mm: float
    offset_mm: float
    angle_deg: float = 0.0


class Setting(BaseModel):
    """What to set on the wrench: ``exact_nm``, and ``set_nm`` on its own graduation, which gives
    the fastener ``given_nm``; ``lever_mm`` is the working lever with the adapter on it.
    """

    model_config = ConfigDict(frozen=True)

    target_nm: float
    length_mm: float
    offset_mm: float
    angle_deg: float
    lever_mm: float
    exact_nm: float
    set_nm: float
    given_nm: float
    error_nm: float
    words: str


def adapter_setting(target_nm: float, lever: Lever, graduation_nm: float | None = None) -> Setting:
    """Set = target · L / (L + e · cos γ), with the lever's length L, offset e and angle γ.

    ``graduation_nm`` is the step of the wrench's scale; the nearest one is set and its error told.
    Raises ReadingError for a lever that cannot be.
    """
    length_mm, offset_mm, angle_deg = lever.length_mm, lever.offset_mm, lever.angle_deg
    if not 0 < target_nm <= 2000:
        raise ReadingError("No such torque.", read=f"{target_nm:g} Nm", expected="up to 2000 Nm")
    if not 0 < length_mm <= LONGEST_MM or not 0 <= offset_mm <= LONGEST_MM:
        raise ReadingError(
            "No such lever.",
            read=f"wrench {length_mm:g} mm, adapter {offset_mm:g} mm",
            expected=f"a wrench above 0 and an adapter from 0, each up to {LONGEST_MM:g} mm",
            advice="Measure from the pivot to the middle of the grip, and from it to the fastener.",
        )
    if not -180 <= angle_deg <= 180:
        raise ReadingError(
            "No such angle.", read=f"{angle_deg:g}°", expected="−180° to 180°, 0 straight on"
        )
    works = length_mm + offset_mm * math.cos(math.radians(angle_deg))
    if works < length_mm / 4:
        raise ReadingError(
            "The adapter takes the lever away.",
            read=f"{works:.0f} mm of lever left from {length_mm:g} mm",
            expected="at least a quarter of the wrench's own",
            advice="Set the adapter square to the wrench, where it changes nothing.",
        )
    exact = target_nm * length_mm / works
    step = graduation_nm or 0.0
    to_set = round(exact / step) * step if step > 0 else exact
    given = to_set * works / length_mm
    error = given - target_nm
    off = "" if abs(error) < 0.005 else f", {error:+.2f} Nm off"
    return Setting(
        target_nm=target_nm,
        length_mm=length_mm,
        offset_mm=offset_mm,
        angle_deg=angle_deg,
        lever_mm=works,
        exact_nm=exact,
        set_nm=to_set,
        given_nm=given,
        error_nm=error,
        words=f"Set {to_set:.4g} Nm: the fastener gets {given:.4g} Nm{off}.",
    )
