"""The touch map: crank angle across, a cam's lateness up, and in every cell whether anything in it
touches.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.clearance.contact import Contacts, ValveRow
from flaneur.core.clearance.facing import Pair, pairs
from flaneur.core.clearance.motion import least_lift_mm, most_lift_mm

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]
CRANK_STEPS = 720
LATE_STEP_DEG = 3.0
LATE_DEG = np.arange(-360.0, 360.5, LATE_STEP_DEG)
LIFT_STEP_MM = 0.15
COLUMNS = np.arange(CRANK_STEPS)[None, :]
OWN = (
    COLUMNS - LATE_DEG.astype(int)[:, None]
) % CRANK_STEPS  # the late cam's own angle in every cell


@dataclass(frozen=True)
class Unsure:
    """What is counted against a cell: room kept, how far off the crank may be, and every cam."""

    room_mm: float
    crank_deg: float
    cam_deg: float


def touch_map(contacts: Contacts, cam: str | None = None) -> tuple[Bools, Bools]:
    """Where valves touch with one cam (or any one) late while the others stand as the book says.

    Two arrays (241, 720): a row holds latenesses within 1.5° of −360…360° by 3, a column crank
    angles from a whole degree to the next. A cell touches if any point in it does; the second array
    counts the reserve and all that is unsure.
    """
    plain = Unsure(0.0, 0.0, 0.0)
    kept = Unsure(contacts.reserve_mm, contacts.crank_unsure_deg, contacts.cam_unsure_deg)
    heads = [
        pair
        for pair in pairs(contacts)
        if cam is None or cam in (pair.intake.group.cam, pair.exhaust.group.cam)
    ]
    tables = {
        key: _distances(pair)
        for key, pair in {pair.alike: pair for pair in heads if pair.is_known}.items()
    }
    return _map(contacts, cam, plain, heads, tables), _map(contacts, cam, kept, heads, tables)


def _map(
    contacts: Contacts,
    cam: str | None,
    unsure: Unsure,
    heads: list[Pair],
    tables: dict[tuple[str, ...], Floats],
) -> Bools:
    touched = np.zeros((len(LATE_DEG), CRANK_STEPS), dtype=bool)
    known: dict[object, Bools] = {}
    for row in contacts.rows_of(cam):
        touched |= _reached(row, unsure, known)
    for pair in heads:
        for which in (0, 1):
            if cam is None or (pair.intake, pair.exhaust)[which].group.cam == cam:
                touched |= _met(contacts, pair, which, unsure, tables.get(pair.alike), known)
    return touched


def _reached(row: ValveRow, unsure: Unsure, known: dict[object, Bools]) -> Bools:
    """Where a row's valves meet their piston, as a map: worked out once for rows alike and moved
    along to each one's time.
    """
    key = (row.alike, row.fires_deg % 1)
    if key not in known:
        at = np.arange(CRANK_STEPS, dtype=np.float64) + int(row.fires_deg)
        half = LATE_STEP_DEG / 2 + unsure.cam_deg
        reach = row.most_reach_mm(at - half, at + 1 + half)
        gap = row.least_gap_mm(at - unsure.crank_deg, at + 1 + unsure.crank_deg) - unsure.room_mm
        known[key] = reach[OWN] > gap[None, :]
    return np.roll(known[key], int(row.fires_deg), axis=1)


def _distances(pair: Pair) -> Floats:
    """Least distance of the heads in every cell of LIFT_STEP_MM of both lifts: a head moves no
    faster than its lift.
    """
    middles = [
        np.arange(LIFT_STEP_MM / 2, row.group.max_lift_mm + LIFT_STEP_MM, LIFT_STEP_MM)
        for row in (pair.intake, pair.exhaust)
    ]
    intake, exhaust = np.meshgrid(middles[0], middles[1], indexing="ij")
    return np.maximum(pair.at_mm(intake, exhaust) - LIFT_STEP_MM, 0.0)


def _met(
    contacts: Contacts,
    pair: Pair,
    which: int,
    unsure: Unsure,
    table: Floats | None,
    known: dict[object, Bools],
) -> Bools:
    """Where a pair's heads meet, as a map: worked out for a cylinder that fires at nought and moved
    along to its own.
    """
    fires = pair.intake.fires_deg
    early, late = (
        contacts.travel_deg((pair.exhaust, pair.intake)[which].group.cam)
        if unsure.cam_deg
        else (0.0, 0.0)
    )
    key = (pair.alike, which, early, late, fires % 1)
    if key not in known:
        at = np.arange(CRANK_STEPS, dtype=np.float64) + int(fires)
        half = LATE_STEP_DEG / 2 + unsure.cam_deg
        moved = unsure.crank_deg + unsure.cam_deg
        stretches = [(at - half, at + 1 + half), (at - moved - late, at + 1 + moved - early)]
        lifts = [
            _lift_cells(row, *stretches[i != which])
            for i, row in enumerate((pair.intake, pair.exhaust))
        ]
        found = _meeting(lifts, table, unsure.room_mm)
        known[key] = found[OWN, COLUMNS] if which == 0 else found[COLUMNS, OWN]
    return np.roll(known[key], int(fires), axis=1)


def _lift_cells(row: ValveRow, low: Floats, high: Floats) -> tuple[Ints, Ints]:
    """First and last cell of lift a valve passes while its cam goes through stretches of its angle;
    −1 while it is shut.
    """
    shift = row.fires_deg + row.group.centreline_deg
    most = most_lift_mm(row.group, low - shift, high - shift)
    first = np.floor(least_lift_mm(row.group, low - shift, high - shift) / LIFT_STEP_MM).astype(
        np.int64
    )
    return first, np.where(most > 0, np.ceil(most / LIFT_STEP_MM).astype(np.int64) - 1, -1)


def _meeting(lifts: list[tuple[Ints, Ints]], table: Floats | None, room_mm: float) -> Bools:
    """Where two open valves come within a room of each other; heads the book does not know meet
    wherever both are open.
    """
    (i_first, i_last), (e_first, e_last) = lifts
    found = np.zeros((len(i_first), len(e_first)), dtype=bool)
    rows, columns = np.flatnonzero(i_last >= 0), np.flatnonzero(e_last >= 0)
    if table is None:
        found[np.ix_(rows, columns)] = True
        return found
    near = table <= room_mm
    if near[0].any() or near[:, 0].any():
        return ~found  # heads that near while one of them is shut
    by_row = _any_between(near, i_first[rows], i_last[rows])
    found[np.ix_(rows, columns)] = _any_between(by_row.T, e_first[columns], e_last[columns]).T
    return found


def _any_between(table: Bools, first: Ints, last: Ints) -> Bools:
    """For every pair of ends, which columns of a table hold anything in its rows from the first to
    the last.
    """
    counted = np.concatenate(
        [np.zeros((1, table.shape[1]), dtype=np.int32), np.cumsum(table, axis=0, dtype=np.int32)]
    )
    return counted[np.minimum(last + 1, len(table))] > counted[np.minimum(first, len(table))]
