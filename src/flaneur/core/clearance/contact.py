"""Where valves would touch pistons: margins, the touch map, and the crank ranges that are safe.

Lateness is crank degrees by which a cam stands later than the book says. A margin is the room left along the bore
between a valve's head and the crown, mm; below zero they would have met.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.valves import Clearance, ValveGroup
from flaneur.core.clearance.motion import lift_mm, piston_drop_mm
from flaneur.core.errors import BookError

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
CRANK_STEPS = 720
LATE_DEG = np.arange(-360.0, 360.5, 3.0)
FINE_DEG = 0.25


@dataclass(frozen=True)
class ValveRow:
    """One kind of valves of one cylinder."""

    group_id: str
    group: ValveGroup
    cylinder: int
    fires_deg: float

    def gap_mm(self, engine: Clearance, crank_deg: Floats) -> Floats:
        """Room along the bore between the closed valve and the crown."""
        return self.group.rest_gap_mm + self.group.pocket_mm + piston_drop_mm(engine, crank_deg - self.fires_deg)

    def reach_mm(self, crank_deg: Floats, late_deg: Floats | float) -> Floats:
        """How far the valve stands out along the bore with its cam that late."""
        lean = np.cos(np.radians(self.group.angle_to_bore_deg))
        return lift_mm(self.group, crank_deg - late_deg - self.fires_deg - self.group.centreline_deg) * lean

    @property
    def full_reach_mm(self) -> float:
        return float(self.group.max_lift_mm * np.cos(np.radians(self.group.angle_to_bore_deg)))

    @property
    def name(self) -> str:
        return f"{self.group.kind} of cylinder {self.cylinder}"


class Contacts:
    """Pistons and valves of one book. Raises BookError when the book has no clearance data: unknown is not safe."""

    def __init__(self, book: EngineBook) -> None:
        if book.clearance is None:
            raise BookError(
                f"The book of the {book.name} has no clearance data: unknown, treat as touching.",
                ["clearance: missing"],
                read="no piston and valve data",
                expected="bore, stroke, rod, valves",
                advice="Take it that valves and pistons meet; turn nothing with a chain off unless the maker's information says so.",
            )
        self.book, self.engine = book, book.clearance
        self.rows = [
            ValveRow(key, group, cylinder, self.engine.fires_deg[cylinder])
            for key, group in self.engine.valves.items()
            for cylinder in group.cylinders
        ]

    def rows_of(self, cam: str | None) -> list[ValveRow]:
        """Valve rows of one cam, or of all."""
        return [row for row in self.rows if cam is None or row.group.cam == cam]

    def margin_mm(self, row: ValveRow, crank_deg: Floats, late_deg: Floats | float) -> Floats:
        """Room left between that row's valves and their piston, mm; negative where they would have met."""
        return row.gap_mm(self.engine, crank_deg) - row.reach_mm(crank_deg, late_deg)

    def touch_map(self, cam: str | None = None) -> Bools:
        """Where any valve of a cam (or of all) touches: shape (241, 720), lateness −360…360° by 3, crank 0…719° by 1."""
        crank = np.arange(CRANK_STEPS, dtype=np.float64)
        shift = (np.arange(CRANK_STEPS)[None, :] - LATE_DEG.astype(int)[:, None]) % CRANK_STEPS
        touched = np.zeros(shift.shape, dtype=bool)
        for row in self.rows_of(cam):
            touched |= row.reach_mm(crank, 0.0)[shift] > row.gap_mm(self.engine, crank)[None, :]
        return touched

    @cached_property
    def _fine_deg(self) -> Floats:
        return np.arange(0.0, 360.0, FINE_DEG)

    @cached_property
    def least_room_mm(self) -> Floats:
        """Least of gap − full reach over all valves, per quarter degree of one crank turn: below zero is not safe."""
        return np.min([row.gap_mm(self.engine, self._fine_deg) - row.full_reach_mm for row in self.rows], axis=0)

    def loose_windows(self) -> list[tuple[float, float]]:
        """Crank ranges (within 0…720, ``to`` may exceed 360 where a range runs through zero) safe with every cam loose."""
        return _ranges(self.least_room_mm > 0, self._fine_deg, 360.0)

    def at_risk(self, crank_deg: float) -> dict[int, list[str]]:
        """Cylinders whose piston stands high enough here to meet a fully open valve, with the kinds that can touch."""
        risk: dict[int, list[str]] = {}
        here = np.array([crank_deg])
        for row in self.rows:
            if float(row.gap_mm(self.engine, here)[0]) <= row.full_reach_mm:
                risk.setdefault(row.cylinder, []).append(row.group.kind)
        return dict(sorted(risk.items()))

    def turn_range(self, crank_deg: float, cams: list[str], most: float = 360.0) -> tuple[float, float]:
        """How far the crank may turn back (≤ 0) and on (≥ 0) from here while these cams stand still, before a valve touches.

        A cam that stands still grows late as the crank turns on. (−``most``, ``most``) when nothing touches at all.
        """
        turn = np.arange(0.0, most + FINE_DEG, FINE_DEG)
        limits: list[float] = []
        for sign in (-1.0, 1.0):
            least = np.full(turn.shape, np.inf)
            for row in self.rows:
                if row.group.cam in cams:
                    least = np.minimum(least, self.margin_mm(row, crank_deg + sign * turn, sign * turn))
            hit = np.flatnonzero(least <= 0)
            limits.append(sign * (float(turn[max(0, hit[0] - 1)]) if hit.size else most))
        return limits[0], limits[1]

    def least_margin_mm(self, row: ValveRow, late_deg: float) -> float:
        """Least room over a whole cycle with that row's cam that late."""
        return float(np.min(self.margin_mm(row, np.arange(0.0, 720.0, 1.0), late_deg)))


def _ranges(good: Bools, at_deg: Floats, period: float) -> list[tuple[float, float]]:
    """Stretches of a cyclic row that hold, as (from, to); ``to`` exceeds the period where one runs through zero."""
    if good.all():
        return [(0.0, period)]
    edges = np.flatnonzero(good & ~np.roll(good, 1))
    result: list[tuple[float, float]] = []
    for start in edges:
        length = int(np.argmin(np.roll(good, -int(start))))
        first = float(at_deg[start])
        result.append((first, first + (length - 1) * FINE_DEG))
    return result
