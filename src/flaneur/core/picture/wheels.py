"""Wheels of the drive as they are drawn."""

from flaneur.core.book.drive import Gear, Sprocket
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.core.picture.shapes import FacePicture, WheelPicture


def clock_per_crank(train: DriveTrain, shaft: str, plane: str) -> float:
    """Clock degrees a shaft turns in a plane's view for one crank degree, clockwise positive."""
    running = 1.0 if train.book.planes[plane].running_direction == "clockwise" else -1.0
    return running / float(train.exact_ratio[shaft])


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


def box_of(plane: str, wheels: list[WheelPicture], faces: list[FacePicture]) -> list[float]:
    """The box round all that is drawn in a plane: x, y, width, height, millimetres."""
    own = [w for w in wheels if w.plane == plane]
    xs = [w.x + s * (w.radius + 10) for w in own for s in (-1, 1)] + [
        p[0] for f in faces if f.plane == plane for p in f.forward
    ]
    ys = [w.y + s * (w.radius + 10) for w in own for s in (-1, 1)] + [
        p[1] for f in faces if f.plane == plane for p in f.forward
    ]
    if not xs:
        return [0.0, 0.0, 1.0, 1.0]
    return [min(xs) - 8, min(ys) - 8, max(xs) - min(xs) + 16, max(ys) - min(ys) + 16]
