"""Cams that nothing drives, at one place of a plan: where they may be, what they may meet."""

from dataclasses import dataclass, replace

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.loosened import MOST_DEG, Loosening, Tight, tight
from flaneur.core.clearance.swing import Held, Swing, free_groups
from flaneur.core.drive.train import DriveTrain
from flaneur.core.plan.position import Place, Position

MAY_MOVE_DEG = 1.0
SLIP_DEG = 30.0


@dataclass(frozen=True)
class Arc:
    """How far the crank may turn back (≤ 0) and on (≥ 0), degrees, and what ends it either way."""

    back_deg: float
    on_deg: float
    limits: tuple[Tight | None, Tight | None]


WHOLE = Arc(-MOST_DEG, MOST_DEG, (None, None))
NONE = Arc(0.0, 0.0, (None, None))


class LooseCams:
    """Clearance of one book, asked for along many plans; what was asked before is remembered."""

    def __init__(self, book: EngineBook) -> None:
        self.book, self.train = book, DriveTrain(book)
        self.contacts = Contacts(book)
        self._loosenings = {p: Loosening(self.contacts, self.train, p) for p in (False, True)}
        self._groups: dict[object, list[tuple[str, ...]]] = {}
        self._arcs: dict[object, Arc] = {}
        self._met: dict[object, Tight | None] = {}

    def groups(self, position: Position) -> list[tuple[str, ...]]:
        """Cams that nothing ties to the crank, in groups that move as one."""
        key = (position.loose, position.taper)
        if key not in self._groups:
            groups = free_groups(self.train, position.loose)
            tapered = [cam for cam in self.book.cams if cam in position.taper]
            left = [tuple(c for c in group if c not in tapered) for group in groups]
            self._groups[key] = [group for group in left if group] + [(c,) for c in tapered]
        return self._groups[key]

    def _loosening(self, position: Position) -> Loosening:
        is_parked = position.phasers_locked.issuperset(self.book.phasers)
        return self._loosenings[is_parked]

    def swing(self, position: Position, cams: tuple[str, ...], from_deg: float) -> Swing:
        """What a group does when it is let go where its cams stand."""
        return self._loosening(position).swings.of(cams, from_deg % 720.0, position.kept)

    def slipped(self, position: Position, cam: str) -> Tight | None:
        """What a cam meets that slips out of what holds it: a piston wherever its springs then
        drive it, another valve within the slip itself.
        """
        assert position.crank_deg is not None
        low, high = position.places.get(cam, (position.crank_deg, position.crank_deg))
        jerked = (low - SLIP_DEG, high + SLIP_DEG)
        free = replace(position, held={c: t for c, t in position.held.items() if c != cam})
        swings = [(start, self.swing(free, (cam,), start)) for start in jerked]
        # A swing is told within the cycle: put it back beside where it began.
        ends = [end + start - start % 720.0 for start, s in swings for end in s.places[cam]]
        driven = {**position.places, cam: (min(ends), max(ends))}
        return self.met(position, driven, with_heads=False) or self.met(
            position, {**position.places, cam: jerked}
        )

    def held_place(self, position: Position, cam: str, tool: str | None, at_deg: float) -> Place:
        """Where a cam stands that a tool has been seated on at a crank angle: within the tool's
        play. Kept any other way it stands where it stood.
        """
        told = self.book.tools.get(tool) if tool else None
        unsure = self.contacts.crank_unsure_deg
        if told is not None and told.crank_deg is not None:
            play = 2.0 * told.play_deg
            return at_deg - unsure - play, at_deg + unsure + play
        early, late = (0.0, 0.0)
        if self.book.phaser_of(cam) not in position.phasers_locked:
            early, late = self.contacts.travel_deg(cam)
        unsure += self.contacts.cam_unsure_deg
        return at_deg - unsure - late, at_deg + unsure - early

    def met(
        self, position: Position, places: dict[str, Place], with_heads: bool = True
    ) -> Tight | None:
        """The tightest contact with the crank standing, within the reserve; None for none."""
        assert position.crank_deg is not None
        key = ("met", with_heads, *self._key(position, places))
        if key not in self._met:
            here = np.array([position.crank_deg])
            tied = self._tied(position)
            rooms = self._loosening(position).rooms(
                places, tied, here, here, position.kept, with_heads
            )
            worst = min(rooms, key=lambda r: float(r.least_mm[0]), default=None)
            is_near = worst is not None and worst.least_mm[0] < self.contacts.reserve_mm
            self._met[key] = (
                tight(worst.what, float(worst.least_mm[0]), 0.0) if worst and is_near else None
            )
        return self._met[key]

    def arc(self, position: Position) -> Arc:
        """How far the crank may turn with the cams anywhere in their places."""
        assert position.crank_deg is not None
        if not position.places:
            return WHOLE
        key = self._key(position, position.places)
        if key not in self._arcs:
            loosening, tied = self._loosening(position), self._tied(position)
            (back, behind), (on, ahead) = (
                loosening.reach(position.places, tied, position.crank_deg, sign, position.kept)
                for sign in (-1.0, 1.0)
            )
            self._arcs[key] = Arc(0.0 - back, on, (behind, ahead))
        return self._arcs[key]

    def _tied(self, position: Position) -> dict[str, int]:
        return {cam: i for i, group in enumerate(self.groups(position)) for cam in group}

    def _key(self, position: Position, places: dict[str, Place]) -> tuple[object, ...]:
        rounded = tuple((c, round(a, 3), round(b, 3)) for c, (a, b) in sorted(places.items()))
        kept: Held = position.kept
        parked = position.phasers_locked.issuperset(self.book.phasers)
        return position.crank_deg, rounded, kept, position.loose, position.taper, parked
