"""Wheels of the drive as they are drawn."""

from math import cos, pi, sin

from flaneur.core.book.drive import Gear, Sprocket
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain, clock_per_crank
from flaneur.core.picture.shapes import FacePicture, WheelPicture


def is_second(book: EngineBook, bank: str | None) -> bool:
    """Whether a bank is not the first the book names: it is drawn dashed."""
    return bank is not None and bank in book.banks and next(iter(book.banks)) != bank


def bank_of(book: EngineBook, chain: str) -> str | None:
    """The bank a chain belongs to, None for one that serves several or none."""
    banks = {
        book.shafts[book.sprockets[s].shaft].bank
        for s in book.chains[chain].loop
        if s in book.sprockets
    } - {None}
    return next(iter(banks)) if len(banks) == 1 else None


def wheel_pictures(train: DriveTrain) -> list[WheelPicture]:
    """Every sprocket and gear, with what hangs on it."""
    book = train.book
    result: list[WheelPicture] = []
    for drive in train.chains.values():
        for key in (drive.chain.driver, *drive.driven):
            s = book.sprockets[key]
            phaser = book.phaser_of(s.shaft)
            rate = clock_per_crank(train, s.shaft, s.plane)
            travel = 0.0
            if phaser:
                moves = book.phasers[phaser]
                travel = (1 if moves.moves == "advance" else -1) * moves.range_deg * rate
            kind = "pulley" if drive.is_belt else "sprocket"
            result.append(_wheel(book, key, s, kind, drive.radius_mm(key), rate, phaser, travel))
    for key, g in book.gears.items():
        rate = clock_per_crank(train, g.shaft, g.plane)
        result.append(_wheel(book, key, g, "gear", g.module_mm * g.teeth / 2, rate, None, 0.0))
    return result


def _wheel(
    book: EngineBook,
    key: str,
    part: Sprocket | Gear,
    kind: str,
    radius: float,
    rate: float,
    phaser: str | None,
    travel: float,
) -> WheelPicture:
    return WheelPicture(
        part=key,
        shaft=part.shaft,
        kind=kind,
        name=part.name,
        plane=part.plane,
        x=part.at_mm[0],
        y=part.at_mm[1],
        radius=radius,
        teeth=part.teeth,
        mark_clock_deg=part.mark_clock_deg,
        clock_per_crank=rate,
        role=book.shafts[part.shaft].role,
        phaser=phaser,
        phaser_name=book.phasers[phaser].name if phaser else None,
        travel_clock_deg=travel,
        row=part.row if isinstance(part, Sprocket) else 0,
        label=_label(book, part.shaft),
    )


def _label(book: EngineBook, shaft: str) -> str:
    """A cam's role and its cylinders, which cannot be mixed up as left and right can."""
    found = book.shafts[shaft]
    if found.kind != "cam":
        return ""
    own = book.banks[found.bank].cylinders if found.bank and len(book.banks) > 1 else []
    cylinders = f"cylinder {own[0]}" if len(own) == 1 else "-".join(str(c) for c in own)
    return " ".join(word for word in (found.role or "", cylinders) if word)


JOINT_MM = 24.0
RING_MM = 34.0


def outline_of(
    plane: str, wheels: list[WheelPicture], faces: list[FacePicture], crank: set[str]
) -> list[list[float]]:
    """The joint face round all that is drawn in a plane, roughly: what a string laid round it
    would show. Room is left for the clock ring round the crank.
    """
    points: list[tuple[float, float]] = []
    for w in wheels:
        if w.plane == plane:
            far = w.radius + (RING_MM if w.shaft in crank else JOINT_MM)
            points += [
                (w.x + far * cos(k * pi / 18), w.y + far * sin(k * pi / 18)) for k in range(36)
            ]
    for face in faces:
        if face.plane == plane:
            points += [(x + dx, y + dy) for x, y in face.forward for dx, dy in _ASIDE]
    return [list(p) for p in _hull(sorted(set(points)))]


_ASIDE = [(JOINT_MM * 0.7 * dx, JOINT_MM * 0.7 * dy) for dx in (-1, 1) for dy in (-1, 1)]


def _hull(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Convex hull of sorted points, anticlockwise (Andrew's monotone chain)."""

    def half(ordered: list[tuple[float, float]]) -> list[tuple[float, float]]:
        kept: list[tuple[float, float]] = []
        for p in ordered:
            while len(kept) > 1 and _turns_right(kept[-2], kept[-1], p):
                kept.pop()
            kept.append(p)
        return kept[:-1]

    return half(points) + half(points[::-1])


def _turns_right(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> bool:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) <= 0


def box_of(outline: list[list[float]]) -> list[float]:
    """The box round all that is drawn in a plane: x, y, width, height, millimetres."""
    if not outline:
        return [0.0, 0.0, 1.0, 1.0]
    xs, ys = [p[0] for p in outline], [p[1] for p in outline]
    return [min(xs) - 4, min(ys) - 4, max(xs) - min(xs) + 8, max(ys) - min(ys) + 8]
