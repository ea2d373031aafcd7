"""Piston height by the slider-crank, valve lift and its slope by the textbook cam laws."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from flaneur.core.book.valves import Clearance, ValveGroup

Floats = NDArray[np.float64]


def piston_drop_mm(engine: Clearance, after_top_deg: ArrayLike) -> Floats:
    """How far the crown stands below its highest place, mm, at crank degrees after that cylinder's nominal top.

    Slider-crank with half stroke r, rod l, pin offset e: height r·cos θ + √(l² − (r·sin θ − e)²); its highest value
    is √((l + r)² − e²) (textbook).
    """
    theta = np.radians(np.asarray(after_top_deg, dtype=np.float64))
    r, rod, offset = engine.stroke_mm / 2, engine.rod_mm, engine.pin_offset_mm
    height = r * np.cos(theta) + np.sqrt(rod**2 - (r * np.sin(theta) - offset) ** 2)
    return np.asarray(math.sqrt((rod + r) ** 2 - offset**2) - height, dtype=np.float64)


def _rise(shape: str, u: Floats) -> tuple[Floats, Floats]:
    """Share of full lift and its slope at u from 0 (closed) to 1 (full lift): the textbook rise laws."""
    if shape == "harmonic":
        return (1 - np.cos(np.pi * u)) / 2, np.pi * np.sin(np.pi * u) / 2
    if shape == "cycloidal":
        return u - np.sin(2 * np.pi * u) / (2 * np.pi), 1 - np.cos(2 * np.pi * u)
    return 10 * u**3 - 15 * u**4 + 6 * u**5, 30 * u**2 - 60 * u**3 + 30 * u**4


def lift_mm(group: ValveGroup, from_centre_deg: ArrayLike) -> Floats:
    """Valve lift, mm, at crank degrees from its full lift (any angle; the cycle is 720°)."""
    return _lift_and_slope(group, from_centre_deg)[0]


def slope_mm_per_rad(group: ValveGroup, from_centre_deg: ArrayLike) -> Floats:
    """Lift per radian the cam itself turns, positive while it opens."""
    return _lift_and_slope(group, from_centre_deg)[1]


def _lift_and_slope(group: ValveGroup, from_centre_deg: ArrayLike) -> tuple[Floats, Floats]:
    angle = (np.asarray(from_centre_deg, dtype=np.float64) + 360.0) % 720.0 - 360.0
    half = group.duration_deg / 2
    u = np.clip(1 - np.abs(angle) / half, 0.0, 1.0)
    share, slope = _rise(group.shape, u)
    # One radian of cam is two radians of crank; opening lies before the centreline.
    per_rad = group.max_lift_mm * slope / math.radians(half) * 2 * -np.sign(angle)
    return group.max_lift_mm * share, np.where(u > 0, per_rad, 0.0)
