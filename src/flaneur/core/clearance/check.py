"""Checks of a book's clearance data: figures that can be, figures that fit each other, and room in
running.
"""

import math
from collections.abc import Iterator
from itertools import pairwise

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.valves import Clearance, ValveGroup
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.driven import heads_room_mm, piston_room_mm
from flaneur.core.clearance.facing import Pair, distinct, pairs
from flaneur.core.clearance.motion import half_open_deg

SPACING = (0.7, 1.3)
FULL_LIFT_DEG = {"intake": (420.0, 545.0), "exhaust": (175.0, 300.0)}


def clearance_checks(book: EngineBook) -> Iterator[Check]:
    """Firing order, valves of every cylinder, room at rest and in running. A book without the data
    passes, and says so.
    """
    if book.clearance is None:
        yield Check("clearance", "no data: shown as unknown, treat as touching", "", True)
        return
    engine = book.clearance
    figures = [*_engine_figures(engine), *_firing(book, engine)]
    for key, group in engine.valves.items():
        figures += _group_figures(f"clearance.valves.{key}", engine, group)
    yield from figures
    if all(check.holds for check in figures):
        yield from _rooms(book)


def _within(path: str, value: float, low: float, high: float, what: str, unit: str = "mm") -> Check:
    """A figure against what engines have; NaN is outside of everything."""
    return Check(
        path, f"{value:g} {unit}", f"{low:g} to {high:g} {unit}: {what}", bool(low <= value <= high)
    )


def _engine_figures(engine: Clearance) -> Iterator[Check]:
    yield _within("clearance.bore_mm", engine.bore_mm, 40, 200, "a cylinder's bore")
    yield _within(
        "clearance.stroke_mm",
        engine.stroke_mm,
        round(0.5 * engine.bore_mm, 1),
        round(1.7 * engine.bore_mm, 1),
        "0.5 to 1.7 bores",
    )
    low, high = round(1.3 * engine.stroke_mm, 1), round(2.6 * engine.stroke_mm, 1)
    yield _within("clearance.rod_mm", engine.rod_mm, low, high, "1.3 to 2.6 strokes, eye to eye")
    most = round(0.06 * engine.stroke_mm, 1)
    yield _within("clearance.pin_offset_mm", engine.pin_offset_mm, -most, most, "a pin's offset")
    yield _within(
        "clearance.cam_friction_nm", engine.cam_friction_nm, 0.1, 20, "friction of one cam", "N·m"
    )


def _firing(book: EngineBook, engine: Clearance) -> Iterator[Check]:
    path, fires = "clearance.fires_deg", engine.fires_deg
    wanted = list(range(1, book.cylinders + 1))
    yield Check(
        path,
        f"cylinders {', '.join(map(str, sorted(fires)))}",
        f"1 to {book.cylinders}",
        sorted(fires) == wanted,
    )
    yield Check(path, f"cylinder 1 at {fires.get(1, math.nan):g}°", "0°", fires.get(1) == 0)
    is_sound = all(0 <= v < 720 for v in fires.values())
    yield Check(
        path,
        "angles from 0° to below 720°" if is_sound else "an angle outside",
        "crank degrees from 0 to below 720",
        is_sound,
    )
    order = sorted(fires, key=lambda c: fires[c])
    if len(order) > 1 and is_sound:
        mean = 720 / len(order)
        gaps = {
            c: (fires[order[(i + 1) % len(order)]] - fires[c]) % 720 for i, c in enumerate(order)
        }
        odd = next((c for c, gap in gaps.items() if not _is_spaced(gap / mean, len(order))), None)
        found = (
            f"{gaps[odd]:g}° from cylinder {odd} to the next" if odd else f"about {mean:g}° apart"
        )
        yield Check(
            path,
            found,
            f"about {mean:g}° apart in 720° of the crank (cam degrees are half of it)",
            odd is None,
        )
    if engine.firing_order:
        said = ", ".join(map(str, engine.firing_order))
        yield Check(
            "clearance.firing_order",
            f"fires_deg has {', '.join(map(str, order))}",
            said,
            order == engine.firing_order,
        )
    else:
        yield Check(
            "clearance.firing_order", "not given: fires_deg has no second witness", "", True
        )
    for cylinder in wanted:
        kinds = {g.kind for g in engine.valves.values() if cylinder in g.cylinders}
        if kinds != {"intake", "exhaust"}:
            found = " and ".join(sorted(kinds)) or "no valves"
            yield Check(
                "clearance.valves", f"cylinder {cylinder} has {found}", "intake and exhaust", False
            )
    for key, group in engine.valves.items():
        strange = [c for c in group.cylinders if c not in fires]
        if strange:
            yield Check(
                f"clearance.valves.{key}.cylinders",
                f"cylinder {strange[0]}",
                "a cylinder with a firing angle",
                False,
            )


def _is_spaced(share: float, cylinders: int) -> bool:
    """Even firing, or the uneven of a V; two cylinders side by side also fire half a turn apart."""
    return SPACING[0] <= share <= SPACING[1] or (
        cylinders == 2 and (abs(share - 0.5) < 0.03 or abs(share - 1.5) < 0.03)
    )


def _group_figures(path: str, engine: Clearance, group: ValveGroup) -> Iterator[Check]:
    low, high = max(4.0, round(0.06 * engine.bore_mm, 1)), min(20.0, round(0.2 * engine.bore_mm, 1))
    yield _within(f"{path}.max_lift_mm", group.max_lift_mm, low, high, "0.06 to 0.2 bores")
    if group.head_mm is not None:
        yield _within(
            f"{path}.head_mm",
            group.head_mm,
            round(0.22 * engine.bore_mm, 1),
            round(0.6 * engine.bore_mm, 1),
            "0.22 to 0.6 bores",
        )
        yield _within(
            f"{path}.max_lift_mm",
            group.max_lift_mm,
            0.18 * group.head_mm,
            0.45 * group.head_mm,
            "0.18 to 0.45 of the head",
        )
    yield _within(
        f"{path}.angle_to_bore_deg", group.angle_to_bore_deg, 0, 35, "a valve's lean", "°"
    )
    yield _within(f"{path}.pocket_mm", group.pocket_mm, 0, 8, "a valve pocket")
    most = 3 if engine.interference else 25
    why = (
        "valves can meet these pistons (interference: false where they never do)"
        if engine.interference
        else "valves never meet them"
    )
    yield _within(f"{path}.rest_gap_mm", group.rest_gap_mm, -6, most, why)
    rest = group.rest_gap_mm + group.pocket_mm
    path_rest = f"{path}.rest_gap_mm"
    yield Check(
        path_rest,
        f"{rest:g} mm at rest with its pocket",
        "above 0 mm: a closed valve cannot stand in the piston",
        rest > 0,
    )
    low, high = FULL_LIFT_DEG[group.kind]
    yield _within(
        f"{path}.centreline_deg",
        group.centreline_deg,
        low,
        high,
        f"full lift of {group.kind} valves after their own top",
        "°",
    )
    yield from _law(path, group)


def _law(path: str, group: ValveGroup) -> Iterator[Check]:
    yield _within(
        f"{path}.duration_at_mm",
        group.duration_at_mm,
        0,
        0.3 * group.max_lift_mm,
        "a lift to measure the duration at",
    )
    if group.shape != "table":
        yield Check(
            f"{path}.lift_table",
            f"{len(group.lift_table)} points",
            "none with this shape",
            not group.lift_table,
        )
        if group.duration_at_mm < group.max_lift_mm:
            yield _within(
                f"{path}.duration_deg",
                2 * half_open_deg(group),
                180,
                340,
                "open from seat to seat",
                "°",
            )
        return
    degrees, lifts = [p[0] for p in group.lift_table], [p[1] for p in group.lift_table]
    rises = all(a < b for a, b in pairwise(degrees))
    middle = degrees.index(0.0) if 0.0 in degrees else 0
    hill = all(a < b for a, b in pairwise(lifts[: middle + 1])) and all(
        a > b for a, b in pairwise(lifts[middle:])
    )
    ends = (
        len(lifts) >= 7
        and lifts[0] == lifts[-1] == 0
        and middle > 0
        and lifts[middle] == group.max_lift_mm
    )
    holds = rises and hill and ends and degrees[0] >= -180 and degrees[-1] <= 180
    expected = "7 points or more from 0 mm up to max_lift_mm at 0° and down to 0 mm, within ±180°"
    yield Check(f"{path}.lift_table", f"{len(lifts)} points", expected, holds)


def _rooms(book: EngineBook) -> Iterator[Check]:
    """Room in running with cams as far off as the book allows and phasers anywhere; and that
    interference is as said.
    """
    contacts = Contacts(book)
    kept = contacts.reserve_mm
    for key, row in contacts.first_rows().items():
        least = piston_room_mm(contacts, row)
        found = (
            f"{least:.2f} mm at least in running, phaser anywhere, cam "
            f"±{contacts.cam_unsure_deg:g}°"
        )
        yield Check(f"clearance.valves.{key}", found, f"{kept:g} mm of reserve", least >= kept)
    never = contacts.piston_windows == [(0, 360)]
    said = (
        "valves can meet pistons" if contacts.engine.interference else "valves never meet pistons"
    )
    found = (
        "no valve reaches a piston at any angle"
        if never
        else "a fully open valve reaches its piston"
    )
    yield Check("clearance.interference", found, said, never != contacts.engine.interference)
    found_pairs = distinct(pairs(contacts))
    if found_pairs and not all(pair.is_known for pair in found_pairs):
        yield Check(
            "clearance.seats", "valves against each other unknown: treat as touching", "", True
        )
        return
    for pair in found_pairs:
        room = heads_room_mm(contacts, pair)
        assert room is not None
        found = (
            f"{room:.2f} mm between {pair.intake.group_id} and {pair.exhaust.group_id} at "
            "least in running"
        )
        yield Check("clearance.seats", found, f"{kept:g} mm of reserve", room >= kept)
        yield from _across(contacts.engine, pair)


def _across(engine: Clearance, pair: Pair) -> Iterator[Check]:
    """Two heads and the bridge between them must lie in the bore."""
    intake, exhaust = pair.intake.group.head_mm, pair.exhaust.group.head_mm
    if intake is None or exhaust is None or engine.seats is None:
        return
    yield _within(
        "clearance.seats.bridge_mm",
        engine.seats.bridge_mm,
        1.5,
        0.2 * engine.bore_mm,
        "between two heads",
    )
    across, most = intake + exhaust + engine.seats.bridge_mm, 1.06 * engine.bore_mm
    yield Check(
        "clearance.seats.bridge_mm",
        f"heads and bridge {across:.1f} mm across",
        f"at most {most:.1f} mm in the bore",
        across <= most,
    )
