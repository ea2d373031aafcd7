"""Piston height by the slider-crank, valve lift and its slope by the textbook cam laws or a
table.
"""

import math
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq

from flaneur.core.book.valves import Clearance, ValveGroup

Floats = NDArray[np.float64]


def piston_drop_mm(engine: Clearance, after_top_deg: ArrayLike) -> Floats:
    """How far the crown stands below its highest place, mm, at crank degrees after that cylinder's
    nominal top.

    Slider-crank with half stroke r, rod l, pin offset e: height r·cos θ + √(l² − (r·sin θ − e)²);
    its highest value is √((l + r)² − e²) (textbook).
    """
    theta = np.radians(np.asarray(after_top_deg, dtype=np.float64))
    r, rod, offset = engine.stroke_mm / 2, engine.rod_mm, engine.pin_offset_mm
    height = r * np.cos(theta) + np.sqrt(rod**2 - (r * np.sin(theta) - offset) ** 2)
    return np.asarray(math.sqrt((rod + r) ** 2 - offset**2) - height, dtype=np.float64)


def highest_deg(engine: Clearance) -> float:
    """Crank degrees after the nominal top at which a piston stands highest: sin θ = e / (l + r)."""
    return math.degrees(math.asin(engine.pin_offset_mm / (engine.rod_mm + engine.stroke_mm / 2)))


def holds_angle(at_deg: float, period: float, low: Floats, high: Floats) -> NDArray[np.bool_]:
    """Where the stretch from ``low`` to ``high`` of a circle holds an angle."""
    return np.asarray((at_deg - low) % period <= high - low + 1e-9)


def least_drop_mm(engine: Clearance, low_deg: Floats, high_deg: Floats) -> Floats:
    """Least drop between two crank angles after the nominal top. A drop rises from its highest
    place to its lowest, so that the least lies there or at an end.
    """
    ends = np.minimum(piston_drop_mm(engine, low_deg), piston_drop_mm(engine, high_deg))
    return np.where(holds_angle(highest_deg(engine), 360.0, low_deg, high_deg), 0.0, ends)


def _rise(shape: str, u: Floats) -> tuple[Floats, Floats]:
    """Share of full lift and its slope at u from 0 (closed) to 1 (full lift): the textbook rise
    laws.
    """
    if shape == "harmonic":
        return (1 - np.cos(np.pi * u)) / 2, np.pi * np.sin(np.pi * u) / 2
    if shape == "cycloidal":
        return u - np.sin(2 * np.pi * u) / (2 * np.pi), 1 - np.cos(2 * np.pi * u)
    return 10 * u**3 - 15 * u**4 + 6 * u**5, 30 * u**2 - 60 * u**3 + 30 * u**4


@lru_cache(maxsize=256)
def _half_seat_deg(shape: str, duration_deg: float, at_share: float) -> float:
    """Crank degrees from seat to full lift of a law whose duration is measured at a share of its
    lift.
    """
    if at_share <= 0:
        return duration_deg / 2
    opened = float(brentq(lambda u: float(_rise(shape, np.asarray(u))[0]) - at_share, 0.0, 1.0))
    return duration_deg / 2 / (1 - opened)


def half_open_deg(group: ValveGroup) -> float:
    """Crank degrees from seat to full lift."""
    if group.shape == "table":
        return max(-group.lift_table[0][0], group.lift_table[-1][0])
    return _half_seat_deg(group.shape, group.duration_deg, group.duration_at_mm / group.max_lift_mm)


def lift_mm(group: ValveGroup, from_centre_deg: ArrayLike) -> Floats:
    """Valve lift, mm, at crank degrees from its full lift (any angle; the cycle is 720°)."""
    return _lift_and_slope(group, from_centre_deg)[0]


def slope_mm_per_rad(group: ValveGroup, from_centre_deg: ArrayLike) -> Floats:
    """Lift per radian the cam itself turns, positive while it opens."""
    return _lift_and_slope(group, from_centre_deg)[1]


def most_lift_mm(group: ValveGroup, low_deg: Floats, high_deg: Floats) -> Floats:
    """Most lift between two angles from full lift; a lift rises to its middle and falls, so that it
    lies there or at an end.
    """
    ends = np.maximum(lift_mm(group, low_deg), lift_mm(group, high_deg))
    return np.where(holds_angle(0.0, 720.0, low_deg, high_deg), group.max_lift_mm, ends)


def least_lift_mm(group: ValveGroup, low_deg: Floats, high_deg: Floats) -> Floats:
    """Least lift between two angles from full lift."""
    ends = np.minimum(lift_mm(group, low_deg), lift_mm(group, high_deg))
    return np.where(holds_angle(360.0, 720.0, low_deg, high_deg), 0.0, ends)


@lru_cache(maxsize=64)
def _table(points: tuple[tuple[float, float], ...]) -> PchipInterpolator:
    return PchipInterpolator([p[0] for p in points], [p[1] for p in points], extrapolate=False)


def _lift_and_slope(group: ValveGroup, from_centre_deg: ArrayLike) -> tuple[Floats, Floats]:
    angle = (np.asarray(from_centre_deg, dtype=np.float64) + 360.0) % 720.0 - 360.0
    if group.shape == "table":
        law = _table(tuple(group.lift_table))
        return np.nan_to_num(law(angle)), np.nan_to_num(law(angle, 1)) * 360.0 / math.pi
    half = half_open_deg(group)
    u = np.clip(1 - np.abs(angle) / half, 0.0, 1.0)
    share, slope = _rise(group.shape, u)
    # One radian of cam is two radians of crank; opening lies before the centreline.
    per_rad = group.max_lift_mm * slope / math.radians(half) * 2 * -np.sign(angle)
    return group.max_lift_mm * share, np.where(u > 0, per_rad, 0.0)


def reach_mm(group: ValveGroup, lift: ArrayLike) -> Floats:
    """How far along the bore a valve opened by ``lift`` needs the crown away from its place at
    rest, by the crown's form.

    Flat crown or wide flat pocket: the head's lowest edge goes down by L·cos α, which is exact. A
    domed crown is met by L/cos α at the latest; a relief parallel to the head likewise while the
    head is inside it, and by its depth sooner than a flat crown at most. A form nobody wrote down
    takes the worst.
    """
    opened = np.asarray(lift, dtype=np.float64)
    lean = math.cos(math.radians(group.angle_to_bore_deg))
    if group.crown in ("flat", "pocket"):
        return opened * lean
    if group.crown == "relief":
        return np.minimum(opened * lean + group.pocket_mm, opened / lean)
    return opened / lean
