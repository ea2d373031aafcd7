"""Where valves would touch pistons: room with everything that is unsure counted against it.

A cam's place is an angle of its own in crank degrees of the 720° cycle, such that a driven cam that
stands as the book says is at the crank's own angle; a cam ``late`` by d stands at crank − d. Room
is measured along the bore, mm. A piston's height hangs on the crank alone and a valve's lift on its
cam alone, so that over any stretch of either the least room is found exactly, without a grid.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.valves import Clearance, ValveGroup
from flaneur.core.clearance.motion import (
    least_drop_mm,
    lift_mm,
    most_lift_mm,
    piston_drop_mm,
    reach_mm,
)
from flaneur.core.errors import BookError, Fault

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
CYCLE_DEG = 720.0
FINE_DEG = 0.25


@dataclass(frozen=True)
class ValveRow:
    """One kind of valves of one cylinder."""

    group_id: str
    group: ValveGroup
    engine: Clearance
    cylinder: int
    fires_deg: float

    def _from_centre(self, cam_deg: ArrayLike) -> Floats:
        return np.asarray(cam_deg, dtype=np.float64) - self.fires_deg - self.group.centreline_deg

    def gap_mm(self, crank_deg: ArrayLike) -> Floats:
        """Room along the bore between the closed valve and the crown."""
        drop = piston_drop_mm(self.engine, np.asarray(crank_deg, dtype=np.float64) - self.fires_deg)
        return self.group.rest_gap_mm + self.group.pocket_mm + drop

    def least_gap_mm(self, low_deg: Floats, high_deg: Floats) -> Floats:
        """The least of it between two crank angles."""
        drop = least_drop_mm(self.engine, low_deg - self.fires_deg, high_deg - self.fires_deg)
        return self.group.rest_gap_mm + self.group.pocket_mm + drop

    def reach_mm(self, cam_deg: ArrayLike) -> Floats:
        """How far down the crown must stand for the valve with its cam there."""
        return reach_mm(self.group, lift_mm(self.group, self._from_centre(cam_deg)))

    def most_reach_mm(self, low_deg: Floats, high_deg: Floats) -> Floats:
        """The most of it between two angles of the cam."""
        return reach_mm(
            self.group,
            most_lift_mm(self.group, self._from_centre(low_deg), self._from_centre(high_deg)),
        )

    def cycle_room_mm(self, early_deg: float, late_deg: float) -> float:
        """Least room over a whole cycle, mm, of a driven cam anywhere between two latenesses."""
        crank = np.arange(0.0, CYCLE_DEG, FINE_DEG)
        reach = self.most_reach_mm(crank - late_deg, crank + FINE_DEG - early_deg)
        return float(np.min(self.least_gap_mm(crank, crank + FINE_DEG) - reach))

    @cached_property
    def alike(self) -> tuple[str, ...]:
        """What two rows share when one is the other at another time."""
        told = (
            "max_lift_mm",
            "duration_deg",
            "duration_at_mm",
            "centreline_deg",
            "shape",
            "lift_table",
            "angle_to_bore_deg",
            "head_mm",
        )
        return tuple(
            str(getattr(self.group, name)) for name in (*told, "rest_gap_mm", "pocket_mm", "crown")
        )

    @property
    def full_reach_mm(self) -> float:
        """How far the fully open valve reaches into the cylinder, millimetres."""
        return float(reach_mm(self.group, self.group.max_lift_mm))

    @property
    def name(self) -> str:
        """The row in words: its kind of valve and its cylinder."""
        return f"{self.group.kind} of cylinder {self.cylinder}"


class Contacts:
    """Pistons and valves of one book. Raises BookError when the book has no clearance data: unknown
    is not safe.
    """

    def __init__(self, book: EngineBook) -> None:
        if book.clearance is None:
            raise BookError(
                f"The book of the {book.name} has no clearance data: unknown, treat as touching.",
                [Fault("clearance", "missing")],
                read="no piston and valve data",
                expected="bore, stroke, rod, valves",
                advice="Take it that valves and pistons meet; turn nothing with a chain off unless "
                "the maker's information says so.",
            )
        self.book, self.engine = book, book.clearance
        self.rows = [
            ValveRow(key, group, self.engine, cylinder, self.engine.fires_deg[cylinder])
            for key, group in self.engine.valves.items()
            for cylinder in group.cylinders
        ]
        self.reserve_mm = self.engine.reserve.room_mm
        self.crank_unsure_deg = self.engine.reserve.crank_deg
        self.cam_unsure_deg = book.limits.cam_deviation_deg

    def rows_of(self, cam: str | None) -> list[ValveRow]:
        """Valve rows of one cam, or of all. Raises BookError for a cam the book lacks."""
        self.check_cams([cam] if cam else [])
        return [row for row in self.rows if cam is None or row.group.cam == cam]

    def first_rows(self) -> dict[str, ValveRow]:
        """One row of every valve group: its other rows have the same room, each at its own time."""
        return {row.group_id: row for row in reversed(self.rows)}

    def check_cams(self, cams: list[str]) -> None:
        """Raise BookError for a cam the book lacks."""
        for cam in cams:
            if cam not in self.book.cams:
                raise BookError(
                    "The book has no such cam.", read=cam, expected=", ".join(self.book.cams)
                )

    def travel_deg(self, cam: str) -> tuple[float, float]:
        """Least and most lateness a cam's phaser can add, crank degrees; noughts without one."""
        key = self.book.phaser_of(cam)
        if key is None:
            return 0.0, 0.0
        phaser = self.book.phasers[key]
        return (-phaser.range_deg, 0.0) if phaser.moves == "advance" else (0.0, phaser.range_deg)

    @cached_property
    def piston_windows(self) -> list[tuple[int, int]]:
        """Crank stretches in whole degrees in which no valve can come within the reserve of a
        piston, whatever the cams do. ``to`` may exceed 360 where a stretch runs through zero; a
        stretch without a whole degree is none.
        """
        low = np.arange(0.0, 360.0, FINE_DEG)
        return _whole_degrees(~np.any(self.reached_when_loose(low, low + FINE_DEG), axis=0))

    def tightest_loose(self, crank_deg: float) -> tuple[ValveRow, float]:
        """The valve row with the least room at a crank angle when every cam is loose, and that
        room.
        """
        here = np.array([crank_deg])
        rooms = [
            (
                float(
                    row.least_gap_mm(here - self.crank_unsure_deg, here + self.crank_unsure_deg)[0]
                )
                - row.full_reach_mm,
                i,
            )
            for i, row in enumerate(self.rows)
        ]
        room, index = min(rooms)
        return self.rows[index], room

    def at_risk(self, crank_deg: float) -> dict[int, list[str]]:
        """Cylinders whose piston stands high enough at a crank angle to come within the reserve of
        a fully open valve, with the kinds that can.
        """
        here = np.array([crank_deg])
        risk: dict[int, list[str]] = {}
        for row, reached in zip(self.rows, self.reached_when_loose(here, here), strict=True):
            if reached[0]:
                risk.setdefault(row.cylinder, []).append(row.group.kind)
        return dict(sorted(risk.items()))

    def reached_when_loose(self, low_deg: Floats, high_deg: Floats) -> list[Bools]:
        """For every valve row, over which crank stretches its piston comes within the reserve of it
        fully open.
        """
        unsure = self.crank_unsure_deg
        return [
            row.least_gap_mm(low_deg - unsure, high_deg + unsure)
            < row.full_reach_mm + self.reserve_mm
            for row in self.rows
        ]


def _whole_degrees(good: Bools) -> list[tuple[int, int]]:
    """Stretches of one turn that hold, from cells of FINE_DEG, as whole degrees rounded inwards."""
    if good.all():
        return [(0, 360)]
    size = len(good)
    result: list[tuple[int, int]] = []
    for start in np.flatnonzero(good & ~np.roll(good, 1)):
        length = int(np.argmin(np.roll(good, -int(start))))
        first = int(np.ceil(float(start) * 360.0 / size))
        last = int(np.floor(float(start + length) * 360.0 / size))
        if last >= first:
            result.append((first, last))
    return result
