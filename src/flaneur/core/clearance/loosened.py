"""Any set of chains off at a crank angle: what the cams it frees do, what they may meet, how far
the crank may turn.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.clearance.facing import Pair, distinct, pairs
from flaneur.core.clearance.swing import Held, Swing, Swings, free_groups
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError

Floats = NDArray[np.float64]
MOST_DEG = 360.0


@dataclass(frozen=True)
class Tight:
    """What stands in the way, or comes nearest: which valves, the room in mm (None unknown), and
    how far the crank has turned.
    """

    what: str
    room_mm: float | None
    turn_deg: float


@dataclass(frozen=True)
class Loosened:
    """``swings`` of the cams set free; ``met`` what each may meet with the crank standing.

    ``back_deg`` (≤ 0) and ``on_deg`` (≥ 0) are whole degrees the crank may turn with those cams
    anywhere in their swing; ``limits`` say what ends them, None where nothing does in a whole turn.
    """

    chains: tuple[str, ...]
    crank_deg: float
    swings: list[Swing]
    met: list[list[Tight]]
    back_deg: float
    on_deg: float
    limits: tuple[Tight | None, Tight | None]


class Loosening:
    """Chains off, asked again and again of one book; its phasers anywhere in their travel, or seen
    ``parked``.
    """

    def __init__(self, contacts: Contacts, train: DriveTrain, parked: bool = False) -> None:
        self.contacts, self.train, self.parked = contacts, train, parked
        self.swings = Swings(contacts, parked)
        self.pairs = pairs(contacts)
        self.unsure_deg = contacts.crank_unsure_deg + contacts.cam_unsure_deg

    @cached_property
    def running(self) -> Tight | None:
        """What comes within the reserve while everything is driven, phasers anywhere: then nothing
        may be turned at all.
        """
        contacts = self.contacts
        for row in contacts.first_rows().values():
            early, late = contacts.travel_deg(row.group.cam)
            room = contacts.cycle_room_mm(
                row, early - contacts.cam_unsure_deg, late + contacts.cam_unsure_deg
            )
            if room < contacts.reserve_mm:
                return Tight(f"{row.name}, driven", room, 0.0)
        return next(
            (
                Tight(f"{p.name}, driven", room, 0.0)
                for p, room in self.running_pairs
                if room is None or room < contacts.reserve_mm
            ),
            None,
        )

    @cached_property
    def running_pairs(self) -> list[tuple[Pair, float | None]]:
        """Least distance of the heads of every pair in running; cylinders alike are worked out
        once. None is unknown.
        """
        return [(pair, pair_room_mm(self.contacts, pair, {})) for pair in distinct(self.pairs)]

    def without(
        self, chains: tuple[str, ...], crank_deg: float, held: Held | None = None
    ) -> Loosened:
        """What happens with these chains off. Raises BookError for a chain or cam the book lacks,
        or an angle that is none.
        """
        self._check(chains, crank_deg, held or Held())
        held = held or Held()
        swings = [
            self.swings.of(cams, crank_deg, held)
            for cams in free_groups(self.train, frozenset(chains))
        ]
        places = {cam: place for swing in swings for cam, place in swing.places.items()}
        standing = self._met(swings, places, crank_deg)
        if self.running is not None:
            return Loosened(
                chains, crank_deg, swings, standing, 0.0, 0.0, (self.running, self.running)
            )
        ends = [self._range(places, swings, crank_deg, sign) for sign in (-1.0, 1.0)]
        return Loosened(
            chains, crank_deg, swings, standing, -ends[0][0], ends[1][0], (ends[0][1], ends[1][1])
        )

    def _check(self, chains: tuple[str, ...], crank_deg: float, held: Held) -> None:
        unknown = [c for c in chains if c not in self.train.chains]
        if unknown:
            raise BookError(
                "The book has no such chain.",
                unknown,
                read=unknown[0],
                expected=", ".join(self.train.chains),
            )
        if not 0 <= crank_deg < 720:  # NaN is refused too
            raise BookError(
                "That is no crank angle.",
                [str(crank_deg)],
                read=str(crank_deg),
                expected="degrees from 0 to below 720",
            )
        self.contacts.check_cams(sorted(held.cams))

    def _cam_stretch(
        self, cam: str, places: dict[str, tuple[float, float]], low: Floats, high: Floats
    ) -> tuple[Floats, Floats]:
        """Where a cam may be while the crank is between two angles: in its swing when free, else
        driven.
        """
        if cam in places:
            return np.full(low.shape, places[cam][0]), np.full(low.shape, places[cam][1])
        early, late = (0.0, 0.0) if self.parked else self.contacts.travel_deg(cam)
        return low - self.unsure_deg - late, high + self.unsure_deg - early

    def _rooms(
        self, places: dict[str, tuple[float, float]], swings: list[Swing], low: Floats, high: Floats
    ) -> list[tuple[str, Floats]]:
        """Room of everything a free cam has to do with, over stretches of the crank, by name;
        unknown is no room.
        """
        unsure = self.contacts.crank_unsure_deg
        together = {cam: i for i, swing in enumerate(swings) for cam in swing.cams}
        found: list[tuple[str, Floats]] = []
        for row in self.contacts.rows:
            if row.group.cam in places:
                lo, hi = places[row.group.cam]
                reach = float(row.most_reach_mm(np.array([lo]), np.array([hi]))[0])
                found.append((row.name, row.least_gap_mm(low - unsure, high + unsure) - reach))
        for pair in self.pairs:
            cams = (pair.intake.group.cam, pair.exhaust.group.cam)
            if together.get(cams[0], -1) == together.get(cams[1], -1):
                continue  # both driven or tied to each other: as in running
            if not pair.is_known:
                found.append((pair.name, np.full(low.shape, -np.inf)))
                continue
            stretches = [self._cam_stretch(cam, places, low, high) for cam in cams]
            found.append((pair.name, pair.over_mm(stretches[0], stretches[1])))
        return found

    def _met(
        self, swings: list[Swing], places: dict[str, tuple[float, float]], crank_deg: float
    ) -> list[list[Tight]]:
        here = np.array([crank_deg])
        result: list[list[Tight]] = []
        for swing in swings:
            rooms = [
                (name, float(room[0]))
                for name, room in self._rooms(places, swings, here, here)
                if self._concerns(name, swing)
            ]
            result.append(
                [
                    _tight(name, room, 0.0)
                    for name, room in sorted(rooms, key=lambda r: r[1])
                    if room < self.contacts.reserve_mm
                ]
            )
        return result

    def _concerns(self, name: str, swing: Swing) -> bool:
        rows = {row.name for row in self.contacts.rows if row.group.cam in swing.cams}
        return name in rows or any(
            p.name == name and {p.intake.group.cam, p.exhaust.group.cam} & set(swing.cams)
            for p in self.pairs
        )

    def _range(
        self,
        places: dict[str, tuple[float, float]],
        swings: list[Swing],
        crank_deg: float,
        sign: float,
    ) -> tuple[float, Tight | None]:
        """How far the crank may turn one way, whole degrees, and what ends it."""
        turn = np.arange(0.0, MOST_DEG)
        ends = np.stack([crank_deg + sign * turn, crank_deg + sign * (turn + 1.0)])
        rooms = self._rooms(places, swings, ends.min(axis=0), ends.max(axis=0))
        end, limit = MOST_DEG, None
        for name, room in rooms:
            hit = np.flatnonzero(room < self.contacts.reserve_mm)
            if hit.size and turn[hit[0]] < end:
                end, limit = (
                    float(turn[hit[0]]),
                    _tight(name, float(room[hit[0]]), sign * float(turn[hit[0]])),
                )
        return end, limit


def _tight(what: str, room: float, turn: float) -> Tight:
    return Tight(what, None if np.isinf(room) else round(room, 2), turn)


def pair_room_mm(
    contacts: Contacts, pair: Pair, late_deg: dict[str, float], parked: bool = False
) -> float | None:
    """Least distance of two heads over a cycle of driven cams with added latenesses; None when the
    book does not know.
    """
    if not pair.is_known:
        return None
    stretches: list[tuple[float, float]] = []
    for row in (pair.intake, pair.exhaust):
        early, late = (0.0, 0.0) if parked else contacts.travel_deg(row.group.cam)
        added = late_deg.get(row.group.cam, 0.0)
        stretches.append(
            (added + early - contacts.cam_unsure_deg, added + late + contacts.cam_unsure_deg)
        )
    return pair.cycle_mm(stretches[0], stretches[1])


def cycle_room_mm(
    contacts: Contacts, row: ValveRow, late_deg: float, parked: bool = False
) -> float:
    """Least room of a driven row over a cycle that much late: with its phaser parked, or anywhere
    in its travel.
    """
    early, late = (0.0, 0.0) if parked else contacts.travel_deg(row.group.cam)
    unsure = contacts.cam_unsure_deg
    return contacts.cycle_room_mm(row, late_deg + early - unsure, late_deg + late + unsure)
