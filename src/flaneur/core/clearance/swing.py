"""How far cams swing when they are let go: by energy, friction the only loss, cams still tied to
each other as one.

A cam at rest on its valve springs turns while what the springs give covers what friction takes.
Friction is taken anywhere from half to twice the book's, a phaser anywhere in its travel, the crank
and each cam as unsure as the reserve says; what is said is the farthest of all that.
"""

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.clearance.contact import CYCLE_DEG, Contacts, ValveRow
from flaneur.core.clearance.motion import lift_mm, slope_mm_per_rad
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError

Floats = NDArray[np.float64]
LEAST_FRICTION, MOST_FRICTION = 0.5, 2.0
STEP_DEG = 0.5
WAY_STEP_DEG = 1.0
MOST_TURN_DEG = 360.0
UNSURE_STEP_DEG = 1.0
TRAVEL_STEP_DEG = 2.5


@dataclass(frozen=True)
class Held:
    """What keeps cams: shafts held fast, and followers taken out (valve group to cylinders)."""

    cams: frozenset[str] = frozenset()
    followers_out: tuple[tuple[str, tuple[int, ...]], ...] = ()

    def is_out(self, row: ValveRow) -> bool:
        """Whether a row's followers are out, so that its cam does not move it."""
        return any(
            key == row.group_id and row.cylinder in cylinders
            for key, cylinders in self.followers_out
        )


def held_by(contacts: Contacts, holding: int | None) -> Held:
    """What one of the book's ways of holding keeps; None for nothing. A chain left on ties cams,
    and holds none.
    """
    ways = contacts.engine.holding
    if holding is None:
        return Held()
    if not 0 <= holding < len(ways):
        raise BookError(
            "The book has no such way of holding.",
            read=str(holding),
            expected=f"0 to {len(ways) - 1}",
        )
    way = ways[holding]
    out = tuple((key, tuple(cylinders)) for key, cylinders in sorted(way.followers_out.items()))
    cams = (
        frozenset(way.cams or contacts.book.cams)
        if way.school in ("tool", "chain_tied")
        else frozenset[str]()
    )
    return Held(cams, out)


@dataclass(frozen=True)
class Swing:
    """What cams that move as one do when let go at a crank angle.

    ``torque_nm`` in running direction with every phaser parked. ``turn_deg`` is how far they swing
    with the book's own friction, ``back_deg`` (≤ 0) and ``on_deg`` (≥ 0) how far they may get,
    degrees of the cam. ``places`` holds for every cam the stretch of its own angle (crank degrees)
    that it may be found in.
    """

    cams: tuple[str, ...]
    is_held: bool
    torque_nm: float
    friction_nm: float
    turn_deg: float
    back_deg: float
    on_deg: float
    surely: bool
    places: dict[str, tuple[float, float]] = field(hash=False)


def cam_torque_nm(rows: list[ValveRow], crank_deg: float, turn_cam_deg: float = 0.0) -> float:
    """Torque of the valve springs on a cam turned on by ``turn_cam_deg`` from its book place, in
    running direction.

    Energy of a spring is F·x + k·x²/2; the torque is minus its slope over the cam's angle, with the
    lift law's own derivative (virtual work).
    """
    total = 0.0
    for row in rows:
        angle = crank_deg + 2 * turn_cam_deg - row.fires_deg - row.group.centreline_deg
        lift = float(lift_mm(row.group, angle))
        force = row.group.spring_n + row.group.spring_n_per_mm * lift
        total -= row.group.valves_each * force * float(slope_mm_per_rad(row.group, angle)) / 1000.0
    return total


def free_groups(train: DriveTrain, chains_off: frozenset[str]) -> list[tuple[str, ...]]:
    """Cams that nothing ties to the crank with these chains off, in groups that chains and gears
    left on tie together.
    """
    book = train.book
    tied: dict[str, str] = {shaft: shaft for shaft in book.shafts}

    def root(shaft: str) -> str:
        while tied[shaft] != shaft:
            shaft = tied[shaft]
        return shaft

    for key, chain in book.chains.items():
        if key not in chains_off:
            shafts = [book.sprockets[s].shaft for s in chain.loop if s in book.sprockets]
            for other in shafts[1:]:
                tied[root(other)] = root(shafts[0])
    for mesh in book.meshes:
        tied[root(book.gears[mesh.driven].shaft)] = root(book.gears[mesh.driver].shaft)
    driven = {root(k) for k, s in book.shafts.items() if s.kind == "crank"}
    groups: dict[str, list[str]] = {}
    for cam in book.cams:
        if root(cam) not in driven:
            groups.setdefault(root(cam), []).append(cam)
    return [tuple(cams) for cams in groups.values()]


class Swings:
    """Swings of one book's cams, their phasers anywhere or seen ``parked``; the energies are worked
    out once.
    """

    def __init__(self, contacts: Contacts, parked: bool) -> None:
        self.contacts, self.parked = contacts, parked
        self._known: dict[tuple[object, ...], Swing] = {}
        self._energies: dict[tuple[str, Held], Floats] = {}

    def _energy_j(self, cam: str, held: Held) -> Floats:
        """Energy of a cam's springs over its own angle, J, by half degrees of the cycle."""
        key = (cam, Held(followers_out=held.followers_out))
        if key not in self._energies:
            at = np.arange(0.0, CYCLE_DEG, STEP_DEG)
            total = np.zeros(at.shape)
            for row in self.contacts.rows_of(cam):
                if not held.is_out(row):
                    lift = lift_mm(row.group, at - row.fires_deg - row.group.centreline_deg)
                    total += (
                        row.group.valves_each
                        * (row.group.spring_n * lift + row.group.spring_n_per_mm * lift**2 / 2)
                        / 1000.0
                    )
            self._energies[key] = total
        return self._energies[key]

    def of(self, cams: tuple[str, ...], crank_deg: float, held: Held) -> Swing:
        """What these cams do when let go with the crank there."""
        key = (cams, crank_deg, held)
        if key not in self._known:
            self._known[key] = self._swing(cams, crank_deg, held)
        return self._known[key]

    def _starts(self, cams: tuple[str, ...]) -> Floats:
        """Places the cams may stand at when let go, against the book's, shape (starts, cams), crank
        degrees, on positive.
        """
        contacts = self.contacts
        unsure = contacts.crank_unsure_deg + contacts.cam_unsure_deg
        travels = [(0.0, 0.0) if self.parked else contacts.travel_deg(cam) for cam in cams]
        step = TRAVEL_STEP_DEG if sum(a != b for a, b in travels) <= 1 else 2 * TRAVEL_STEP_DEG
        axes = [
            -np.linspace(late, early, 1 + math.ceil((late - early) / step))
            for early, late in travels
        ]
        placed = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, len(cams))
        common = np.linspace(-unsure, unsure, 1 + math.ceil(2 * unsure / UNSURE_STEP_DEG))
        return (placed[:, None, :] + common[None, :, None]).reshape(-1, len(cams))

    def _swing(self, cams: tuple[str, ...], crank_deg: float, held: Held) -> Swing:
        starts = self._starts(cams)
        rows = [row for cam in cams for row in self.contacts.rows_of(cam) if not held.is_out(row)]
        torque = cam_torque_nm(rows, crank_deg)
        friction = self.contacts.engine.cam_friction_nm * len(cams)
        is_held = bool(held.cams & set(cams))
        ways = np.zeros((2, len(starts)))
        turn, surely = 0.0, False
        if not is_held:
            energies = [self._energy_j(cam, held) for cam in cams]
            slow = np.zeros(len(starts))
            for i, sign in enumerate((-1.0, 1.0)):
                given = _given_j(energies, crank_deg, starts, sign)
                ways[i] = _extent(given, LEAST_FRICTION * friction)
                slow += _extent(given, MOST_FRICTION * friction)
                parked = float(
                    _extent(
                        _given_j(energies, crank_deg, np.zeros((1, len(cams))), sign), friction
                    )[0]
                )
                turn = sign * parked / 2 if parked and sign * torque > friction else turn
            surely = bool(np.all(slow > 0))
        places = {
            cam: (
                crank_deg + float(np.min(starts[:, k] - ways[0])),
                crank_deg + float(np.max(starts[:, k] + ways[1])),
            )
            for k, cam in enumerate(cams)
        }
        back, on = 0.0 - float(ways[0].max()) / 2, float(ways[1].max()) / 2
        return Swing(cams, is_held, torque, friction, turn, back, on, surely, places)


def _given_j(energies: list[Floats], crank_deg: float, starts: Floats, sign: float) -> Floats:
    """Energy the springs have given from every start on the way round one way, by WAY_STEP_DEG,
    shape (starts, steps).
    """
    way = np.arange(0.0, MOST_TURN_DEG + WAY_STEP_DEG, WAY_STEP_DEG)
    total = np.zeros((len(starts), len(way)))
    for k, energy in enumerate(energies):
        first = np.round((crank_deg + starts[:, k]) / STEP_DEG).astype(np.int64)
        along = np.round(sign * way / STEP_DEG).astype(np.int64)
        total += energy[(first[:, None] + along[None, :]) % len(energy)]
    return total[:, :1] - total


def _extent(given: Floats, friction_nm: float) -> Floats:
    """How far cams get from every start, crank degrees: until friction has taken all that the
    springs gave.
    """
    # A turn of the cam is two of the crank.
    steps = np.arange(1, given.shape[1], dtype=np.float64)
    taken = friction_nm * np.radians(WAY_STEP_DEG * steps) / 2
    last = np.sum(np.logical_and.accumulate(given[:, 1:] >= taken, axis=1), axis=1)
    return np.where(last > 0, np.minimum((last + 1) * WAY_STEP_DEG, MOST_TURN_DEG), 0.0)
