"""An independent witness of clearance: other code, lift laws integrated from their accelerations,
energy by small steps.

It shares nothing with the product but the book it reads. Angles are crank degrees unless named
otherwise; a cam's own angle is the crank's when it stands as the book says.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.valves import Seats, ValveGroup

Floats = NDArray[np.float64]
FINE = 4000


def _integrated(shape: str) -> tuple[Floats, Floats]:
    """Share of lift over u from 0 to 1, by integrating the law's acceleration twice
    (trapezoids).
    """
    u = np.linspace(0.0, 1.0, FINE + 1)
    if shape == "harmonic":
        bent = np.cos(np.pi * u)
    elif shape == "cycloidal":
        bent = np.sin(2 * np.pi * u)
    else:
        bent = u - 3 * u**2 + 2 * u**3
    speed = np.concatenate([[0.0], np.cumsum((bent[1:] + bent[:-1]) / 2)])
    way = np.concatenate([[0.0], np.cumsum((speed[1:] + speed[:-1]) / 2)])
    return u, way / way[-1]


LAWS = {shape: _integrated(shape) for shape in ("harmonic", "cycloidal", "poly_345")}


@dataclass(frozen=True)
class Row:
    """A row of valves: which cylinder, and its lift over its cam's own angle by tenths of a
    degree.
    """

    group: ValveGroup
    cylinder: int
    fires: float
    lift: Floats

    def at(self, cam_deg: Floats) -> Floats:
        return np.interp(np.mod(cam_deg, 720.0), np.arange(7201) / 10.0, self.lift)


class Witness:
    """Pistons, valves and springs of one book."""

    def __init__(self, book: EngineBook) -> None:
        assert book.clearance is not None
        self.book, self.engine = book, book.clearance
        self.rows = [
            Row(
                group,
                cylinder,
                self.engine.fires_deg[cylinder],
                self._lift(group, self.engine.fires_deg[cylinder]),
            )
            for group in self.engine.valves.values()
            for cylinder in group.cylinders
        ]

    def _lift(self, group: ValveGroup, fires: float) -> Floats:
        u, share = LAWS[group.shape]
        opened = (
            float(np.interp(group.duration_at_mm / group.max_lift_mm, share, u))
            if group.duration_at_mm
            else 0.0
        )
        half = group.duration_deg / 2 / (1 - opened)
        away = np.abs(
            (np.arange(7201) / 10.0 - fires - group.centreline_deg + 360.0) % 720.0 - 360.0
        )
        return group.max_lift_mm * np.interp(np.clip(1 - away / half, 0.0, 1.0), u, share)

    def piston_room(self, row: Row, crank_deg: Floats, cam_deg: Floats) -> Floats:
        """Room along the bore: the wrist pin by the crank pin's place and the rod, against what the
        valve needs.
        """
        turn = np.radians(crank_deg - row.fires)
        radius, rod, offset = (
            self.engine.stroke_mm / 2,
            self.engine.rod_mm,
            self.engine.pin_offset_mm,
        )
        pin = radius * np.exp(1j * (math.pi / 2 - turn))
        wrist = pin.imag + rod * np.cos(np.arcsin((pin.real - offset) / rod))
        fall = math.hypot(rod + radius, 0.0) * math.cos(math.asin(offset / (rod + radius))) - wrist
        lean, opened = math.radians(row.group.angle_to_bore_deg), row.at(cam_deg)
        straight, wide = opened * math.cos(lean), opened / math.cos(lean)
        needs = {
            "flat": straight,
            "pocket": straight,
            "relief": straight + np.minimum(row.group.pocket_mm, wide - straight),
        }
        return (
            row.group.rest_gap_mm
            + row.group.pocket_mm
            + fall
            - needs.get(str(row.group.crown), wide)
        )

    def heads_room(
        self, intake: Row, exhaust: Row, intake_deg: Floats, exhaust_deg: Floats
    ) -> Floats:
        """Distance of two heads' outlines, each set with points; nought where the book does not
        know them.
        """
        seats = self.engine.seats
        if seats is None or intake.group.head_mm is None or exhaust.group.head_mm is None:
            return np.zeros(np.shape(intake_deg))
        one, other = _outline(seats, intake.group, 1), _outline(seats, exhaust.group, -1)
        ways = [_way(seats, intake.group, 1), _way(seats, exhaust.group, -1)]
        found: list[Floats] = []
        lifts = np.stack([intake.at(intake_deg), exhaust.at(exhaust_deg)], axis=-1)
        for part in np.array_split(lifts, max(1, len(lifts) // 500)):
            a = one[None] + part[:, :1, None] * ways[0]
            b = other[None] + part[:, 1:, None] * ways[1]
            apart = a[:, :, None, :] - b[:, None, :, :]
            found.append(np.sqrt(np.min(np.sum(apart * apart, axis=-1), axis=(1, 2))))
        return np.concatenate(found)

    def energy(self, cam: str) -> Floats:
        """Energy of a cam's springs over its own angle by tenths of a degree, J."""
        total = np.zeros(7201)
        for row in self.rows:
            if row.group.cam == cam:
                total += (
                    row.group.valves_each
                    * (row.group.spring_n + row.group.spring_n_per_mm * row.lift / 2)
                    * row.lift
                    / 1000.0
                )
        return total

    def swing(self, cams: list[str], starts: Floats, friction: Floats) -> Floats:
        """How far cams tied to each other turn when let go, crank degrees, signed; ``starts`` are
        their own angles (n, cams).

        Steps of a tenth of a degree: the springs' work adds to the motion, friction (N·m, one a
        start) takes from it.
        """
        curves = [self.energy(cam) for cam in cams]

        def energy_at(turn: Floats) -> Floats:
            at = [
                np.interp(np.mod(starts[:, k] + turn, 720.0), np.arange(7201) / 10.0, curve)
                for k, curve in enumerate(curves)
            ]
            return np.sum(at, axis=0)

        nudge = 0.05
        push = -(
            energy_at(np.full(len(starts), nudge)) - energy_at(np.full(len(starts), -nudge))
        ) / (2 * nudge)  # J per crank degree
        drag = friction * math.radians(1.0) / 2
        sign = np.where(np.abs(push) > drag, np.sign(push), 0.0)
        turned, motion = np.zeros(len(starts)), np.zeros(len(starts))
        before, moving = energy_at(turned), sign != 0
        for _ in range(3600):
            ahead = turned + sign * 0.1
            after = energy_at(ahead)
            left = motion + before - after - drag * 0.1
            moving &= left >= 0
            if not moving.any():
                break
            turned, motion, before = (
                np.where(moving, ahead, turned),
                np.where(moving, left, motion),
                np.where(moving, after, before),
            )
        return turned


def _way(seats: Seats, group: ValveGroup, side: int) -> Floats:
    if seats.layout == "row":
        return np.array([0.0, -1.0])
    lean = math.radians(group.angle_to_bore_deg)
    return np.array([-side * math.sin(lean), -math.cos(lean)])


def _outline(seats: Seats, group: ValveGroup, side: int) -> Floats:
    """Points round a closed head, x across to the intake's side, y up; half a millimetre apart."""
    assert group.head_mm is not None
    way = _way(seats, group, side)
    out = np.array([-way[1] * side, way[0] * side])  # along the face, away from the bridge
    near = np.array([side * seats.bridge_mm / 2, -seats.step_mm if side < 0 else 0.0])
    corners = [
        near,
        near + out * group.head_mm,
        near + out * group.head_mm - way * seats.edge_mm,
        near - way * seats.edge_mm,
    ]
    # What can come near is the edge by the bridge and the face: the far half is left out.
    near_first = 0.5 * np.linspace(0.0, 1.0, 40) ** 2
    points = [corners[0] + (corners[1] - corners[0]) * t for t in near_first] + [
        corners[3] + (corners[2] - corners[3]) * t for t in near_first
    ]
    points += [corners[3] + (corners[0] - corners[3]) * t for t in np.linspace(0.0, 1.0, 12)]
    return np.array(points)
