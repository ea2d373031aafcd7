"""Checks of a book's clearance data."""

from collections.abc import Iterator

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.teeth import phaser_travel_deg


def clearance_checks(book: EngineBook) -> Iterator[Check]:
    """Firing order, valves of every cylinder, room at rest and in running. A book without the data passes, and says so."""
    if book.clearance is None:
        yield Check("clearance", "no data: shown as unknown, treat as touching", "", True)
        return
    engine = book.clearance
    if engine.rod_mm <= engine.stroke_mm / 2 + abs(engine.pin_offset_mm):
        longest = engine.stroke_mm / 2 + abs(engine.pin_offset_mm)
        yield Check("clearance.rod_mm", f"{engine.rod_mm:g} mm", f"longer than half the stroke and the offset, {longest:g} mm", False)
        return
    fires = sorted(v % 720 for v in engine.fires_deg.values())
    yield Check("clearance.fires_deg", f"cylinder 1 at {engine.fires_deg.get(1, float('nan')):g}°", "0°", engine.fires_deg.get(1) == 0)
    yield Check("clearance.fires_deg", f"{len(set(fires))} angles for {len(fires)} cylinders", "one each", len(set(fires)) == len(fires))
    for cylinder in sorted(engine.fires_deg):
        kinds = {g.kind for g in engine.valves.values() if cylinder in g.cylinders}
        if kinds != {"intake", "exhaust"}:
            found = " and ".join(sorted(kinds)) or "no valves"
            yield Check("clearance.valves", f"cylinder {cylinder} has {found}", "intake and exhaust", False)
    for key, group in engine.valves.items():
        rest = group.rest_gap_mm + group.pocket_mm
        path = f"clearance.valves.{key}.rest_gap_mm"
        yield Check(path, f"{rest:g} mm at rest with its pocket", "above 0 mm: a closed valve cannot stand in the piston", rest > 0)
    if any(g.rest_gap_mm + g.pocket_mm <= 0 for g in engine.valves.values()):
        return
    contacts = Contacts(book)
    for key in engine.valves:
        rows = [row for row in contacts.rows if row.group_id == key]
        shifts = phaser_travel_deg(book, rows[0].group.cam)
        least = min(contacts.least_margin_mm(row, s) for row in rows for s in shifts)
        yield Check(
            f"clearance.valves.{key}", f"{least:.2f} mm at least in running, phaser anywhere in its travel", "above 0 mm", least > 0
        )
