"""Clearance: whether what is said to be safe is, by an independent witness; how much room is left
over; and how fast.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from tests.support.witness import Row, Witness

from bench.figure import Figure, at_least, at_most, ratio
from bench.variants import every_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.answer import clearance_answer
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.facing import pairs
from flaneur.core.clearance.loosened import Loosened, Loosening
from flaneur.core.clearance.swing import Held
from flaneur.core.clearance.teeth import cam_sprocket, tooth_reaches
from flaneur.core.clearance.touch import LATE_DEG, touch_map
from flaneur.core.clearance.view import heads_view
from flaneur.core.drive.train import DriveTrain

Floats = NDArray[np.float64]
STATES, MUTATED = 100_000, 50
# Three times what a map and an answer took before reserve, swings and heads were in them, against
# the same work.
MAP_RATIO, ANSWER_RATIO = 0.93, 20.4


@dataclass
class Found:
    """What the witness saw: states looked at, the least of true room − reserve, and how many lay
    below it.
    """

    states: int = 0
    least: float = np.inf
    under: int = 0

    def take(self, room: Floats, kept: float) -> None:
        self.states += len(room)
        self.least = min(self.least, float(np.min(room - kept, initial=np.inf)))
        self.under += int(np.sum(room < kept - 1e-3))


def run(is_tiny: bool = False) -> Iterator[Figure]:
    books = every_book()[: 3 if is_tiny else None]
    rng = np.random.default_rng(10)
    mutated = [mutate(books[i % len(books)], rng) for i in range(1 if is_tiny else MUTATED)]
    found, left = Found(), list[float]()
    each = (600 if is_tiny else STATES) // (len(books) + len(mutated)) + 1
    for book in [*books, *mutated]:
        _look(book, each, rng, found, left)
    yield at_least(
        "clearance",
        "states said to be safe that the witness looked at",
        found.states,
        400 if is_tiny else STATES,
    )
    yield at_most(
        "clearance", "states said to be safe with less than the reserve", float(found.under), 0
    )
    yield at_most("clearance", "worst of them below the reserve, mm", max(0.0, -found.least), 1e-3)
    yield at_most(
        "clearance",
        f"median room left at the ends of {len(left)} ranges, mm",
        float(np.median(left)) if left else 0.0,
        0.3,
    )
    yield from _times(books, 1 if is_tiny else 9)


def mutate(book: EngineBook, rng: np.random.Generator) -> EngineBook:
    """A book with other valves, springs, crowns, seats and reserve: still an engine, no longer one
    of ours.
    """
    engine = book.clearance
    assert engine is not None
    crown = [str(rng.choice(["flat", "pocket", "relief", "domed", "unknown"])) for _ in range(2)]
    shape = str(rng.choice(["harmonic", "cycloidal", "poly_345"]))
    valves = {}
    for key, group in engine.valves.items():
        form = crown[group.kind == "intake"]
        valves[key] = group.model_copy(
            update={
                "max_lift_mm": group.max_lift_mm * rng.uniform(0.9, 1.1),
                "duration_deg": group.duration_deg * rng.uniform(0.92, 1.08),
                "duration_at_mm": float(rng.choice([0.0, 0.5])),
                "centreline_deg": group.centreline_deg + rng.uniform(-6, 6),
                "shape": shape,
                "angle_to_bore_deg": max(0.0, group.angle_to_bore_deg + rng.uniform(-5, 5)),
                "rest_gap_mm": group.rest_gap_mm + rng.uniform(0.3, 2.5),
                "pocket_mm": group.pocket_mm + rng.uniform(0, 2),
                "crown": None if form == "unknown" else form,
                "spring_n": group.spring_n * rng.uniform(0.6, 1.4),
                "spring_n_per_mm": group.spring_n_per_mm * rng.uniform(0.6, 1.4),
            }
        )
    changed = engine.model_copy(
        update={
            "valves": valves,
            "pin_offset_mm": float(rng.choice([0.0, rng.uniform(-1.5, 1.5)])),
            "cam_friction_nm": engine.cam_friction_nm * rng.uniform(0.5, 3),
            "seats": engine.seats
            and engine.seats.model_copy(
                update={"bridge_mm": rng.uniform(3, 9), "step_mm": rng.uniform(-1, 1)}
            ),
            "reserve": engine.reserve.model_copy(
                update={"room_mm": rng.uniform(0.5, 1.2), "crank_deg": rng.uniform(1, 3)}
            ),
        }
    )
    limits = book.limits.model_copy(update={"cam_deviation_deg": rng.uniform(1, 6)})
    return book.model_copy(update={"clearance": changed, "limits": limits})


def _look(
    book: EngineBook, states: int, rng: np.random.Generator, found: Found, left: list[float]
) -> None:
    contacts, train, witness = Contacts(book), DriveTrain(book), Witness(book)
    _windows(contacts, witness, states // 4, rng, found)
    _map_cells(contacts, witness, states // 4, rng, found)
    _teeth(contacts, train, witness, states // 6, rng, found)
    timed = [chain for chain in train.chains if train.times_cams(chain)]
    for _ in range(4):
        chains = tuple(c for c in timed if rng.random() < 0.6) or (timed[0],)
        parked = bool(rng.random() < 0.4)
        held = Held(frozenset(c for c in book.cams if rng.random() < 0.25))
        crank = book.service_position.crank_deg if rng.random() < 0.5 else float(rng.integers(720))
        loosening = Loosening(contacts, train, parked)
        _chains(
            loosening,
            loosening.without(chains, crank, held),
            witness,
            states // 12 + 1,
            rng,
            found,
            left,
        )


def _windows(
    contacts: Contacts, witness: Witness, states: int, rng: np.random.Generator, found: Found
) -> None:
    """Every cam anywhere in the windows."""
    windows = contacts.piston_windows
    if not windows:
        return
    low, high = np.array(windows)[rng.integers(len(windows), size=states)].T
    crank = (
        rng.uniform(low, high)
        + rng.uniform(-1, 1, states) * contacts.crank_unsure_deg
        + 360.0 * rng.integers(2, size=states)
    )
    cams = {cam: rng.uniform(0, 720, states) for cam in contacts.book.cams}
    may_meet = heads_view(contacts).may_meet
    found.take(
        _room(contacts, witness, crank, cams, set(cams), with_heads=not may_meet),
        contacts.reserve_mm,
    )


def _map_cells(
    contacts: Contacts, witness: Witness, states: int, rng: np.random.Generator, found: Found
) -> None:
    """Points of cells that the map leaves clear, one cam late, the others driven."""
    cam = str(rng.choice(contacts.book.cams))
    _, near = touch_map(contacts, cam)
    rows, columns = np.nonzero(~near)
    if not len(rows):
        return
    chosen = rng.integers(len(rows), size=states)
    crank = columns[chosen] + rng.random(states)
    late = LATE_DEG[rows[chosen]] + rng.uniform(-1.5, 1.5, states)
    true = crank + rng.uniform(-1, 1, states) * contacts.crank_unsure_deg
    cams = _driven(contacts, true, rng, parked=False)
    cams[cam] = crank - late + rng.uniform(-1, 1, states) * contacts.cam_unsure_deg
    found.take(_room(contacts, witness, true, cams, {cam}), contacts.reserve_mm)


def _teeth(
    contacts: Contacts,
    train: DriveTrain,
    witness: Witness,
    states: int,
    rng: np.random.Generator,
    found: Found,
) -> None:
    """A cam as many teeth off as are said to be clear, phasers anywhere, at any crank angle."""
    for reach in {t.row.group_id: t for t in tooth_reaches(contacts, train)}.values():
        if (
            cam_sprocket(contacts.book, reach.cam) is None
            or reach.phased_early == 1
            or reach.phased_late == 1
        ):
            continue
        most, least = (reach.phased_late or 13) - 1, -((reach.phased_early or 13) - 1)
        teeth = rng.integers(least, most + 1, size=states)
        crank = rng.uniform(0, 720, states)
        cams = _driven(contacts, crank, rng, parked=False)
        cams[reach.cam] = cams[reach.cam] - teeth * reach.tooth_deg
        rows = [r for r in witness.rows if r.group is reach.row.group]
        found.take(
            np.min([witness.piston_room(r, crank, cams[reach.cam]) for r in rows], axis=0),
            contacts.reserve_mm,
        )
        found.take(_heads(contacts, witness, cams, {reach.cam}), contacts.reserve_mm)


def _chains(
    loosening: Loosening,
    said: Loosened,
    witness: Witness,
    states: int,
    rng: np.random.Generator,
    found: Found,
    left: list[float],
) -> None:
    """Chains off, cams let go and swung, the crank turned as far as is said to be allowed."""
    contacts = loosening.contacts
    if said.back_deg == said.on_deg == 0 and any(said.met):
        return
    turn = rng.uniform(said.back_deg, said.on_deg, states)
    ends = rng.random(states) < 0.2
    turn = np.where(ends, np.where(rng.random(states) < 0.5, said.back_deg, said.on_deg), turn)
    room = _room_after(loosening, said, witness, turn, rng)
    found.take(room, contacts.reserve_mm)
    for end, sign in ((said.back_deg, -1.0), (said.on_deg, 1.0)):
        limit = said.limits[int(sign > 0)]
        if end and abs(end) < 360 and limit is not None and limit.room_mm is not None:
            rooms = _room_after(
                loosening, said, witness, np.full(max(states, 400), end), rng, extreme=True
            )
            left.append(float(np.min(rooms)) - contacts.reserve_mm)


def _room_after(
    loosening: Loosening,
    said: Loosened,
    witness: Witness,
    turn: Floats,
    rng: np.random.Generator,
    extreme: bool = False,
) -> Floats:
    contacts, states = loosening.contacts, len(turn)

    def unsure(width: float) -> Floats:
        return width * (rng.choice([-1.0, 1.0], states) if extreme else rng.uniform(-1, 1, states))

    first = said.crank_deg + unsure(contacts.crank_unsure_deg)
    crank = said.crank_deg + turn + unsure(contacts.crank_unsure_deg)
    cams = _driven(contacts, crank, rng, loosening.parked)
    for swing in said.swings:
        off = [unsure(contacts.cam_unsure_deg) for _ in swing.cams]
        share = (
            rng.random((len(swing.cams), states))
            if not extreme
            else rng.integers(2, size=(len(swing.cams), states))
        )
        starts = np.stack(
            [
                first - d - _travelled(contacts, cam, share[k], loosening.parked)
                for k, (cam, d) in enumerate(zip(swing.cams, off, strict=True))
            ],
            -1,
        )
        moved = np.zeros(states)
        if not swing.is_held:
            friction = (
                contacts.engine.cam_friction_nm
                * len(swing.cams)
                * (np.full(states, 0.5) if extreme else rng.uniform(0.5, 2, states))
            )
            moved = witness.swing(list(swing.cams), starts, friction) * (
                rng.integers(2, size=states) if extreme else rng.random(states)
            )
        for k, cam in enumerate(swing.cams):
            cams[cam] = starts[:, k] + moved
    return _room(
        contacts, witness, crank, cams, {cam for swing in said.swings for cam in swing.cams}
    )


def _travelled(contacts: Contacts, cam: str, share: Floats, parked: bool) -> Floats:
    early, late = (0.0, 0.0) if parked else contacts.travel_deg(cam)
    return early + (late - early) * share


def _driven(
    contacts: Contacts, crank: Floats, rng: np.random.Generator, parked: bool
) -> dict[str, Floats]:
    """Places of driven cams: as far off as the book allows, phasers anywhere."""
    return {
        cam: crank
        - rng.uniform(-1, 1, len(crank)) * contacts.cam_unsure_deg
        - _travelled(contacts, cam, rng.random(len(crank)), parked)
        for cam in contacts.book.cams
    }


def _room(
    contacts: Contacts,
    witness: Witness,
    crank: Floats,
    cams: dict[str, Floats],
    loose: set[str],
    with_heads: bool = True,
) -> Floats:
    """Least true room of everything that loose cams have to do with."""
    rooms = [
        witness.piston_room(row, crank, cams[row.group.cam])
        for row in witness.rows
        if row.group.cam in loose
    ]
    least = np.min(rooms, axis=0) if rooms else np.full(len(crank), np.inf)
    return np.minimum(least, _heads(contacts, witness, cams, loose)) if with_heads else least


def _heads(
    contacts: Contacts, witness: Witness, cams: dict[str, Floats], loose: set[str]
) -> Floats:
    by_row: dict[tuple[int, str], Row] = {
        (row.cylinder, row.group.name): row for row in witness.rows
    }
    least = np.full(len(next(iter(cams.values()))), np.inf)
    for pair in pairs(contacts):
        intake, exhaust = (by_row[r.cylinder, r.group.name] for r in (pair.intake, pair.exhaust))
        if not {intake.group.cam, exhaust.group.cam} & loose:
            continue
        at = cams[intake.group.cam], cams[exhaust.group.cam]
        both = np.flatnonzero((intake.at(at[0]) > 0.3) & (exhaust.at(at[1]) > 0.3))
        if len(both):
            least[both] = np.minimum(
                least[both], witness.heads_room(intake, exhaust, at[0][both], at[1][both])
            )
    return least


def _times(books: list[EngineBook], repeats: int) -> Iterator[Figure]:
    """The slowest book of each against fixed numpy work, taken alternately."""
    maps = max(
        ratio(lambda c=contacts: touch_map(c), _fixed_work, repeats)
        for contacts in map(Contacts, books)
    )
    answers = max(
        ratio(lambda b=book: clearance_answer(b), _fixed_work, (repeats + 2) // 3) for book in books
    )
    yield at_most(
        "clearance",
        "touch map of all cams, slowest book, against fixed numpy work",
        maps,
        MAP_RATIO,
    )
    yield at_most(
        "clearance",
        "whole clearance answer, slowest book, against the same",
        answers,
        ANSWER_RATIO,
    )


def _fixed_work() -> Floats:
    at = np.random.default_rng(1).random((400, 1000))
    for _ in range(3):
        at = np.sort(np.sin(at * 3.0), axis=1)[:, ::-1] + 0.1 * at
    return at
