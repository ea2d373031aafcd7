"""Any set of chains off at a crank angle: what the cams it frees do, what they may meet, how far
the crank may turn.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.driven import heads_room_mm, piston_room_mm
from flaneur.core.clearance.facing import distinct, pairs
from flaneur.core.clearance.swing import Held, Swing, Swings, free_groups
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError

Floats = NDArray[np.float64]
MOST_DEG = 360.0


class Tight(BaseModel):
    """What stands in the way, or comes nearest: which valves, the room left in mm (None unknown),
    and how far the crank has turned, degrees.
    """

    model_config = ConfigDict(frozen=True)

    what: str
    room_mm: float | None
    turn_deg: float


@dataclass(frozen=True)
class Room:
    """Room over stretches of the crank of something that these cams open."""

    what: str
    cams: frozenset[str]
    least_mm: Floats


@dataclass(frozen=True)
class Loosened:
    """``swings`` of the cams set free; ``met`` what each may meet with the crank standing.

    ``back_deg`` (≤ 0) and ``on_deg`` (≥ 0) are whole degrees the crank may turn with those cams
    anywhere in their swing; ``limits`` say what ends them, None where nothing does in a whole turn.
    """

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
        rooms: list[tuple[str, float | None]] = [
            (row.name, piston_room_mm(contacts, row)) for row in contacts.first_rows().values()
        ]
        rooms += [(pair.name, heads_room_mm(contacts, pair)) for pair in distinct(self.pairs)]
        return next(
            (
                Tight(what=f"{name}, driven", room_mm=room, turn_deg=0.0)
                for name, room in rooms
                if room is None or room < contacts.reserve_mm
            ),
            None,
        )

    def without(
        self, chains: tuple[str, ...], crank_deg: float, held: Held | None = None
    ) -> Loosened:
        """What happens with these chains off. Raises BookError for a chain or cam the book lacks,
        or an angle that is none.
        """
        held = held or Held()
        self._check(chains, crank_deg, held)
        groups = free_groups(self.train, frozenset(chains))
        swings = [self.swings.of(cams, crank_deg, held) for cams in groups]
        places = {cam: place for swing in swings for cam, place in swing.places.items()}
        met = self._met(swings, places, crank_deg)
        back = on = (0.0, self.running)
        if self.running is None:
            back, on = (
                self.reach(places, groups_of(swings), crank_deg, sign) for sign in (-1.0, 1.0)
            )
        return Loosened(crank_deg, swings, met, 0.0 - back[0], on[0], (back[1], on[1]))

    def _check(self, chains: tuple[str, ...], crank_deg: float, held: Held) -> None:
        unknown = [c for c in chains if c not in self.train.chains]
        if unknown:
            raise BookError(
                "The book has no such chain.",
                read=unknown[0],
                expected=", ".join(self.train.chains),
            )
        if not 0 <= crank_deg < 720:  # NaN is refused too
            raise BookError(
                "That is no crank angle.",
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

    def rooms(
        self,
        places: dict[str, tuple[float, float]],
        tied: dict[str, int],
        low: Floats,
        high: Floats,
        held: Held | None = None,
        with_heads: bool = True,
    ) -> list[Room]:
        """Room of all that a cam in ``places`` has to do with, over stretches of the crank, valves
        against each other only ``with_heads``; unknown is no room. ``tied`` numbers the group that
        a cam moves with; valves whose followers are out stay shut.
        """
        unsure, out = self.contacts.crank_unsure_deg, held or Held()
        found: list[Room] = []
        for row in self.contacts.rows:
            cam = row.group.cam
            if cam in places and not out.is_out(row):
                reach = row.most_reach_mm(*(np.array([end]) for end in places[cam]))
                room = row.least_gap_mm(low - unsure, high + unsure) - reach
                found.append(Room(row.name, frozenset({cam}), room))
        for pair in self.pairs if with_heads else []:
            cams = (pair.intake.group.cam, pair.exhaust.group.cam)
            if tied.get(cams[0], -1) == tied.get(cams[1], -1):
                continue  # both driven or tied to each other: as in running
            if out.is_out(pair.intake) or out.is_out(pair.exhaust):
                continue
            room = np.full(low.shape, -np.inf)
            if pair.is_known:
                turns = slice(0, 1 if set(cams) <= set(places) else None)  # both stand: one figure
                intake, exhaust = (
                    self._cam_stretch(cam, places, low[turns], high[turns]) for cam in cams
                )
                room = np.broadcast_to(pair.over_mm(intake, exhaust), low.shape)
            found.append(Room(pair.name, frozenset(cams), room))
        return found

    def _met(
        self, swings: list[Swing], places: dict[str, tuple[float, float]], crank_deg: float
    ) -> list[list[Tight]]:
        """What each swing may meet with the crank standing, the tightest first."""
        here, kept = np.array([crank_deg]), self.contacts.reserve_mm
        rooms = sorted(
            self.rooms(places, groups_of(swings), here, here), key=lambda r: r.least_mm[0]
        )
        near = [room for room in rooms if room.least_mm[0] < kept]
        return [
            [tight(r.what, float(r.least_mm[0]), 0.0) for r in near if r.cams & set(swing.cams)]
            for swing in swings
        ]

    def reach(
        self,
        places: dict[str, tuple[float, float]],
        tied: dict[str, int],
        crank_deg: float,
        sign: float,
        held: Held | None = None,
    ) -> tuple[float, Tight | None]:
        """How far the crank may turn one way with cams anywhere in their places, whole degrees, and
        what ends it.
        """
        turn = np.arange(0.0, MOST_DEG)
        ends = np.stack([crank_deg + sign * turn, crank_deg + sign * (turn + 1.0)])
        end, limit = MOST_DEG, None
        for room in self.rooms(places, tied, ends.min(axis=0), ends.max(axis=0), held):
            hit = np.flatnonzero(room.least_mm < self.contacts.reserve_mm)
            if hit.size and turn[hit[0]] < end:
                end = float(turn[hit[0]])
                limit = tight(room.what, float(room.least_mm[hit[0]]), sign * end)
        return end, limit


def groups_of(swings: list[Swing]) -> dict[str, int]:
    """The number of the group that each cam set free moves with."""
    return {cam: i for i, swing in enumerate(swings) for cam in swing.cams}


def tight(what: str, room: float, turn: float) -> Tight:
    """What stands in the way; an infinite want of room is an unknown one."""
    known = None if np.isinf(room) else round(room, 2)
    return Tight(what=what, room_mm=known, turn_deg=turn)
