"""Checks of a book that need its geometry: each says what was found and what was expected, whether
it holds or not.
"""

import math
from collections.abc import Iterator
from itertools import combinations

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainDrive
from flaneur.core.drive.port import port_turn
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError

NEAR_LINK = 0.15


def geometry_checks(book: EngineBook) -> Iterator[Check]:
    """Loops, counts, marked links, ratios, overlaps, gears and marks of a book whose references are
    sound.
    """
    yield from _overlaps(book)
    try:
        train = DriveTrain(book)
    except BookError as error:
        yield from map(Check.failing, error.faults)
        return
    for drive in train.chains.values():
        yield from _loop(train, drive)
    yield from _ratios(train)
    yield from _gears(book)
    yield from _marks(book)


def _port(train: DriveTrain, drive: ChainDrive) -> Iterator[Check]:
    """Turned back as far as the book lets it, the pin goes in and no cam is dragged along."""
    turn = port_turn(train, drive.id)
    if turn is not None:
        back = drive.tensioner.port_back_deg
        yield Check(
            f"tensioners.{drive.arm.tensioner}.port_back_deg",
            "not said" if back is None else f"{back:g}°",
            f"{turn.needs_deg:.1f}°, where the pin goes in, to {turn.most_deg:.1f}°, where the "
            "plunger is at its stop",
            back is not None and turn.needs_deg <= back <= turn.most_deg,
        )


def _loop(train: DriveTrain, drive: ChainDrive) -> Iterator[Check]:
    path = f"chains.{drive.id}"
    try:
        left = drive.book_path.dropped
    except BookError as error:
        yield Check(
            f"{path}.loop", str(error), "faces that leave room for the chain between them", False
        )
        return
    says = f"the chain does not touch {', '.join(left)}" if left else "touches every face"
    yield Check(f"{path}.loop", says, "touches every face", not left)
    if left:
        return
    yield from _port(train, drive)
    yield from _closing(drive)
    for i, count in enumerate(drive.chain.counts):
        found = drive.mark_links(count.start, count.end) % drive.chain.links
        off = (
            found - count.links + drive.chain.links / 2
        ) % drive.chain.links - drive.chain.links / 2
        yield Check(
            f"{path}.counts.{i}.links",
            f"the geometry gives {found:.2f} from {count.start} to {count.end}",
            f"{count.links} links, within {NEAR_LINK}",
            abs(off) <= NEAR_LINK,
        )
    yield from _marked_links(drive)


def _closing(drive: ChainDrive) -> Iterator[Check]:
    path, n = f"chains.{drive.id}.links", drive.chain.links
    needed = drive.links_needed(drive.book_plunger_mm)
    if not drive.has_tensioner:
        yield Check(
            path,
            f"{n} links, the taut loop takes {needed:.2f}",
            "0 to 0.75 of a link to spare, there being no tensioner",
            0 <= n - needed < 0.75,
        )
        return
    tensioner = drive.tensioner
    try:
        closes = drive.plunger_mm()
        found = f"{n} links close with the plunger at {closes:.2f} mm"
        if n - drive.links_needed(closes) > NEAR_LINK:
            found = f"{n} links close at no extension from 0 to {tensioner.max_plunger_mm:g} mm"
        ok = (
            abs(needed - n) <= NEAR_LINK and tensioner.stop_mm <= closes <= tensioner.max_plunger_mm
        )
    except BookError:
        ok, found = (
            False,
            f"{n} links close at no extension from 0 to {tensioner.max_plunger_mm:g} mm",
        )
    yield Check(
        path,
        f"{found}; at the book extension the loop takes {needed:.2f}",
        f"{n} at {tensioner.book_plunger_mm:g} mm",
        ok,
    )


def _marked_links(drive: ChainDrive) -> Iterator[Check]:
    n, driver = drive.chain.links, drive.chain.driver
    for i, mark in enumerate(drive.chain.marked_links):
        path = f"chains.{drive.id}.marked_links.{i}"
        if mark.link >= n:
            yield Check(
                f"{path}.link", f"link {mark.link}", f"0 to {n - 1}: the chain has {n} links", False
            )
            continue
        if mark.meets not in (driver, *drive.driven):
            yield Check(f"{path}.meets", mark.meets, "a sprocket of this chain", False)
            continue
        at = 0.0 if mark.meets == driver else drive.mark_links(driver, mark.meets) % n
        off = (at - mark.link + n / 2) % n - n / 2
        found = f"link {mark.link} lies {off:+.2f} links from the mark of {mark.meets}"
        yield Check(f"{path}.link", found, f"within {NEAR_LINK}", abs(off) <= NEAR_LINK)


def _overlaps(book: EngineBook) -> Iterator[Check]:
    radius: dict[str, float] = {}
    for key, chain in book.chains.items():
        drive = ChainDrive(book, key)
        radius |= {
            s: drive.radius_mm(s) + 0.3 * chain.pitch_mm for s in chain.loop if s in book.sprockets
        }
    clashes = 0
    for a, b in combinations(radius, 2):
        one, two = book.sprockets[a], book.sprockets[b]
        if one.plane != two.plane or one.row != two.row or one.shaft == two.shaft:
            continue
        apart = math.dist(one.at_mm, two.at_mm)
        if apart < radius[a] + radius[b]:
            clashes += 1
            yield Check(
                f"sprockets.{a}.at_mm",
                f"overlaps {b}: {apart:.1f} mm apart",
                f"over {radius[a] + radius[b]:.1f} mm in one row",
                False,
            )
    shafts: dict[tuple[str, str], tuple[str, tuple[float, float]]] = {}
    for key, part in {**book.sprockets, **book.gears}.items():
        first, at = shafts.setdefault((part.shaft, part.plane), (key, part.at_mm))
        if math.dist(at, part.at_mm) > 0.01:
            clashes += 1
            yield Check(
                f"{key}.at_mm",
                f"{part.at_mm}",
                f"{at}, where {first} sits on the same shaft",
                False,
            )
    if not clashes:
        yield Check("sprockets", "none overlaps another of its row", "none overlaps", True)


def _ratios(train: DriveTrain) -> Iterator[Check]:
    for key, shaft in train.book.shafts.items():
        ratio = train.exact_ratio.get(key)
        expected = (
            shaft.crank_turns
            if shaft.crank_turns is not None
            else 2.0
            if shaft.kind == "cam"
            else None
        )
        if ratio is None:
            yield Check(
                f"shafts.{key}", "no chain or gear turns it", "turned from the crankshaft", False
            )
        elif expected is not None:
            turns = abs(float(ratio))
            agrees = math.isclose(turns, expected, rel_tol=1e-9)
            yield Check(
                f"shafts.{key}",
                f"turns once in {turns:.3f} crank turns",
                f"once in {expected:g}",
                agrees,
            )


def _gears(book: EngineBook) -> Iterator[Check]:
    for i, mesh in enumerate(book.meshes):
        a, b = book.gears[mesh.driver], book.gears[mesh.driven]
        apart, wanted = math.dist(a.at_mm, b.at_mm), a.module_mm * (a.teeth + b.teeth) / 2
        close = (
            abs(apart - wanted) <= 0.02 * wanted
            and a.module_mm == b.module_mm
            and a.plane == b.plane
        )
        yield Check(
            f"meshes.{i}",
            f"{mesh.driver} and {mesh.driven} are {apart:.2f} mm apart",
            f"{wanted:.2f} mm by their teeth",
            close,
        )


def _marks(book: EngineBook) -> Iterator[Check]:
    for key, mark in book.marks.items():
        if mark.is_timing and not mark.meets:
            yield Check(
                f"marks.{key}.meets", "nothing", "what this timing mark stands against", False
            )
        if not mark.is_timing and not mark.purpose:
            yield Check(
                f"marks.{key}.purpose",
                "nothing",
                "what this mark is for, since it is no timing mark",
                False,
            )
