"""Checks of a book that ask whether its drive can be read, worn and taken apart as it says: marked
teeth in mesh, plungers with travel left at the limit, chains long enough to be lifted off.
"""

from collections.abc import Iterator

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.drive.loop import TWO_PI, solve_path
from flaneur.core.drive.train import DriveTrain

MESH_SLACK_LINKS = 0.3
TRAVEL_AT_LIMIT = (0.5, 0.8)
TYPICAL_SHARE = 0.7
LIFT_PITCHES = 0.5
OPEN_LINKS = 1e-6


def wearing_checks(book: EngineBook) -> Iterator[Check]:
    """One line for each marked tooth that links are counted from, each plunger, wear."""
    train = DriveTrain(book)
    for drive in train.chains.values():
        yield from _marked_teeth(drive)
        if drive.has_tensioner:
            yield _travel(drive)
    yield from _typical(book)


def _marked_teeth(drive: ChainDrive) -> Iterator[Check]:
    """A marked tooth that links are counted from, or that a coloured link lies over, is in mesh."""
    chain = drive.chain
    ends = {end for count in chain.counts for end in (count.start, count.end)}
    used = ends | {link.meets for link in chain.marked_links}
    for wheel in (w for w in (chain.driver, *drive.driven) if w in used):
        path = drive.book_path
        teeth = path.turns[path.index(wheel)] * drive.book.sprockets[wheel].teeth / TWO_PI
        before = drive.links_to_departure(wheel)
        inside = -MESH_SLACK_LINKS <= before <= teeth + MESH_SLACK_LINKS
        yield Check(
            f"sprockets.{wheel}.mark_clock_deg",
            f"the marked tooth stands {before:.1f} teeth before the chain leaves",
            f"0 to {teeth:.1f}, in mesh: no link can lie on it or be counted from it otherwise",
            inside,
        )


def _travel(drive: ChainDrive) -> Check:
    """A plunger has travel left when its chain has reached its limit."""
    limit, tensioner = drive.chain.limit_elongation_pct, drive.tensioner
    worn = ChainWear(limit / 100)
    out = drive.plunger_mm(worn)
    is_taut = drive.links_needed(out, worn) - drive.chain.links > -OPEN_LINKS
    share = out / tensioner.max_plunger_mm
    low, high = TRAVEL_AT_LIMIT
    said = f"{out:.1f} mm of {tensioner.max_plunger_mm:g} out" if is_taut else "at its stop"
    return Check(
        f"tensioners.{drive.arm.tensioner}.max_plunger_mm",
        f"{said} at the chain's limit of {limit:g} %",
        f"{low:.0%} to {high:.0%} of its travel: give it more, or bow the chain deeper at its arm",
        is_taut and low <= share <= high,
    )


def _typical(book: EngineBook) -> Iterator[Check]:
    """What is usual at a usual age lies well under the limit."""
    limits = {f"chains.{k}": (c.wear, c.limit_elongation_pct, "%") for k, c in book.chains.items()}
    for group in ("guides", "arms"):
        faces = getattr(book, group).items()
        limits |= {f"{group}.{k}": (f.wear, f.limit_wear_mm, "mm") for k, f in faces}
    for path, (wear, limit, unit) in limits.items():
        yield Check(
            f"{path}.wear.typical",
            f"{wear.typical:g} {unit} at {wear.typical_hours:g} h",
            f"at most {TYPICAL_SHARE * limit:g} {unit}, well under the limit of {limit:g}",
            wear.typical <= TYPICAL_SHARE * limit,
        )


def spare_mm(drive: ChainDrive, without: set[str]) -> float:
    """Length of a chain to spare, mm, with these guides and arms gone and the rest in place."""
    discs = [d for d in drive.discs(drive.book_plunger_mm) if d.id not in without]
    needed = solve_path(discs).links(drive.pitch_mm, 0.0)
    return (drive.chain.links - needed) * drive.pitch_mm


def lift_mm(drive: ChainDrive) -> float:
    """Length a chain needs to spare to be lifted over the teeth of fixed sprockets: half a pitch; a
    belt slides off.
    """
    return 0.0 if drive.is_belt else LIFT_PITCHES * drive.pitch_mm
