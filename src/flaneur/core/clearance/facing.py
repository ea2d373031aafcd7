"""Valve against valve in one cylinder: heads as plates in the plane of their two axes, by the
distance of convex outlines.
"""

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import ConvexHull

from flaneur.core.book.valves import Seats
from flaneur.core.clearance.contact import CYCLE_DEG, Contacts, ValveRow
from flaneur.core.clearance.motion import least_lift_mm, most_lift_mm

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Pair:
    """An intake and an exhaust row of one cylinder whose cams are not one.

    x runs across the head from the exhaust's side to the intake's, y down the bore. A head is a
    plate of its diameter and edge thickness; opened by L it moves along its own axis, which for
    seats across the head leans to the middle.
    """

    intake: ValveRow
    exhaust: ValveRow
    seats: Seats | None

    @property
    def is_known(self) -> bool:
        """Whether the book says where the two valves lie."""
        return (
            self.seats is not None
            and self.intake.group.head_mm is not None
            and self.exhaust.group.head_mm is not None
        )

    @property
    def name(self) -> str:
        """The pair in words."""
        return f"intake and exhaust of cylinder {self.intake.cylinder}"

    @cached_property
    def alike(self) -> tuple[str, ...]:
        """What two pairs share when one is the other at another time."""
        return (*self.intake.alike, *self.exhaust.alike)

    @cached_property
    def _axes(self) -> tuple[Floats, Floats]:
        """Ways of the intake's and the exhaust's head per mm of lift."""
        assert self.seats is not None
        lean = 1.0 if self.seats.layout == "across" else 0.0
        a, b = (math.radians(r.group.angle_to_bore_deg) for r in (self.intake, self.exhaust))
        return np.array([-math.sin(a) * lean, math.cos(a) if lean else 1.0]), np.array(
            [math.sin(b) * lean, math.cos(b) if lean else 1.0]
        )

    @cached_property
    def _apart(self) -> Floats:
        """Corners, in order, of all differences of a point of the exhaust's head and one of the
        intake's, both closed.
        """
        assert self.seats is not None
        heads: list[Floats] = []
        for row, axis, side in (
            (self.intake, self._axes[0], 1.0),
            (self.exhaust, self._axes[1], -1.0),
        ):
            assert row.group.head_mm is not None
            near = np.array(
                [side * self.seats.bridge_mm / 2, self.seats.step_mm if side < 0 else 0.0]
            )
            along = side * np.array([axis[1], -axis[0]])
            up = -axis * self.seats.edge_mm
            heads.append(
                np.array(
                    [
                        near,
                        near + along * row.group.head_mm,
                        near + along * row.group.head_mm + up,
                        near + up,
                    ]
                )
            )
        corners = (heads[1][:, None, :] - heads[0][None, :, :]).reshape(-1, 2)
        return corners[ConvexHull(corners).vertices]

    def least_mm(self, intake: tuple[Floats, Floats], exhaust: tuple[Floats, Floats]) -> Floats:
        """Least distance of the heads over stretches of lift, from low to high, of both; arrays of
        one shape; 0 in contact.

        The distance is that of the box of ways i·a − e·b, a parallelogram, to the outline of
        ``_apart``.
        """
        a, b = self._axes
        li, hi, le, he = (
            np.atleast_1d(np.asarray(v, dtype=np.float64)) for v in (*intake, *exhaust)
        )
        # Corners along the box, so that the next is reached along a, b, a, b; shape (4, n).
        i, e = np.stack([li, hi, hi, li]), np.stack([le, le, he, he])
        x, y = i * a[0] - e * b[0], i * a[1] - e * b[1]
        starts = self._apart[:, None, None, :]
        ways = np.roll(self._apart, -1, axis=0)[:, None, None, :] - starts
        sides = np.roll(x, -1, axis=0) - x, np.roll(y, -1, axis=0) - y
        to_hull = _to_edge_sq(
            x - starts[..., 0], y - starts[..., 1], ways[..., 0], ways[..., 1]
        )  # from every corner to every edge of the outline, and the other way round
        to_box = _to_edge_sq(starts[..., 0] - x, starts[..., 1] - y, *sides)
        nearest = np.minimum(to_hull.min(axis=(0, 1)), to_box.min(axis=(0, 1)))
        # Two convex outlines share a point unless a side of one of them parts them.
        edges = ways[:, 0, 0, :]
        normals = np.concatenate(
            [np.stack([edges[:, 1], -edges[:, 0]], axis=1), [[a[1], -a[0]], [b[1], -b[0]]]]
        )
        along_i, along_e = (normals @ a)[:, None], (normals @ b)[:, None]
        hull = normals @ self._apart.T
        low = np.minimum(li * along_i, hi * along_i) - np.maximum(le * along_e, he * along_e)
        high = np.maximum(li * along_i, hi * along_i) - np.minimum(le * along_e, he * along_e)
        apart = (low > hull.max(axis=1)[:, None] + 1e-12) | (
            high < hull.min(axis=1)[:, None] - 1e-12
        )
        return np.where(apart.any(axis=0), np.sqrt(nearest), 0.0)

    def at_mm(self, intake: Floats, exhaust: Floats) -> Floats:
        """Distance of the heads at single lifts; two arrays of one shape."""
        a, b = self._axes
        x, y = intake * a[0] - exhaust * b[0], intake * a[1] - exhaust * b[1]
        nearest, inside = np.full(x.shape, np.inf), np.ones(x.shape, dtype=bool)
        for start, end in zip(self._apart, np.roll(self._apart, -1, axis=0), strict=True):
            (wx, wy), tx, ty = end - start, x - start[0], y - start[1]
            nearest = np.minimum(nearest, _to_edge_sq(tx, ty, wx, wy))
            inside &= wx * ty - wy * tx >= 0
        return np.where(inside, 0.0, np.sqrt(nearest))

    def over_mm(
        self, intake_deg: tuple[Floats, Floats], exhaust_deg: tuple[Floats, Floats]
    ) -> Floats:
        """Least distance while each cam is anywhere in a stretch of its own angle."""
        lifts: list[tuple[Floats, Floats]] = []
        for row, (low, high) in ((self.intake, intake_deg), (self.exhaust, exhaust_deg)):
            shift = row.fires_deg + row.group.centreline_deg
            low, high = np.atleast_1d(low) - shift, np.atleast_1d(high) - shift
            lifts.append((least_lift_mm(row.group, low, high), most_lift_mm(row.group, low, high)))
        return self.least_mm(*lifts)

    @cached_property
    def loose_mm(self) -> float:
        """Least distance with both cams anywhere."""
        full = [
            (np.zeros(1), np.array([row.group.max_lift_mm])) for row in (self.intake, self.exhaust)
        ]
        return float(self.least_mm(full[0], full[1])[0])

    def cycle_mm(
        self, intake_late: tuple[float, float], exhaust_late: tuple[float, float]
    ) -> float:
        """Least distance over a cycle of driven cams anywhere between two latenesses each."""
        crank = np.arange(0.0, CYCLE_DEG, 1.0)
        stretches = [
            (crank - late, crank + 1.0 - early) for early, late in (intake_late, exhaust_late)
        ]
        return float(np.min(self.over_mm(stretches[0], stretches[1])))


def pairs(contacts: Contacts) -> list[Pair]:
    """Every intake and exhaust row of one cylinder that two cams open. On one cam they keep their
    places to each other.
    """
    return [
        Pair(i, e, contacts.engine.seats)
        for i in contacts.rows
        for e in contacts.rows
        if i.group.kind == "intake"
        and e.group.kind == "exhaust"
        and i.cylinder == e.cylinder
        and i.group.cam != e.group.cam
    ]


def distinct(found: list[Pair]) -> list[Pair]:
    """One pair for each two valve groups: cylinders alike have the same room, each at its own
    time.
    """
    return list({(p.intake.group_id, p.exhaust.group_id): p for p in reversed(found)}.values())


def _to_edge_sq(x: Floats, y: Floats, way_x: Floats | float, way_y: Floats | float) -> Floats:
    """Squared distance of points to edges that run from the origin along a way."""
    share = np.clip(
        (x * way_x + y * way_y) / np.maximum(way_x * way_x + way_y * way_y, 1e-18), 0.0, 1.0
    )
    return (x - share * way_x) ** 2 + (y - share * way_y) ** 2
